"""What a tape reaches in a straight line, as a depth along the lens's axis; and back."""

from __future__ import annotations

import math
from typing import overload

import numpy as np
import numpy.typing as npt

from optics.base.errors import (
    NotANumber,
    SubjectTooNear,
    TooShort,
    require,
    require_finite,
    require_number,
    require_positive,
)
from optics.base.numbers import Array, plain
from optics.scene.camera import MIDDLE, Camera
from optics.scene.frame import in_front


@overload
def depth_of_straight(
    camera: Camera, straight: float, row: float, column: float = ..., rise: float = ...
) -> float: ...
@overload
def depth_of_straight(
    camera: Camera,
    straight: npt.ArrayLike,
    row: npt.ArrayLike,
    column: npt.ArrayLike = ...,
    rise: npt.ArrayLike = ...,
) -> Array | float: ...
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
    in_front(np.asarray(depth), "straight", straight)
    return float(depth + v)


@overload
def straight_of_depth(camera: Camera, depth: float, row: float, column: float = ...) -> float: ...
@overload
def straight_of_depth(
    camera: Camera, depth: npt.ArrayLike, row: npt.ArrayLike, column: npt.ArrayLike = ...
) -> Array | float: ...
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
