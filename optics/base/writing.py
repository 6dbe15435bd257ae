"""What is said of a blur, as text: one writer for every screen, sheet and command."""

from __future__ import annotations

import math

_HAIR = 1e-9
_JUST_OVER, _NOTHING = 1.095, 0.05


def circles(value: float) -> str:
    """How many times a standard a blur is: 0.82, 1.01, 3.4, 120.

    To two figures; what passes the standard is never written as 1, and what keeps it never as more.
    ``value``: 0 or more, up to inf.
    """
    if math.isinf(value):
        return "∞"
    if value < _NOTHING:
        return "0"
    if value <= 1 + _HAIR:
        return f"{min(float(f'{value:.2g}'), 1.0):g}"
    if value < _JUST_OVER:
        return f"{math.ceil(value * 100 * (1 - _HAIR)) / 100:g}"
    two = float(f"{value:.2g}")
    return f"{two:g}" if value < 100 else f"{two:.0f}"
