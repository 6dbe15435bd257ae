"""Ring positions as tiles laid end to end along the sightline.

The same axis as the sightline's. Over each position stands its pointer, under it the two arms of
its blur; where neighbours hand over, their arms meet, below the standard if both hold there.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise

from drawing.arms import Arms
from drawing.lettering import text_width
from drawing.scale import DistanceScale
from drawing.sightline import Label, Size, axis_path, tenth
from drawing.ticks import ticks
from optics.base.settable import Span

BLUR_SHOWN = 2.0
"""The top of the picture, in circles of confusion."""
_NAME_Y, _SAYS_Y = 19.0, 36.0
_NAME_SIZE, _SAYS_SIZE = 15.0, 13.0
_TIP = 4.0
_GRIP = 44.0


@dataclass(frozen=True, slots=True)
class Placed:
    """A position to draw: its name, what is written under it, its focus, and the stretch it is used
    for (mm; None for none)."""

    name: str
    says: str
    focus: float
    stretch: Span | None
    home: bool
    locked: bool


@dataclass(frozen=True, slots=True)
class Tile:
    """A stretch as drawn, with its words where there is room for them; else they are empty."""

    x: float
    width: float
    middle: float
    name: str
    says: str
    home: bool


@dataclass(frozen=True, slots=True)
class Pointer:
    """A position as drawn. ``share``: how far along the axis it stands, in hundredths."""

    at: int
    name: str
    x: float
    share: int
    path: str
    home: bool
    locked: bool
    lock: str


@dataclass(frozen=True, slots=True)
class TilesPicture:
    """Tiles along an axis, ready to be written as SVG."""

    size: Size
    scale: DistanceScale
    tiles: tuple[Tile, ...]
    pointers: tuple[Pointer, ...]
    labels: tuple[Label, ...]
    label_y: float
    name_y: float
    says_y: float
    axis_path: str
    curve: str
    standard_path: str
    words_y: float
    gap_path: str
    tall: float
    grip: float
    grip_x: float
    bottom: float


def draw(
    size: Size,
    scale: DistanceScale,
    system: str,
    *,
    placed: Sequence[Placed],
    arms: Arms,
    gaps: Sequence[Span],
) -> TilesPicture:
    """``arms``: the least blur of all positions over distance, in circles. ``gaps``: what none
    holds, mm. Stretches and gaps off the axis are cut at its ends."""
    marked = ticks(scale, system, size.type)
    standard, grip = _y(size, 1.0), _grip(scale, placed)
    return TilesPicture(
        size=size,
        scale=scale,
        tiles=tuple(_tile(size, scale, one) for one in placed if one.stretch is not None),
        pointers=tuple(_pointer(size, scale, at, one) for at, one in enumerate(placed)),
        labels=tuple(Label(tenth(tick.x), tick.label) for tick in marked if tick.label),
        label_y=size.baseline + 10 + size.type,
        name_y=size.top + _NAME_Y,
        says_y=size.top + _SAYS_Y,
        axis_path=axis_path(size, marked),
        curve=_curve(size, scale, arms),
        standard_path=f"M{size.left:g} {standard:.1f}H{size.right:g}",
        words_y=tenth(standard - size.words_rise),
        gap_path="".join(_gap(size, scale, gap) for gap in gaps),
        tall=size.baseline - size.top,
        grip=grip,
        grip_x=tenth(-grip / 2),
        bottom=size.baseline + 4,
    )


def _y(size: Size, circles: float) -> float:
    share = min(circles, BLUR_SHOWN) / BLUR_SHOWN
    return size.baseline - share * (size.baseline - size.top)


def _curve(size: Size, scale: DistanceScale, arms: Arms) -> str:
    """The arms; broken where they leave the top of the picture."""
    path, pen_up = "", True
    for depth, circles in zip(arms.depths, arms.circles, strict=True):
        if circles > BLUR_SHOWN * 1.001:
            pen_up = True
            continue
        path += f"{'M' if pen_up else 'L'}{scale.clamped(depth):.1f} {_y(size, circles):.1f}"
        pen_up = False
    return path


def _tile(size: Size, scale: DistanceScale, one: Placed) -> Tile:
    assert one.stretch is not None
    start, end = scale.clamped(one.stretch.near), scale.clamped(one.stretch.far)
    width = max(end - start, 1.0)
    name = next(
        (
            word
            for word in (one.name, _initials(one.name))
            if text_width(word, _NAME_SIZE) <= width - 2
        ),
        "",
    )
    says = one.says if text_width(one.says, _SAYS_SIZE) <= width + 4 else ""
    return Tile(tenth(start), tenth(width), tenth(start + width / 2), name, says, one.home)


def _initials(name: str) -> str:
    word, _, number = name.partition(" ")
    return word[0] + number


def _pointer(size: Size, scale: DistanceScale, at: int, one: Placed) -> Pointer:
    x = scale.clamped(one.focus)
    tip = size.top - _TIP
    return Pointer(
        at=at,
        name=one.name,
        x=tenth(x),
        share=round(100 * (x - size.left) / (size.right - size.left)),
        path=f"M-10 {tip - 13:g}h20l-10 13z",
        home=one.home,
        locked=one.locked,
        lock=f"M-4 {size.baseline - 4:g}h8v8h-8z" if one.locked else "",
    )


def _grip(scale: DistanceScale, placed: Sequence[Placed]) -> float:
    """How wide a pointer can be taken hold of: a finger's width, less where they crowd."""
    xs = sorted(scale.clamped(one.focus) for one in placed)
    apart = min((b - a for a, b in pairwise(xs)), default=math.inf)
    return tenth(min(_GRIP, max(apart, 14.0)))


def _gap(size: Size, scale: DistanceScale, gap: Span) -> str:
    start, end = scale.clamped(gap.near), scale.clamped(gap.far)
    if end - start < 0.5:
        return ""
    return f"M{start:.1f} {size.top:g}H{end:.1f}V{size.baseline:g}H{start:.1f}z"


@dataclass(frozen=True, slots=True)
class Bars:
    """A set of positions as a strip: its stretches as boxes, its gaps hatched, its indices."""

    width: float
    height: float
    boxes: str
    gaps: str
    indices: str


def bars(
    scale: DistanceScale,
    height: float,
    stretches: Sequence[Span],
    gaps: Sequence[Span],
    focuses: Sequence[float],
) -> Bars:
    """A strip on an axis, px. ``stretches``, ``gaps``, ``focuses``: mm."""

    def box(part: Span) -> str:
        start, end = scale.clamped(part.near) + 0.75, scale.clamped(part.far) - 0.75
        return f"M{start:.1f} 5H{max(end, start + 1):.1f}V{height:g}H{start:.1f}z"

    return Bars(
        width=scale.right,
        height=height,
        boxes="".join(box(part) for part in stretches),
        gaps="".join(box(part) for part in gaps),
        indices="".join(f"M{scale.clamped(at):.1f} 0V{height:g}" for at in focuses),
    )
