"""Readings by hand drawn: for each row a line with a point at each reading, their mean with twice
its error, and the band that is good enough.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

WIDTH, ROW, HEAD, FOOT = 560.0, 54.0, 10.0, 40.0
LEFT, RIGHT = 12.0, 548.0
_STEPS = (1.0, 2.0, 5.0)
_MARGIN = 0.08


@dataclass(frozen=True, slots=True)
class Readings:
    """What a row is drawn from, in any one unit. ``found``, ``error``: their mean and its standard
    error; ``band``: what is good enough, from and to; None for none; ``name`` of the row."""

    values: tuple[float, ...]
    found: float
    error: float
    band: tuple[float, float] | None = None
    name: str = ""


@dataclass(frozen=True, slots=True)
class Row:
    """A row: where its line is, its points, its mean and the ends of twice its error, its band
    and its name."""

    y: float
    points: tuple[float, ...]
    found: float
    low: float
    high: float
    band: tuple[float, float] | None
    name: str


@dataclass(frozen=True, slots=True)
class Tick:
    """A value told under the rows, and where it is."""

    value: float
    x: float


@dataclass(frozen=True, slots=True)
class ReadingsChart:
    """The chart. ``height`` of all; ``foot``: where the rows end; ``zero`` where 0 is, None where
    it is not in sight."""

    rows: tuple[Row, ...]
    ticks: tuple[Tick, ...]
    height: float
    foot: float
    zero: float | None


def drawn(rows: Sequence[Readings], zero: bool = True) -> ReadingsChart:
    """Rows of readings drawn; one at least. ``zero``: whether 0 must be in sight."""
    inside = [0.0] if zero else []
    for row in rows:
        inside += [*row.values, row.found - 2 * row.error, row.found + 2 * row.error]
    low, high = min(inside), max(inside)
    room = (high - low) * _MARGIN or 1.0
    low, high = low - room, high + room

    def x_of(value: float) -> float:
        share = (min(max(value, low), high) - low) / (high - low)
        return round(LEFT + share * (RIGHT - LEFT), 2)

    made = []
    for at, row in enumerate(rows):
        band = None if row.band is None else (x_of(row.band[0]), x_of(row.band[1]))
        made.append(
            Row(
                HEAD + ROW * (at + 0.5),
                tuple(x_of(value) for value in row.values),
                x_of(row.found),
                x_of(row.found - 2 * row.error),
                x_of(row.found + 2 * row.error),
                band,
                row.name,
            )
        )
    foot = HEAD + ROW * len(rows)
    ticks = tuple(Tick(value, x_of(value)) for value in _round(low, high))
    return ReadingsChart(
        tuple(made), ticks, foot + FOOT, foot, x_of(0.0) if low <= 0.0 <= high else None
    )


def _round(low: float, high: float) -> list[float]:
    """Round values between two, seven at most."""
    power = 10.0 ** math.floor(math.log10(high - low))
    step = next(
        size * power * scale for scale in (0.1, 1.0) for size in _STEPS
        if (high - low) / (size * power * scale) <= 6.0
    )  # fmt: skip
    first = math.ceil(low / step)
    return [round(step * k, 12) for k in range(first, math.floor(high / step) + 1)]
