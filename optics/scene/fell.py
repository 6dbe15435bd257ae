"""Where the focus of a frame fell, from how blurred its marks at known depths came out.

The round blurs of marks at known depths together tell one number, the ring's magnification. A
single mark tells how far it was missed, and not which way.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from optics.base.errors import require_finite, require_positive
from optics.base.numbers import Array
from optics.lens.cone import Cone
from optics.lens.conjugates import focus_of, magnification
from optics.lens.diffraction import combine
from optics.lens.setup import Setup
from optics.light.motion import streak_as_disc

CLEAR = 2.0
"""Standard errors by which something must stand out to be said."""
_ALIKE_TURN, _ALIKE_LENGTH = math.radians(25.0), 1.6
"""Two movements are one if they go the same way within that, and are as long within that factor."""
_TRIED = 400
_KNOWN_DEPTH = 0.02
"""Of a depth: what a mark's place is unsure by at the best."""


@dataclass(frozen=True, slots=True)
class Shown:
    """What a picture shows of a mark.

    ``letter``    of the mark; ``depth`` mm from the sensor, up to inf; nan where it is not known.
    ``disc``      how wide it is blurred alike all round, mm, with its standard error.
    ``length``    how long it was drawn out, mm, with its standard error, and its ``direction``,
                  radians.
    ``contrast``  (lightest − darkest) ÷ (lightest + darkest), 0 to 1.
    ``star``      whether it is one, or a field of them.
    Raises NotANumber, OutOfRange.
    """

    letter: str
    depth: float
    disc: float
    disc_error: float
    length: float = 0.0
    length_error: float = 1e-6
    direction: float = 0.0
    contrast: float = 1.0
    star: bool = False

    def __post_init__(self) -> None:
        require_positive("disc", self.disc, "blur", zero=True)
        require_positive("disc_error", self.disc_error, "error of the blur")
        require_positive("length", self.length, "length of the streak", zero=True)
        require_positive("length_error", self.length_error, "error of the length")
        require_finite("direction", self.direction, "direction")

    @property
    def moved(self) -> bool:
        """Whether it was drawn out, more than chance makes of nothing."""
        return self.length > CLEAR * self.length_error

    @property
    def total(self) -> float:
        """All of its blur."""
        return math.hypot(self.disc, streak_as_disc(self.length) if self.moved else 0.0)

    @property
    def error(self) -> float:
        """Of that, a standard error."""
        return math.hypot(self.disc_error, streak_as_disc(self.length_error) if self.moved else 0.0)

    def moved_with(self, other: Shown) -> bool:
        """Whether both moved as one."""
        turned = abs(math.remainder(self.direction - other.direction, math.pi))
        longer = max(self.length, other.length) / max(min(self.length, other.length), 1e-9)
        return self.moved and other.moved and turned < _ALIKE_TURN and longer < _ALIKE_LENGTH


@dataclass(frozen=True, slots=True)
class Fell:
    """Where the focus fell: the ring's magnification and its standard error; ``sure``: whether no
    other place explains the picture as well."""

    ring: float
    error: float
    sure: bool


def where_it_fell(setup: Setup, planned: float, marks: Sequence[Shown]) -> Fell | None:
    """Where the focus fell, from the round blurs of marks whose depths are known; None where none
    is. Of two places that explain the picture as well, the one nearer to ``planned`` is told, and
    that it is not sure."""
    told = [one for one in marks if one.depth == one.depth and one.disc_error < 0.5 * one.disc + 1]
    if not told:
        return None
    meant = float(magnification(setup, planned))
    rings = _tried(setup, meant, told)
    misfit = np.array([_misfit(setup, float(ring), told) for ring in rings])
    best = int(np.argmin(misfit))
    scale = max(float(misfit[best]) / max(len(told) - 1, 1), 1.0)
    within = misfit <= misfit[best] + scale
    also = (misfit <= misfit[best] + CLEAR**2 * scale) & ~_next_to(within, best)
    valleys = [k for k in _valleys(misfit) if also[k] or k == best]
    chosen = min(valleys, key=lambda k: abs(float(rings[k]) - meant)) if valleys else best
    near_best = _next_to(misfit <= misfit[chosen] + scale, chosen)
    low, high = float(rings[near_best].min()), float(rings[near_best].max())
    step = float(rings[1] - rings[0])
    return Fell(float(rings[chosen]), max(0.5 * (high - low), step), len(valleys) < 2)


def _tried(setup: Setup, meant: float, told: Sequence[Shown]) -> Array:
    """Rings that may be: from past infinity to nearer than the nearest mark."""
    nearest = min((one.depth for one in told), default=math.inf)
    ring = max(meant, float(magnification(setup, max(nearest, 4.2 * setup.focal_length))))
    reach = 3.0 * max(one.disc for one in told) * setup.f_number / setup.focal_length
    return np.linspace(-reach, min(ring + reach + 1e-6, 0.9), _TRIED)


def _misfit(setup: Setup, ring: float, told: Sequence[Shown]) -> float:
    total = 0.0
    for one in told:
        # A mark's depth is never known exactly: what its blur would change by counts as error.
        blur = predicted(setup, ring, one.depth)
        nearer = one.depth * (1 - _KNOWN_DEPTH) if math.isfinite(one.depth) else one.depth
        unsure = math.hypot(one.disc_error, predicted(setup, ring, nearer) - blur)
        total += ((blur - one.disc) / unsure) ** 2
    return total


def predicted(setup: Setup, ring: float, depth: float) -> float:
    """The round blur of something at a depth, with the ring truly at a magnification, mm."""
    cone = Cone.at(setup, ring)
    working = setup.f_number * (1.0 + max(ring, 0.0) / setup.pupil_ratio)
    return math.hypot(float(combine(float(cone.blur(depth)), float(working))), setup.lens_disc)


def _valleys(misfit: Array) -> list[int]:
    """Where a misfit is lower than on both sides."""
    inner = (misfit[1:-1] <= misfit[:-2]) & (misfit[1:-1] < misfit[2:])
    return [int(k) + 1 for k in np.flatnonzero(inner)]


def _next_to(those: np.ndarray, at: int) -> np.ndarray:
    """Of flags, those that hang together with the one at a place."""
    kept = np.zeros_like(those)
    for step in (1, -1):
        k = at
        while 0 <= k < len(those) and (those[k] or k == at):
            kept[k] = True
            k += step
    return kept


def fell_on(setup: Setup, fell: Fell) -> float:
    """The distance that a ring where the focus fell is set to, mm from the sensor; inf at infinity
    and past it."""
    return math.inf if fell.ring <= 0 else float(focus_of(setup, min(fell.ring, 1.0)))
