"""Ways to place the focus. Each returns a ring setting, mm from the sensor."""

from __future__ import annotations

import math

import numpy as np

from optics.depth import blur_disc
from optics.errors import FocusTooNear, NotANumber, SubjectTooNear, WrongOrder
from optics.lens import focus_of, magnification
from optics.setup import Setup

_MOST_STEPS = 60
_HAIR = 1e-9


def between(setup: Setup, near: float, far: float) -> float:
    """The focus at which both ends have the same geometric blur, mm from the sensor.

    By equation (2) of ``depth``, 2m = q(1/x_near + 1/x_far): the middle of the two in 1/distance
    from the entrance pupil, which itself moves a little as the ring turns. Solved by Newton's
    steps from infinity, which close in from one side only. The f-number plays no part.

    ``near`` ≤ ``far``: mm from the sensor, up to inf. Plain numbers only.
    Raises NotANumber, SubjectTooNear, WrongOrder; FocusTooNear if the ends lie so near that the
    lens cannot be focused between them.
    """
    for name, distance in (("near", near), ("far", far)):
        if math.isnan(distance):
            raise NotANumber(name, distance, "The distance is not a number.")
    if near > far:
        raise WrongOrder("near", near, "The near end lies beyond the far end.")
    if near == far and (math.isinf(near) or not setup.focus_shift):
        magnification(setup, near)  # raises if the lens cannot focus there
        return near
    f, p = float(setup.focal_length), float(setup.pupil_ratio)
    shift = float(setup.focus_shift)
    base = float(setup.hiatus) + shift + f * (2.0 - 1.0 / p)
    sharp = 0.0
    for _ in range(_MOST_STEPS):
        near_from_pupil = near - base - f * sharp
        far_from_pupil = far - base - f * sharp
        if near_from_pupil <= 0:
            raise SubjectTooNear("near", near, "That is too near for this lens to focus on.")
        a, b = 1.0 / near_from_pupil, 1.0 / far_from_pupil
        reach = f * (1.0 + sharp / p)
        excess = 2.0 * sharp - reach * (a + b)
        slope = 2.0 - f / p * (a + b) - reach * f * (a * a + b * b)
        step = -excess / slope if slope > 0 else math.inf
        if sharp + step > 1.0 + _HAIR:
            raise FocusTooNear("near", near, "That is too near for this lens to focus on.")
        sharp = min(sharp + step, 1.0)
        if abs(step) <= 1e-15 * sharp:
            break
    return float(focus_of(setup, sharp + shift / f))


def worst_blur(setup: Setup, near: float, far: float, focus: float) -> float:
    """The larger of the blurs at the two ends, mm: nothing between them is blurred more."""
    return float(np.max(blur_disc(setup, np.array((near, far)), focus)))
