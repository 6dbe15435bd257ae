"""A list of positions that can be set, and what each of them holds, for one circle or another."""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import dataclass, replace

import numpy as np
import numpy.typing as npt

from optics.base.errors import require_count
from optics.base.numbers import Array
from optics.lens.cone import Cone
from optics.lens.conjugates import magnification
from optics.lens.depth import limits
from optics.lens.setup import Setup
from optics.zones.tiling import Zone, zone_at


@dataclass(frozen=True, slots=True)
class Listed:
    """A list, in order, and positions beside it that are fixed, wherever they lie; mm.

    ``cone``, ``fixed_cones``: their blur, which no circle changes.
    """

    setup: Setup
    settable: Array
    fixed: tuple[float, ...]
    cone: Cone
    fixed_cones: tuple[Cone, ...]

    @classmethod
    def of(cls, setup: Setup, settable: npt.ArrayLike, fixed: Iterable[float]) -> Listed:
        """A list put in order; an array is taken to be so already. Raises OutOfRange for none."""
        kept = tuple(sorted(set(map(float, fixed))))
        row = _sorted(settable)
        cone = Cone.at(setup, magnification(setup, row))
        fixed_cones = tuple(Cone.at(setup, magnification(setup, focus)) for focus in kept)
        return cls(setup, row, kept, cone, fixed_cones)

    def limits(self, circle: float) -> tuple[Array, Array]:
        """Of every position of the list: ``depth.limits``, but for what does not change with the
        circle. The far limits rise: they are inf for what is focused past infinity, which holds
        nothing nearer than inf, and 0 for what holds nothing for diffraction."""
        if self.setup.diffraction:
            held = limits(replace(self.setup, coc=circle), self.settable)
            near, far = np.asarray(held.near), np.asarray(held.far)
        else:
            near, far = self.cone.limits(circle)
        beyond = np.isnan(near) & (self.cone.sharp < 0)
        far = np.where(beyond, math.inf, np.nan_to_num(far, posinf=math.inf))
        return np.where(beyond, math.inf, near), far

    def kept(self, circle: float) -> tuple[Zone, ...]:
        """What the fixed positions hold. As ``limits``."""
        if self.setup.diffraction:
            setup = replace(self.setup, coc=circle)
            return tuple(zone_at(setup, focus) for focus in self.fixed)
        return tuple(
            Zone(focus, *map(float, cone.limits(circle)))
            for focus, cone in zip(self.fixed, self.fixed_cones, strict=True)
        )

    def nearest(self, inverse: float) -> float:
        """The position of the list nearest to a 1/distance."""
        at = int(np.argmin(np.abs(1.0 / self.settable - inverse)))
        return float(self.settable[at])


def _sorted(settable: npt.ArrayLike) -> Array:
    """Distances to choose from in order, each once."""
    if isinstance(settable, np.ndarray):
        return settable
    found: Array = np.unique(np.asarray(settable, dtype=np.float64))
    require_count("settable", found.size, "distances to choose from")
    return found
