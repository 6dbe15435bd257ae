"""How a drawing is moved, turned and scaled: six numbers, as PDF and SVG have them."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Any

Matrix = tuple[float, float, float, float, float, float]
SAME: Matrix = (1.0, 0.0, 0.0, 1.0, 0.0, 0.0)


def times(one: Matrix, two: Matrix) -> Matrix:
    """First ``one``, then ``two``."""
    a, b, c, d, e, f = one
    k, m, n, o, p, q = two
    return (a * k + b * n, a * m + b * o, c * k + d * n, c * m + d * o,
            e * k + f * n + p, e * m + f * o + q)  # fmt: skip


def said_of(*values: float) -> str:
    """Numbers as a drawing has them."""
    return " ".join(f"{value:.4f}".rstrip("0").rstrip(".") for value in values)


def matrix_of(values: Iterable[Any]) -> Matrix:
    """Six numbers as one."""
    a, b, c, d, e, f = (float(value) for value in values)
    return (a, b, c, d, e, f)
