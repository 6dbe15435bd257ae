"""The sightline: blur over distance, what is sharp, and where the ring stands."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import NamedTuple

from drawing.apart import spread
from drawing.arms import Arms
from drawing.lettering import text_width
from drawing.scale import DistanceScale, fitting
from drawing.ticks import Tick, ticks
from optics.base.settable import Span
from optics.base.writing import circles


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
    words_x: float
    """Where "your standard" stands: left of the axis, or at its start above the line."""
    words_anchor: str
    words_rise: float


WIDE = Size("wide", 954, 278, 92, 912, 38, 236, 14, 11, 84, "end", -4.5)
NARROW = Size("narrow", 358, 222, 14, 342, 38, 182, 13, 11, 14, "start", 5)

BLUR_SHOWN = 3.0
"""The top of the picture, in circles of confusion; a fixed number, so nothing jumps."""
_LABEL_OFFSET = 15.0
_WINDOW_RISE = 12.0
"""Room over the band for the bar that shows where the ring may stand."""
_SOFT_STRIP = 6.0
_ABOVE_ROOM = 40.0
"""Room beside a disc for saying how far above the picture it lies."""


@dataclass(frozen=True, slots=True)
class Subject:
    """A mark to draw: its letter, its depth in mm, its blur in circles, its verdict's word."""

    letter: str
    depth: float
    circles: float
    verdict: str


class Label(NamedTuple):
    """A tick's label, centred at x."""

    x: float
    text: str


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
    """A mark as drawn: its disc at (x, y), its stem down to ``foot`` on the axis.

    ``above`` says how many circles, if the blur lies above the top of the picture and there is
    room to say it; else it is empty.
    """

    letter: str
    verdict: str
    x: float
    y: float
    foot: float
    above: str


@dataclass(frozen=True, slots=True)
class Handle:
    """The ring's index. ``share``: how far along the axis it stands, in hundredths."""

    x: float
    share: int
    path: str
    label: str
    label_dx: float
    label_y: float
    label_anchor: str


@dataclass(frozen=True, slots=True)
class Sightline:
    """A sightline, ready to be written as SVG: every coordinate rounded to a tenth."""

    size: Size
    scale: DistanceScale
    labels: tuple[Label, ...]
    label_y: float
    axis_path: str
    curve: str
    standard_path: str
    words_y: float
    band: Box | None
    band_path: str
    soft_path: str
    window: Box | None
    window_path: str
    stems: dict[str, str]
    discs: tuple[Disc, ...]
    handle: Handle
    also_path: str = ""


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
    band: Span | None,
    window: Span | None,
    subjects: Sequence[Subject],
    also: Sequence[float] = (),
) -> Sightline:
    """Shapes and positions. ``ring``, ``band``, ``window``: mm; ``band`` is what is sharp,
    ``window`` where the ring may stand, ``also`` where it goes for further frames. Marks off the
    axis stand at its end."""
    marked = ticks(scale, system, size.type)
    sharp = _box(scale, band)
    may_stand = _box(scale, window)
    discs = _discs(size, scale, subjects)
    return Sightline(
        size=size,
        scale=scale,
        labels=tuple(Label(tenth(tick.x), tick.label) for tick in marked if tick.label),
        label_y=size.baseline + 10 + size.type,
        axis_path=axis_path(size, marked),
        curve=_curve(size, scale, arms),
        standard_path=f"M{size.left:g} {_y(size, 1.0):.1f}H{size.right:g}",
        words_y=tenth(_y(size, 1.0) - size.words_rise),
        band=sharp,
        band_path=_band_path(size, sharp),
        soft_path=_soft_path(size, sharp),
        window=may_stand,
        window_path=_window_path(size, may_stand),
        stems=_stems(size, discs),
        discs=discs,
        handle=_handle(size, scale, ring, ring_label),
        also_path="".join(_pointer(size, scale.clamped(other)) for other in also),
    )


def tenth(value: float) -> float:
    """As every coordinate is written."""
    return round(value, 1)


def _handle(size: Size, scale: DistanceScale, ring: float, label: str) -> Handle:
    x = scale.clamped(ring)
    fits_right = x + _LABEL_OFFSET + text_width(label, size.type) <= size.width
    tip = size.top - _WINDOW_RISE
    return Handle(
        x=tenth(x),
        share=round(100 * (x - size.left) / (size.right - size.left)),
        path=f"M-11 {tip - 13:g}h22l-11 13zM-1.25 {tip - 6:g}h2.5V{size.baseline + 4:g}h-2.5z",
        label=label,
        label_dx=_LABEL_OFFSET if fits_right else -_LABEL_OFFSET,
        label_y=tip - 1,
        label_anchor="start" if fits_right else "end",
    )


