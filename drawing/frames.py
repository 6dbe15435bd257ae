"""Picture areas drawn to one scale, standing on one line: formats beside each other."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from optics.base.formats import Format

_GAP = 18.0


@dataclass(frozen=True, slots=True)
class FrameBox:
    """A format's rectangle, px."""

    x: float
    y: float
    width: float
    height: float


@dataclass(frozen=True, slots=True)
class FramesPicture:
    """The boxes in the order given, in a picture of that size, px."""

    width: float
    height: float
    boxes: tuple[FrameBox, ...]


def draw(formats: Sequence[Format], width: float, height: float) -> FramesPicture:
    """Formats to one scale, side by side, as large as ``width`` × ``height`` px allow."""
    if not formats:
        return FramesPicture(width, height, ())
    room = width - _GAP * (len(formats) - 1)
    scale = min(room / sum(f.width for f in formats), height / max(f.height for f in formats))
    boxes, x = [], 0.0
    for each in formats:
        box = FrameBox(x, height - each.height * scale, each.width * scale, each.height * scale)
        boxes.append(box)
        x += box.width + _GAP
    return FramesPicture(width, height, tuple(boxes))
