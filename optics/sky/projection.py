"""How a lens draws directions on the sensor: rectilinear, or one of two fisheyes.

A direction θ from the axis falls r from the picture's middle: rectilinear r = f tan θ, straight
lines stay straight; equidistant r = f θ; equisolid r = 2 f sin(θ/2), equal pieces of sky are equal
pieces of picture. A fisheye is taken to see half of all directions, to θ = 90°: what lies farther
out in the picture is its black rim. Source: [projections] in docs/references.md.
"""

from __future__ import annotations

import math
from enum import StrEnum

import numpy as np

from optics.base.errors import require_angle, require_finite, require_positive
from optics.base.numbers import Array


class Projection(StrEnum):
    """How a lens draws."""

    RECTILINEAR = "rectilinear"
    EQUIDISTANT = "equidistant"
    EQUISOLID = "equisolid"


def radius_of(projection: Projection, focal_length: float, angle: float) -> float:
    """How far from the picture's middle a direction falls, mm. ``angle`` from the axis, radians,
    within ± π/2, signed as the result is. Plain numbers only. Raises NotANumber, OutOfRange,
    AngleTooLarge."""
    require_positive("focal_length", focal_length, "focal length")
    require_angle("angle", angle, math.pi / 2, "A lens sees up to 90° from its axis.")
    if projection is Projection.RECTILINEAR:
        return focal_length * math.tan(angle)
    if projection is Projection.EQUIDISTANT:
        return focal_length * angle
    return 2.0 * focal_length * math.sin(0.5 * angle)


def angle_of(projection: Projection, focal_length: float, radius: float) -> float:
    """The direction of a point so far from the picture's middle, radians, within ± π/2; the other
    way round. ``radius``: mm, any sign. Plain numbers only. Raises NotANumber, OutOfRange."""
    require_positive("focal_length", focal_length, "focal length")
    require_finite("radius", radius, "place in the picture")
    if projection is Projection.RECTILINEAR:
        return math.atan(radius / focal_length)
    if projection is Projection.EQUIDISTANT:
        angle = radius / focal_length
    else:
        angle = 2.0 * math.asin(min(max(0.5 * radius / focal_length, -1.0), 1.0))
    return min(max(angle, -math.pi / 2), math.pi / 2)


def rim(projection: Projection, focal_length: float) -> float:
    """How far from its middle a picture reaches, mm: inf for a rectilinear lens."""
    if projection is Projection.RECTILINEAR:
        return math.inf
    return radius_of(projection, focal_length, math.pi / 2)


def directions(projection: Projection, f: Array, x: Array, y: Array) -> tuple[Array, Array, Array]:
    """The directions of points of the picture, as long as f at the axis: right, up, ahead. What is
    not checked: all mm, and no point beyond the rim."""
    if projection is Projection.RECTILINEAR:
        return x, y, f
    radius = np.hypot(x, y)
    if projection is Projection.EQUIDISTANT:
        angle = radius / f
    else:
        angle = 2.0 * np.arcsin(np.minimum(0.5 * radius / f, 1.0))
    # sin θ ÷ r, which is 1 ÷ f in the middle.
    sine = np.where(radius > 0, f * np.sin(angle) / np.where(radius > 0, radius, 1.0), 1.0)
    return x * sine, y * sine, f * np.cos(angle)


def places(
    projection: Projection, f: Array, right: Array, up: Array, ahead: Array
) -> tuple[Array, Array]:
    """Where directions fall in the picture of a fisheye, mm; the other way round."""
    across = np.hypot(right, up)
    angle = np.arctan2(across, ahead)
    equidistant = projection is Projection.EQUIDISTANT
    radius = f * angle if equidistant else 2.0 * f * np.sin(0.5 * angle)
    scale = np.where(across > 0, radius / np.where(across > 0, across, 1.0), 1.0)
    return right * scale, up * scale
