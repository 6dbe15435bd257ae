"""Lenses to do drills with."""

from __future__ import annotations

import math

from drills.tasks import Called, Gear
from optics.base.formats import BY_KEY
from optics.lens.depth import limits
from optics.lens.kit import Kit
from optics.lens.ring import Ring

_STOPS = (1.8, 2.0, 2.8, 4.0, 5.6, 8.0, 11.0, 16.0, 22.0)


def gear(
    focal: float = 28.0, widest: float = 2.8, frame: str = "full-frame", system: str = "m"
) -> Gear:
    """A lens of that focal length, with three positions of its own at f/8."""
    closest = 12.0 * focal
    kit = Kit(focal, 0.025, apertures=tuple(n for n in _STOPS if n >= widest), closest=closest)
    ring = Ring.unit_focusing(focal, math.radians(100.0), closest)
    named = (("Close", 55.0), ("Home", 110.0), ("Far", 300.0))
    held = [(name, focal * at, limits(kit.at(8.0), focal * at)) for name, at in named]
    called = tuple(
        Called(name, focus, span.near, span.far, home=name == "Home") for name, focus, span in held
    )
    return Gear(kit, 8.0, BY_KEY[frame], 0.006, ring, closest, system=system, positions=called)


GEARS = (
    gear(), gear(50.0, 1.8), gear(16.0, 2.0, "aps-c"), gear(135.0, 4.0),
    gear(35.0, 2.0, "6x6", "ft"),
)  # fmt: skip
