"""A frame's map of sharpness: what is soft, hatched the closer the softer; what cannot be told."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from drawing.difference_map import Box, boxes

SHARP, UNKNOWN = "sharp", "unknown"
STEPS = ((1.0, SHARP), (2.0, "soft"), (4.0, "softer"), (math.inf, "softest"))
"""Up to how many times the standard, and what is said of it."""
_ROWS = ("upper", "middle", "lower")
_COLUMNS = ("left", "middle", "right")


@dataclass(frozen=True, slots=True)
class SoftnessMap:
    """Boxes to draw, pixels of the frame; the shares of the frame that are sharp, and that can be
    told at all, 0 to 1; and in which ninth it is sharpest: ``lower left``; empty for none."""

    boxes: tuple[Box, ...]
    sharp: float
    told: float
    sharpest: str
    spot: tuple[float, float] | None


def softness_map(discs: Sequence[Sequence[float | None]], patch: int, circle: float) -> SoftnessMap:
    """The map of a frame.

    ``discs``   rows of the disc of blur of each patch, pixels, from the upper left; None where it
                is not known. ``patch``: its side, pixels. ``circle``: the standard, pixels, above
                0.
    """
    says = [[_says(disc, circle) for disc in row] for row in discs]
    every = [one for row in says for one in row]
    known = [one for one in every if one != UNKNOWN]
    where, spot = _sharpest(discs)
    return SoftnessMap(
        boxes(says, patch, frozenset((SHARP,))),
        known.count(SHARP) / max(len(known), 1),
        len(known) / max(len(every), 1),
        where,
        spot,
    )


def _says(disc: float | None, circle: float) -> str:
    if disc is None:
        return UNKNOWN
    return next(word for most, word in STEPS if disc <= most * circle)


_AROUND = 2
_ENOUGH = 15
"""Of the patches around a place, 25 with it: as many must tell, for it to be the sharpest."""


def _sharpest(discs: Sequence[Sequence[float | None]]) -> tuple[str, tuple[float, float] | None]:
    """The ninth of the frame with the sharpest place, and that place, shares from the left and from
    above: the middle one of as many patches around it as tell."""
    rows, columns = len(discs), len(discs[0]) if discs else 0
    best: tuple[float, float, int, int] | None = None
    for row in range(rows):
        for column in range(columns):
            near = [
                disc
                for line in discs[max(row - _AROUND, 0) : row + _AROUND + 1]
                for disc in line[max(column - _AROUND, 0) : column + _AROUND + 1]
                if disc is not None
            ]
            if len(near) < _ENOUGH or discs[row][column] is None:
                continue
            middle = sorted(near)[len(near) // 2]
            found = (middle, sum(near) / len(near), row, column)
            best = found if best is None or found < best else best
    if best is None:
        return "", None
    _, _, row, column = best
    down, across = _ROWS[3 * row // rows], _COLUMNS[3 * column // columns]
    where = "middle" if down == across == "middle" else f"{down} {across}"
    return where, ((column + 0.5) / columns, (row + 0.5) / rows)
