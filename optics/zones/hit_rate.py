"""What share of pictures to expect sharp when one zone-focuses and judges distance by eye.

Subjects turn up between two distances, log-uniformly (as many between 1 and 2 m as between 2 and
4 m). A subject at d looks as if at d·exp(σz), z standard normal: judging is off by a share, not by
a length. The photographer turns to the position whose focus is nearest in 1/distance to what they
judged, and the picture is kept if the subject truly holds there.

With u = ln d everything is made of stretches of u: a position is turned to when the judged u falls
between two thresholds, and keeps the true u between its limits. So the share is a sum of integrals
of the normal distribution function Φ, and ∫Φ = zΦ(z) + φ(z) gives it in closed form: no sampling.
"""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import dataclass
from itertools import pairwise

from optics.base.errors import OutOfRange, require_order, require_positive
from optics.lens.depth import limits
from optics.lens.setup import Setup
from optics.zones.tiling import Zone

_NONE = 1e-9
"""A judgement error below this changes no share that anybody could count."""

END_OF_STREET = 30_000.0
"""mm. Where subjects end when the band has none: beyond, a person is too small to be a subject."""


def share(
    setup: Setup,
    positions: Iterable[float | Zone],
    nearest: float,
    farthest: float,
    judgement_error: float,
) -> float:
    """The share of subjects held, 0…1.

    ``positions``        ring positions, mm from the sensor (or zones, of which the focus counts).
    ``nearest`` < ``farthest``  where subjects turn up, mm; inf ends at 30 m.
    ``judgement_error``  σ, the standard deviation of ln(judged ÷ true), 0 or more; 0.15 is about
                         15 %. The model is in this module's docstring.
    Plain numbers only. Raises NotANumber, WrongOrder, NoWidth, OutOfRange (no positions),
    FocusTooNear.
    """
    return sum(shares(setup, positions, nearest, farthest, judgement_error))


def shares(
    setup: Setup,
    positions: Iterable[float | Zone],
    nearest: float,
    farthest: float,
    judgement_error: float,
) -> tuple[float, ...]:
    """``share`` by position, nearest first: how much each contributes."""
    end = min(farthest, END_OF_STREET) if math.isinf(farthest) else farthest
    require_order(nearest, end, width=True)
    require_positive("nearest", nearest, "near end")
    require_positive("judgement_error", judgement_error, "judgement error", zero=True)
    focuses = sorted({p.focus if isinstance(p, Zone) else float(p) for p in positions})
    if not focuses:
        raise OutOfRange("positions", 0, "The number of positions must be 1 or more.")
    band = Stretch(math.log(nearest), math.log(end))
    return tuple(
        kept.integral_of_turning_to(turned, float(judgement_error)) / band.length
        for turned, kept in turned_and_kept(setup, focuses, band)
    )


@dataclass(frozen=True, slots=True)
class Stretch:
    """Of u = ln distance. ``low`` ≤ ``high``; up to inf."""

    low: float
    high: float

    @property
    def length(self) -> float:
        """0 or more."""
        return max(self.high - self.low, 0.0)

    def within(self, other: Stretch) -> Stretch:
        """What both have; of no length if nothing."""
        return Stretch(max(self.low, other.low), min(self.high, other.high))

    def integral_of_turning_to(self, turned: Stretch, error: float) -> float:
        """∫ over this stretch of the chance that the judged u falls into ``turned``."""
        if self.length == 0:
            return 0.0
        if error < _NONE:
            return self.within(turned).length
        return _below(self, turned.high, error) - _below(self, turned.low, error)


def _below(true: Stretch, threshold: float, error: float) -> float:
    """∫ over true u of Φ((threshold − u)/σ): judged to be below a threshold."""
    if math.isinf(threshold):
        return true.length if threshold > 0 else 0.0
    ends = ((threshold - true.low) / error, (threshold - true.high) / error)
    return error * (_integral_of_phi(ends[0]) - _integral_of_phi(ends[1]))


def _integral_of_phi(z: float) -> float:
    density = math.exp(-0.5 * z * z) / math.sqrt(2 * math.pi)
    return z * 0.5 * math.erfc(-z / math.sqrt(2)) + density


def turned_and_kept(
    setup: Setup, focuses: list[float], band: Stretch
) -> Iterable[tuple[Stretch, Stretch]]:
    """For each position, mm and nearest first, which judged ln distance it is turned to for, and
    what of the band it keeps."""
    between = [-math.log(0.5 * (1.0 / near + 1.0 / far)) for near, far in pairwise(focuses)]
    thresholds = (-math.inf, *between, math.inf)
    for at, focus in enumerate(focuses):
        held = limits(setup, focus)
        if held.empty:
            kept = Stretch(0.0, 0.0)
        else:
            far = math.log(held.far) if math.isfinite(held.far) else math.inf
            kept = Stretch(math.log(held.near), far).within(band)
        yield Stretch(thresholds[at], thresholds[at + 1]), kept
