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

import numpy as np
import numpy.typing as npt

from optics.base.errors import (
    NotANumber,
    OutOfRange,
    SubjectTooNear,
    TooShort,
    require,
    require_finite,
    require_number,
    require_positive,
)
from optics.base.numbers import Array, plain
from optics.lens.conjugates import focus_of, magnification
from optics.lens.setup import Setup
from optics.scene.camera import LEVEL, MIDDLE, Camera

__all__ = [
    "Camera",
    "GroundPoint",
    "axial_of_step",
    "depth_along_ground",
    "depth_of_straight",
    "depth_of_tape",
    "distance_from_size",
    "ground",
    "height_seen",
    "horizontal_of_depth",
    "horizontal_of_paces",
    "row_of_depth",
    "row_of_ground",
    "share_of_frame",
    "straight_of_depth",
]


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
    _in_front(ahead, "horizontal", distance)
    t = (drop * cosine - level * sine) / ahead
    return plain(MIDDLE - t * camera.image_distance / camera.frame_height)


def _in_front(ahead: Array, name: str, value: npt.ArrayLike) -> None:
    require(ahead > 0, SubjectTooNear, name, value, "That lies behind the camera.")


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
    _in_front(ahead, "horizontal", distance)
    return plain(ahead + camera.image_distance)


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


def axial_of_step(camera: Camera, along: npt.ArrayLike) -> Array | float:
    """How much deeper everything becomes when the camera goes back so far along the ground.

    ``along``: mm, forward below 0; the camera keeps its height above the ground and its tilt.
    Returns mm along the axis. Broadcasts. Raises NotANumber, OutOfRange.
    """
    require_finite("along", along, "step")
    level = np.asarray(horizontal_of_paces(camera, along))
    per_level = math.cos(camera.tilt) - math.tan(camera.slope) * math.sin(camera.tilt)
    return plain(level * per_level)


def depth_of_straight(
    camera: Camera,
    straight: npt.ArrayLike,
    row: npt.ArrayLike,
    column: npt.ArrayLike = MIDDLE,
    rise: npt.ArrayLike = 0.0,
) -> Array | float:
    """The depth of what is seen at a place in the picture, from a tape stretched to it.

    ``straight``  from the sensor mark to the thing, mm, up to inf.
    ``row``, ``column``  where it is seen: row 0 bottom edge, column 0 left edge.
    ``rise``      how high above the ground it is, mm; inf if it does not stand on the ground.
    Broadcasts. Raises NotANumber, OutOfRange; TooShort for a tape that does not reach from the
    pupil down to the height of a thing seen below the horizon; SubjectTooNear inside the lens.
    """
    tape = np.asarray(straight, dtype=np.float64)
    require_number("straight", tape, "distance")
    t, s = camera.below_axis(row), camera.beside_axis(column)
    high = np.asarray(rise, dtype=np.float64)
    require(~np.isnan(high), NotANumber, "rise", high, "The height is not a number.")
    down = math.sin(camera.tilt) + t * math.cos(camera.tilt)
    lands = down + (math.cos(camera.tilt) - t * math.sin(camera.tilt)) * math.tan(camera.slope)
    must_span = np.where(lands > 0, (camera.height - high) * math.cos(camera.slope), -np.inf)
    sentence = "That is too short to reach the ground from where the camera stands."
    require(tape >= must_span, TooShort, "straight", tape, sentence)
    v = camera.image_distance
    require(tape > v, SubjectTooNear, "straight", tape, "That is inside the lens.")
    aside = t * t + s * s
    # |(0, 0, v) + d(t, s, 1)| = tape, solved for the depth d from the pupil
    finite = np.where(np.isinf(tape), 2.0 * v, tape)
    under_root = finite * finite * (1.0 + aside) - v * v * aside
    d = (np.sqrt(under_root) - v) / (1.0 + aside)
    return plain(np.where(np.isinf(tape), np.inf, d + v))


