"""The strip to wrap round a barrel, in points: a scale that turns, an index and pairs that do not.

Pieces no longer than a page has room for, with a mark where they join.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

from drawing.sliding_strip import CHECK, POINTS
from drawing.ticks import Tick, ticks_on
from optics.base import units
from optics.lens.ring_strip import RingStrip, Wrapped

PIECE_MM = 250.0
"""The longest that is printed in one."""
_SIDE = 14.0
_TYPE = 9.0
_TALL = 30.0
_PAIRS_APART = 16.0
"""Points between names of apertures, which never touch."""


@dataclass(frozen=True, slots=True)
class _Points:
    """A wrapped scale in points."""

    scale: Wrapped

    @property
    def near(self) -> float:
        return self.scale.near

    @property
    def far(self) -> float:
        return self.scale.far

    @property
    def left(self) -> float:
        return 0.0

    @property
    def right(self) -> float:
        return self.scale.right * POINTS

    @property
    def span(self) -> float:
        return self.scale.span

    def contains(self, distance: float) -> bool:
        return self.scale.contains(distance)

    def x(self, distance: float) -> float:
        return self.scale.x(distance) * POINTS


@dataclass(frozen=True, slots=True)
class Piece:
    """A piece of the scale. Points. ``joins``: whether another follows on its right."""

    width: float
    ticks: tuple[Tick, ...]
    joins: bool

    @property
    def width_mm(self) -> float:
        """How wide it is printed, mm."""
        return self.width / POINTS


@dataclass(frozen=True, slots=True)
class Mark:
    """A mark beside the index: where it stands, and its aperture, where there is room for it."""

    x: float
    label: str


@dataclass(frozen=True, slots=True)
class Strip:
    """Points. ``pieces``: of the scale; ``height``: of each. ``index_width``: of the fixed piece,
    whose ``index`` stands there with ``marks`` to either side. ``check``: how long the check line
    is."""

    pieces: tuple[Piece, ...]
    height: float
    index_width: float
    index: float
    marks: tuple[Mark, ...]
    check: float

    @property
    def height_mm(self) -> float:
        """Of each piece, mm."""
        return self.height / POINTS

    @property
    def index_width_mm(self) -> float:
        """Of the fixed piece, mm."""
        return self.index_width / POINTS


def draw(strip: RingStrip, system: str, *, infinity_left: bool) -> Strip:
    """``infinity_left``: whether infinity stands on the left, as on a ring that is turned to it
    clockwise, seen from behind."""
    scale = _Points(strip.scale)
    whole = scale.right
    ticks = [
        Tick(tick.distance, whole - tick.x if infinity_left else tick.x, tick.label)
        for tick in ticks_on(scale, system, _TYPE)
    ]
    count = max(math.ceil(whole / (PIECE_MM * POINTS)), 1)
    long = whole / count
    pieces = []
    for at in range(count):
        start, end = at * long, (at + 1) * long
        on = [tick for tick in ticks if start - 1e-6 <= tick.x <= end + 1e-6]
        shifted = (Tick(tick.distance, tick.x - start + _SIDE, tick.label) for tick in on)
        pieces.append(Piece(long + 2 * _SIDE, tuple(sorted(shifted, key=_place)), at < count - 1))
    sides = [(-pair.far, pair.near) if infinity_left else (-pair.near, pair.far)
             for pair in strip.pairs]  # fmt: skip
    reach = max((max(-one, other) for one, other in sides), default=0.0) * POINTS
    reach = max(min(reach, PIECE_MM * POINTS / 2), CHECK * POINTS / 2)
    index = reach + _SIDE
    return Strip(
        tuple(pieces),
        _TALL,
        2 * index,
        index,
        tuple(_marks(strip, sides, index, reach)),
        CHECK * POINTS,
    )


def _marks(
    strip: RingStrip, sides: list[tuple[float, float]], index: float, reach: float
) -> list[Mark]:
    """Marks of all pairs that are on the paper, the wide apertures nearest the index."""
    found: list[Mark] = []
    last = {-1: index, 1: index}
    for pair, arms in zip(strip.pairs, sides, strict=True):
        for side, arm in zip((-1, 1), arms, strict=True):
            x = index + arm * POINTS
            if abs(x - index) > reach + 1e-6:
                continue
            room = abs(x - last[side]) >= _PAIRS_APART
            label = f"{units.significant(pair.f_number, 3):g}" if room else ""
            if room:
                last[side] = x
            found.append(Mark(x, label))
    return found


def _place(tick: Tick) -> float:
    return tick.x
