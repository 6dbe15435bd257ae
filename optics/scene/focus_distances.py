"""Ways to place the focus. Each returns a ring setting, mm from the sensor.

``schools`` has them again with what each holds and costs on one scene.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Any, overload

import numpy as np
import numpy.typing as npt

from optics.base.errors import require_finite, require_order, require_positive
from optics.base.numbers import Array, Numbers, plain
from optics.lens.conjugates import focus_of, magnification
from optics.lens.depth import hyperfocal
from optics.lens.equal_blur import between, worst_blur
from optics.lens.focus_window import window_rings
from optics.lens.setup import Setup
from optics.scene.camera import Camera
from optics.scene.frame import depth_along_ground

__all__ = [
    "Insurance",
    "between",
    "infinity",
    "insurance_for_method",
    "subject_first",
    "third_along",
    "third_up",
    "worst_blur",
]

_HAIR = 1e-9


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
    circle: Any = plain(setup.coc / np.asarray(margin))
    stricter: Setup[Any] = replace(setup, coc=circle)
    found: Numbers = hyperfocal(stricter)
    return found


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


@dataclass(frozen=True, slots=True)
class Insurance:
    """Ring settings of which one is right, nearest first; mm from the sensor, inf at or past it.

    ``spare``: how much of the window is left over with the last of them, as a share of it.
    """

    settings: tuple[float, ...]
    spare: float


_MOST_FRAMES = 200


def insurance_for_method(
    setup: Setup,
    near: float,
    far: float,
    error: float,
    more: int = 0,
    rings: tuple[float, float] | None = None,
) -> Insurance | None:
    """The fewest settings of which one puts the ring into the window for near…far.

    ``error``: how far off the way of focusing may leave the ring, to either side, in 1/distance
    (1/mm; 0.0001 is a tenth of a dioptre); 0 or more. A ring moves with magnification, f/distance
    to first order, so the window is as wide everywhere in it: settings a window apart, the outer
    ones half a window inside the error. ``more``: settings over the fewest, closer together then.
    ``rings``: the window (``focus_window.window_rings``), if it is there already. None if no
    setting holds both ends, or more than 200 would be needed. Raises as ``between``.
    """
    require_order(near, far)
    require_positive("error", error, "error of focusing", zero=True)
    farthest, nearest = rings or window_rings(setup, near, far)
    width = nearest - farthest
    if math.isnan(width) or width <= 0:
        return None
    reach = 2.0 * setup.focal_length * error
    count = max(math.ceil(reach / width * (1 - _HAIR)), 1)
    if count > _MOST_FRAMES:
        return None
    middle = 0.5 * (nearest + farthest)
    count += more
    step = min(width, reach / count) if count > 1 else 0.0
    offsets = [(at - 0.5 * (count - 1)) * step for at in range(count)]
    placed = [min(middle + offset, 1.0) for offset in reversed(offsets)]
    return Insurance(
        settings=tuple(focus_of(setup, ring) for ring in placed),
        spare=1.0 - reach / (count * width),
    )


def insures(
    setup: Setup, settings: Sequence[float], farthest: float, nearest: float, error: float
) -> bool:
    """Whether one of some settings is right, however far off within ``error`` the ring ends up; as
    far as that can be mended without turning it past infinity, where no scale goes.

    ``settings``: mm from the sensor, nearest first. ``farthest``, ``nearest``: the window as
    magnifications, the smaller first. ``error``: as of ``insurance_for_method``.
    """
    reach = setup.focal_length * error
    rings = [float(magnification(setup, focus)) for focus in reversed(settings)]
    right = sorted(
        (farthest - ring, nearest - ring) for ring in rings
    )  # the errors that each bears
    room = _HAIR * max(abs(nearest), reach)
    reached = -reach
    for low, high in right:
        if low > reached + room:
            return False
        reached = max(reached, high)
    past = math.inf in settings
    return reached >= (min(reach, nearest) if past else reach) - room
