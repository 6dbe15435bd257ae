"""Small things that functions take, each made from a source of chance."""

from __future__ import annotations

from collections.abc import Callable
from random import Random
from typing import Any

from optics import Kit, Ring, Setup
from optics.lens.focusing import Tried, Way
from optics.lens.found import Found
from optics.lens.ring_strip import RingStrip, ring_strip
from optics.lens.sliding import Sliding, sliding
from optics.light.exposure import Exposure
from optics.light.night import Moon, Night
from optics.scene import why_soft
from optics.scene.scouting import Spot, Unsure
from tests.optics.every.names import F_NUMBERS


def exposure(random: Random) -> Exposure:
    """An aperture, a time and an ISO."""
    pick = random.choice
    return Exposure(
        pick(F_NUMBERS), pick((1 / 250, 1 / 30, 2.0)), pick((100.0, 800.0)), pick((0.0, 3.0))
    )


def night(random: Random) -> Night:
    """A sky and a moon."""
    pick = random.choice
    return Night(pick((21.9, 20.0, 17.5)), pick(tuple(Moon)), pick((0.2, 0.8)))


def pocket(random: Random) -> dict[str, Callable[[], Any]]:
    """What goes into the pocket, by its kind."""

    def strip() -> Sliding:
        return sliding(Kit(random.choice((24.0, 50.0)), 0.025), (4.0, 8.0), 600.0, 160.0)

    def lens() -> Callable[[float], Setup]:
        n = random.choice((4.0, 8.0))
        return lambda focal_length: Setup(focal_length, n, 0.03)

    def wrapped() -> RingStrip:
        ring = Ring.unit_focusing(24.0, random.choice((1.5, -3.0)), 600.0)
        return ring_strip(ring, Kit(24.0, 0.025), (4.0, 8.0), 65.0, 600.0)

    def found() -> Found:
        return Found(random.choice((0.0, 0.018, 0.019, 0.06)), random.choice((0.0005, 0.002)))

    def tried() -> dict[str, Tried]:
        ways = random.sample(tuple(Way), random.choice((0, 1, 3)))
        return {way: Tried(random.choice((0.0, -0.02, 0.05)), 0.01) for way in ways}

    def spot() -> Spot:
        return Spot(random.choice((0.1, 0.5, 0.9)), random.choice((0.2, 0.55, 0.6)))

    def seen() -> why_soft.Shown:
        depth = random.choice((1300.0, 2600.0, 180_000.0, float("nan")))
        moved = random.choice(((), (0.05, 0.005, 0.3)))
        return why_soft.Shown("A", depth, random.choice((0.01, 0.03, 0.08)), 0.002, *moved)

    return {
        "Shown": seen,
        "Fell": lambda: why_soft.Fell(random.choice((0.0, 0.01, -0.001)), 1e-4, True),
        "Spot": spot,
        "Unsure": lambda: Unsure(random.choice((0.0, 0.001)), 0.001, random.choice((0.0, 50.0))),
        "Mapping[str, Tried]": tried,
        "Found": found,
        "RingStrip": wrapped,
        "Wrapped": lambda: wrapped().scale,
        "Sliding": strip,
        "Scale": lambda: strip().scale,
        "Bracket": lambda: strip().brackets[0],
        "Callable[[float], Setup]": lens,
    }
