"""What several tests of a lens found, laid together by their errors; and the odd one out.

Tests are independent: their mean is weighed by the inverse squares of their standard errors, and
its own error is that of the weights, or what they scatter by, whichever is more.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from optics.base.errors import require_finite, require_positive

ODD = 3.5
"""Standard errors by which one test may differ from the mean of the others before it is odd."""


@dataclass(frozen=True, slots=True)
class Found:
    """One value as found: ``value`` and its standard ``error``, in any one unit; error above 0.
    Raises NotANumber, OutOfRange."""

    value: float
    error: float

    def __post_init__(self) -> None:
        require_finite("value", self.value, "value")
        require_positive("error", self.error, "error")

    @property
    def clear(self) -> bool:
        """Whether it is more than chance makes of nothing."""
        return abs(self.value) > CLEAR * self.error


CLEAR = 3.0
"""Standard errors that a value must differ from 0 by, to be called one."""


def together(found: Sequence[Found]) -> Found:
    """Several findings of one thing as one. At least one."""
    if len(found) == 1:
        return found[0]
    weights = [1.0 / one.error**2 for one in found]
    total = sum(weights)
    value = sum(one.value * weight for one, weight in zip(found, weights, strict=True)) / total
    stated = 1.0 / math.sqrt(total)
    misfit = sum((one.value - value) ** 2 * w for one, w in zip(found, weights, strict=True))
    return Found(value, stated * max(1.0, math.sqrt(misfit / (len(found) - 1))))


def odd_one_out(found: Sequence[Found]) -> int | None:
    """Which of three or more findings differs from the others by more than they and it allow; None
    where none does."""
    if len(found) < 3:
        return None
    off = []
    for at, one in enumerate(found):
        others = together([other for k, other in enumerate(found) if k != at])
        off.append(abs(one.value - others.value) / math.hypot(one.error, others.error))
    worst = max(range(len(found)), key=off.__getitem__)
    return worst if off[worst] > ODD else None
