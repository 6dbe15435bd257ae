"""Somebody who comes on: the pavement from above at true scale, and the finder, in which they grow.

Both are the same walk. What moves is told as lines over the depth, for whoever moves it.
"""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass

from drawing.ticks import Tick
from optics.base.systems import BY_KEY

_LEFT, _RIGHT = 40.0, 16.0
_BESIDE = 400.0
"""mm: how far beside the lens they pass it."""
TALL, EYE = 1700.0, 1600.0
"""mm: of somebody, and of the camera."""


@dataclass(frozen=True, slots=True)
class Along:
    """A straight line over depth d, mm: ``at`` + ``per_mm`` × d."""

    at: float
    per_mm: float

    def of(self, depth: float) -> float:
        """Its value there."""
        return self.at + self.per_mm * depth


@dataclass(frozen=True, slots=True)
class Coming:
    """The plan: ``x`` and ``y`` of somebody over depth; ``tile``: where it begins, and how wide it
    is; ``ticks``. The finder: ``frame``: its width and height; ``grows``, ``foot`` and ``across``:
    by what over the depth they are tall, stand below the horizon, and beside the middle; ``slope``
    what is added to that."""

    width: float
    height: float
    x: Along
    y: Along
    tile: tuple[float, float]
    ticks: tuple[Tick, ...]
    camera: str
    way: str
    frame: tuple[float, float]
    grows: float
    foot: float
    across: float
    slope: float

    @property
    def horizon(self) -> float:
        """Of the finder."""
        return self.frame[1] / 2

    @property
    def inner(self) -> tuple[float, float]:
        """Of the finder's edge."""
        return self.frame[0] - 2, self.frame[1] - 2

    @property
    def tile_middle(self) -> float:
        """Of the tile, along the plan."""
        return self.tile[0] + self.tile[1] / 2

    @property
    def foot_y(self) -> float:
        """Where the plan's axis is."""
        return self.height - 24.0

    @property
    def label_y(self) -> float:
        """Where its labels stand."""
        return self.height - 6.0


_APART = 54.0


def _ticks(x: Along, far: float, system: str) -> Iterator[Tick]:
    """Round depths along the plan, mm, each that leaves room to the one before."""
    before = -math.inf
    for depth in BY_KEY[system].ring:
        place = round(x.of(depth), 1)
        if depth <= far and place - before >= _APART:
            before = place
            yield Tick(depth, place, BY_KEY[system].label(depth, depth == BY_KEY[system].mm))


def coming(
    near: float,
    far: float,
    begins: float,
    angle: float,
    lens: tuple[float, float, float],
    system: str,
    width: float = 640.0,
) -> Coming:
    """``near``…``far`` of the tile and where somebody ``begins``, mm; ``angle`` of their way to the
    axis, radians; ``lens``: focal length, width and height of the frame, mm."""
    focal, wide, high = lens
    per_mm = (width - _RIGHT - _LEFT) / (begins * 1.02)
    aside = math.tan(angle)
    height = max(110.0, (_BESIDE + begins * aside) * per_mm + 64.0)
    base = height - 44.0
    x, y = Along(_LEFT, per_mm), Along(base - _BESIDE * per_mm, -aside * per_mm)
    shown = (300.0, 300.0 * high / wide)
    scale = focal / wide * shown[0]
    end = max(near - 1500.0, 0.0)
    return Coming(
        width, round(height, 1), x, y, (round(x.of(near), 1), round((far - near) * per_mm, 1)),
        tuple(_ticks(x, begins, system)),
        f"M{_LEFT - 18:.1f} {base - 8:.1f}h14v16h-14z",
        f"M{x.of(begins):.1f} {y.of(begins):.1f}L{x.of(end):.1f} {y.of(end):.1f}",
        (shown[0], round(shown[1], 1)), TALL * scale, EYE * scale, _BESIDE * scale, aside * scale,
    )  # fmt: skip
