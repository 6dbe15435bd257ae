"""Measuring from a snapshot: where the foot of a thing stands on the ground, from where it is seen.

A click on the horizon gives the camera's tilt: level things infinitely far away stand at
tan(tilt) above the middle, in units of v. A click on the foot of a thing then gives its depth by
equation (6) of ``frame``, if the height of the lens is known. A thing whose own height is known
needs no height of the lens: how much of the picture it fills says how far it is. Clicks are not
exact, nor is the height of a lens that was held: what they are unsure by goes into every result, to
first order and with the tilt's share in it.

Places in the picture are shares of it: 0 to 1 from the left, and from the bottom; a snapshot that
was held askew is turned level first (``levelled``).
"""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass, replace

from optics.base.errors import (
    OutOfRange,
    WrongOrder,
    require,
    require_finite,
    require_number,
    require_positive,
)
from optics.scene.camera import MIDDLE, Camera
from optics.scene.frame import ground, height_seen

_SMALL = 1e-4
"""Of a frame's height, or of a length: steps by which slopes are found."""


@dataclass(frozen=True, slots=True)
class Spot:
    """A place in a picture: ``column`` from the left, ``row`` from the bottom, shares of it."""

    column: float
    row: float


def roll_of(one: Spot, other: Spot, width: float, height: float) -> float:
    """How far a snapshot was held askew, from two places on its horizon: radians, positive where
    its right side hangs down. ``width``, ``height`` of the picture, in any one unit, above 0.

    Raises OutOfRange for places too near each other to tell.
    """
    first, last = sorted((one, other), key=lambda place: place.column)
    across, up = (last.column - first.column) * width, (last.row - first.row) * height
    require(
        across > 0.05 * width, OutOfRange, "horizon", across,
        "Click the horizon at two places far apart: one to the left, one to the right.",
    )  # fmt: skip
    return math.atan2(up, across)


def levelled(place: Spot, roll: float, width: float, height: float) -> Spot:
    """Where a place would be seen, had the snapshot been held level: turned about its middle.

    ``roll`` radians, as of ``roll_of``. Raises NotANumber.
    """
    require_finite("roll", roll, "roll")
    x, y = (place.column - MIDDLE) * width, (place.row - MIDDLE) * height
    c, s = math.cos(roll), math.sin(roll)
    return Spot(MIDDLE + (x * c + y * s) / width, MIDDLE + (y * c - x * s) / height)


def tilted(camera: Camera, horizon: float) -> Camera:
    """The same camera tilted so that its horizon stands at a row. Raises NotANumber."""
    require_finite("horizon", horizon, "row of the horizon")
    up = (horizon - MIDDLE) * camera.frame_height / camera.image_distance
    return replace(camera, tilt=math.atan(up))


@dataclass(frozen=True, slots=True)
class Unsure:
    """Standard errors: of a click on a thing and on the horizon, shares of the frame's height; of
    the height of the lens, mm. Each 0 or more. Raises NotANumber, OutOfRange."""

    click: float
    horizon: float
    height: float

    def __post_init__(self) -> None:
        require_positive("click", self.click, "error of a click", zero=True)
        require_positive("horizon", self.horizon, "error of the horizon", zero=True)
        require_positive("height", self.height, "error of the height", zero=True)


@dataclass(frozen=True, slots=True)
class Scouted:
    """Something found in a snapshot: its ``value``, mm, and its standard ``error``; both inf where
    nothing can be said of it."""

    value: float
    error: float

    @property
    def share(self) -> float:
        """The error as a share of the value; inf where nothing can be said."""
        return self.error / self.value if math.isfinite(self.value) and self.value else math.inf


def foot(camera: Camera, horizon: float, row: float, unsure: Unsure) -> Scouted:
    """How deep the foot of a thing stands, mm from the sensor.

    ``camera``   with the height of its lens; its tilt is that of the ``horizon``, the row at which
                 it stands.
    ``row``      where the foot of the thing is seen. At the horizon or above it the answer is inf.
    Raises NotANumber, OutOfRange.
    """
    require_number("row", row, "row")

    def depth(height: float, level: float, seen: float) -> float:
        held = tilted(replace(camera, height=height), level)
        return float(ground(held, seen).depth)

    return _with_error(depth, camera, horizon, row, unsure)


def along(camera: Camera, horizon: float, row: float, unsure: Unsure) -> Scouted:
    """How far away the same foot is along the ground, level, mm from below the lens."""

    def level_distance(height: float, level: float, seen: float) -> float:
        return float(ground(tilted(replace(camera, height=height), level), seen).horizontal)

    return _with_error(level_distance, camera, horizon, row, unsure)


