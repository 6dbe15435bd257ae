"""Worst blur over aperture: how closing the lens first helps and then harms.

Apertures stand in stops, the widest on the left; blur in circles of confusion, upwards.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass

_LEFT, _RIGHT, _TOP, _BOTTOM = 34.0, 12.0, 12.0, 30.0
_LABEL_GAP = 30.0
MOST_CIRCLES = 3.0
"""The tallest blur drawn, in circles of confusion; more goes out of the picture."""


@dataclass(frozen=True, slots=True)
class Point:
    """An aperture: its blur in circles, all together, of defocus and of diffraction alone."""

    f_number: float
    worst: float
    defocus: float
    waves: float


@dataclass(frozen=True, slots=True)
class Tag:
    """A label at a place, px."""

    x: float
    y: float
    text: str


@dataclass(frozen=True, slots=True)
class Chart:
    """Paths and labels, px. ``now``: where the aperture in force stands. ``dots``: the apertures
    that matter, each with the letter of its sentence. The words stand under the right end of the
    one dashed curve, and over the left end of the other."""

    width: float
    height: float
    left: float
    bottom: float
    worst: str
    defocus: str
    waves: str
    standard_y: float
    axis: str
    labels: tuple[Tag, ...]
    heights: tuple[Tag, ...]
    now: Tag
    dots: tuple[Tag, ...]
    defocus_word: Tag
    waves_word: Tag


def draw(
    width: float,
    height: float,
    points: Sequence[Point],
    now: Point,
    marked: Iterable[tuple[str, Point]],
    named: Iterable[float],
) -> Chart:
    """The chart of some apertures, widest first. ``named``: those to label, as far as they fit."""
    stops = [math.log2(point.f_number) * 2 for point in (*points, now)]
    first, last = min(stops), max(max(stops), min(stops) + 1)
    tallest = max(point.worst for point in (*points, now))
    most = min(max(tallest * 1.08, 1.4), MOST_CIRCLES)
    foot = height - _BOTTOM

    def x_of(f_number: float) -> float:
        share = (math.log2(f_number) * 2 - first) / (last - first)
        return round(_LEFT + share * (width - _LEFT - _RIGHT), 1)

    def y_of(circles: float) -> float:
        return round(foot - min(circles, most) / most * (foot - _TOP), 1)

    def path(values: Iterable[float]) -> str:
        places = [f"{x_of(p.f_number):g} {y_of(v):g}" for p, v in zip(points, values, strict=True)]
        return "M" + "L".join(places)

    labels: list[Tag] = []
    for f_number in named:
        x = x_of(f_number)
        if not labels or x - labels[-1].x >= _LABEL_GAP:
            labels.append(Tag(x, foot + 20, f"{f_number:g}"))
    step = 0.5 if most < 1.7 else 1.0
    heights = [step * at for at in range(1, math.floor(most / step) + 1)]
    return Chart(
        width=width,
        height=height,
        left=_LEFT,
        bottom=foot,
        worst=path(p.worst for p in points),
        defocus=path(p.defocus for p in points),
        waves=path(p.waves for p in points),
        standard_y=y_of(1.0),
        axis=f"M{_LEFT} {_TOP}V{foot}H{width - _RIGHT}"
        + "".join(f"M{x_of(p.f_number):g} {foot}v5" for p in points),
        labels=tuple(labels),
        heights=tuple(Tag(_LEFT - 6, y_of(h) + 4, f"{h:g}") for h in heights),
        now=Tag(x_of(now.f_number), y_of(now.worst), f"f/{now.f_number:g}"),
        dots=tuple(Tag(x_of(p.f_number), y_of(p.worst), letter) for letter, p in marked),
        defocus_word=Tag(width - _RIGHT, min(y_of(points[-1].defocus) + 14, foot - 4), "defocus"),
        waves_word=Tag(_LEFT + 6, y_of(points[0].waves) - 6, "diffraction"),
    )
