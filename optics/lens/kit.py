"""A lens with all its apertures, and what is called sharp: the setup at any of them.

Choosing an aperture means looking at one after the other. What a real lens gets wrong, its own blur
and the shift of its focus, differs from one to the next, so it must not be carried along from the
aperture in force: a kit is asked for the setup at each.
"""

from __future__ import annotations

import math
from bisect import bisect_left
from collections.abc import Sequence
from dataclasses import dataclass, field, replace

from optics.base.errors import require_positive
from optics.lens.aperture import THIRDS
from optics.lens.conjugates import nearest_focus
from optics.lens.setup import Setup


@dataclass(frozen=True, slots=True)
class Fault:
    """What a lens was found to get wrong at an aperture.

    ``f_number``     the aperture, above 0.
    ``lens_disc``, ``focus_shift``  as of ``Setup``, mm.
    """

    f_number: float
    lens_disc: float = 0.0
    focus_shift: float = 0.0


@dataclass(frozen=True, slots=True)
class Kit:
    """A lens, the apertures it can be set to, and a standard of sharpness. Plain numbers.

    ``focal_length``, ``coc``, ``pupil_ratio``, ``hiatus``, ``diffraction``  as of ``Setup``.
    ``apertures``  the f-numbers it can be set to, rising; all third stops if nothing is known. What
                   is no tuple is looked at only when it is asked for.
    ``closest``    the nearest that it focuses, mm from the sensor; what is nearer than any lens of
                   that focal length could focus counts as not known.
    ``faults``     what was found of it, by aperture: between two of them in proportion to stops,
                   beyond the last as there; empty for an ideal lens.

    Raises NotANumber or OutOfRange, carrying the field.
    """

    focal_length: float
    coc: float
    pupil_ratio: float = 1.0
    hiatus: float = 0.0
    diffraction: bool = False
    apertures: Sequence[float] = THIRDS.names
    closest: float = 0.0
    faults: tuple[Fault, ...] = ()
    _setups: dict[float, Setup] = field(init=False, repr=False, compare=False, default_factory=dict)
    """Those made already: an answer asks for the same one several times."""

    def __post_init__(self) -> None:
        if isinstance(self.apertures, tuple):
            for f_number in self.apertures:
                require_positive("apertures", f_number, "aperture")
        require_positive("closest", self.closest, "closest focus", zero=True)
        ideal = Setup(self.focal_length, 1.0, self.coc, self.pupil_ratio, self.hiatus)
        object.__setattr__(self, "closest", max(self.closest, nearest_focus(ideal)))
        object.__setattr__(self, "faults", tuple(sorted(self.faults, key=lambda f: f.f_number)))

    def with_faults(self, faults: tuple[Fault, ...]) -> Kit:
        """The same lens with what was found of it, by aperture; empty for an ideal one."""
        return replace(self, faults=faults) if faults or self.faults else self

    def with_ring_off(self, off: float) -> Kit:
        """The same lens on a ring that is off: it stands out by ``off``, mm, more than it reads at,
        below 0 less, at every aperture."""
        if not off:
            return self
        faults = self.faults or (Fault(1.0),)
        shifted = (replace(fault, focus_shift=fault.focus_shift - off) for fault in faults)
        return replace(self, faults=tuple(shifted))

    def at(self, f_number: float) -> Setup:
        """The lens at an aperture, above 0, with what it gets wrong there."""
        found = self._setups.get(f_number)
        if found is None:
            found = self._setups[f_number] = self._made(f_number)
        return found

    def _made(self, f_number: float) -> Setup:
        fault = self._fault(f_number) if self.faults else Fault(f_number)
        return Setup(
            self.focal_length,
            f_number,
            self.coc,
            self.pupil_ratio,
            self.hiatus,
            self.diffraction,
            fault.lens_disc,
            fault.focus_shift,
        )

    def _fault(self, f_number: float) -> Fault:
        above = bisect_left(self.faults, f_number, key=lambda fault: fault.f_number)
        if above in (0, len(self.faults)):
            return self.faults[min(above, len(self.faults) - 1)]
        low, high = self.faults[above - 1], self.faults[above]
        if high.f_number == f_number:
            return high
        share = math.log(f_number / low.f_number) / math.log(high.f_number / low.f_number)
        return Fault(
            f_number,
            low.lens_disc + share * (high.lens_disc - low.lens_disc),
            low.focus_shift + share * (high.focus_shift - low.focus_shift),
        )
