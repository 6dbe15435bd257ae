"""What is in hand: a lens at an aperture, and what is called sharp."""

from __future__ import annotations

from dataclasses import dataclass, field

import numpy as np
import numpy.typing as npt

from optics.base.errors import require_finite, require_positive
from optics.base.numbers import Number, OfNumbers


@dataclass(frozen=True, slots=True)
class Setup(OfNumbers[Number]):
    """A lens at an aperture, with a standard of sharpness. Every field may be an array.

    ``focal_length``  mm, above 0.
    ``f_number``      the number on the aperture ring, above 0; f/11 is exactly 11.
    ``coc``           circle of confusion: the widest blur disc still called sharp, mm, above 0.
    ``pupil_ratio``   exit pupil diameter ÷ entrance pupil diameter, above 0; 1 is the thin lens.
    ``hiatus``        distance from front to rear principal plane, mm; negative if they cross.
    ``diffraction``   whether *holds* counts diffraction and the lens's own blur; True or False.
    ``lens_disc``     the lens's residual blur at this aperture, as an equivalent disc on the
                      sensor, mm, 0 or more; 0 for an ideal lens. Counted with diffraction.
    ``focus_shift``   how far the plane of best focus has moved away from the lens, in image
                      space, between the aperture focused at and the one used, mm; positive
                      makes sharpness fall on farther things.

    For a type checker, ``Setup`` holds plain numbers; with arrays in it, it is a
    ``Setup[Numbers](…)``. Raises NotANumber or OutOfRange, carrying the field.
    """

    focal_length: Number
    f_number: Number
    coc: Number
    pupil_ratio: Number = 1.0
    hiatus: Number = 0.0
    diffraction: bool = False
    lens_disc: Number = 0.0
    focus_shift: Number = 0.0

    plain: bool = field(init=False, repr=False, compare=False, default=True)
    """Whether every field is a single number: then the core takes its shorter way."""

    def __post_init__(self) -> None:
        for name in _NUMBERS:
            value = getattr(self, name)
            if type(value) is not float and type(value) is not int:
                self._keep(name, value)
        require_positive("focal_length", self.focal_length, "focal length")
        require_positive("f_number", self.f_number, "aperture")
        require_positive("coc", self.coc, "circle of confusion")
        require_positive("pupil_ratio", self.pupil_ratio, "pupil ratio")
        require_positive("lens_disc", self.lens_disc, "blur of the lens", zero=True)
        require_finite("hiatus", self.hiatus, "hiatus")
        require_finite("focus_shift", self.focus_shift, "focus shift")

    def _keep(self, name: str, value: npt.ArrayLike) -> None:
        """Take a NumPy scalar as a plain number, anything else as an array."""
        array = np.asarray(value, dtype=np.float64)
        if array.ndim:
            object.__setattr__(self, "plain", False)
        object.__setattr__(self, name, array if array.ndim else float(array))


_NUMBERS = (
    "focal_length",
    "f_number",
    "coc",
    "pupil_ratio",
    "hiatus",
    "lens_disc",
    "focus_shift",
)
