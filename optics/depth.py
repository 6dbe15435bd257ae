"""Blur, and the depth of field it leaves: geometry of the cone of light, exact.

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

from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from optics.errors import NotANumber, SubjectTooNear, WrongOrder, require
from optics.lens import Array, focus_of, magnification, nearest_focus, plain
from optics.setup import Setup


@dataclass(frozen=True, slots=True)
class Limits:
    """The near and far limit of sharpness, mm from the sensor; both nan if nothing holds."""

    near: Array | float
    far: Array | float

    @property
    def empty(self) -> bool | npt.NDArray[np.bool_]:
        """True where nothing holds at all."""
        nothing = np.isnan(self.near)
        return bool(nothing) if np.ndim(nothing) == 0 else nothing


@dataclass(frozen=True, slots=True)
class Window:
    """The ring settings that do the job, mm from the sensor: anywhere between the two."""

    nearest: float
    farthest: float


@dataclass(frozen=True, slots=True)
class _Cone:
    """The cone of light behind equation (2): the lens with its ring set."""

    pupil: npt.ArrayLike
    sharp: Array
    reach: Array
    origin: Array

    @classmethod
    def at(cls, setup: Setup, ring: npt.ArrayLike) -> _Cone:
        """``ring``: the magnification that the ring is set to."""
        f, p = np.asarray(setup.focal_length), setup.pupil_ratio
        sharp = np.asarray(ring - np.asarray(setup.focus_shift) / f)
        return cls(
            pupil=f / setup.f_number,
            sharp=sharp,
            reach=f * (1.0 + sharp / p),
            origin=np.asarray(f * (2.0 + sharp - 1.0 / p) + setup.hiatus + setup.focus_shift),
        )

    def from_pupil(self, subject: npt.ArrayLike) -> Array:
        depth = np.asarray(subject, dtype=np.float64)
        require(~np.isnan(depth), NotANumber, "subject", depth, "The distance is not a number.")
        from_pupil = depth - self.origin
        require(
            from_pupil > 0,
            SubjectTooNear,
            "subject",
            depth,
            "That is inside the lens: nearer to the sensor than the front of the lens.",
        )
        return np.asarray(from_pupil)


def blur_disc(setup: Setup, subject: npt.ArrayLike, focus: npt.ArrayLike) -> Array | float:
    """Diameter on the sensor of the geometric blur disc of a point: equation (2).

    ``subject``, ``focus``: mm from the sensor, up to inf; the subject in front of the entrance
    pupil, the focus at least 4f + hiatus. Returns mm. Broadcasts.
    Raises NotANumber, FocusTooNear, SubjectTooNear.
    """
    cone = _Cone.at(setup, magnification(setup, focus))
    return plain(cone.pupil * np.abs(cone.sharp - cone.reach / cone.from_pupil(subject)))


def size_at_subject(setup: Setup, blur: npt.ArrayLike, subject: npt.ArrayLike) -> Array | float:
    """How much of the subject a blur on the sensor covers, mm at the subject; inf at infinity
    for anything but a blur of nothing.

    The scale is the one the subject has when the ring is at infinity, u/f − 1 to first order;
    good to the breathing of the lens. ``blur``: mm. ``subject``: mm from the sensor.
    """
    f = np.asarray(setup.focal_length)
    distance = np.asarray(subject, dtype=np.float64) - setup.hiatus - f
    size = np.asarray(blur, dtype=np.float64)
    with np.errstate(invalid="ignore"):  # 0 · inf: a point that is sharp is a point anywhere
        return plain(np.where(size == 0, 0.0, size * distance / f))


def working_f_number(setup: Setup, focus: npt.ArrayLike) -> Array | float:
    """The f-number that diffraction and exposure see, N(1 + m/p). ``focus``: mm. Broadcasts."""
    m = magnification(setup, focus)
    return plain(np.asarray(setup.f_number) * (1.0 + np.asarray(m) / setup.pupil_ratio))


def hyperfocal(setup: Setup) -> Array | float:
    """The nearest ring setting at which infinity holds, mm from the sensor.

    Infinity's blur A·m equals the circle: m = coc·N/f, plus what a focus shift asks for. inf if
    the shift is so negative that no setting short of infinity holds it; 4f + hiatus, the nearest
    focus there is, if even that holds it.
    """
    f = np.asarray(setup.focal_length)
    ring = np.asarray(setup.coc) * setup.f_number / f + setup.focus_shift / f
    return focus_of(setup, np.minimum(ring, 1.0))


def limits(setup: Setup, focus: npt.ArrayLike) -> Limits:
    """The nearest and farthest distance that hold with the ring at ``focus``.

    ``focus``: mm from the sensor, 4f + hiatus to inf. The far limit is inf from the hyperfocal
    distance on. Broadcasts. Raises NotANumber, FocusTooNear.
    """
    cone = _Cone.at(setup, magnification(setup, focus))
    allowed = np.asarray(setup.coc) / cone.pupil
    return Limits(
        near=plain(_distance_where(cone, cone.sharp + allowed)),
        far=plain(_distance_where(cone, cone.sharp - allowed)),
    )


def _distance_where(cone: _Cone, slope: npt.ArrayLike) -> Array:
    """Depth from the sensor where q/x equals ``slope``; inf where the arm never comes so low."""
    slope = np.asarray(slope)
    finite = slope > 0
    from_pupil = np.divide(
        cone.reach, slope, out=np.full(np.broadcast(cone.reach, slope).shape, np.inf), where=finite
    )
    return np.asarray(from_pupil + cone.origin)


def focus_with_limit(
    setup: Setup, distance: npt.ArrayLike, signed_circle: npt.ArrayLike
) -> Array | float:
    """The ring setting at which ``distance`` is blurred to exactly a given circle.

    ``signed_circle``, mm: above 0 for the setting that makes ``distance`` the far limit, below 0
    for the one that makes it the near limit (inf if even the ring at infinity holds it). nan
    where no setting does it. A near limit nearer than 4f + hiatus belongs to two settings, since
    the lens itself moves out as it is focused closer: this is the farther one. Broadcasts.
    """
    farther, _ = _rings_with_limit(setup, distance, signed_circle)
    return focus_of(setup, farther)


def _rings_with_limit(
    setup: Setup, distance: npt.ArrayLike, signed_circle: npt.ArrayLike
) -> tuple[Array, Array]:
    """The two ring magnifications of ``focus_with_limit``, nan where above 1 or not real.

    With g = 1/(distance − hiatus − shift) and κ = circle/A, equations (2) and (3) are a
    quadratic in the magnification,

        f g m² − (1 − (2 − κ) f g) m + κ + g(f − κ(f + e)) = 0,   e = f(1 − 1/p)
    """
    depth = np.asarray(distance, dtype=np.float64)
    require(~np.isnan(depth), NotANumber, "distance", depth, "The distance is not a number.")
    f = np.asarray(setup.focal_length)
    pupil_behind = f * (2.0 - 1.0 / np.asarray(setup.pupil_ratio))  # f + e
    room = depth - setup.hiatus - setup.focus_shift
    inside = "That is inside the lens: nearer to the sensor than the front of the lens."
    require(room > pupil_behind, SubjectTooNear, "distance", depth, inside)
    g = 1.0 / room
    k = np.asarray(signed_circle) * setup.f_number / f
    constant = k + g * (f - k * pupil_behind)
    linear = 1.0 - (2.0 - k) * f * g
    squared = linear * linear - 4.0 * f * g * constant
    twice = linear + np.sqrt(np.where(squared >= 0, squared, np.nan))
    twice = np.where(twice > 0, twice, np.nan)  # else no root is a ring short of infinity
    smaller = 2.0 * constant / twice
    larger = np.divide(twice, 2.0 * f * g, out=np.full(np.shape(twice), np.inf), where=g > 0)
    shift = setup.focus_shift / f
    return tuple(
        np.where(sharp + shift <= 1.0, sharp + shift, np.nan) for sharp in (smaller, larger)
    )  # type: ignore[return-value]


def focus_window(setup: Setup, near: float, far: float) -> Window | None:
    """The ring settings that hold both ends, and with them all between; None if none does.

    ``near`` ≤ ``far``: mm from the sensor, up to inf. The window reaches from the setting whose
    far limit is ``far`` to the one whose near limit is ``near``; a near end nearer than the lens
    can focus may be lost again by focusing closer still. The far end should be no nearer than the
    lens can focus. Plain numbers only.
    Raises NotANumber, SubjectTooNear, WrongOrder.
    """
    if near > far:
        raise WrongOrder("near", near, "The near end lies beyond the far end.")
    circle = np.asarray(setup.coc)
    rings, closer = _rings_with_limit(setup, np.array((near, far)), np.array((-1.0, 1.0)) * circle)
    farthest, nearest = np.asarray(focus_of(setup, rings)).tolist()
    if np.isnan(nearest):  # even the closest focus is not too close for the far end
        nearest = float(nearest_focus(setup))
    if closer[0] < 1.0:
        nearest = max(nearest, float(focus_of(setup, closer[0])))
    if nearest <= farthest:  # False as well for a near end that no setting can hold, nan
        return Window(nearest, farthest)
    return None
