"""Ring positions on the ring itself: tiles along its arc, and tabs on the clock."""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass

from drawing.apart import spread
from drawing.ring import THICK, Placed, RingSize, Tick
from optics.base import units
from optics.base.settable import Span
from optics.base.systems import BY_KEY
from optics.lens.ring import Ring

WHOLE = RingSize(width=430, height=112, radius=400, spread=math.radians(54))
"""A ring spread from stop to stop."""
_MARGIN = 0.003
_NAME_IN = 14.0
"""How far inside the ring the letters stand, px."""
_APART = 0.3
"""Radians between two letters on a clock."""


@dataclass(frozen=True, slots=True)
class Stretch:
    """A position: where the ring goes and the stretch it is used for, as written, mm; None for
    none."""

    name: str
    focus: float
    used: Span | None
    home: bool


@dataclass(frozen=True, slots=True)
class Band:
    """A stretch along the arc, and the line of its position with its letter outside."""

    path: str
    index: str
    letter: str
    x: float
    y: float
    home: bool


@dataclass(frozen=True, slots=True)
class TiledRing:
    """A ring from closest focus to infinity."""

    size: RingSize
    body: str
    ticks: tuple[Tick, ...]
    bands: tuple[Band, ...]


def draw(
    size: RingSize,
    ring: Ring,
    closest: float,
    stretches: Sequence[Stretch],
    system: str = units.METRES,
    engraved: Iterable[float] = (),
) -> TiledRing:
    """``closest``: mm. ``engraved``: what is on the ring, mm; else what rings carry."""
    place = Placed.of(size, ring, closest)
    wanted = sorted(set(engraved) or {closest, *BY_KEY[system].ring, math.inf})
    return TiledRing(
        size=size,
        body=place.band(0.0, 1.0, 0.0, -THICK),
        ticks=tuple(place.ticks([d for d in wanted if d >= closest * (1 - 1e-9)], system)),
        bands=tuple(_band(place, closest, one) for one in stretches),
    )


def _band(place: Placed, closest: float, one: Stretch) -> Band:
    path = ""
    if one.used is not None:
        ends = (one.used.near, one.used.far)
        start, end = (min(max(place.share(max(d, closest)), 0.0), 1.0) for d in ends)
        path = place.band(start, end, 5.0, 0.5, margin=-_MARGIN)
    share = place.share(one.focus)
    x, y = place.point(share, -THICK - _NAME_IN)
    index = place.line(share, -3.0, THICK + 3.0)
    return Band(path, index, letter_of(one.name), round(x, 1), round(y + 4.0, 1), one.home)


def letter_of(name: str) -> str:
    """A position by its letter: C, H, F; with its number where there are several."""
    word, _, number = name.partition(" ")
    return word[0] + number


@dataclass(frozen=True, slots=True)
class Tab:
    """A tab as drawn, and where its letter stands."""

    path: str
    x: float
    y: float
    letter: str
    home: bool


@dataclass(frozen=True, slots=True)
class Clock:
    """Tabs on a clock face seen from behind the camera, in a square of ``size`` px."""

    size: float
    radius: float
    hours: str
    tabs: tuple[Tab, ...]

    @property
    def half(self) -> float:
        """The middle of the square."""
        return self.size / 2


def clock(size: float, tabs: Sequence[tuple[str, float, bool]]) -> Clock:
    """``tabs``: the name of each position, its place (radians clockwise from twelve), and whether
    it is home."""
    middle, radius = size / 2, size / 2 - 24.0

    def point(angle: float, r: float) -> tuple[float, float]:
        return middle + r * math.sin(angle), middle - r * math.cos(angle)

    def line(angle: float, start: float, end: float) -> str:
        (x1, y1), (x2, y2) = point(angle, start), point(angle, end)
        return f"M{x1:.1f} {y1:.1f}L{x2:.1f} {y2:.1f}"

    hours = "".join(
        line(hour * math.pi / 6, radius - (8.0 if hour % 3 == 0 else 4.0), radius)
        for hour in range(12)
    )
    drawn = []
    # Unwound, so that letters on both sides of twelve keep apart too.
    mean = math.atan2(sum(math.sin(a) for _, a, _ in tabs), sum(math.cos(a) for _, a, _ in tabs))
    wanted = [mean + math.remainder(angle - mean, 2 * math.pi) for _, angle, _ in tabs]
    letters = spread(wanted, _APART, mean - math.pi, mean + math.pi)
    for (name, angle, home), letter in zip(tabs, letters, strict=True):
        x, y = point(letter, radius + 16.0)
        start = radius * (0.3 if home else 0.62)
        path = line(angle, start, radius + 6.0)
        drawn.append(Tab(path, round(x, 1), round(y + 4.5, 1), letter_of(name), home))
    return Clock(size, radius, hours, tuple(drawn))
