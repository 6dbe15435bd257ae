"""What a user can do on Sky: find where infinity begins, and how long stars stay points."""

from __future__ import annotations

import math
from dataclasses import dataclass

from optics import exposure, placement, settable, stars
from optics.aperture import exact
from optics.depth import hyperfocal, limits, total_blur
from web.bag.lenses import Lens
from web.sky.skies import Sky

MARGINS = (1.0, 1.25, 1.5, 2.0, 3.0)
RULES = (200.0, 300.0, 400.0, 500.0)
"""Numbers of rules *number ÷ focal length*."""


@dataclass(frozen=True, slots=True)
class AtInfinity:
    """A ring setting for the stars, mm, rounded away so that it is safe. ``star``: how wide a star
    is there, mm on the sensor; ``near``: the nearest that is sharp, mm; nan if nothing is."""

    margin: float
    focus: float
    figures: int
    star: float
    near: float
    now: bool


@dataclass(frozen=True, slots=True)
class Streak:
    """What a star does at a place in the picture in the time looked at, mm: how long its streak is,
    and the longest time, s, that keeps it within what is allowed (inf for ever)."""

    name: str
    length: float
    longest: float


@dataclass(frozen=True, slots=True)
class Rule:
    """What a rule *number ÷ focal length* allows, s, and how far the worst star drifts then, mm."""

    number: float
    seconds: float
    drift: float


@dataclass(frozen=True, slots=True)
class Answer:
    """Where the ring goes, and for how long.

    ``here``      the setting for the margin asked for; ``margins``: for others beside it.
    ``begins``    the nearest setting at which stars hold, mm; inf if none does.
    ``smallest``  how wide a star is at best, the ring at infinity: diffraction alone, mm.
    ``seconds``   looked at: the time asked for, else the longest for the worst corner.
    ``centre``, ``corner``  what stars do there. ``rules``: what fixed numbers allow.
    ``iso``       for the night chosen, in thirds of a stop.
    """

    sky: Sky
    here: AtInfinity
    margins: tuple[AtInfinity, ...]
    begins: float
    smallest: float
    seconds: float
    centre: Streak
    corner: Streak
    rules: tuple[Rule, ...]
    number: float
    iso: float
    night: str

    @property
    def holds(self) -> bool:
        """Whether stars can be as small as the standard at all."""
        return math.isfinite(self.begins)

    @property
    def still(self) -> bool:
        """Whether no star drifts too far in the time looked at."""
        return self.corner.length <= self.sky.trail * (1 + 1e-9)

    @property
    def fleeting(self) -> bool:
        """Whether the longest exposure is so short that stars need a mount that follows them."""
        return self.corner.longest < _FLEETING


_FLEETING = 0.1
_FOR_EVER = 3600.0


def answer(sky: Sky) -> Answer:
    """Find infinity with its margin, and the time before stars trail."""
    f = float(sky.setup.focal_length)
    wanted = sorted({*MARGINS, sky.margin})
    margins = tuple(_at(sky, margin) for margin in wanted)
    longest = stars.longest_exposure(f, sky.trail, sky.turned_at, sky.corner)
    centre = stars.longest_exposure(f, sky.trail, sky.turned_at)
    seconds = sky.seconds or _safe(min(longest, _FOR_EVER))
    n = exact(float(sky.setup.f_number))
    return Answer(
        sky=sky,
        here=next(one for one in margins if one.now),
        margins=margins,
        begins=float(hyperfocal(sky.setup)),
        smallest=float(total_blur(sky.setup, math.inf, math.inf)),
        seconds=seconds,
        centre=Streak("centre", float(stars.drift(f, seconds, sky.turned_at)), centre),
        corner=Streak(
            "worst corner", stars.worst_drift(f, seconds, sky.turned_at, sky.corner), longest
        ),
        rules=tuple(_rule(sky, number) for number in RULES),
        number=stars.rule_number(f, min(longest, _FOR_EVER)),
        iso=exposure.named_iso(exposure.iso_for(sky.ev, n, seconds)),
        night=exposure.light_named(sky.ev).name,
    )


def _at(sky: Sky, margin: float) -> AtInfinity:
    ideal = max(float(placement.infinity(sky.setup, margin)), sky.closest)
    focus = settable.up(ideal, sky.system)
    return AtInfinity(
        margin=margin,
        focus=focus,
        figures=settable.COARSE,
        star=float(total_blur(sky.setup, math.inf, focus)),
        near=float(limits(sky.setup, focus).near),
        now=margin == sky.margin,
    )


def _safe(seconds: float) -> float:
    """Rounded down to two figures: never longer than it may be."""
    step = 10.0 ** (math.floor(math.log10(seconds)) - 1)
    return math.floor(seconds / step * (1 + 1e-9)) * step


def _rule(sky: Sky, number: float) -> Rule:
    f = float(sky.setup.focal_length)
    seconds = stars.seconds_of_rule(number, f)
    return Rule(number, seconds, stars.worst_drift(f, seconds, sky.turned_at, sky.corner))


@dataclass(frozen=True, slots=True)
class Gatherer:
    """A lens of the bag at its widest: the longest time before stars trail, s, and the light of the
    sky it gathers in it; and in a short time, as for aurora. The best of the bag is 1."""

    name: str
    focal_length: float
    f_number: float
    seconds: float
    of_stars: float
    of_aurora: float


def gatherers(sky: Sky, lenses: list[Lens]) -> tuple[Gatherer, ...]:
    """The lenses of a bag, each at its shortest end and widest, the most light first."""
    found = []
    for lens in lenses:
        f, n = float(lens.shortest_mm), float(lens.widest_at(lens.shortest_mm))
        seconds = min(stars.longest_exposure(f, sky.trail, sky.turned_at, sky.corner), _FOR_EVER)
        found.append((lens.name, f, n, seconds, seconds / n**2, 1.0 / n**2))
    most = max((one[4] for one in found), default=1.0)
    brightest = max((one[5] for one in found), default=1.0)
    ranked = sorted(found, key=lambda one: -one[4])
    return tuple(
        Gatherer(name, f, n, seconds, stars_ / most, aurora / brightest)
        for name, f, n, seconds, stars_, aurora in ranked
    )
