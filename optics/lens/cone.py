"""The cone of light behind a lens with its ring set: the two equations that all of depth is.

Let A = f/N be the entrance pupil, p the pupil ratio, and x the distance of a subject from the
entrance pupil. A ring at magnification m (see ``lens``) blurs that subject into a disc of

    b = A·|m − q/x|,    q = f(1 + m/p)                                    (2)

because the cone from the subject through the pupil cuts the plane of sharp focus, at x₀ = q/m,
in a disc A·|x − x₀|/x, and the lens reproduces that plane at magnification m. So blur is two
straight arms in 1/x that meet at the focus: one formula gives limits, windows and hyperfocal
distance by setting b to the circle of confusion. The pupil stands f(1 − 1/p) in front of the
front principal plane, hence x = subject − origin with

    origin = f(2 + m − 1/p) + hiatus + focus shift                        (3)

A focus shift δ leaves the sensor where the ring put it and moves the plane of best focus; the
sharp plane is that of magnification m − δ/f. Sources: [gauss], [pupil] in docs/references.md.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Any

import numpy as np
import numpy.typing as npt

from optics.base.errors import SubjectTooNear, require, require_number
from optics.base.numbers import Array
from optics.lens.setup import Setup

INSIDE_THE_LENS = "That is inside the lens: nearer to the sensor than the front of the lens."

_DRAWN_OUT = 0.1
"""Focal lengths in front of the lens as far as it draws out: nothing nearer is judged."""


def nearest_subject(setup: Setup) -> float:
    """The nearest a subject can be judged at any ring setting, mm from the sensor.

    What is nearer than the lens itself, drawn out to its closest focus (m = 1), is inside it: in
    front of the entrance pupil, by (3), and of the front principal plane, 2f + hiatus, both; and
    never behind the focal length. The one rule of everybody who asks. Plain numbers only.
    """
    f, p = setup.focal_length, setup.pupil_ratio
    front = f * (2.0 + max(0.0, 1.0 - 1.0 / p)) + setup.hiatus
    return max(front, f) + _DRAWN_OUT * f


_NEVER = 1e-13


def _is_none(shift: Any) -> bool:
    return type(shift) is float and shift == 0.0


@dataclass(frozen=True, slots=True)
class Cone:
    """Equations (2) and (3), for plain numbers and for arrays alike.

    ``pupil``: A. ``sharp``: the magnification of the plane of sharp focus. ``reach``: q.
    ``origin``: where the entrance pupil stands, mm from the sensor.
    """

    pupil: Any
    sharp: Any
    reach: Any
    origin: Any

    @classmethod
    def at(cls, setup: Setup, ring: Any) -> Cone:
        """``ring``: the magnification that the ring is set to."""
        f, p, shift = setup.focal_length, setup.pupil_ratio, setup.focus_shift
        sharp = ring if _is_none(shift) else ring - shift / f
        reach = sharp / p + 1.0
        reach *= f
        origin = sharp + (2.0 - 1.0 / p)
        origin *= f
        origin += setup.hiatus + shift
        return cls(pupil=f / setup.f_number, sharp=sharp, reach=reach, origin=origin)

    def from_pupil(self, subject: npt.ArrayLike) -> Array:
        """x for a subject that far from the sensor, mm. Raises NotANumber, SubjectTooNear."""
        depth = np.asarray(subject, dtype=np.float64)
        x = np.asarray(depth - self.origin)
        if x.size and not x.min() > 0:
            require_number("subject", depth, "distance")
            require(x > 0, SubjectTooNear, "subject", depth, INSIDE_THE_LENS)
        return x

    def blur(self, subject: npt.ArrayLike) -> Any:
        """Equation (2) for a subject that far from the sensor, mm."""
        if isinstance(subject, (float, int)) and isinstance(self.origin, float):
            x = subject - self.origin
            if x > 0:
                return self.pupil * abs(self.reach / x - self.sharp)
        arm = self.reach / self.from_pupil(subject)
        arm -= self.sharp
        return np.asarray(self.pupil * np.abs(arm))

    def scale(self, subject: npt.ArrayLike) -> Any:
        """Size on the sensor ÷ size of a subject that far from the sensor: q/x."""
        if isinstance(subject, (float, int)) and isinstance(self.origin, float):
            x = subject - self.origin
            if x > 0:
                return self.reach / x
        return self.reach / self.from_pupil(subject)

    def near_limit(self, circle: Any) -> Any:
        """The nearest distance blurred to no more than ``circle``, mm from the sensor.

        nan where none is, not even infinity: focused past it by more than that.
        """
        slope = self.sharp + circle / self.pupil
        if isinstance(slope, float):
            if slope > 0:
                return self.origin + self.reach / slope
            return math.inf if slope == 0 else math.nan
        with np.errstate(divide="ignore"):
            return self.origin + self.reach / np.where(slope < 0, np.nan, slope)

    def limits(self, circle: Any) -> tuple[Any, Any]:
        """Both limits; nan, both of them, where nothing is blurred to no more than ``circle``."""
        near, far = self.near_limit(circle), self.far_limit(circle)
        if isinstance(near, float):
            return near, math.nan if math.isnan(near) else float(far)
        return near, np.where(np.isnan(near), np.nan, far)

    def far_limit(self, circle: Any) -> Any:
        """The farthest such distance; inf where the far arm never comes so high.

        Within rounding of never is never: so the limit at the hyperfocal distance is infinity.
        """
        allowed = circle / self.pupil
        slope = self.sharp - allowed
        if isinstance(slope, float):
            return self.reach / slope + self.origin if slope > _NEVER * allowed else math.inf
        slope = np.where(slope <= _NEVER * allowed, 0.0, slope)  # nan stays
        with np.errstate(divide="ignore"):
            return np.asarray(self.reach / slope + self.origin)
