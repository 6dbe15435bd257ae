"""A scale to wrap round the barrel of a lens that has none, or one that lies: where marks stand.

Along the barrel's skin a mark stands its angle from infinity times the barrel's radius. Beside the
index, fixed, stand pairs of marks for each aperture: as far from it as depth of field ever reaches
least to either side, so that what is between two of a pair always holds.
"""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import dataclass

import numpy as np

from optics.base.errors import require_positive
from optics.base.numbers import Array
from optics.lens.depth import limits
from optics.lens.kit import Kit
from optics.lens.ring import Ring
from optics.lens.setup import Setup

_LOOKS = 160
_SAFE = 1e-6


@dataclass(frozen=True, slots=True)
class Wrapped:
    """A ring's scale laid flat. mm.

    ``closest``  the nearest mark, from the sensor. ``length``: from that, at 0, to infinity.
    """

    ring: Ring
    radius: float
    closest: float

    @property
    def near(self) -> float:
        """The distance at its left end."""
        return self.closest

    @property
    def far(self) -> float:
        """The distance at its right end."""
        return math.inf

    @property
    def left(self) -> float:
        """Where it begins."""
        return 0.0

    @property
    def right(self) -> float:
        """Where infinity stands."""
        return self.x(math.inf)

    @property
    def span(self) -> float:
        """Its length in 1/distance, 1/mm."""
        return 1.0 / self.closest

    def contains(self, distance: float) -> bool:
        """Whether a distance, mm, stands on it."""
        return distance >= self.closest

    def x(self, distance: float) -> float:
        """Where a distance stands, mm from the nearest mark."""
        return float(self.places(np.asarray(distance)))

    def places(self, distances: Array) -> Array:
        """The same for many distances."""
        turned = self.ring.angle(distances) - self.ring.angle(self.closest)
        return np.asarray(np.abs(turned) * self.radius)


@dataclass(frozen=True, slots=True)
class Pair:
    """Two marks beside the index for an aperture: how far they stand from it, mm, towards near and
    towards infinity."""

    f_number: float
    near: float
    far: float


@dataclass(frozen=True, slots=True)
class RingStrip:
    """The scale that turns, and the pairs of marks that do not."""

    scale: Wrapped
    pairs: tuple[Pair, ...]


def ring_strip(
    ring: Ring, kit: Kit, apertures: Iterable[float], diameter: float, closest: float
) -> RingStrip:
    """The strip of a lens with its standard.

    ``ring``      its ring, from measured marks or as assumed. ``diameter``: of the barrel, mm.
    ``closest``   the nearest that it focuses, mm from the sensor.
    An aperture at which nothing is sharp has no pair. Raises NotANumber, OutOfRange, FocusTooNear.
    """
    require_positive("diameter", diameter, "width of the barrel")
    scale = Wrapped(ring, 0.5 * diameter, max(closest, kit.closest))
    found = (_pair(scale, kit.at(f_number)) for f_number in sorted(set(apertures)))
    return RingStrip(scale, tuple(one for one in found if one is not None))


def _pair(scale: Wrapped, setup: Setup) -> Pair | None:
    """The marks that hold wherever the ring stands: looked for at many places at once."""
    first, last = (float(scale.ring.angle(d)) for d in (scale.closest, math.inf))
    angles = first + (last - first) * np.arange(_LOOKS) / _LOOKS
    focus = np.append(scale.ring.distance(angles), math.inf)
    held = limits(setup, focus)
    if np.any(held.empty):
        return None
    here = scale.places(focus)
    nears, fars = np.asarray(held.near), np.asarray(held.far)
    inside, ends = nears > scale.closest, np.isfinite(fars)
    near = here[inside] - scale.places(nears[inside])
    far = scale.places(fars[ends]) - here[ends]
    whole = scale.right
    short = 1.0 - _SAFE
    nearest, farthest = (float(np.min(part, initial=whole)) for part in (near, far))
    return Pair(setup.f_number, nearest * short, farthest * short)
