"""Ways to place the focus. Each returns a ring setting, mm from the sensor.

``schools`` has them again with what each holds and costs on one scene.
"""

from __future__ import annotations

import math
import operator
from dataclasses import dataclass, replace
from typing import Any, overload

import numpy as np
import numpy.typing as npt

from optics.depth import blur_disc, hyperfocal
from optics.errors import (
    FocusTooNear,
    SubjectTooNear,
    require,
    require_finite,
    require_order,
    require_positive,
)
from optics.frame import Camera, depth_along_ground
from optics.lens import Array, focus_of, magnification
from optics.setup import Setup
from optics.window import far_ring, near_rings
from optics.zones import Zone, steps

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
        return focus_of(self.setup, sharp + self.setup.focus_shift / self.f)

    def _typed(self, near: Any) -> Any:
        setup = self.setup
        base = setup.hiatus + setup.focus_shift + self.f * (2.0 - 1.0 / self.p)
        return near + base


def worst_blur(setup: Setup, near: float, far: float, focus: float) -> float:
    """The larger of the blurs at the two ends, mm: nothing between them is blurred more."""
    return max(float(blur_disc(setup, near, focus)), float(blur_disc(setup, far, focus)))


@overload
def infinity(setup: Setup, margin: float = 1.0) -> float: ...
@overload
def infinity(setup: Setup, margin: npt.ArrayLike) -> Array | float: ...
def infinity(setup: Setup, margin: npt.ArrayLike = 1.0) -> Array | float:
    """Infinity, with something to spare: its blur is the circle ÷ ``margin``.

    The hyperfocal distance of that stricter circle, mm from the sensor; inf where diffraction
    leaves nothing to spare. ``margin``: 1 or more, and 1 is the hyperfocal distance itself.
    Broadcasts. Raises NotANumber, OutOfRange.
    """
    require_positive("margin", margin, "margin")
    return hyperfocal(replace(setup, coc=setup.coc / np.asarray(margin)))


def subject_first(setup: Setup, depth: float) -> float:
    """The ring setting that makes one subject sharpest: its own depth, but for a focus shift.

    ``depth``: mm from the sensor, up to inf. Raises NotANumber, FocusTooNear, SubjectTooNear.
    """
    return between(setup, depth, depth)


THIRD = 1.0 / 3.0


def third_up(camera: Camera, row: float = THIRD) -> float | None:
    """The depth of the ground a third of the way up the picture; None above the horizon.

    The rule of thumb taken at its word. ``camera.focus`` is not used: focusing there changes a
    little what a row looks at, and the setting that agrees with itself is found. ``row``: 0 is the
    lower edge of the picture, 1 the upper.
    Raises NotANumber, OutOfRange; FocusTooNear for ground nearer than a lens can focus.
    """
    require_finite("row", row, "row")
    depth = camera.focused_on(row)
    return None if math.isinf(depth) else depth


def third_along(camera: Camera, near: float, far: float, share: float = THIRD) -> float | None:
    """The depth of the ground a third of the way from ``near`` to ``far``; None if far is inf.

    What others mean by the same words. ``near`` ≤ ``far``: level distances from the pupil along
    the ground, mm. ``camera.focus`` is not used. Raises NotANumber, WrongOrder, SubjectTooNear.
    """
    require_order(near, far)
    if math.isinf(far):
        return None
    there = near + share * (far - near)
    depth_along_ground(camera, there)  # raises for ground behind the camera
    return camera.focused_on(horizontal=there)


def frames(setup: Setup, near: float, far: float, overlap: float = 0.0) -> tuple[Zone, ...] | None:
    """Several frames: the fewest settings whose zones cover near…far, nearest first.

    ``overlap``: the share of each zone, in 1/distance, that its neighbour holds too, 0 to 0.9. None
    if more than 200 would be needed. See ``zones.steps``.
    """
    return steps(setup, near, far, overlap)


def insurance_for_distance(setup: Setup, depth: float, unsure: float) -> tuple[Zone, ...] | None:
    """The fewest settings of which one is right for a subject whose distance is unsure.

    ``unsure``: how far the depth may be off, as a share, 0 or more: from depth ÷ (1 + unsure) to
    depth × (1 + unsure). As ``frames``: each zone holds the subject if it stands in it.
    """
    require_positive("unsure", unsure, "doubt", zero=True)
    return steps(setup, depth / (1.0 + unsure), depth * (1.0 + unsure))


@dataclass(frozen=True, slots=True)
class Insurance:
    """Ring settings of which one is right, nearest first; mm from the sensor, inf at or past it.

    ``spare``: how much of the window is left over with the last of them, as a share of it.
    """

    settings: tuple[float, ...]
    spare: float


_MOST_FRAMES = 200


def insurance_for_method(setup: Setup, near: float, far: float, error: float) -> Insurance | None:
    """The fewest settings of which one puts the ring into the window for near…far.

    ``error``: how far off the way of focusing may leave the ring, to either side, in 1/distance
    (1/mm; 0.0001 is a tenth of a dioptre); 0 or more. A ring moves with magnification, f/distance
    to first order, so the window is as wide everywhere in it: settings a window apart, the outer
    ones half a window inside the error. None if no setting holds both ends, or more than 200
    would be needed. Raises as ``between``.
    """
    require_order(near, far)
    require_positive("error", error, "error of focusing", zero=True)
    farthest, nearest = near_rings(setup, near)[0], far_ring(setup, far)
    width = nearest - farthest
    if math.isnan(width) or width <= 0:
        return None
    reach = 2.0 * float(setup.focal_length) * error
    count = max(math.ceil(reach / width * (1 - _HAIR)), 1)
    if count > _MOST_FRAMES:
        return None
    middle = 0.5 * (nearest + farthest)
    step = min(width, reach / count) if count > 1 else 0.0
    offsets = [(at - 0.5 * (count - 1)) * step for at in range(count)]
    rings = [min(middle + offset, 1.0) for offset in reversed(offsets)]
    return Insurance(
        settings=tuple(float(focus_of(setup, ring)) for ring in rings),
        spare=1.0 - reach / (count * width),
    )
