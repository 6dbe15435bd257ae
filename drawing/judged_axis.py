"""The axis that distances are judged on: what can be answered on it, and where each stands."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from drawing.scale import DistanceScale
from drawing.ticks import Tick, ticks

_SIDE = 14.0
_SIZE, _LARGE = 13.0, 25.0
"""Of labels, at a desk and where the drawing is half as wide."""


@dataclass(frozen=True, slots=True)
class JudgedAxis:
    """``width`` of the drawing; ``places``: where each answer stands, x; ``ticks`` with labels, and
    the ``few`` that have room on a phone."""

    width: float
    places: tuple[float, ...]
    ticks: tuple[Tick, ...]
    few: tuple[Tick, ...]


def judged_axis(width: float, stops: Sequence[float], system: str) -> JudgedAxis:
    """``stops``: distances, mm, rising, two or more; the last may be inf."""
    far = stops[-1]
    scale = DistanceScale(stops[0], far, _SIDE, width - _SIDE)
    places = tuple(round(scale.x(one), 1) for one in stops)
    return JudgedAxis(
        width, places, _labelled(scale, system, _SIZE), _labelled(scale, system, _LARGE)
    )


def _labelled(scale: DistanceScale, system: str, size: float) -> tuple[Tick, ...]:
    return tuple(
        Tick(one.distance, round(one.x, 1), one.label)
        for one in ticks(scale, system, size)
        if one.label
    )
