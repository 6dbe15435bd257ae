"""Ticks of a distance axis: round numbers of a unit, labels that never touch.

Over a wide range, candidates come in ranks, the roundest first, and each rank is placed as far
as there is room: a long axis shows 0.7, 0.8, 1, 1.5, 2, 3 … ∞, a short one 1, 2, 5, ∞. Over a
narrow one, even steps read better, and the finest whose labels all fit is taken.
"""

from __future__ import annotations

import bisect
import math
from dataclasses import dataclass
from functools import lru_cache
from typing import Protocol

from drawing.lettering import text_width
from drawing.scale import DistanceScale
from optics.base.systems import BY_KEY, UnitSystem

_LABEL_GAP = 9.0
"""Clear space between two labels, drawing units."""
_TICK_GAP = 5.0
"""Clear space between two ticks."""
_MOST_PER_RANK = 400

_DECADE_RANKS: tuple[tuple[float, ...], ...] = (
    (1,),
    (2, 5),
    (1.5, 3),
    (4, 7),
    (1.2, 2.5, 6, 8),
    (9,),
)
"""Round numbers within a decade, the roundest first."""
_WIDE = 1.6
"""From this ratio of its ends on, an axis is ticked by decades; below it, by even steps."""


@dataclass(frozen=True, slots=True)
class Tick:
    """A tick at ``x``; ``label`` is empty for a tick that carries none."""

    distance: float
    x: float
    label: str


def ticks(scale: DistanceScale, system: str, size: float) -> tuple[Tick, ...]:
    """The ticks of a scale, from left to right, labelled at type ``size``.

    Labels keep clear of each other. One carries the unit; infinity is always labelled if it is
    on the scale.
    """
    return _ticks(scale.near, scale.far, scale.left, scale.right, system, size)


@lru_cache(maxsize=512)
def _ticks(
    near: float, far: float, left: float, right: float, system: str, size: float
) -> tuple[Tick, ...]:
    return ticks_on(DistanceScale(near, far, left, right), system, size)


class Axis(Protocol):
    """A way of laying distances out, near to far, from ``left`` to ``right``."""

    @property
    def near(self) -> float: ...
    @property
    def far(self) -> float: ...
    @property
    def left(self) -> float: ...
    @property
    def right(self) -> float: ...
    @property
    def span(self) -> float: ...
    def contains(self, distance: float) -> bool:
        """Whether a distance is on it."""

    def x(self, distance: float) -> float:
        """Where a distance stands."""


def ticks_on(scale: Axis, system: str, size: float) -> tuple[Tick, ...]:
    """As ``ticks``, of any way of laying distances out."""
    row = _Row(size)
    if math.isinf(scale.far):
        row.place(math.inf, scale.right, "∞")
    if scale.far / scale.near >= _WIDE:
        _tick_decades(row, scale, BY_KEY[system])
    else:
        _tick_evenly(row, scale, BY_KEY[system])
    return tuple(row.ticks)


def _tick_decades(row: _Row, scale: Axis, system: UnitSystem) -> None:
    unit = system.mm
    bearer = next(
        (d for d in (unit, 10 * unit, 5 * unit, unit / 2, 100 * unit) if scale.contains(d)), None
    )
    if bearer is not None:
        row.place(bearer, scale.x(bearer), system.label(bearer, True))
    low = scale.near / unit
    crowded = _TICK_GAP * scale.span * unit / (scale.right - scale.left)
    high = min(scale.far / unit, 1.0 / crowded)  # nearer infinity, ticks would touch its own
    exponents = range(math.floor(math.log10(low)), math.floor(math.log10(high)) + 1)
    for mantissas in _DECADE_RANKS:
        for number in (m * 10.0**e for e in exponents for m in mantissas):
            rounded = system.tick(number)
            if low <= rounded <= high:
                distance = rounded * unit
                with_unit = not row.labelled
                row.place(distance, scale.x(distance), system.label(distance, with_unit))


def _tick_evenly(row: _Row, scale: Axis, system: UnitSystem) -> None:
    """Labels at the finest even step whose labels all fit, bare ticks at a finer one."""
    labels: list[tuple[float, str]] = []
    bare: list[float] = []
    for step in system.even(scale.far - scale.near, scale.far):
        first, last = math.ceil(scale.near / step - 1e-9), math.floor(scale.far / step + 1e-9)
        distances = [k * step for k in range(first, last + 1)]
        if not distances:
            continue
        tightest = scale.x(distances[-1] + step) - scale.x(distances[-1])
        if tightest < _TICK_GAP:
            break
        bare = distances
        texts = [system.label(d, i == 0) for i, d in enumerate(distances)]
        if max(text_width(text, row.size) for text in texts) + _LABEL_GAP > tightest:
            break
        labels = list(zip(distances, texts, strict=True))
    for distance, text in labels or [(d, system.label(d, True)) for d in bare]:
        row.place(distance, scale.x(distance), text)
    for distance in bare:
        row.place(distance, scale.x(distance), "")


class _Row:
    """Labels and ticks placed so far, kept in order."""

    def __init__(self, size: float) -> None:
        self.size = size
        self.ticks: list[Tick] = []
        self._xs: list[float] = []
        self._starts: list[float] = []
        self._ends: list[float] = []

    @property
    def labelled(self) -> bool:
        return any(tick.label and tick.label != "∞" for tick in self.ticks)

    def place(self, distance: float, x: float, label: str) -> None:
        at = bisect.bisect(self._xs, x)
        if at and x - self._xs[at - 1] < _TICK_GAP:
            return
        if at < len(self._xs) and self._xs[at] - x < _TICK_GAP:
            return
        half = text_width(label, self.size) / 2.0
        start, end = x - half - _LABEL_GAP / 2.0, x + half + _LABEL_GAP / 2.0
        slot = bisect.bisect(self._starts, start)
        clear = (
            bool(label)
            and (slot == 0 or self._ends[slot - 1] <= start)
            and (slot == len(self._starts) or end <= self._starts[slot])
        )
        if clear:
            self._starts.insert(slot, start)
            self._ends.insert(slot, end)
        self._xs.insert(at, x)
        self.ticks.insert(at, Tick(distance, x, label if clear else ""))
