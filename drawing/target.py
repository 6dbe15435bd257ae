"""The sheet that lenses are tested with: squares turned by a few degrees, between six marks.

Lengths are mm, from the middle of the sheet; x to the right, y up the sheet, which is away from the
camera when it lies or leans before it. The same drawing on A4 and on Letter. Its squares stand in
columns, each column set off against the next, so that their edges come at every depth, and the
sheet tells its own upside down.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

Point = tuple[float, float]

TURN = math.radians(8.0)
"""How far squares are turned: enough for an edge to cross many rows of pixels, and never along them
when the camera is held askew by a few degrees."""
SIDE = 11.0
PITCH = 18.0
_COLUMNS = (-48.0, -16.0, 16.0, 48.0)
_SET_OFF = (4.5, 0.0, 9.0, 13.5)
"""Of each column; the second has a square in the very middle of the sheet's length."""
_HALF_LENGTH = 108.0
MARK_RADIUS, HOLE_RADIUS = 7.0, 4.0
MARK_X, MARK_Y = 75.0, 108.0
WIDTH, HEIGHT = 178.0, 250.0
"""Of all that is drawn: on A4 and on Letter it leaves margins that printers can keep."""
CHECK_LENGTH = 100.0
CHECK_Y = -121.0
PAPERS = {"a4": (210.0, 297.0), "letter": (215.9, 279.4)}


@dataclass(frozen=True, slots=True)
class Mark:
    """A round mark: its middle, its radius, and that of the white hole in it, 0 for none."""

    x: float
    y: float
    radius: float
    hole: float


@dataclass(frozen=True, slots=True)
class Square:
    """A square: its middle and its corners, going round from the lower left."""

    x: float
    y: float
    corners: tuple[Point, Point, Point, Point]


def _square(x: float, y: float) -> Square:
    c, s = math.cos(TURN) * SIDE / 2, math.sin(TURN) * SIDE / 2
    corners = ((x - c + s, y - s - c), (x + c + s, y + s - c),
               (x + c - s, y + s + c), (x - c - s, y - s + c))  # fmt: skip
    return Square(x, y, corners)


def _squares() -> tuple[Square, ...]:
    found = []
    for x, off in zip(_COLUMNS, _SET_OFF, strict=True):
        lowest = off - PITCH * math.floor((off + _HALF_LENGTH) / PITCH)
        count = math.floor((_HALF_LENGTH - lowest) / PITCH) + 1
        found += [_square(x, lowest + PITCH * at) for at in range(count)]
    return tuple(found)


SQUARES = _squares()
MARKS = tuple(
    Mark(x, y, MARK_RADIUS, HOLE_RADIUS if y > 0 else 0.0)
    for y in (-MARK_Y, 0.0, MARK_Y)
    for x in (-MARK_X, MARK_X)
)
"""Those at the far end have holes."""
POINTERS = tuple(
    ((side * 63.5, 2.5), (side * 56.5, 0.0), (side * 63.5, -2.5)) for side in (-1.0, 1.0)
)
"""Two small triangles that point to where to focus: along the middle of the sheet."""


@dataclass(frozen=True, slots=True)
class TargetPicture:
    """The target as it is drawn: y down, mm from the sheet's middle. ``polygons``: squares and
    pointers as points of a path; ``marks``: as drawn, their y turned; ``check``: the two ends of
    the line that is to be measured."""

    polygons: tuple[str, ...]
    marks: tuple[Mark, ...]
    check: tuple[Point, Point]


def picture() -> TargetPicture:
    """All that is printed, to the hundredth of a millimetre."""
    corners = [*(square.corners for square in SQUARES), *POINTERS]
    half = CHECK_LENGTH / 2
    return TargetPicture(
        tuple(" ".join(f"{x:.3f},{-y:.3f}" for x, y in points) for points in corners),
        tuple(Mark(mark.x, -mark.y, mark.radius, mark.hole) for mark in MARKS),
        ((-half, -CHECK_Y), (half, -CHECK_Y)),
    )
