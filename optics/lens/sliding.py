"""The sliding strip: a scale and brackets on paper that solve depth of field without a battery.

Along an axis even in magnification, the depth of field of an aperture is about as long wherever the
ring stands: blur goes by the difference of two magnifications (docs/optics.md), to a factor 1 + m.
So one scale of distances, and for each aperture one bracket that slides along it, find aperture and
focus for any two ends. A bracket's arms are as short as they ever are on the scale, so that what it
covers always holds; what that gives away is told with it.
"""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import dataclass

import numpy as np

from optics.base.errors import require_positive
from optics.base.numbers import Array
from optics.lens.conjugates import focus_of, magnification
from optics.lens.depth import limits
from optics.lens.kit import Kit
from optics.lens.setup import Setup

_LOOKS = 240
"""Settings of the ring looked at along the scale."""
_SAFE = 1e-6


@dataclass(frozen=True, slots=True)
class Scale:
    """Distances along paper, even in magnification. mm.

    ``length``: from the nearest, ``nearest`` from the sensor, at 0, to infinity. ``setup``: of the
    lens; its aperture counts for nothing here.
    """

    setup: Setup
    nearest: float
    length: float

    @property
    def near(self) -> float:
        """The distance at its left end, as any axis of distance says it."""
        return self.nearest

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
        return self.length

    @property
    def span(self) -> float:
        """Its length in 1/distance, 1/mm."""
        return 1.0 / self.nearest

    def contains(self, distance: float) -> bool:
        """Whether a distance, mm, stands on it."""
        return distance >= self.nearest

    def x(self, distance: float) -> float:
        """Where a distance stands, mm from the left end; below 0 for what is nearer."""
        most = magnification(self.setup, self.nearest)
        return self.length * (1.0 - magnification(self.setup, distance) / most)

    def distance(self, x: float) -> float:
        """The distance that stands at x, mm; inf at the right end and beyond."""
        m = (1.0 - x / self.length) * magnification(self.setup, self.nearest)
        return focus_of(self.setup, m) if m > 0 else math.inf


@dataclass(frozen=True, slots=True)
class Bracket:
    """What an aperture holds to either side of the ring, on the scale's paper. mm.

    ``near``, ``far``  how far its arms reach, towards near and towards infinity.
    ``cost``           the share, 0 or more, by which the longest it could be somewhere is longer.
    """

    f_number: float
    near: float
    far: float
    cost: float

    @property
    def length(self) -> float:
        """From end to end."""
        return self.near + self.far


@dataclass(frozen=True, slots=True)
class Sliding:
    """A scale and its brackets, the widest aperture first; an aperture at which nothing is sharp
    has none."""

    scale: Scale
    brackets: tuple[Bracket, ...]

    def laid(self, near: float, far: float) -> tuple[Bracket, float] | None:
        """The first bracket that covers both, mm from the sensor, and where the ring goes under
        its index with as much to spare at either end; None if none does, or an end is nearer than
        the scale goes."""
        first, last = self.scale.x(near), self.scale.x(far)
        if first < -_SAFE or last < first:
            return None
        for bracket in self.brackets:
            spare = bracket.length - (last - first)
            if spare >= 0:
                index = min(first - 0.5 * spare + bracket.near, self.scale.length)
                return bracket, self.scale.distance(index)
        return None


def sliding(kit: Kit, apertures: Iterable[float], nearest: float, length: float) -> Sliding:
    """The strip of a lens with its standard.

    ``apertures``  f-numbers, each above 0. ``nearest``: where the scale begins, mm from the sensor,
                   no nearer than the lens focuses. ``length``: of the scale, mm, above 0.
    Raises NotANumber, OutOfRange, FocusTooNear.
    """
    require_positive("length", length, "length of the scale")
    wanted = sorted(set(apertures))
    base = kit.at(wanted[0] if wanted else kit.apertures[0])
    scale = Scale(base, max(nearest, kit.closest), length)
    found = (_bracket(scale, kit.at(f_number)) for f_number in wanted)
    return Sliding(scale, tuple(one for one in found if one is not None))


def _bracket(scale: Scale, setup: Setup) -> Bracket | None:
    most = magnification(setup, scale.nearest)
    m: Array = most * np.linspace(1.0, 0.0, _LOOKS)
    near, far = [], []
    for at in m.tolist():
        focus = focus_of(setup, at) if at > 0 else math.inf
        held = limits(setup, focus)
        if held.empty:
            return None
        # What reaches past an end of the scale asks nothing of an arm there.
        if held.near > scale.nearest:
            near.append(magnification(setup, held.near) - at)
        if math.isfinite(held.far):
            far.append(at - magnification(setup, held.far))
    unit = scale.length / most
    arms = min(near, default=most), min(far, default=most)
    longest = max(near, default=most) + max(far, default=most)
    cost = longest / sum(arms) - 1.0 if sum(arms) > 0 else math.inf
    short = unit * (1.0 - _SAFE)
    return Bracket(setup.f_number, arms[0] * short, arms[1] * short, cost)
