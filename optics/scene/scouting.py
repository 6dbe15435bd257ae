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
from collections.abc import Callable, Sequence
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
        return float(ground(tilted(replace(camera, height=height), level), seen).depth)

    return _with_error(depth, _lens(camera, unsure), *_rows(horizon, (row,), unsure))


def along(camera: Camera, horizon: float, row: float, unsure: Unsure) -> Scouted:
    """How far away the same foot is along the ground, level, mm from below the lens."""
    require_number("row", row, "row")

    def level_distance(height: float, level: float, seen: float) -> float:
        return float(ground(tilted(replace(camera, height=height), level), seen).horizontal)

    return _with_error(level_distance, _lens(camera, unsure), *_rows(horizon, (row,), unsure))


def by_its_height(
    camera: Camera, horizon: float, ends: tuple[float, float], tall: float, unsure: Unsure
) -> Scouted:
    """How deep an upright thing of known height stands, mm from the sensor: no height of the lens
    is needed.

    ``ends``: the rows of its foot and of its top; ``tall``: mm, above 0. Level ground or none.
    Raises NotANumber, OutOfRange, WrongOrder (a top below its foot).
    """
    require_positive("tall", tall, "height of the thing")
    _in_order(ends)

    def depth(level: float, low: float, high: float) -> float:
        held = tilted(camera, level)
        sine, cosine = math.sin(held.tilt), math.cos(held.tilt)
        below, above = (float(held.below_axis(row)) for row in (low, high))
        ahead, there = cosine - below * sine, cosine - above * sine
        falls = (sine + below * cosine) / ahead - (sine + above * cosine) / there
        return tall / falls / ahead + held.image_distance

    return _with_error(depth, *_rows(horizon, ends, unsure))


def height_of(camera: Camera, horizon: float, ends: tuple[float, float], unsure: Unsure) -> Scouted:
    """How tall an upright thing on the ground is, mm, by the height of the lens.

    ``ends``: the rows of its foot, below the horizon, and of its top. inf for a foot on the horizon
    or above. Raises NotANumber, OutOfRange, WrongOrder.
    """
    _in_order(ends)

    def tall(height: float, level: float, low: float, high: float) -> float:
        held = tilted(replace(camera, height=height), level)
        at = ground(held, low)
        if not math.isfinite(float(at.depth)):
            return math.inf
        t, sine, cosine = float(held.below_axis(high)), math.sin(held.tilt), math.cos(held.tilt)
        # As far along the ground as its foot, so a little less or more deep than that.
        axial = float(at.horizontal) / (cosine - t * sine)
        return height_seen(held, axial + held.image_distance, high)

    return _with_error(tall, _lens(camera, unsure), *_rows(horizon, ends, unsure))


_Known = tuple[float, float, float]
"""What a value follows from: as it is known, its standard error, and a step to find slopes by."""


def _lens(camera: Camera, unsure: Unsure) -> _Known:
    return camera.height, unsure.height, camera.height * _SMALL


def _rows(horizon: float, rows: Sequence[float], unsure: Unsure) -> list[_Known]:
    """The horizon, and rows that things are seen at: steps stay below it."""
    step = min(_SMALL, 0.1 * abs(horizon - rows[0])) or _SMALL
    return [(horizon, unsure.horizon, step), *((row, unsure.click, step) for row in rows)]


def _in_order(ends: tuple[float, float]) -> None:
    require_finite("ends", ends, "row")
    if not ends[1] > ends[0]:
        raise WrongOrder("ends", ends, "The top of a thing is above its foot.")


def _with_error(told: Callable[..., float], *known: _Known) -> Scouted:
    """A value, and what all it follows from leaves it unsure by."""
    at = [value for value, _, _ in known]
    value = told(*at)
    errors = []
    for k, (_, error, step) in enumerate(known):
        more, less = (told(*at[:k], at[k] + way * step, *at[k + 1 :]) for way in (1.0, -1.0))
        errors.append((more - less) / (2.0 * step) * error)
    if not math.isfinite(value) or not all(math.isfinite(error) for error in errors):
        return Scouted(math.inf, math.inf)
    return Scouted(value, math.hypot(*errors))
