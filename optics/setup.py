"""What is in hand: a lens at an aperture, and what is called sharp."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from optics.errors import NotANumber, require, require_positive

type_numbers = float | npt.NDArray[np.float64]


@dataclass(frozen=True, slots=True)
class Setup:
    """A lens at an aperture, with a standard of sharpness. Every field may be an array.

    ``focal_length``  mm, above 0.
    ``f_number``      the number on the aperture ring, above 0; f/11 is exactly 11.
    ``coc``           circle of confusion: the widest blur disc still called sharp, mm, above 0.
    ``pupil_ratio``   exit pupil diameter ÷ entrance pupil diameter, above 0; 1 is the thin lens.
    ``hiatus``        distance from front to rear principal plane, mm; negative if they cross.
    ``focus_shift``   how far the plane of best focus has moved away from the lens, in image
                      space, between the aperture focused at and the one used, mm; positive
                      makes sharpness fall on farther things.

    Raises NotANumber or OutOfRange, carrying the field.
    """

    focal_length: type_numbers
    f_number: type_numbers
    coc: type_numbers
    pupil_ratio: type_numbers = 1.0
    hiatus: type_numbers = 0.0
    focus_shift: type_numbers = 0.0

    def __post_init__(self) -> None:
        require_positive("focal_length", self.focal_length, "focal length")
        require_positive("f_number", self.f_number, "aperture")
        require_positive("coc", self.coc, "circle of confusion")
        require_positive("pupil_ratio", self.pupil_ratio, "pupil ratio")
        for name, noun in (("hiatus", "hiatus"), ("focus_shift", "focus shift")):
            value = getattr(self, name)
            if isinstance(value, (int, float)) and math.isfinite(value):
                continue
            value = np.asarray(value, dtype=float)
            require(np.isfinite(value), NotANumber, name, value, f"The {noun} must be a number.")
