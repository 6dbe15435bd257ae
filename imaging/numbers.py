"""What pictures are made of."""

from __future__ import annotations

import math

import numpy as np
import numpy.typing as npt

Array = npt.NDArray[np.float64]
Luminance = npt.NDArray[np.float32]
"""Linear, 0 to 1, rows × columns."""
Flags = npt.NDArray[np.bool_]


def straight(x: Array, y: Array) -> tuple[float, float]:
    """The straight line nearest to some places, two or more: its slope, and its height at 0; level
    where they stand one above the other."""
    x0, y0 = float(x.mean()), float(y.mean())
    away = x - x0
    spread = float(away @ away)
    slope = float(away @ (y - y0)) / spread if spread > 0 else 0.0
    return slope, y0 - slope * x0


def median(values: Array) -> float:
    """The middle one of some numbers, or between the middle two; nan where there are none."""
    if not len(values):
        return math.nan
    upper = len(values) // 2
    if len(values) % 2:
        return float(np.partition(values, upper)[upper])
    held = np.partition(values, (upper - 1, upper))
    return 0.5 * (float(held[upper - 1]) + float(held[upper]))
