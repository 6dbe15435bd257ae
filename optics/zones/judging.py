"""How somebody judges distances: how far off on the whole, and from one time to the next.

What is judged is off by a factor, not by a length: the logarithm of judged ÷ true is what scatters
evenly, and its standard deviation is the judging error of ``hit_rate``.
"""

from __future__ import annotations

import math
import statistics
from collections.abc import Iterable
from dataclasses import dataclass

from optics.base.errors import OutOfRange, require_positive


@dataclass(frozen=True, slots=True)
class Judgement:
    """What tries tell. Shares: 0.2 for a fifth too far, −0.2 for a fifth too near.

    ``count``    of tries. ``bias``: how much too far on the whole, ``bias_error`` its standard
                 error. ``scatter``: the standard deviation about that, as ln(judged ÷ true), and
                 ``scatter_error``. Errors are inf for one try.
    """

    count: int
    bias: float
    bias_error: float
    scatter: float
    scatter_error: float

    @property
    def off(self) -> float:
        """How far off a judgement is by both together, as ln(judged ÷ true)."""
        return math.hypot(math.log1p(self.bias), self.scatter)

    @property
    def leans(self) -> bool:
        """Whether the bias is more than chance makes of none."""
        return abs(self.bias) > 2.0 * self.bias_error


def judged(pairs: Iterable[tuple[float, float]]) -> Judgement:
    """What pairs of a judged and a true distance tell, both above 0, in any one unit.

    Raises NotANumber, OutOfRange; OutOfRange for no pair at all.
    """
    offs = []
    for said, true in pairs:
        require_positive("said", said, "judged distance")
        require_positive("true", true, "true distance")
        offs.append(math.log(said / true))
    if not offs:
        raise OutOfRange("pairs", 0.0, "Nothing was judged yet.")
    count, mean = len(offs), statistics.fmean(offs)
    if count == 1:
        return Judgement(1, math.expm1(mean), math.inf, 0.0, math.inf)
    scatter = statistics.stdev(offs)
    return Judgement(
        count, math.expm1(mean), math.exp(mean) * scatter / math.sqrt(count), scatter,
        scatter / math.sqrt(2.0 * (count - 1)),
    )  # fmt: skip
