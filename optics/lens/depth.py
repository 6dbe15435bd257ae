"""Blur, and the depth of field it leaves, for a ring that stands somewhere.

Geometry is that of ``cone``, exact. With ``setup.diffraction`` a standard of sharpness is met by
defocus, diffraction and the lens's own blur together; for a given ring setting the working
f-number fixes how much of it is left for defocus, and the same closed forms hold for what is left.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Any, overload

import numpy as np
import numpy.typing as npt

from optics.base.numbers import Array, Number, Numbers, OfNumbers, plain
from optics.lens.cone import Cone
from optics.lens.conjugates import focus_of, magnification
from optics.lens.diffraction import MOST_ALLOWED, combine, defocus_within
from optics.lens.focus_window import (
    Window,
    allowed_at,
    far_ring,
    focus_window,
    focus_with_far_limit,
    focus_with_near_limit,
)
from optics.lens.setup import Setup

__all__ = [
    "Limits",
    "Window",
    "allowed_defocus",
    "blur_disc",
    "counted_blur",
    "focus_window",
    "focus_with_far_limit",
    "focus_with_near_limit",
    "hyperfocal",
    "image_scale",
    "limits",
    "sharp_distance",
    "size_at_subject",
    "total_blur",
    "working_f_number",
]


@dataclass(frozen=True, slots=True)
class Limits(OfNumbers[Number]):
    """The near and far limit of sharpness, mm from the sensor; both nan if nothing holds."""

    near: Number
    far: Number

    @property
    def empty(self) -> bool | npt.NDArray[np.bool_]:
        """True where nothing holds at all."""
        nothing = np.isnan(self.near)
        return bool(nothing) if np.ndim(nothing) == 0 else nothing


@overload
def blur_disc(setup: Setup, subject: float, focus: float) -> float: ...
@overload
def blur_disc(setup: Setup[Any], subject: npt.ArrayLike, focus: npt.ArrayLike) -> Array | float: ...
def blur_disc(setup: Setup[Any], subject: npt.ArrayLike, focus: npt.ArrayLike) -> Array | float:
    """Diameter on the sensor of the geometric blur disc of a point: equation (2) of ``cone``.

    ``subject``, ``focus``: mm from the sensor, up to inf; the subject in front of the entrance
    pupil, the focus at least 4f + hiatus. Returns mm. Broadcasts.
    Raises NotANumber, FocusTooNear, SubjectTooNear.
    """
    return plain(Cone.at(setup, magnification(setup, focus)).blur(subject))


@overload
def total_blur(setup: Setup, subject: float, focus: float) -> float: ...
@overload
def total_blur(
    setup: Setup[Any], subject: npt.ArrayLike, focus: npt.ArrayLike
) -> Array | float: ...
def total_blur(setup: Setup[Any], subject: npt.ArrayLike, focus: npt.ArrayLike) -> Array | float:
    """Defocus, diffraction and the lens's own blur of a point together: an equivalent disc, mm.

    Defocus and diffraction are one wave (``diffraction.combine``) at the working f-number; the
    lens's disc is taken as independent of them and added in quadrature, within 3 % of the product
    of two discs' transfer functions. Whatever ``setup.diffraction`` says. As ``blur_disc``.
    """
    ring = magnification(setup, focus)
    waves = combine(Cone.at(setup, ring).blur(subject), _working(setup, ring))
    if isinstance(waves, float) and setup.plain:
        return math.hypot(waves, setup.lens_disc) if setup.lens_disc else waves
    return plain(np.hypot(waves, setup.lens_disc) if np.any(setup.lens_disc) else waves)


@overload
def counted_blur(setup: Setup, subject: float, focus: float) -> float: ...
@overload
def counted_blur(
    setup: Setup[Any], subject: npt.ArrayLike, focus: npt.ArrayLike
) -> Array | float: ...
def counted_blur(setup: Setup[Any], subject: npt.ArrayLike, focus: npt.ArrayLike) -> Array | float:
    """The blur that *holds* is judged by: total with ``setup.diffraction``, else geometric."""
    return (total_blur if setup.diffraction else blur_disc)(setup, subject, focus)


@overload
def sharp_distance(setup: Setup, focus: float) -> float: ...
@overload
def sharp_distance(setup: Setup[Any], focus: npt.ArrayLike) -> Array | float: ...
def sharp_distance(setup: Setup[Any], focus: npt.ArrayLike) -> Array | float:
    """The distance that is sharp with the ring at ``focus``: the same but for a focus shift.

    mm from the sensor; inf if a shift has put it past infinity. Broadcasts. As ``limits``.
    """
    cone = Cone.at(setup, magnification(setup, focus))
    return plain(cone.far_limit(0.0))


@overload
def image_scale(setup: Setup, subject: float, focus: float) -> float: ...
@overload
def image_scale(
    setup: Setup[Any], subject: npt.ArrayLike, focus: npt.ArrayLike
) -> Array | float: ...
def image_scale(setup: Setup[Any], subject: npt.ArrayLike, focus: npt.ArrayLike) -> Array | float:
    """Size on the sensor ÷ size of the subject, q/x by equation (2): 0 at infinity. Broadcasts.

    Sharp or not: it follows the rays through the middle of the pupil. As ``blur_disc``.
    """
    return plain(Cone.at(setup, magnification(setup, focus)).scale(subject))


@overload
def size_at_subject(setup: Setup, blur: float, subject: float, focus: float) -> float: ...
@overload
def size_at_subject(
    setup: Setup[Any], blur: npt.ArrayLike, subject: npt.ArrayLike, focus: npt.ArrayLike
) -> Array | float: ...
def size_at_subject(
    setup: Setup[Any], blur: npt.ArrayLike, subject: npt.ArrayLike, focus: npt.ArrayLike
) -> Array | float:
    """How much of the subject a blur on the sensor covers, mm at the subject.

    inf at infinity, but 0 for no blur anywhere. ``blur``: mm on the sensor. As ``blur_disc``.
    """
    size = np.asarray(blur, dtype=np.float64)
    scale = np.asarray(image_scale(setup, subject, focus))
    covered = np.divide(
        size, scale, out=np.full(np.broadcast(size, scale).shape, np.inf), where=scale > 0
    )
    return plain(np.where(size == 0, 0.0, covered))


@overload
def working_f_number(setup: Setup, focus: float) -> float: ...
@overload
def working_f_number(setup: Setup[Any], focus: npt.ArrayLike) -> Array | float: ...
def working_f_number(setup: Setup[Any], focus: npt.ArrayLike) -> Array | float:
    """The f-number that diffraction and exposure see, N(1 + m/p). ``focus``: mm. Broadcasts."""
    return plain(_working(setup, magnification(setup, focus)))


def _working(setup: Setup, ring: Array | float) -> Array | float:
    return setup.f_number * (1.0 + ring / setup.pupil_ratio)


@overload
def allowed_defocus(setup: Setup, focus: float) -> float: ...
@overload
def allowed_defocus(setup: Setup[Any], focus: npt.ArrayLike) -> Array | float: ...
def allowed_defocus(setup: Setup[Any], focus: npt.ArrayLike) -> Array | float:
    """The geometric disc that the standard leaves at a ring setting, mm. Broadcasts.

    The circle itself without ``setup.diffraction``; nan where diffraction and the lens alone are
    more than the circle.
    """
    return plain(_allowed(setup, magnification(setup, focus)))


def _allowed(setup: Setup, ring: Array | float) -> Array:
    if not setup.diffraction:
        return np.asarray(setup.coc)
    with np.errstate(invalid="ignore"):
        left = np.sqrt(np.square(setup.coc) - np.square(setup.lens_disc))
    return np.asarray(defocus_within(left, _working(setup, ring)))


_MOST_STEPS = 80


@overload
def hyperfocal(setup: Setup) -> float: ...
@overload
def hyperfocal(setup: Setup[Any]) -> Array | float: ...
def hyperfocal(setup: Setup[Any]) -> Array | float:
    """The nearest ring setting at which infinity holds, mm from the sensor.

    Infinity's blur A·m equals what is allowed: m = allowed·N/f, plus what a focus shift asks for.
    inf where diffraction alone exceeds the circle, or the shift is so negative that no setting
    short of infinity holds it; 4f + hiatus, the nearest focus there is, if even that holds it.

    With diffraction what is allowed depends a little on the setting itself: repeated substitution,
    kept between bounds. Plain numbers go through ``window``, which does the same without arrays.
    """
    f = np.asarray(setup.focal_length)
    shift = setup.focus_shift / f

    def ring_for(allowed: Array) -> Array:
        ring = np.asarray(allowed * setup.f_number / f)
        ring = ring + shift if np.any(shift) else ring
        return ring if ring.size and ring.max() <= 1.0 else np.asarray(np.minimum(ring, 1.0))

    if not setup.diffraction:
        return focus_of(setup, ring_for(np.asarray(setup.coc)))
    if setup.plain:
        found = far_ring(setup, math.inf)
        return math.inf if math.isnan(found) else focus_of(setup, found)
    low = ring_for(np.asarray(0.0))
    nothing = np.isnan(_allowed(setup, low))
    ring = ring_for(np.nan_to_num(_allowed(setup, np.maximum(low, 0.0))))
    high = ring_for(MOST_ALLOWED * np.asarray(setup.coc))
    step = np.full(np.shape(ring), np.inf)
    for _ in range(_MOST_STEPS):
        wanted = ring_for(np.nan_to_num(_allowed(setup, np.maximum(ring, 0.0))))
        low, high = np.where(wanted > ring, ring, low), np.where(wanted > ring, high, ring)
        good = (wanted >= low) & (wanted <= high) & (np.abs(wanted - ring) <= 0.5 * step)
        wanted = np.where(good, wanted, 0.5 * (low + high))
        step, ring = np.abs(wanted - ring), wanted
        if np.all(step <= 1e-15 * np.abs(ring)):
            break
    return focus_of(setup, np.where(nothing, 0.0, ring))


@overload
def limits(setup: Setup, focus: float) -> Limits: ...
@overload
def limits(setup: Setup[Any], focus: npt.ArrayLike) -> Limits[Numbers]: ...
def limits(setup: Setup[Any], focus: npt.ArrayLike) -> Limits[Numbers] | Limits:
    """The nearest and farthest distance that hold with the ring at ``focus``.

    ``focus``: mm from the sensor, 4f + hiatus to inf. The far limit is inf from the hyperfocal
    distance on; both are nan where nothing holds: too much diffraction, or a focus shift that
    leads past infinity. Broadcasts. Raises NotANumber, FocusTooNear.
    """
    ring = magnification(setup, focus)
    if setup.plain and type(ring) is float:
        return _plain_limits(setup, ring)
    cone, allowed = Cone.at(setup, ring), _allowed(setup, ring)
    near, far = cone.limits(allowed)
    return Limits(plain(near), plain(far))


def _plain_limits(setup: Setup, ring: float) -> Limits:
    """The same without arrays: planning asks for it many times over."""
    cone, allowed = Cone.at(setup, ring), allowed_at(setup, ring)
    return Limits(*cone.limits(allowed))
