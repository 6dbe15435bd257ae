"""The sliding strip on paper, in points: the scale of distances, and the slide with its brackets.

Both are as wide as each other; the scale's right end is infinity, and the slide's index stands in
its middle. An arm that is longer than the slide goes to its edge, with an arrow.
"""

from __future__ import annotations

from dataclasses import dataclass

from drawing.ticks import Tick, ticks_on
from optics.base import units
from optics.lens.sliding import Sliding

POINTS = 72.0 / 25.4
"""To a millimetre."""
CHECK = 50.0
"""mm: a line to lay a ruler on."""
_SIDE = 14.0
"""Paper beyond either end of the scale."""
_ROW = 17.0
_HEAD = 30.0
_TYPE = 10.0
_LABEL = 26.0
"""How much room the name of an aperture takes."""


@dataclass(frozen=True, slots=True)
class Drawn:
    """A bracket on the slide: its aperture, its row, and where its arms end; ``cut_near``,
    ``cut_far``: whether they go on past the paper."""

    label: str
    y: float
    start: float
    end: float
    cut_near: bool
    cut_far: bool

    @property
    def above(self) -> bool:
        """Whether its aperture stands over the bracket: beside it there is no room."""
        return self.start - 5.0 < _LABEL

    @property
    def label_at(self) -> float:
        """Where the aperture is written: beyond the near arm, else on the paper's edge."""
        return max(self.start - 5.0, _LABEL)


@dataclass(frozen=True, slots=True)
class Strip:
    """Points. ``left``, ``right``: the ends of the scale; ``index``: on the slide; ``check``: how
    long the check line is. ``cost``: the largest share that any bracket gives away."""

    width: float
    scale_height: float
    slide_height: float
    left: float
    right: float
    index: float
    check: float
    ticks: tuple[Tick, ...]
    brackets: tuple[Drawn, ...]
    cost: float

    @property
    def labels_at(self) -> float:
        """How far down the scale its labels stand."""
        return self.scale_height - 15.0

    @property
    def width_mm(self) -> float:
        """Of either piece, mm."""
        return self.width / POINTS

    @property
    def scale_height_mm(self) -> float:
        """Of the scale, mm."""
        return self.scale_height / POINTS

    @property
    def slide_height_mm(self) -> float:
        """Of the slide, mm."""
        return self.slide_height / POINTS


def draw(strip: Sliding, system: str) -> Strip:
    """A strip whose scale is so many points long."""
    scale = strip.scale
    width = scale.length + 2 * _SIDE
    index = 0.5 * width
    drawn = []
    for at, bracket in enumerate(strip.brackets):
        start, end = index - bracket.near, index + bracket.far
        drawn.append(
            Drawn(
                f"f/{units.significant(bracket.f_number, 3):g}",
                _HEAD + (at + 0.5) * _ROW,
                max(start, 0.0),
                min(end, width),
                start < 0,
                end > width,
            )
        )
    ticks = tuple(
        Tick(tick.distance, tick.x + _SIDE, tick.label) for tick in ticks_on(scale, system, _TYPE)
    )
    return Strip(
        width,
        72.0,
        _HEAD + len(drawn) * _ROW + 8.0,
        _SIDE,
        _SIDE + scale.length,
        index,
        CHECK * POINTS,
        ticks,
        tuple(drawn),
        max((bracket.cost for bracket in strip.brackets), default=0.0),
    )