def depth_of_tape(
    camera: Camera, straight: float, rise: float = 0.0, column: float = MIDDLE
) -> float:
    """The depth of what a tape reaches that stands on the ground, or so high above it, ahead.

    As ``depth_of_straight`` where the row is not known: it follows from the tape. The sensor stands
    v(cos θ, −sin θ) behind the pupil; the tape's end lies on the ground raised by ``rise``, and in
    the ``column`` of the picture: a quadratic in the level distance, of which the far root counts.
    Plain numbers, mm. Raises NotANumber, OutOfRange; TooShort; SubjectTooNear behind the camera.
    """
    require_positive("straight", straight, "length of the tape", finite=False)
    require_finite("rise", rise, "height above the ground")
    if math.isinf(straight):
        return math.inf
    s, v = float(np.asarray(camera.beside_axis(column))), camera.image_distance
    sine, cosine, slope = math.sin(camera.tilt), math.cos(camera.tilt), math.tan(camera.slope)
    drop = camera.height - rise
    per_level, at_foot = cosine - slope * sine, drop * sine
    back, up = v * cosine, drop + v * sine
    a = 1.0 + slope * slope + (s * per_level) ** 2
    half_b = back - up * slope + s * s * per_level * at_foot
    c = back * back + up * up + (s * at_foot) ** 2 - straight * straight
    root = half_b * half_b - a * c
    sentence = "That is too short to reach the ground from where the camera stands."
    require(root >= 0, TooShort, "straight", straight, sentence)
    level = (-half_b + math.sqrt(max(root, 0.0))) / a
    depth = level * per_level + at_foot
    _in_front(np.asarray(depth), "straight", straight)
    return float(depth + v)


def straight_of_depth(
    camera: Camera, depth: npt.ArrayLike, row: npt.ArrayLike, column: npt.ArrayLike = MIDDLE
) -> Array | float:
    """What a tape would read to a thing of that depth seen there; ``depth_of_straight`` backwards.

    ``depth``: mm from the sensor, up to inf. Broadcasts. Raises NotANumber, SubjectTooNear.
    """
    deep = np.asarray(depth, dtype=np.float64)
    require_number("depth", deep, "depth")
    from_pupil = deep - camera.image_distance
    require(from_pupil > 0, SubjectTooNear, "depth", deep, "That is inside the lens.")
    t, s = camera.below_axis(row), camera.beside_axis(column)
    slant = np.hypot(t, s)
    aside = np.multiply(
        from_pupil, slant, out=np.zeros(np.broadcast(deep, slant).shape), where=slant > 0
    )
    return plain(np.hypot(deep, aside))


def row_of_depth(camera: Camera, depth: npt.ArrayLike, rise: npt.ArrayLike = 0.0) -> Array | float:
    """The row at which ground of a known depth, or a thing ``rise`` above it, is seen.

    ``depth``: mm from the sensor, up to inf. Broadcasts. As ``horizontal_of_depth``.
    """
    return row_of_ground(camera, horizontal_of_depth(camera, depth, rise), rise)


def distance_from_size(
    focal_length: npt.ArrayLike,
    frame_height: npt.ArrayLike,
    real_height: npt.ArrayLike,
    fraction: npt.ArrayLike,
) -> Array | float:
    """How far away something of known size is, from how much of the frame's height it fills.

    The lens is focused on it, and it stands upright across a level axis. Lengths in mm, above 0;
    ``fraction`` above 0 (over 1 is larger than the frame), the magnification at most 1.
    Returns mm from the sensor. Broadcasts. Raises NotANumber, OutOfRange.
    """
    require_positive("frame_height", frame_height, "height of the frame")
    require_positive("real_height", real_height, "real height")
    require_positive("fraction", fraction, "share of the frame")
    ring = np.asarray(fraction) * np.asarray(frame_height) / np.asarray(real_height)
    require(
        ring <= 1.0, OutOfRange, "fraction", fraction, "Larger than life: no lens focuses that."
    )
    return focus_of(_thin(focal_length), ring)


def share_of_frame(
    focal_length: npt.ArrayLike,
    frame_height: npt.ArrayLike,
    real_height: npt.ArrayLike,
    distance: npt.ArrayLike,
) -> Array | float:
    """How much of the frame's height something fills when focused on; ``distance_from_size``
    backwards. 0 at infinity. ``distance``: mm from the sensor, at least 4f. Broadcasts."""
    require_positive("frame_height", frame_height, "height of the frame")
    require_positive("real_height", real_height, "real height")
    ring = np.asarray(magnification(_thin(focal_length), distance))
    return plain(ring * np.asarray(real_height) / np.asarray(frame_height))


def _thin(focal_length: npt.ArrayLike) -> Setup:
    return Setup(np.asarray(focal_length, dtype=np.float64), 1.0, 1.0)
