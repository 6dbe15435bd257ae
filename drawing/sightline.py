"""The sightline: blur over distance, what is sharp, and where the ring stands."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from drawing.apart import spread
from drawing.lettering import text_width
from drawing.scale import DistanceScale, fitting
from drawing.ticks import Tick, ticks


@dataclass(frozen=True, slots=True)
class Size:
    """The measures of a sightline, drawing units: one set a screen, not a scaled picture."""

    name: str
    width: float
    height: float
    left: float
    right: float
    top: float
    baseline: float
    type: float
    disc: float


WIDE = Size("wide", 954, 290, 84, 900, 56, 246, 14, 11)
NARROW = Size("narrow", 358, 236, 14, 342, 52, 194, 13, 11)

BLUR_SHOWN = 3.0
"""The top of the picture, in circles of confusion; a fixed number, so nothing jumps."""
_LABEL_OFFSET = 13.0


@dataclass(frozen=True, slots=True)
class Subject:
    """A mark to draw: its letter, its depth in mm, its blur in circles, its verdict's word."""

    letter: str
    depth: float
    circles: float
    verdict: str


@dataclass(frozen=True, slots=True)
class Arms:
    """The blur of the lens over distance: depths in mm and blurs in circles, near to far."""

    depths: tuple[float, ...]
    circles: tuple[float, ...]


@dataclass(frozen=True, slots=True)
class Interval:
    """A stretch of distance, mm."""

    near: float
    far: float


@dataclass(frozen=True, slots=True)
class Box:
    """A stretch of the axis in drawing units."""

    x: float
    width: float

    @property
    def end(self) -> float:
        """The right edge."""
        return self.x + self.width


@dataclass(frozen=True, slots=True)
class Disc:
    """A mark as drawn: its disc at (x, y), its stem down to ``foot`` on the axis."""

    letter: str
    verdict: str
    x: float
    y: float
    foot: float
    above: str
    """How many circles, if the blur lies above the top of the picture; else empty."""


@dataclass(frozen=True, slots=True)
class Sightline:
    """A sightline, ready to be written as SVG."""

    size: Size
    scale: DistanceScale
    tick_path: str
    ticks: tuple[Tick, ...]
    curve: str
    standard_y: float
    band: Box | None
    window: Box | None
    discs: tuple[Disc, ...]
    ring_x: float
    ring_label_x: float
    ring_label_anchor: str


def fit(size: Size, interest: Sequence[float]) -> DistanceScale:
    """The axis of a sightline of that size on which every distance of interest stands."""
    return fitting(tuple(interest), size.left, size.right)


def draw(
    size: Size,
    scale: DistanceScale,
    system: str,
    *,
    ring: float,
    ring_label: str,
    arms: Arms,
    band: Interval | None,
    window: Interval | None,
    subjects: Sequence[Subject],
) -> Sightline:
    """Shapes and positions. ``ring``, ``band``, ``window``: mm; ``band`` is what is sharp,
    ``window`` where the ring may stand. Marks off the axis stand at its end."""
    marked = ticks(scale, system, size.type)
    ring_x = scale.clamped(ring)
    label_width = text_width(ring_label, size.type) + _LABEL_OFFSET
    fits_right = ring_x + label_width <= size.width
    return Sightline(
        size=size,
        scale=scale,
        tick_path="".join(
            f"M{tick.x:.1f} {size.baseline:g}v{8 if tick.label else 5}" for tick in marked
        ),
        ticks=tuple(tick for tick in marked if tick.label),
        curve=_curve(size, scale, arms),
        standard_y=_y(size, 1.0),
        band=_box(scale, band),
        window=_box(scale, window),
        discs=_discs(size, scale, subjects),
        ring_x=ring_x,
        ring_label_x=ring_x + (_LABEL_OFFSET if fits_right else -_LABEL_OFFSET),
        ring_label_anchor="start" if fits_right else "end",
    )


def _y(size: Size, circles: float) -> float:
    share = min(circles, BLUR_SHOWN) / BLUR_SHOWN
    return size.baseline - share * (size.baseline - size.top)


def _curve(size: Size, scale: DistanceScale, arms: Arms) -> str:
    points = [
        f"{scale.x(depth):.1f} {_y(size, circles):.1f}"
        for depth, circles in zip(arms.depths, arms.circles, strict=True)
    ]
    return "M" + "L".join(points)


def _box(scale: DistanceScale, interval: Interval | None) -> Box | None:
    if interval is None or interval.far < scale.near or interval.near > scale.far:
        return None
    start, end = scale.clamped(interval.near), scale.clamped(interval.far)
    return Box(start, max(end - start, 1.5))


def _discs(size: Size, scale: DistanceScale, subjects: Sequence[Subject]) -> tuple[Disc, ...]:
    feet = [scale.clamped(subject.depth) for subject in subjects]
    low, high = size.disc + 1, size.width - size.disc - 1
    xs = spread(feet, 2 * size.disc + 2, low, high)
    return tuple(
        Disc(
            letter=subject.letter,
            verdict=subject.verdict,
            x=x,
            y=_y(size, subject.circles),
            foot=foot,
            above=f"{subject.circles:.2g}" if _is_above(subject.circles) else "",
        )
        for subject, foot, x in zip(subjects, feet, xs, strict=True)
    )


def _is_above(circles: float) -> bool:
    return circles > BLUR_SHOWN or math.isnan(circles)


def sample_depths(scale: DistanceScale, near: float, far: float, focus: float) -> list[float]:
    """Depths at which to evaluate the blur so that its arms draw true: near to far, mm.

    From the nearer of what the picture shows to the farther, with the focus itself as the
    vertex; ``near`` and ``far`` are where the blur leaves the top of the picture.
    """
    start, end = max(scale.near, near), min(scale.far, far)
    vertex = min(max(focus, start), end)
    a, b, c = 1.0 / start, 1.0 / vertex, 1.0 / end
    inverses = [a + (b - a) * k / 6 for k in range(7)] + [b + (c - b) * k / 6 for k in range(1, 7)]
    return [1.0 / inverse if inverse > 0 else math.inf for inverse in inverses]
