"""The same scene in several frames: a star and the edge of the foreground in each, to one scale.

The star is a dot or a streak, as wide as it is blurred and as long as it drifts; the edge of the
foreground is solid as far as it is, and hatched where blur has eaten it. All in pixels (or circles,
on film).
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from drawing.streaks import grid

SIDE, GAP = 132.0, 20.0
_LABEL, _HEAD = 20.0, 22.0
_LEAST, _MOST = 8, 32
"""How many pixels a patch shows across, at least and at most."""


@dataclass(frozen=True, slots=True)
class Shot:
    """A frame: the star's width and drift, and the blur of the foreground's edge, in pixels;
    ``soft``: whether the star is more than it may be."""

    name: str
    star: float
    drift: float
    edge: float
    soft: bool = False


@dataclass(frozen=True, slots=True)
class Column:
    """A frame as drawn, its star above its foreground. ``cut``: the streak goes on past the patch;
    ``edge``: the solid part; ``soft``: the part that blur has eaten."""

    name: str
    x: float
    middle: float
    grids: str
    streak: str
    wide: float
    star_soft: bool
    cut: bool
    edge: str
    soft: str


@dataclass(frozen=True, slots=True)
class SameScene:
    """Frames side by side, drawing units. ``across``: how many pixels each patch shows."""

    width: float
    height: float
    across: int
    columns: tuple[Column, ...]
    name_y: float
    star_y: float
    fore_y: float


def draw(shots: Sequence[Shot]) -> SameScene:
    """One column for each frame."""
    # The scale is for what is to be sharp: what is soft may fill its patch.
    telling = [min(shot.star + shot.drift, shot.edge) for shot in shots]
    widest = max((t for t in telling if math.isfinite(t)), default=0.0)
    across = min(max(math.ceil(1.6 * widest) + 2, _LEAST), _MOST)
    top, fore = _HEAD, _HEAD + SIDE + _LABEL + 6.0
    columns = tuple(_column(at, shot, across, top, fore) for at, shot in enumerate(shots))
    width = max(len(shots) * (SIDE + GAP) - GAP, 0.0)
    return SameScene(
        width=width,
        height=fore + SIDE + _LABEL + 4.0,
        across=across,
        columns=columns,
        name_y=_HEAD - 8.0,
        star_y=top + SIDE + _LABEL - 5.0,
        fore_y=fore + SIDE + _LABEL - 5.0,
    )


def _column(at: int, shot: Shot, across: int, top: float, fore: float) -> Column:
    per = SIDE / across
    left = at * (SIDE + GAP)
    middle, level = left + SIDE / 2, top + SIDE / 2
    wide = min(max(shot.star * per, 1.0), SIDE)
    room = SIDE - wide
    length = min(shot.drift * per, room)
    x = middle - length / 2
    eaten = min(shot.edge * per, SIDE)
    solid = (SIDE - eaten) / 2
    return Column(
        name=shot.name,
        x=left,
        middle=middle,
        grids=grid(left, across, SIDE, top) + grid(left, across, SIDE, fore),
        streak=f"M{x:.1f} {level:.1f}h{length + 0.01:.2f}",
        wide=round(wide, 1),
        star_soft=shot.soft,
        cut=shot.drift * per > room,
        edge=f"M{left:g} {fore:g}h{solid:.1f}v{SIDE:g}h{-solid:.1f}Z",
        soft=f"M{left + solid:.1f} {fore:g}h{eaten:.1f}v{SIDE:g}h{-eaten:.1f}Z",
    )