def _pointer(size: Size, x: float) -> str:
    """A small pointer at the setting of a further frame."""
    tip = size.top - _WINDOW_RISE
    return f"M{x - 7:.1f} {tip - 8:g}h14l-7 8zM{x - 0.6:.1f} {tip:g}h1.2V{size.baseline:g}h-1.2z"


def axis_path(size: Size, marked: Sequence[Tick]) -> str:
    """The axis with its ticks."""
    line = f"M{size.left:g} {size.baseline:g}H{size.right:g}"
    return line + "".join(
        f"M{tick.x:.1f} {size.baseline:g}v{8 if tick.label else 5}" for tick in marked
    )


def _band_path(size: Size, band: Box | None) -> str:
    if band is None:
        return ""
    return f"M{band.x:g} {size.top:g}H{band.end:g}V{size.baseline:g}H{band.x:g}z"


def _soft_path(size: Size, band: Box | None) -> str:
    """A strip along the axis wherever nothing holds."""
    y = size.baseline - _SOFT_STRIP
    if band is None:
        return f"M{size.left:g} {y:g}H{size.right:g}v{_SOFT_STRIP:g}H{size.left:g}z"
    path = ""
    if band.x > size.left:
        path += f"M{size.left:g} {y:g}H{band.x:.1f}v{_SOFT_STRIP:g}H{size.left:g}z"
    if band.end < size.right:
        path += f"M{band.end:.1f} {y:g}H{size.right:g}v{_SOFT_STRIP:g}H{band.end:.1f}z"
    return path


def _window_path(size: Size, window: Box | None) -> str:
    """A bar with an end stop on each side, over the band, where the ring may stand."""
    if window is None:
        return ""
    y = size.top - _WINDOW_RISE / 2
    return f"M{window.x:.1f} {y - 4:g}v8M{window.x:.1f} {y:g}H{window.end:.1f}m0 -4v8"


def _stems(size: Size, discs: Sequence[Disc]) -> dict[str, str]:
    stems = {"holds": "", "just": "", "soft": ""}
    for disc in discs:
        elbow = min(disc.y + size.disc + 12, size.baseline)
        lead = "" if abs(disc.x - disc.foot) < 0.5 else f"L{disc.foot:.1f} {elbow:.1f}"
        start = f"M{disc.x:.1f} {min(disc.y + size.disc, size.baseline):.1f}"
        stems[disc.verdict] += f"{start}{lead}V{size.baseline:g}"
    return stems


def _y(size: Size, circles: float) -> float:
    share = min(circles, BLUR_SHOWN) / BLUR_SHOWN
    return size.baseline - share * (size.baseline - size.top)


def _curve(size: Size, scale: DistanceScale, arms: Arms) -> str:
    points = [
        f"{scale.x(depth):.1f} {_y(size, circles):.1f}"
        for depth, circles in zip(arms.depths, arms.circles, strict=True)
    ]
    return "M" + "L".join(points)


def _box(scale: DistanceScale, span: Span | None) -> Box | None:
    if span is None or span.far < scale.near or span.near > scale.far:
        return None
    start, end = scale.clamped(span.near), scale.clamped(span.far)
    return Box(tenth(start), tenth(max(end - start, 1.5)))


def _discs(size: Size, scale: DistanceScale, subjects: Sequence[Subject]) -> tuple[Disc, ...]:
    feet = [scale.clamped(subject.depth) for subject in subjects]
    low, high = size.disc + 1, size.width - size.disc - 1
    xs = spread(feet, 2 * size.disc + 5, low, high)
    ceiling = size.top + size.disc + 3
    discs = []
    for subject, foot, x in zip(subjects, feet, xs, strict=True):
        over = subject.circles > BLUR_SHOWN
        room = x + size.disc + _ABOVE_ROOM
        crowded = room > size.width or any(x < other < room + size.disc for other in xs)
        discs.append(
            Disc(
                letter=subject.letter,
                verdict=subject.verdict,
                x=tenth(x),
                y=tenth(max(_y(size, subject.circles), ceiling)),
                foot=tenth(foot),
                above=f"{circles(subject.circles)}×" if over and not crowded else "",
            )
        )
    return tuple(discs)
