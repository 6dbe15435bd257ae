"""The sightline's axis: distance, near on the left, infinity on the right, even in 1/distance."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class DistanceScale:
    """``near`` mm stands at x = ``left``, ``far`` mm (may be inf) at x = ``right``."""

    near: float
    far: float
    left: float
    right: float

    @property
    def span(self) -> float:
        """The length of the axis in 1/distance, 1/mm."""
        return 1.0 / self.near - 1.0 / self.far

    def x(self, distance: float) -> float:
        """Where a distance stands. Nearer than ``near`` it lies left of the axis."""
        share = (1.0 / self.near - 1.0 / distance) / self.span
        return self.left + share * (self.right - self.left)

    def clamped(self, distance: float) -> float:
        """Where a distance stands, held to the ends of the axis."""
        return min(max(self.x(distance), self.left), self.right)

    def distance(self, x: float) -> float:
        """The distance that stands at x; inf at and beyond where 1/distance reaches zero."""
        share = (x - self.left) / (self.right - self.left)
        inverse = 1.0 / self.near - share * self.span
        return 1.0 / inverse if inverse > 0 else math.inf

    def contains(self, distance: float) -> bool:
        """Whether a distance is on the axis."""
        return self.near <= distance <= self.far


_PAD = 0.14
"""Share of the axis left free beyond the outermost thing of interest."""
_LEAST_WIDTH = 1e-3
"""Narrowest axis drawn, as a share of 1/distance at its near end."""
_INFINITY_WITHIN = 0.35
"""If infinity lies no farther off than this share of what is of interest, it is shown too."""


def fitting(interest: tuple[float, ...], left: float, right: float) -> DistanceScale:
    """A scale on which all the distances of ``interest`` (mm, inf allowed) stand, with room.

    The ends are rounded outwards, by less than half the room left free, so that a small change
    moves nothing.
    """
    inverses = [1.0 / distance for distance in interest]
    most, least = max(inverses), min(inverses)
    width = max(most - least, most * _LEAST_WIDTH)
    pad = _PAD * width
    near = _round(1.0 / (most + pad), 1.0 / (most + 1.5 * pad), math.floor)
    if least <= _INFINITY_WITHIN * width:
        return DistanceScale(near, math.inf, left, right)
    far = _round(1.0 / (least - pad), 1.0 / (least - 1.5 * pad), math.ceil)
    return DistanceScale(near, far, left, right)


def _round(value: float, bound: float, towards: Callable[[float], int]) -> float:
    """``value`` rounded towards ``bound`` on the coarsest power of ten that does not pass it."""
    step = 10.0 ** math.floor(math.log10(abs(bound - value)))
    return towards(value / step) * step
