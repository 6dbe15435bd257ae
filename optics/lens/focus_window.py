"""Where the ring may stand: the settings that keep a distance, or two and all between, sharp.

The other way round from ``depth.limits``, for one lens at a time: plain numbers only, because
planning calls these many times over. Setting (2) of ``cone`` to a circle, with x from (3), is a
quadratic in the magnification; with g = 1/(distance − hiatus − shift), κ = ± circle/A and
e = f(1 − 1/p) it reads

    f g m² − (1 − (2 − κ) f g) m + κ + g(f − κ(f + e)) = 0                (5)

κ is above zero where the distance is to be the far limit, below where it is to be the near one.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass

from optics.base.errors import SubjectTooNear, require_number, require_order
from optics.base.search import crossing, least
from optics.lens.cone import INSIDE_THE_LENS, Cone
from optics.lens.conjugates import focus_of
from optics.lens.diffraction import MOST_ALLOWED, combine_plain, defocus_within_plain
from optics.lens.setup import Setup
from optics.lens.wave import table

_MOST_STEPS = 80
_FAR, _NEAR = 1.0, -1.0
_CLOSEST = 1.0
"""The magnification of the closest focus there is."""


@dataclass(frozen=True, slots=True)
class Window:
    """The ring settings that do the job, mm from the sensor: anywhere between the two."""

    nearest: float
    farthest: float

    def holds(self, focus: float) -> bool:
        """Whether a setting, mm, lies in the window."""
        return self.nearest <= focus <= self.farthest


def allowed_at(setup: Setup, ring: float) -> float:
    """The geometric disc that the standard leaves at a magnification; ``depth.allowed_defocus``."""
    if not setup.diffraction:
        return setup.coc
    left = setup.coc**2 - setup.lens_disc**2
    if left < 0:
        return math.nan
    working = setup.f_number * (1.0 + ring / setup.pupil_ratio)
    return defocus_within_plain(math.sqrt(left), working)


def focus_with_far_limit(setup: Setup, distance: float) -> float:
    """The ring setting whose far limit is ``distance``: the nearest setting that still holds it.

    mm from the sensor; for a distance of inf the hyperfocal distance. 4f + hiatus where even that
    holds the distance, nan where no setting does. Plain numbers only.
    Raises NotANumber, SubjectTooNear.
    """
    ring = far_ring(setup, distance)
    return math.nan if math.isnan(ring) else focus_of(setup, ring)


def focus_with_near_limit(setup: Setup, distance: float) -> float:
    """The ring setting whose near limit is ``distance``: the farthest setting that still holds it.

    mm from the sensor; inf if even the ring at infinity holds it, nan where no setting does. A
    near limit nearer than 4f + hiatus belongs to two settings, since the lens itself moves out as
    it is focused closer: this is the farther one. As ``focus_with_far_limit``.
    """
    ring = near_rings(setup, distance)[0]
    return math.nan if math.isnan(ring) else focus_of(setup, ring)


def far_ring(setup: Setup, distance: float) -> float:
    """``focus_with_far_limit`` as a magnification."""
    quadratic = _Quadratic.of(setup, distance)
    if setup.diffraction and (last := last_ring(setup)) < quadratic.sharp_ring:
        return _held_before(setup, distance, quadratic, last)[1]

    def ring_for(circle: float) -> float:
        ring = quadratic.rings(_FAR * circle)[0]
        return _CLOSEST if math.isnan(ring) else min(ring, _CLOSEST)

    return _settled(setup, ring_for)


def near_rings(setup: Setup, distance: float) -> tuple[float, float]:
    """The magnifications of ``focus_with_near_limit`` and of the closer setting; nan if none."""
    quadratic = _Quadratic.of(setup, distance)
    if setup.diffraction and (last := last_ring(setup)) < quadratic.sharp_ring:
        return _held_before(setup, distance, quadratic, last)
    first = _settled(setup, lambda circle: quadratic.rings(_NEAR * circle)[0])
    if math.isnan(first) or first > _CLOSEST:
        return math.nan, math.nan
    closer = quadratic.rings(_NEAR * allowed_at(setup, first))[1]
    if setup.diffraction and closer <= _CLOSEST:
        for _ in range(_MOST_STEPS):
            closer = quadratic.rings(_NEAR * allowed_at(setup, closer))[1]
    return first, closer if closer <= _CLOSEST else math.nan


def last_ring(setup: Setup) -> float:
    """The magnification at which diffraction and the lens alone make the circle; nothing holds
    with the ring closer. Below 0 if nothing holds even at infinity."""
    left = max(setup.coc**2 - setup.lens_disc**2, 0.0)
    at_infinity = setup.f_number * float(table().disc[0])
    return setup.pupil_ratio * (math.sqrt(left) / at_infinity - 1.0)


def _held_before(
    setup: Setup, distance: float, quadratic: _Quadratic, last: float
) -> tuple[float, float]:
    """Where a distance holds that is only sharp where nothing holds any more: focusing closer
    brings less defocus and more diffraction. From and to which magnification; nan for nowhere."""
    first = quadratic.rings(_NEAR * MOST_ALLOWED * setup.coc)[0]
    past = -0.5 * setup.pupil_ratio  # no ring goes that far past infinity
    low, high = (0.0 if math.isnan(first) else min(max(first, past), 0.0)), min(last, _CLOSEST)
    if high <= low:
        return math.nan, math.nan

    def excess(ring: float) -> float:
        working = setup.f_number * (1.0 + ring / setup.pupil_ratio)
        defocus = Cone.at(setup, ring).blur(distance)
        return math.hypot(combine_plain(float(defocus), working), setup.lens_disc) - setup.coc

    best = least(excess, low, high, 1e-12)
    if excess(best) > 0:
        return math.nan, math.nan
    return crossing(excess, low, best), crossing(excess, high, best)


@dataclass(frozen=True, slots=True)
class _Quadratic:
    """Equation (5) for one distance, all but the circle."""

    f: float
    g: float
    per_circle: float
    pupil_behind: float
    shift: float

    @classmethod
    def of(cls, setup: Setup, distance: float) -> _Quadratic:
        require_number("distance", distance, "distance")
        f = setup.focal_length
        pupil_behind = f * (2.0 - 1.0 / setup.pupil_ratio)  # f + e
        room = distance - setup.hiatus - setup.focus_shift
        if room <= pupil_behind:
            raise SubjectTooNear("distance", distance, INSIDE_THE_LENS)
        per_circle = setup.f_number / f
        return cls(f, 1.0 / room, per_circle, pupil_behind, setup.focus_shift / f)

    @property
    def sharp_ring(self) -> float:
        """The magnification at which the distance itself is sharp, 1 at most."""
        sharp = self.rings(0.0)[0]
        return min(sharp, _CLOSEST) if sharp == sharp else _CLOSEST

    def rings(self, signed_circle: float) -> tuple[float, float]:
        """Both roots as ring magnifications, the smaller first; nan where there is none."""
        f, g, k = self.f, self.g, signed_circle * self.per_circle
        constant = k + g * (f - k * self.pupil_behind)
        linear = 1.0 - (2.0 - k) * f * g
        squared = linear * linear - 4.0 * f * g * constant
        if not squared >= 0:
            return math.nan, math.nan
        twice = linear + math.sqrt(squared)
        if twice <= 0:  # no root is a ring short of infinity
            return math.nan, math.nan
        larger = twice / (2.0 * f * g) if g > 0 else math.inf
        return 2.0 * constant / twice + self.shift, larger + self.shift


def _settled(setup: Setup, ring_for: Callable[[float], float]) -> float:
    """The ring m that is ``ring_for`` what is allowed at m itself; nan if there is none.

    Without diffraction that is the same everywhere. With it, the secant method kept between
    bounds: ``ring_for(allowed(m)) − m`` falls as m rises, whichever limit is asked for. A ring that
    is not there (nan) would have to be closer than any. What is allowed can grow a little with m
    where defocus rules (see ``MOST_ALLOWED``), so the bound is drawn a little wider.
    """
    most = allowed_at(setup, 0.0)
    if math.isnan(most):
        return math.nan
    if not setup.diffraction:
        return ring_for(most)
    ends = (ring_for(MOST_ALLOWED * most), ring_for(0.0))
    if math.isnan(ends[0]):
        return math.nan
    low, high = min(ends[0], 0.0 if math.isnan(ends[1]) else ends[1]), _CLOSEST
    ring, step = min(max(ends[0], low), high), math.inf
    before, excess_before = math.nan, math.nan
    for _ in range(_MOST_STEPS):
        allowed = allowed_at(setup, max(ring, 0.0))
        wanted = ring_for(0.0 if math.isnan(allowed) else allowed)
        excess = math.inf if math.isnan(wanted) else wanted - ring
        if excess > 0:
            low = ring
        else:
            high = ring
        # The secant through the last two, from the first substitution on.
        change = excess - excess_before
        following = ring - excess * (ring - before) / change if change else ring + excess
        if math.isnan(following):
            following = ring + excess
        if not low <= following <= high or abs(following - ring) > 0.5 * step:
            following = 0.5 * (low + high)
        before, excess_before = ring, excess
        step, ring = abs(following - ring), following
        if step <= 1e-15 * abs(ring):
            break
    for found in (ring, low):  # close to where nothing holds, ring may lie just past it
        if not math.isnan(allowed_at(setup, max(found, 0.0))):
            return found
    return math.nan


def focus_window(setup: Setup, near: float, far: float) -> Window | None:
    """The ring settings that hold both ends, and with them all between; None if none does.

    ``near`` ≤ ``far``: mm from the sensor, up to inf. The window reaches from the setting whose
    far limit is ``far`` to the one whose near limit is ``near``; a near end nearer than the lens
    can focus may be lost again by focusing closer still. The far end should be no nearer than the
    lens can focus. Plain numbers only.
    Raises NotANumber, SubjectTooNear, WrongOrder.
    """
    rings = _rings(setup, near, far)
    if not rings[0] <= rings[1]:
        return None
    nearest, farthest = (focus_of(setup, min(ring, _CLOSEST)) for ring in rings[::-1])
    return Window(min(nearest, farthest), farthest)


def window_rings(setup: Setup, near: float, far: float) -> tuple[float, float]:
    """From which magnification to which the ring may stand for both ends, not counting what is lost
    by focusing closer still; nan for an end that holds nowhere. As ``focus_window``."""
    return near_rings(setup, near)[0], far_ring(setup, far)


def _rings(setup: Setup, near: float, far: float) -> tuple[float, float]:
    """From and to which magnification both ends hold, if the first is less; nan for nowhere."""
    require_order(near, far)
    farthest, closer = near_rings(setup, near)
    nearest = far_ring(setup, far)
    return farthest, nearest if math.isnan(closer) else min(nearest, closer)


def signed_window(setup: Setup, near: float, far: float) -> float:
    """How wide ``focus_window`` is, in magnification; below 0 by how much it fails to open.

    −inf where a distance holds nowhere. For searches. As ``focus_window``.
    """
    farthest, nearest = _rings(setup, near, far)
    width = nearest - farthest
    return -math.inf if math.isnan(width) else width
