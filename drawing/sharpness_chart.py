"""Sharpness by aperture drawn: blur in the middle and in the corners, by diffraction alone, and the
standard. Apertures stand a stop apart, the widest on the left; sharper is lower.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

WIDTH, HEIGHT = 560.0, 280.0
LEFT, RIGHT, TOP, BOTTOM = 66.0, 470.0, 18.0, 232.0
_HEADROOM = 1.15
_STEPS = (1.0, 2.0, 2.5, 5.0)
_APART = 17.0


@dataclass(frozen=True, slots=True)
class Blur:
    """What an aperture is drawn from: blur in the middle and in the corners (nan for unknown) with
    standard errors, and by diffraction alone, mm."""

    f_number: float
    centre: float
    centre_error: float
    corner: float
    corner_error: float
    ideal: float


@dataclass(frozen=True, slots=True)
class Point:
    """A blur: where it is, and the ends of twice its error."""

    x: float
    y: float
    low: float
    high: float


@dataclass(frozen=True, slots=True)
class Curve:
    """A curve: its path, its points, and where its name stands at its right end."""

    path: str
    points: tuple[Point, ...]
    name_y: float


@dataclass(frozen=True, slots=True)
class Tick:
    """A value and where it is: an aperture on x, a blur in mm on y."""

    value: float
    at: float


@dataclass(frozen=True, slots=True)
class SharpnessChart:
    """The chart. ``corner``: None where nothing is known of it; ``standard``: where the circle of
    confusion is, None where it is beyond the chart."""

    centre: Curve
    corner: Curve | None
    ideal: Curve
    apertures: tuple[Tick, ...]
    blurs: tuple[Tick, ...]
    standard: float | None


def drawn(blurs: Sequence[Blur], circle: float) -> SharpnessChart:
    """Blurs drawn. One at least, f-numbers rising. ``circle``: of confusion, mm, above 0."""
    stops = [2.0 * math.log2(one.f_number) for one in blurs]
    first, last = stops[0], max(stops[-1], stops[0] + 1.0)
    known = [one.centre + 2 * one.centre_error for one in blurs]
    known += [one.corner + 2 * one.corner_error for one in blurs if one.corner == one.corner]
    most = max(*known, *(one.ideal for one in blurs)) * _HEADROOM
    if circle < 2.0 * most:
        most = max(most, circle * 1.06)

    def x_of(stop: float) -> float:
        return round(LEFT + 20.0 + (stop - first) / (last - first) * (RIGHT - LEFT - 40.0), 2)

    def y_of(blur: float) -> float:
        return round(BOTTOM - min(max(blur / most, 0.0), 1.0) * (BOTTOM - TOP), 2)

    def curve(values: list[tuple[float, float, float]]) -> Curve:
        points = tuple(
            Point(x_of(stop), y_of(blur), y_of(blur - 2 * error), y_of(blur + 2 * error))
            for stop, blur, error in values
        )
        return Curve(" ".join(f"{one.x},{one.y}" for one in points), points, points[-1].y)

    pairs = list(zip(stops, blurs, strict=True))
    centre = curve([(stop, one.centre, one.centre_error) for stop, one in pairs])
    ideal = curve([(stop, one.ideal, 0.0) for stop, one in pairs])
    corners = [(s, one.corner, one.corner_error) for s, one in pairs if one.corner == one.corner]
    curves = _named([centre, ideal, *([curve(corners)] if corners else [])])
    return SharpnessChart(
        curves[0],
        curves[2] if corners else None,
        curves[1],
        tuple(Tick(one.f_number, x_of(stop)) for stop, one in pairs),
        tuple(Tick(blur, y_of(blur)) for blur in _round(most)),
        y_of(circle) if circle <= most else None,
    )


def _named(curves: list[Curve]) -> list[Curve]:
    """Curves with their names apart from each other."""
    order = sorted(range(len(curves)), key=lambda at: -curves[at].name_y)
    moved, last = list(curves), math.inf
    for at in order:
        last = min(curves[at].name_y, last - _APART)
        moved[at] = Curve(curves[at].path, curves[at].points, round(last, 2))
    return moved


def _round(most: float) -> list[float]:
    """Round blurs up to the most, six at most."""
    power = 10.0 ** math.floor(math.log10(most))
    step = next(
        size * power * scale for scale in (0.1, 1.0) for size in _STEPS
        if most / (size * power * scale) <= 5.0
    )  # fmt: skip
    return [round(step * k, 9) for k in range(math.floor(most / step) + 1)]