def _with_error(
    told: Callable[[float, float, float], float],
    camera: Camera, horizon: float, row: float, unsure: Unsure,
) -> Scouted:  # fmt: skip
    """A value and what clicks and the height of the lens leave it unsure by."""
    height = camera.height
    value = told(height, horizon, row)
    step = min(_SMALL, 0.1 * abs(horizon - row)) or _SMALL
    if not math.isfinite(value) or not math.isfinite(told(height, horizon, row + step)):
        return Scouted(math.inf, math.inf)
    by_height = (told(height * (1 + _SMALL), horizon, row) - value) / (height * _SMALL)
    by_row = (told(height, horizon, row + step) - told(height, horizon, row - step)) / (2 * step)
    by_level = (told(height, horizon + step, row) - told(height, horizon - step, row)) / (2 * step)
    error = math.hypot(by_height * unsure.height, by_row * unsure.click, by_level * unsure.horizon)
    return Scouted(value, error)


def by_its_height(
    camera: Camera, horizon: float, ends: tuple[float, float], tall: float, unsure: Unsure
) -> Scouted:
    """How deep an upright thing of known height stands, mm from the sensor: no height of the lens
    is needed.

    ``ends``: the rows of its foot and of its top; ``tall``: mm, above 0. Level ground or none.
    Raises NotANumber, OutOfRange, WrongOrder (a top below its foot).
    """
    require_positive("tall", tall, "height of the thing")
    bottom, top = ends
    require_finite("ends", ends, "row")
    if not top > bottom:
        raise WrongOrder("ends", ends, "The top of a thing is above its foot.")

    def depth(level: float, low: float, high: float) -> float:
        held = tilted(camera, level)
        cosine = math.cos(held.tilt)
        below, above = (float(held.below_axis(row)) for row in (low, high))
        ahead = [cosine - t * math.sin(held.tilt) for t in (below, above)]
        falls = [(math.sin(held.tilt) + t * cosine) / a
                 for t, a in zip((below, above), ahead, strict=True)]  # fmt: skip
        level_distance = tall / (falls[0] - falls[1])
        return level_distance / ahead[0] + held.image_distance

    value = depth(horizon, bottom, top)
    step = min(_SMALL, 0.1 * (top - bottom))
    slopes = [
        (depth(horizon, bottom + step, top) - depth(horizon, bottom - step, top)) / (2 * step),
        (depth(horizon, bottom, top + step) - depth(horizon, bottom, top - step)) / (2 * step),
    ]
    by_level = (depth(horizon + step, bottom, top) - depth(horizon - step, bottom, top)) / (
        2 * step
    )
    return Scouted(
        value, math.hypot(*(slope * unsure.click for slope in slopes), by_level * unsure.horizon)
    )


def height_of(camera: Camera, horizon: float, ends: tuple[float, float], unsure: Unsure) -> Scouted:
    """How tall an upright thing on the ground is, mm, by the height of the lens.

    ``ends``: the rows of its foot, below the horizon, and of its top. inf for a foot on the horizon
    or above. Raises NotANumber, OutOfRange, WrongOrder.
    """
    bottom, top = ends
    require_finite("ends", ends, "row")
    if not top > bottom:
        raise WrongOrder("ends", ends, "The top of a thing is above its foot.")

    def tall(height: float, level: float, low: float, high: float) -> float:
        held = tilted(replace(camera, height=height), level)
        at = ground(held, low)
        if not math.isfinite(float(at.depth)):
            return math.inf
        t, sine, cosine = float(held.below_axis(high)), math.sin(held.tilt), math.cos(held.tilt)
        # As far along the ground as its foot, so a little less or more deep than that.
        axial = float(at.horizontal) / (cosine - t * sine)
        return height_seen(held, axial + held.image_distance, high)

    height = camera.height
    value = tall(height, horizon, bottom, top)
    step = min(_SMALL, 0.1 * abs(horizon - bottom)) or _SMALL
    if not math.isfinite(value) or not math.isfinite(tall(height, horizon, bottom + step, top)):
        return Scouted(math.inf, math.inf)
    by_height = (tall(height * (1 + _SMALL), horizon, bottom, top) - value) / (height * _SMALL)
    by_foot = (tall(height, horizon, bottom + step, top) - value) / step
    by_top = (tall(height, horizon, bottom, top + step) - value) / step
    by_level = (tall(height, horizon + step, bottom, top) - value) / step
    error = math.hypot(
        by_height * unsure.height, by_foot * unsure.click, by_top * unsure.click,
        by_level * unsure.horizon,
    )  # fmt: skip
    return Scouted(value, error)
