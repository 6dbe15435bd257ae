"""Readings by hand: what several of one thing say together, and how sure that is.

A reading is as good as it repeats. A few of them tell their own scatter badly, so the error of
their mean is widened as Student's distribution asks: twice the error stated here holds the truth
19 times of 20 also for three readings [student].
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from optics.base.errors import require_count, require_finite, require_positive
from optics.lens.found import Found

_STUDENT = (6.984, 2.263, 1.653, 1.435, 1.324, 1.258, 1.214, 1.183, 1.160, 1.142)
"""By how much to widen an error, for one degree of freedom, two, …: half of the two-sided 95.45 %
point of Student's distribution [student]."""
LEAST = 3
"""Readings of which anything is said."""
_ODD = 5.0
"""Deviations of the others by which a reading may differ from their median before it is odd."""
_ENOUGH_TO_TELL = 4
_NORMAL = 1.4826
"""Standard deviation ÷ median absolute deviation, of a normal distribution."""


def widened(degrees: int) -> float:
    """What Student's distribution widens an error by; degrees of freedom from 1."""
    if degrees <= len(_STUDENT):
        return _STUDENT[degrees - 1]
    return 1.0 + 1.42 / degrees


@dataclass(frozen=True, slots=True)
class Settled:
    """Several readings together. ``found``: their mean and its standard error; ``scatter``: the
    standard deviation of one; ``odd``: which one does not agree with the others, None for none."""

    found: Found
    scatter: float
    odd: int | None


def settled(values: Sequence[float], finest: float) -> Settled:
    """Three readings or more of one thing.

    ``values``  in any one unit, finite.
    ``finest``  what a reading can be read to, to either side, above 0: however well readings agree,
                they are no surer than that leaves them.
    Raises NotANumber, OutOfRange.
    """
    require_count("values", len(values), "readings", LEAST)
    require_finite("values", values, "reading")
    require_positive("finest", finest, "step of reading")
    read = np.asarray(values, dtype=np.float64)
    scatter = max(float(read.std(ddof=1)), finest / math.sqrt(3.0))
    error = widened(len(read) - 1) * scatter / math.sqrt(len(read))
    return Settled(Found(float(read.mean()), error), scatter, _odd(read, finest))


def _odd(read: np.ndarray, finest: float) -> int | None:
    if len(read) < _ENOUGH_TO_TELL:
        return None
    off = []
    for at in range(len(read)):
        others = np.delete(read, at)
        middle = float(np.median(others))
        spread = max(_NORMAL * float(np.median(np.abs(others - middle))), finest)
        off.append(abs(float(read[at]) - middle) / spread)
    worst = int(np.argmax(off))
    return worst if off[worst] > _ODD else None
