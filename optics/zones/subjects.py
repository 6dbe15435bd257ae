"""Where on a street people turn up, and what share of them is kept.

``hit_rate`` has them evenly in ln distance, in closed form. Here a street is described as somebody
who works there would: as many people in every stride, or most of them round the distance one likes.
The rest of the model is that of ``hit_rate``. With u = ln d, density p(u) and judging error σ, a
position that is turned to between the thresholds t₁ and t₂ keeps

    ∫ p(u) · [Φ((t₂ − u)/σ) − Φ((t₁ − u)/σ)] du

over what it holds: by Gauss and Legendre, in pieces that the thresholds part.
"""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import dataclass
from enum import StrEnum
from functools import lru_cache
from itertools import pairwise

import numpy as np

from optics.base.errors import OutOfRange, require_order, require_positive
from optics.base.numbers import Array
from optics.lens.setup import Setup
from optics.zones.hit_rate import END_OF_STREET, Stretch, turned_and_kept


class Spread(StrEnum):
    """How people spread over a band: as many in every stride, or most round one distance."""

    STRIDE = "stride"
    ROUND = "round"


ABOUT = 1.6
"""How far they spread round a distance: two in three from that part of it to so many times."""


@dataclass(frozen=True, slots=True)
class People:
    """People of a street, between ``nearest`` and ``farthest``, mm, 0 < nearest < farthest; inf
    ends at 30 m, or where the band begins later, a hundred times as far. ``around``: the distance
    that most stand round, mm; for STRIDE it does not count."""

    nearest: float
    farthest: float
    spread: Spread = Spread.ROUND
    around: float = 1000.0

    def __post_init__(self) -> None:
        require_positive("nearest", self.nearest, "near end")
        require_order(self.nearest, self.farthest, width=True)
        require_positive("around", self.around, "distance people stand round")

    @property
    def end(self) -> float:
        """The farthest that counts, mm."""
        if math.isfinite(self.farthest):
            return self.farthest
        return END_OF_STREET if self.nearest < END_OF_STREET else 100.0 * self.nearest

    @property
    def two_in_three(self) -> tuple[float, float]:
        """From where to where, mm, two in three of those round a distance stand."""
        return self.around / ABOUT, self.around * ABOUT

    def density(self, u: Array) -> Array:
        """Of u = ln mm, up to a factor."""
        if self.spread is Spread.STRIDE:
            return np.exp(u - math.log(self.end))
        return np.exp(-0.5 * ((u - math.log(self.around)) / math.log(ABOUT)) ** 2)


def kept(
    setup: Setup, positions: Iterable[float], people: People, judgement_error: float
) -> tuple[float, ...]:
    """The share of all people that each position keeps, nearest first, 0…1.

    ``positions``: mm from the sensor, one or more. ``judgement_error``: as ``hit_rate.share``.
    Plain numbers only. Raises NotANumber, WrongOrder, NoWidth, OutOfRange, FocusTooNear.
    """
    require_positive("judgement_error", judgement_error, "judgement error", zero=True)
    focuses = sorted({float(focus) for focus in positions})
    if not focuses:
        raise OutOfRange("positions", 0, "The number of positions must be 1 or more.")
    band = Stretch(math.log(people.nearest), math.log(people.end))
    error = max(float(judgement_error), _LEAST_ERROR)
    cuts = [turned.high for turned, _ in turned_and_kept(setup, focuses, band)][:-1]
    all_of_them = _integral(people, band, None, error, cuts)
    return tuple(
        _integral(people, held, turned, error, cuts) / all_of_them
        for turned, held in turned_and_kept(setup, focuses, band)
    )


_LEAST_ERROR = 1e-9
_NODES = 24
_NEAR = (-8.0, -3.0, -1.0, 0.0, 1.0, 3.0, 8.0)
"""Where pieces end about a threshold, in judging errors: between them Φ is smooth."""
_PIECE = 0.5 * math.log(ABOUT)
"""No piece is longer than that, so that a density is smooth in it."""


def _integral(
    people: People, over: Stretch, turned: Stretch | None, error: float, cuts: list[float]
) -> float:
    if over.length <= 0:
        return 0.0
    about = [cut + k * error for cut in cuts for k in _NEAR]
    ends = sorted({over.low, over.high, *(u for u in about if over.low < u < over.high)})
    total = 0.0
    for low, high in pairwise(ends):
        pieces = max(1, math.ceil((high - low) / _PIECE))
        width = (high - low) / pieces
        nodes, weights = _rule()
        starts = low + width * np.arange(pieces)
        u = (starts[:, None] + 0.5 * width * (nodes + 1.0)).ravel()
        share = np.ones_like(u) if turned is None else _turned(u, turned, error)
        total += float(np.sum(np.tile(weights, pieces) * people.density(u) * share)) * width / 2
    return total


@lru_cache(maxsize=1)
def _rule() -> tuple[Array, Array]:
    return np.polynomial.legendre.leggauss(_NODES)


def _turned(u: Array, turned: Stretch, error: float) -> Array:
    """The chance that a distance is judged to lie in a stretch."""
    return _below((turned.high - u) / error) - _below((turned.low - u) / error)


def _below(z: Array) -> Array:
    """Φ."""
    return np.array([0.5 * math.erfc(-x / math.sqrt(2.0)) for x in z.tolist()])
