"""Stretches of sharpness laid over one distance axis, a row each: what one choice does and another.

The same axis as the sightline's, near on the left, infinity on the right, even in 1/distance.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from drawing.scale import fitting
from drawing.sightline import Label
from drawing.ticks import ticks
from optics.base.settable import Span

ROW_HEIGHT = 46.0
STACKED = 16.0
"""What a row is higher by where what is said of it stands under its name."""
_BAR = 18.0
_LEFT, _TYPE = 8.0, 13.0
_FOOT = 34.0


@dataclass(frozen=True, slots=True)
class Stretch:
    """One row: its name, what is said of it, and what is written to be sharp with the ring at
    ``focus``, mm; None where nothing is."""

    name: str
    says: str
    held: Span | None
    focus: float


@dataclass(frozen=True, slots=True)
class Row:
    """A row as drawn: where its words stand, its bar (or no width), and its index."""

    stretch: Stretch
    words_y: float
    says_y: float
    says_x: float | None
    bar_x: float
    bar_y: float
    bar_width: float
    bar_height: float
    index: str


@dataclass(frozen=True, slots=True)
class BandsPicture:
    """Rows over an axis, drawing units."""

    width: float
    height: float
    rows: tuple[Row, ...]
    labels: tuple[Label, ...]
    label_y: float
    axis_path: str

    @property
    def top(self) -> float:
        """Where what is to be seen begins: at the first bar, where nothing is named over it."""
        row = self.rows[0]
        return 0.0 if row.stretch.name else row.bar_y - 2.0

    @property
    def shown_height(self) -> float:
        """How high it is from there on."""
        return self.height - self.top


def draw(
    stretches: Sequence[Stretch], width: float, system: str, *, stacked: bool = False
) -> BandsPicture:
    """All rows on one axis that shows every limit and every ring setting.

    ``stacked``: what is said of a row stands under its name, for a narrow screen.
    """
    more = STACKED if stacked else 0.0
    height = ROW_HEIGHT + more
    interest = [s.focus for s in stretches]
    interest += [d for s in stretches if s.held for d in (s.held.near, s.held.far)]
    if not any(math.isfinite(distance) for distance in interest):
        interest = [1000.0, math.inf]  # nothing to see, and an axis to see it on
    scale = fitting(tuple(interest), _LEFT, width - _LEFT - 8.0)
    base = height * len(stretches) + 4.0
    marked = ticks(scale, system, _TYPE)
    axis = f"M{scale.left:g} {base:g}H{scale.right:g}" + "".join(
        f"M{tick.x:.1f} {base:g}v{6 if tick.label else 3}" for tick in marked
    )
    rows = []
    for at, stretch in enumerate(stretches):
        top = height * at
        bar_y = top + height - _BAR - 4.0
        near, far = scale.left, scale.left
        if stretch.held is not None:
            near, far = scale.clamped(stretch.held.near), scale.clamped(stretch.held.far)
        x = scale.clamped(stretch.focus)
        rows.append(
            Row(
                stretch=stretch,
                words_y=round(top + 16.0, 1),
                says_y=round(top + 16.0 + more, 1),
                says_x=_LEFT if stacked else None,
                bar_x=round(near, 1),
                bar_y=round(bar_y, 1),
                bar_width=round(max(far - near, 1.0 if stretch.held else 0.0), 1),
                bar_height=_BAR,
                index=f"M{x:.1f} {bar_y - 2:.1f}V{bar_y + _BAR + 2:.1f}",
            )
        )
    return BandsPicture(
        width=width,
        height=base + _FOOT,
        rows=tuple(rows),
        labels=tuple(Label(round(t.x, 1), t.label) for t in marked if t.label),
        label_y=base + 12.0 + _TYPE,
        axis_path=axis,
    )
