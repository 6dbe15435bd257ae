"""A focus ring in use: by feel, by its depth-of-field marks, by two readings.

Clocks and senses of turning are as seen from behind the camera.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, field
from typing import Any, overload

import numpy as np
import numpy.typing as npt

from optics.base.errors import NotANumber, OutOfRange, require_finite
from optics.base.numbers import Array, plain
from optics.lens.aperture import widest_holding
from optics.lens.conjugates import nearest_focus
from optics.lens.depth import limits
from optics.lens.ring import Ring
from optics.lens.setup import Setup

CLOCKWISE, ANTICLOCKWISE = 1, -1
_HAIR = 1e-9


@dataclass(frozen=True, slots=True)
class Hands:
    """How a ring is turned by feel. Angles in radians, seen from behind the camera.

    ``tab_at``   where on the clock a tab, or a mark of tape, stands with the ring at ``tab_focus``:
                 radians clockwise from twelve o'clock; a tab underneath at six is π.
    ``tab_focus``  mm from the sensor, up to inf.
    ``sense``    CLOCKWISE if turning the ring clockwise, seen from behind, turns it to where the
                 marks' angle grows; else ANTICLOCKWISE.
    """

    ring: Ring
    tab_at: float = math.pi
    tab_focus: float = math.inf
    sense: int = CLOCKWISE
    _start: float = field(init=False, repr=False, compare=False, default=0.0)

    def __post_init__(self) -> None:
        require_finite("tab_at", self.tab_at, "place of the tab")
        if self.sense not in (CLOCKWISE, ANTICLOCKWISE):
            raise OutOfRange("sense", self.sense, "A ring turns clockwise or anticlockwise.")
        object.__setattr__(self, "_start", self.ring.angle(self.tab_focus))

    @overload
    def tab(self, distance: float) -> float: ...
    @overload
    def tab(self, distance: npt.ArrayLike) -> Array | float: ...
    def tab(self, distance: npt.ArrayLike) -> Array | float:
        """Where the tab stands at a distance: radians clockwise from twelve, 0 to 2π."""
        return plain(np.mod(self._tab_at(np.asarray(self.ring.angle(distance))), 2 * math.pi))

    def clock_at(self, angle: float) -> float:
        """The hours of the tab with the ring at an angle, radians: ``clock`` of its distance."""
        return float(np.mod(self._tab_at(angle) * 6.0 / math.pi, 12.0))

    def _tab_at(self, angle: Any) -> Any:
        return self.tab_at + (angle - self._start) * self.sense

    @overload
    def clock(self, distance: float) -> float: ...
    @overload
    def clock(self, distance: npt.ArrayLike) -> Array | float: ...
    def clock(self, distance: npt.ArrayLike) -> Array | float:
        """The same in hours of a clock face, 0 up to 12 (twelve o'clock is 0)."""
        return plain(np.mod(np.asarray(self.tab(distance)) * 6.0 / math.pi, 12.0))

    def distance_where(self, tab: float) -> float | None:
        """The distance at which the tab stands there, mm; None if the ring does not come there.

        ``tab``: radians clockwise from twelve. Between the outermost marks.
        """
        require_finite("tab", tab, "place of the tab")
        turn = math.remainder(tab - self.tab_at, 2 * math.pi) * self.sense
        angles = sorted(angle for _, angle in self.ring.marks)
        for whole in (0.0, 2 * math.pi, -2 * math.pi):
            angle = self._start + turn + whole
            if angles[0] - _HAIR <= angle <= angles[-1] + _HAIR:
                return self.ring.distance(min(max(angle, angles[0]), angles[-1]))
        return None

    def direction(self, start: float, end: float) -> int:
        """Which way to turn, seen from behind: CLOCKWISE, ANTICLOCKWISE, or 0 for not at all."""
        turn = self.ring.turn(start, end) * self.sense
        return (turn > 0) - (turn < 0)


def mark_angle(ring: Ring, setup: Setup, focus: float) -> float:
    """How far from the index a depth-of-field mark must stand, radians, to be true at ``focus``.

    The smaller of the two sides, which differ a little close up. inf limits count as infinity's
    own angle. nan where nothing holds. Raises as ``depth.limits``.
    """
    held = limits(setup, focus)
    if held.empty:
        return math.nan
    index = ring.angle(focus)
    near = abs(ring.angle(max(held.near, nearest_focus(setup))) - index)
    if math.isinf(held.far):
        return near
    return min(near, abs(ring.angle(held.far) - index))


@dataclass(frozen=True, slots=True)
class Between:
    """From two readings: where to put the ring, and what it takes.

    ``near``, ``far``  the distances read, mm. ``angle``: of the ring between them, radians.
    ``focus``          the distance there, mm from the sensor.
    ``f_number``       the smallest that holds both, by the setup's standard; None if none does.
    """

    near: float
    far: float
    angle: float
    focus: float
    f_number: float | None


def between_readings(ring: Ring, setup: Setup, one: float, other: float) -> Between:
    """Focus on the near thing, then on the far one, reading the distance each time.

    ``one``, ``other``: mm from the sensor, in either order, up to inf. The ring goes half way
    between their angles (``Ring.halfway``). ``setup.f_number`` is not used.
    Raises NotANumber, OutOfRange, FocusTooNear, SubjectTooNear.
    """
    for distance in (one, other):
        if math.isnan(distance):
            raise NotANumber("one", distance, "A reading is not a number.")
    near, far = min(one, other), max(one, other)
    return _between(ring, setup, near, far)


def between_angles(ring: Ring, setup: Setup, one: float, other: float) -> Between:
    """The same from two angles of the ring, radians, as when reading a strip of tape."""
    readings = [ring.distance(angle) for angle in (one, other)]
    return _between(ring, setup, min(readings), max(readings))


def _between(ring: Ring, setup: Setup, near: float, far: float) -> Between:
    angles = np.asarray(ring.angle(np.array((near, far))))
    focus = ring.halfway(*angles)
    return Between(
        near=near,
        far=far,
        angle=ring.angle(focus),
        focus=focus,
        f_number=widest_holding(setup, near, far),
    )
