"""Shift of focus by aperture: how far the plane of best focus moves, and what hides it.

Apertures stand a stop apart, the widest on the left; upwards is farther. The band about zero is
what the circle of confusion hides at each aperture, N·c to either side: a wedge that opens as the
lens closes.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

WIDTH, HEIGHT = 560.0, 260.0
LEFT, RIGHT, TOP, BOTTOM = 66.0, 540.0, 18.0, 214.0
_HEADROOM = 1.25
_STEPS = (1.0, 2.0, 5.0)


@dataclass(frozen=True, slots=True)
class Point:
    """An aperture: where it stands, where its shift is, and the ends of its error, units."""

    f_number: float
    x: float
    y: float
    low: float
    high: float


@dataclass(frozen=True, slots=True)
class Tick:
    """A line across: what it stands for, mm, and where it is."""

    shift: float
    y: float


@dataclass(frozen=True, slots=True)
class ShiftChart:
    """The chart. ``hidden``: the wedge that the standard hides, as points of a path; ``zero``:
    where no shift is; ``path``: from aperture to aperture."""

    points: tuple[Point, ...]
    ticks: tuple[Tick, ...]
    hidden: str
    path: str
    zero: float


def drawn(shifts: Sequence[tuple[float, float, float]], circle: float) -> ShiftChart:
    """Shifts drawn.

    ``shifts``  f-number, shift and its standard error, mm; one at least, f-numbers rising.
    ``circle``  the circle of confusion, mm, above 0.
    """
    stops = [2.0 * math.log2(f_number) for f_number, _, _ in shifts]
    first, last = stops[0], max(stops[-1], stops[0] + 1.0)
    most = max(abs(shift) + 2.0 * error for _, shift, error in shifts)
    most = max(most, circle * shifts[0][0]) * _HEADROOM
    middle = (TOP + BOTTOM) / 2

    def x_of(stop: float) -> float:
        return LEFT + 24.0 + (stop - first) / (last - first) * (RIGHT - LEFT - 48.0)

    def y_of(shift: float) -> float:
        return middle - max(min(shift / most, 1.0), -1.0) * (BOTTOM - TOP) / 2

    points = tuple(
        Point(n, round(x_of(stop), 2), round(y_of(shift), 2),
              round(y_of(shift - 2 * error), 2), round(y_of(shift + 2 * error), 2))
        for (n, shift, error), stop in zip(shifts, stops, strict=True)
    )  # fmt: skip
    start = first - 24.0 / (RIGHT - LEFT - 48.0) * (last - first)
    along = [start + 1.12 * (last - first) * k / 24 for k in range(25)]
    edge = [(min(x_of(stop), RIGHT), y_of(2.0 ** (stop / 2) * circle)) for stop in along]
    below = [(x, 2 * middle - y) for x, y in reversed(edge)]
    return ShiftChart(
        points,
        tuple(Tick(shift, round(y_of(shift), 2)) for shift in _ticks(most)),
        " ".join(f"{x:.2f},{y:.2f}" for x, y in (*edge, *below)),
        " ".join(f"{point.x},{point.y}" for point in points),
        middle,
    )


def _ticks(most: float) -> list[float]:
    """Round shifts to either side of none, at most five in all."""
    power = 10.0 ** math.floor(math.log10(most))
    step = next(
        (size * power * scale for scale in (0.1, 1.0) for size in _STEPS
         if size * power * scale * 2.5 >= most),
        most,
    )  # fmt: skip
    count = math.floor(most / step)
    return [step * k for k in range(-count, count + 1)]
