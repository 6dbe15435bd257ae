"""A camera over the ground: how it stands, and which way a place in its picture looks.

The geometry is that of ``frame``, which has the equations.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from optics.base.errors import (
    AngleTooLarge,
    require,
    require_angle,
    require_finite,
    require_positive,
)
from optics.base.numbers import Array
from optics.lens.conjugates import magnification
from optics.lens.setup import Setup

MIDDLE = 0.5
"""The row, and the column, of the picture's middle."""


@dataclass(frozen=True, slots=True)
class Camera:
    """A camera over plane ground. Plain numbers only.

    ``height``        of the entrance pupil above the ground under it, mm, above 0.
    ``tilt``          how far down it looks, radians, −π/2 to π/2; up is negative.
    ``slope``         of the ground ahead, radians, within ± π/2; uphill is positive.
    ``focal_length``  mm, above 0.
    ``frame_height``, ``frame_width``  the picture as held, mm, above 0.
    ``focus``         where the ring is, mm from the sensor, from 4f to inf: it sets v.

    Raises NotANumber, OutOfRange, AngleTooLarge, FocusTooNear.
    """

    height: float
    tilt: float
    slope: float
    focal_length: float
    frame_height: float
    frame_width: float
    focus: float = math.inf

    def __post_init__(self) -> None:
        require_positive("height", self.height, "height of the camera")
        quarter = math.pi / 2
        require_angle("tilt", self.tilt, quarter, "No tilt goes past straight down.")
        require_angle("slope", self.slope, quarter, "No ground is steeper than a wall.")
        require(
            abs(self.slope) < quarter * (1 - 1e-12),
            AngleTooLarge,
            "slope",
            self.slope,
            "A wall is no ground to stand on.",
        )
        require_positive("focal_length", self.focal_length, "focal length")
        require_positive("frame_height", self.frame_height, "height of the frame")
        require_positive("frame_width", self.frame_width, "width of the frame")
        magnification(self._lens, self.focus)

    @property
    def _lens(self) -> Setup:
        return Setup(self.focal_length, 1.0, 1.0)

    @property
    def image_distance(self) -> float:
        """v: how far the sensor is behind the pupil, mm."""
        return self.focal_length * (1.0 + magnification(self._lens, float(self.focus)))

    @property
    def horizon_row(self) -> float:
        """The row at which level things infinitely far away stand; nan if straight down."""
        below = -math.tan(self.tilt) if abs(self.tilt) < math.pi / 2 else math.nan
        return MIDDLE - below * self.image_distance / self.frame_height

    def below_axis(self, row: npt.ArrayLike) -> Array:
        """How far below the axis a row looks, per unit of depth. 0 bottom edge, 1 top."""
        rows = np.asarray(row, dtype=np.float64)
        require_finite("row", rows, "row")
        return np.asarray((MIDDLE - rows) * self.frame_height / self.image_distance)

    def beside_axis(self, column: npt.ArrayLike) -> Array:
        """How far to the right of the axis a column looks, per unit of depth. 0 left, 1 right."""
        columns = np.asarray(column, dtype=np.float64)
        require_finite("column", columns, "column")
        return np.asarray((columns - MIDDLE) * self.frame_width / self.image_distance)

    def focused_on(self, row: float | None = None, horizontal: float = 0.0) -> float:
        """The depth of the ground at a row, or so far along it, with the ring at that very depth.

        Focusing there moves the sensor, and with it what the row looks at: repeated substitution,
        which gains two figures at each step. inf above the horizon. mm from the sensor.
        """
        sine, cosine, slope = math.sin(self.tilt), math.cos(self.tilt), math.tan(self.slope)
        lens, v, seen = self._lens, self.focal_length, math.inf
        for _ in range(_MOST_STEPS):
            if row is None:
                ahead = horizontal * (cosine - slope * sine) + self.height * sine
            else:
                t = (MIDDLE - row) * self.frame_height / v
                meets = sine + t * cosine + (cosine - t * sine) * slope
                ahead = self.height / meets if meets > LEVEL else math.inf
            before, seen = seen, ahead + v
            if math.isinf(seen) or abs(seen - before) <= _SETTLED * seen:
                break
            v = self.focal_length * (1.0 + magnification(lens, seen))
        return seen


_MOST_STEPS = 60
_SETTLED = 1e-12
LEVEL = 1e-12
"""A ray that falls less than this per unit of depth never meets the ground."""
