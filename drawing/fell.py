"""Where focus fell: the axis of distance with what was meant, what came of it, and the marks."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from drawing.apart import spread
from drawing.scale import fitting
from drawing.ticks import Tick, ticks

_TYPE = 14.0
_LETTER_ROOM = 22.0
_LEAST_BAR = 4.0


@dataclass(frozen=True, slots=True)
class Standing:
    """A mark on the axis: ``x`` where it stands, ``letter_x`` where its letter does, and its
    verdict's ``word``."""

    letter: str
    word: str
    x: float
    letter_x: float


@dataclass(frozen=True, slots=True)
class FellLine:
    """The line, drawing units. ``meant``: where focus was meant; ``fell``, ``bar`` and
    ``bar_width``: where it fell, and the stretch it may have fallen in; nan where nobody knows."""

    left: float
    right: float
    ticks: tuple[Tick, ...]
    marks: tuple[Standing, ...]
    meant: float
    fell: float
    bar: float
    bar_width: float

    @property
    def knows(self) -> bool:
        """Whether it is known where focus fell."""
        return self.fell == self.fell


def fell_line(
    marks: Sequence[tuple[str, str, float]], meant: float, fell: tuple[float, float, float] | None,
    system: str, left: float, right: float,
) -> FellLine:  # fmt: skip
    """The line of a frame.

    ``marks``  letter, verdict's word and depth of each, mm, up to inf. ``meant``: mm, up to inf.
    ``fell``   from where, at what and to where focus fell, mm, up to inf; None for not known.
    ``system`` of units; ``left``, ``right``: the ends of the axis, drawing units.
    """
    interest = [depth for _, _, depth in marks if depth == depth] + [meant, *(fell or ())]
    scale = fitting(tuple(interest), left, right)
    there = sorted((one for one in marks if one[2] == one[2]), key=lambda one: one[2])
    places = [scale.clamped(depth) for _, _, depth in there]
    letters = spread(list(places), _LETTER_ROOM, left, right)
    standing = tuple(
        Standing(letter, word, x, letter_x)
        for (letter, word, _), x, letter_x in zip(there, places, letters, strict=True)
    )
    found = ticks(scale, system, _TYPE)
    if fell is None:
        nan = math.nan
        return FellLine(left, right, found, standing, scale.clamped(meant), nan, nan, nan)
    start, at, end = (scale.clamped(distance) for distance in fell)
    wide = max(end - start, _LEAST_BAR)
    bar = min(max((start + end - wide) / 2, left), right - wide)
    return FellLine(left, right, found, standing, scale.clamped(meant), at, bar, wide)
