"""The middle of two ends: the focus with equal blur on both, on which every other answer rests."""

from __future__ import annotations

import math
import operator
from dataclasses import dataclass
from typing import Any, overload

import numpy as np
import numpy.typing as npt

from optics.base.errors import FocusTooNear, SubjectTooNear, require, require_order
from optics.base.numbers import Array
from optics.lens.conjugates import focus_of, magnification
from optics.lens.depth import blur_disc
from optics.lens.setup import Setup

_MOST_STEPS = 60
_HAIR = 1e-9
_TOO_NEAR = "That is too near for this lens to focus on."


@overload
def between(setup: Setup, near: float, far: float) -> float: ...
@overload
def between(setup: Setup, near: npt.ArrayLike, far: npt.ArrayLike) -> Array | float: ...
def between(setup: Setup, near: npt.ArrayLike, far: npt.ArrayLike) -> Array | float:
    """The focus at which both ends have the same geometric blur, mm from the sensor.

    By equation (2) of ``cone``, 2m = q(1/x_near + 1/x_far): the middle of the two in 1/distance
    from the entrance pupil, which itself moves a little as the ring turns. Solved by Newton's
    steps from infinity, which close in from one side only. The f-number plays no part.

    ``near`` ≤ ``far``: mm from the sensor, up to inf. Broadcasts.
    Raises NotANumber, SubjectTooNear, WrongOrder; FocusTooNear if the ends lie so near that the
    lens cannot be focused between them.
    """
    require_order(near, far)
    single = setup.plain and isinstance(near, (int, float)) and isinstance(far, (int, float))
    if single and near == far and (not setup.focus_shift or math.isinf(near)):  # type: ignore[arg-type]
        magnification(setup, near)  # raises if the lens cannot focus there
        return float(near)  # type: ignore[arg-type]
    middle = _Middle.of(setup, near, far)
    return middle.found_plain() if single else middle.found()


@dataclass(frozen=True, slots=True)
class _Middle:
    """The equation of ``between``: plain numbers or arrays alike."""

    setup: Setup
    f: Any
    p: Any
    near: Any
    far: Any

    @classmethod
    def of(cls, setup: Setup, near: Any, far: Any) -> _Middle:
        """Both ends as they lie from where the pupil stands with the ring at infinity."""
        f, p = setup.focal_length, setup.pupil_ratio
        base = setup.hiatus + setup.focus_shift + f * (2.0 - 1.0 / p)
        return cls(setup, f, p, near - base, far - base)

    def step(self, sharp: Any, over: Any) -> tuple[Any, Any]:
        """How far off the sum of both arms is, and its slope; ``over`` divides."""
        a, b = over(1.0, self.near - self.f * sharp), over(1.0, self.far - self.f * sharp)
        reach = self.f * (1.0 + sharp / self.p)
        excess = 2.0 * sharp - reach * (a + b)
        return excess, 2.0 - self.f / self.p * (a + b) - reach * self.f * (a * a + b * b)

    def found_plain(self) -> float:
        sharp = 0.0
        for _ in range(_MOST_STEPS):
            if self.near - self.f * sharp <= 0:
                raise SubjectTooNear("near", self._typed(self.near), _TOO_NEAR)
            excess, slope = self.step(sharp, operator.truediv)
            step = -excess / slope if slope > 0 else math.inf
            if sharp + step > 1.0 + _HAIR:
                raise FocusTooNear("near", self._typed(self.near), _TOO_NEAR)
            sharp = min(sharp + step, 1.0)
            if abs(step) <= 1e-15 * sharp:
                break
        return float(focus_of(self.setup, sharp + self.setup.focus_shift / self.f))

    def found(self) -> Array | float:
        near, _, f = np.broadcast_arrays(self.near, self.far, np.asarray(self.f))
        typed = self._typed(near)
        sharp = np.zeros(np.broadcast_shapes(near.shape, np.shape(self.p)))
        for _ in range(_MOST_STEPS):
            require(near - f * sharp > 0, SubjectTooNear, "near", typed, _TOO_NEAR)
            excess, slope = self.step(sharp, np.divide)
            step = np.divide(-excess, slope, out=np.full(np.shape(excess), np.inf), where=slope > 0)
            require(sharp + step <= 1.0 + _HAIR, FocusTooNear, "near", typed, _TOO_NEAR)
            sharp = np.minimum(sharp + step, 1.0)
            if np.all(np.abs(step) <= 1e-15 * sharp):
                break
        focus: Array | float = focus_of(self.setup, sharp + self.setup.focus_shift / self.f)
        return focus

    def _typed(self, near: Any) -> Any:
        setup = self.setup
        base = setup.hiatus + setup.focus_shift + self.f * (2.0 - 1.0 / self.p)
        return near + base


def worst_blur(setup: Setup, near: float, far: float, focus: float) -> float:
    """The larger of the blurs at the two ends, mm: nothing between them is blurred more."""
    return max(blur_disc(setup, near, focus), blur_disc(setup, far, focus))
