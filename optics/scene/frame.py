"""Where on the ground a row of the picture looks, and how deep that is.

Blur depends on depth along the lens's axis alone; what people measure is a tape to a thing, or
paces along the ground. The difference is plain perspective. The camera stands over the ground
with its entrance pupil at ``height``, looks ``tilt`` down, and forms a picture at the distance
v = f(1 + m) behind the pupil (the thin lens of ``lens``; its pupil is at its principal plane).
A picture point ``t`` below the middle, in units of v, is a ray that goes t down for every 1 ahead
along the axis. With θ the tilt and σ the slope of the ground, a ray reaches the ground at

    depth from the pupil = height ÷ ((sin θ + t cos θ) + (cos θ − t sin θ) tan σ)        (6)

if that is above zero: otherwise it passes over the ground for ever. A ring reads depth from the
sensor, v more. Source: perspective, [frame] in docs/references.md.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import overload

import numpy as np
import numpy.typing as npt

from optics.base.errors import (
    OutOfRange,
    SubjectTooNear,
    require,
    require_finite,
    require_number,
)
from optics.base.numbers import Array, plain
from optics.scene.camera import LEVEL, MIDDLE, Camera


@dataclass(frozen=True, slots=True)
class GroundPoint:
    """A point on the ground. ``horizontal``: from the pupil, level, mm; ``depth``: along the
    axis from the sensor, mm. Both inf where a row looks above the ground."""

    horizontal: Array | float
    depth: Array | float


def ground(camera: Camera, row: npt.ArrayLike) -> GroundPoint:
    """The ground that a row of the picture shows, in the middle of its width: equation (6).

    ``row``: 0 bottom edge, 1 top; others are outside the picture. Broadcasts.
    Raises NotANumber, OutOfRange.
    """
    t = camera.below_axis(row)
    sine, cosine = math.sin(camera.tilt), math.cos(camera.tilt)
    ahead, down = cosine - t * sine, sine + t * cosine
    meets = down + ahead * math.tan(camera.slope)
    reaches = meets > LEVEL
    axial = np.divide(camera.height, meets, out=np.full(meets.shape, np.inf), where=reaches)
    horizontal = np.where(reaches, np.where(reaches, axial, 0.0) * ahead, np.inf)
    return GroundPoint(plain(horizontal), plain(axial + camera.image_distance))


@overload
def row_of_ground(camera: Camera, horizontal: float, rise: float = ...) -> float: ...
@overload
def row_of_ground(
    camera: Camera, horizontal: npt.ArrayLike, rise: npt.ArrayLike = ...
) -> Array | float: ...
def row_of_ground(
    camera: Camera, horizontal: npt.ArrayLike, rise: npt.ArrayLike = 0.0
) -> Array | float:
    """The row at which the ground so far away stands in the picture; ``ground`` backwards.

    ``horizontal``: level distance from the pupil, mm; inf gives the row the ground vanishes at.
    ``rise``: of something above the ground there, mm, finite.
    May lie outside 0…1: then it is not in the picture. Broadcasts.
    Raises NotANumber, SubjectTooNear for ground behind the camera.
    """
    distance = np.asarray(horizontal, dtype=np.float64)
    require_number("horizontal", distance, "distance")
    require_finite("rise", rise, "height above the ground")
    sine, cosine, uphill = math.sin(camera.tilt), math.cos(camera.tilt), math.tan(camera.slope)
    far = np.isinf(distance)
    level = np.where(far, 1.0, distance)
    drop = np.where(far, 0.0, camera.height - np.asarray(rise, dtype=np.float64)) - level * uphill
    ahead = level * cosine + drop * sine
    in_front(ahead, "horizontal", distance)
    t = (drop * cosine - level * sine) / ahead
    return plain(MIDDLE - t * camera.image_distance / camera.frame_height)


def in_front(ahead: Array, name: str, value: npt.ArrayLike) -> None:
    """Refuse, with SubjectTooNear, what lies behind the camera: not above 0 ahead of it."""
    require(ahead > 0, SubjectTooNear, name, value, "That lies behind the camera.")


@overload
def depth_along_ground(camera: Camera, horizontal: float, rise: float = ...) -> float: ...
@overload
def depth_along_ground(
    camera: Camera, horizontal: npt.ArrayLike, rise: npt.ArrayLike = ...
) -> Array | float: ...
def depth_along_ground(
    camera: Camera, horizontal: npt.ArrayLike, rise: npt.ArrayLike = 0.0
) -> Array | float:
    """The depth of a point so far away over the ground, and ``rise`` above the ground there.

    ``horizontal``: level distance from the pupil, mm, up to inf; paces along a slope are
    ``horizontal_of_paces``. ``rise``: mm. Returns mm from the sensor. Broadcasts.
    Raises NotANumber, OutOfRange, SubjectTooNear.
    """
    distance = np.asarray(horizontal, dtype=np.float64)
    require_number("horizontal", distance, "distance")
    require_finite("rise", rise, "height above the ground")
    sine, cosine, slope = math.sin(camera.tilt), math.cos(camera.tilt), math.tan(camera.slope)
    per_level = cosine - slope * sine
    with np.errstate(invalid="ignore"):  # inf · 0: straight along the ground
        along = np.where(np.isinf(distance) & (per_level == 0), 0.0, distance * per_level)
    ahead = along + (camera.height - np.asarray(rise, dtype=np.float64)) * sine
    in_front(ahead, "horizontal", distance)
    return plain(ahead + camera.image_distance)


@overload
def horizontal_of_depth(camera: Camera, depth: float, rise: float = ...) -> float: ...
@overload
def horizontal_of_depth(
    camera: Camera, depth: npt.ArrayLike, rise: npt.ArrayLike = ...
) -> Array | float: ...
def horizontal_of_depth(
    camera: Camera, depth: npt.ArrayLike, rise: npt.ArrayLike = 0.0
) -> Array | float:
    """How far away over the ground something of a known depth stands; the inverse of
    ``depth_along_ground``.

    ``depth``: mm from the sensor, up to inf. Broadcasts. Raises NotANumber, SubjectTooNear;
    OutOfRange where depth does not change along the ground, as when looking straight down.
    """
    deep = np.asarray(depth, dtype=np.float64)
    require_number("depth", deep, "depth")
    require_finite("rise", rise, "height above the ground")
    from_pupil = deep - camera.image_distance
    require(from_pupil > 0, SubjectTooNear, "depth", deep, "That is inside the lens.")
    sine, cosine = math.sin(camera.tilt), math.cos(camera.tilt)
    per_level = cosine - math.tan(camera.slope) * sine
    if abs(per_level) < LEVEL:
        sentence = "Looking squarely at the ground, depth does not tell how far away it is."
        raise OutOfRange("tilt", camera.tilt, sentence)
    drop = camera.height - np.asarray(rise, dtype=np.float64)
    return plain((from_pupil - drop * sine) / per_level)


@overload
def horizontal_of_paces(camera: Camera, along: float) -> float: ...
@overload
def horizontal_of_paces(camera: Camera, along: npt.ArrayLike) -> Array | float: ...
def horizontal_of_paces(camera: Camera, along: npt.ArrayLike) -> Array | float:
    """The level distance of what is so far along sloping ground, mm. Broadcasts."""
    distance = np.asarray(along, dtype=np.float64)
    require_number("along", distance, "distance")
    return plain(distance * math.cos(camera.slope))


def height_seen(camera: Camera, depth: float, row: float) -> float:
    """How high above the ground something of that depth is that is seen at a row, mm.

    ``depth``: mm from the sensor, finite. Below the ground the answer is below 0. Plain numbers.
    Raises NotANumber, SubjectTooNear.
    """
    require_finite("depth", depth, "depth")
    from_pupil = depth - camera.image_distance
    require(from_pupil > 0, SubjectTooNear, "depth", depth, "That is inside the lens.")
    t = float(np.asarray(camera.below_axis(row)))
    sine, cosine = math.sin(camera.tilt), math.cos(camera.tilt)
    level, down = from_pupil * (cosine - t * sine), from_pupil * (sine + t * cosine)
    return camera.height - down - level * math.tan(camera.slope)


@overload
def axial_of_step(camera: Camera, along: float) -> float: ...
@overload
def axial_of_step(camera: Camera, along: npt.ArrayLike) -> Array | float: ...
def axial_of_step(camera: Camera, along: npt.ArrayLike) -> Array | float:
    """How much deeper everything becomes when the camera goes back so far along the ground.

    ``along``: mm, forward below 0; the camera keeps its height above the ground and its tilt.
    Returns mm along the axis. Broadcasts. Raises NotANumber, OutOfRange.
    """
    require_finite("along", along, "step")
    level = np.asarray(horizontal_of_paces(camera, along))
    per_level = math.cos(camera.tilt) - math.tan(camera.slope) * math.sin(camera.tilt)
    return plain(level * per_level)


@overload
def row_of_depth(camera: Camera, depth: float, rise: float = ...) -> float: ...
@overload
def row_of_depth(
    camera: Camera, depth: npt.ArrayLike, rise: npt.ArrayLike = ...
) -> Array | float: ...
def row_of_depth(camera: Camera, depth: npt.ArrayLike, rise: npt.ArrayLike = 0.0) -> Array | float:
    """The row at which ground of a known depth, or a thing ``rise`` above it, is seen.

    ``depth``: mm from the sensor, up to inf. Broadcasts. As ``horizontal_of_depth``.
    """
    return row_of_ground(camera, horizontal_of_depth(camera, depth, rise), rise)
