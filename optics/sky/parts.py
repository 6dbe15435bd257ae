"""Parts of the sky that are in a picture, by their outlines.

A frame stands in the sky as ``stars.aimed`` says; where nobody knows how, a round part as wide as
its diagonal covers every way of holding it.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass
from functools import lru_cache
from typing import Any

import numpy as np
import numpy.typing as npt

from optics.base.errors import NotANumber, require_angle, require_finite, require_positive
from optics.base.numbers import Array
from optics.sky.projection import Projection, directions, rim
from optics.sky.rotation import Place

_MIDDLE = Place(0.0, 0.0)
_KEPT = 512


@dataclass(frozen=True, slots=True)
class Part:
    """A part of the picture, by its outline: to each share of the way round, 0 to 1, a point, mm,
    +x the way the stars move, +y north.

    ``middle``  a point from which all of it is seen.
    ``roll``    as of ``stars.Aim``.
    ``projection``  how the lens draws that has it in its picture.
    """

    outline: Callable[[Array], tuple[Array, Array]]
    middle: Place = _MIDDLE
    roll: float = 0.0
    projection: Projection = Projection.RECTILINEAR

    def held(self, place: Place) -> Place:
        """A point of the sky's picture as the frame has it: +x right, +y up."""
        return Place(*self.held_all(place.x, place.y))

    def in_sky(self, place: Place) -> Place:
        """The other way round: from the frame's right and up to west and north."""
        sine, cosine = math.sin(self.roll), math.cos(self.roll)
        return Place(place.x * cosine + place.y * sine, place.y * cosine - place.x * sine)

    def held_all(self, x: Any, y: Any) -> tuple[Any, Any]:
        """As ``held``, for arrays of both."""
        sine, cosine = math.sin(self.roll), math.cos(self.roll)
        return x * cosine - y * sine, x * sine + y * cosine


def round_part(radius: float, projection: Projection = Projection.RECTILINEAR) -> Part:
    """All within ``radius`` (mm) of the middle: half a diagonal covers a frame however turned."""
    require_positive("radius", radius, "radius", zero=True)
    return _round_part(float(radius), projection)


@lru_cache(maxsize=_KEPT)
def _round_part(radius: float, projection: Projection) -> Part:
    def outline(share: Array) -> tuple[Array, Array]:
        angle = 2.0 * math.pi * share
        return radius * np.cos(angle), radius * np.sin(angle)

    return Part(outline, projection=projection)


def frame_part(width: float, height: float, roll: float, horizon: float = -math.inf) -> Part:
    """A frame, mm as it is held, turned by ``roll`` against the celestial north.

    ``horizon``: how high over its middle the level horizon runs, mm, below 0 for under it: what is
    lower has no stars. A frame with nothing above it counts as a whole.
    """
    require_positive("width", width, "width of the frame")
    require_positive("height", height, "height of the frame")
    require_finite("roll", roll, "roll of the frame")
    if math.isnan(horizon):
        raise NotANumber("horizon", horizon, "height of the horizon")
    return _frame_part(float(width), float(height), float(roll), float(horizon))


@lru_cache(maxsize=_KEPT)
def _frame_part(width: float, height: float, roll: float, horizon: float) -> Part:
    top, right_edge = 0.5 * height, 0.5 * width
    bottom = max(horizon, -top) if horizon < top else -top
    across = right_edge * np.array([1.0, -1.0, -1.0, 1.0, 1.0])
    up = np.array([top, top, bottom, bottom, top])
    sine, cosine = math.sin(roll), math.cos(roll)
    corners = np.arange(5) / 4

    def outline(share: Array) -> tuple[Array, Array]:
        way = np.mod(share, 1.0)
        right, above = np.interp(way, corners, across), np.interp(way, corners, up)
        return right * cosine + above * sine, above * cosine - right * sine

    middle = 0.5 * (top + bottom)
    return Part(outline, Place(middle * sine, middle * cosine), roll)


def fisheye_part(
    width: float,
    height: float,
    roll: float,
    focal_length: float,
    projection: Projection,
    altitude: float = math.pi / 2,
) -> Part:
    """As ``frame_part``, of a fisheye, whose rim and bent horizon bound the part.

    ``altitude``: how high over the horizon the lens points, radians within ± π/2.
    """
    require_positive("width", width, "width of the frame")
    require_positive("height", height, "height of the frame")
    require_finite("roll", roll, "roll of the frame")
    require_positive("focal_length", focal_length, "focal length")
    require_angle("altitude", altitude, math.pi / 2, "A height above the horizon is at most 90°.")
    return _fisheye_part(
        float(width), float(height), float(roll), float(focal_length), projection, float(altitude)
    )


@lru_cache(maxsize=_KEPT)
def _fisheye_part(
    width: float,
    height: float,
    roll: float,
    focal_length: float,
    projection: Projection,
    altitude: float,
) -> Part:
    right_edge, top = 0.5 * width, 0.5 * height
    most = rim(projection, focal_length)
    # From where all of the sky in the picture is seen.
    from_up = 0.0 if altitude > 0 else min(top, most) * (1 - 1e-6)
    # A corner of the frame at each quarter of the way round, as with any frame.
    corners = np.array([math.atan2(y - from_up, x) for x, y in _corners(right_edge, top)])
    corners = np.unwrap(np.append(corners, corners[0] + 2 * math.pi))
    sine, cosine = math.sin(roll), math.cos(roll)

    def inside(right: Array, up: Array) -> npt.NDArray[np.bool_]:
        within = (np.abs(right) <= right_edge) & (np.abs(up) <= top)
        above = in_sky(projection, focal_length, altitude, right, up)
        return within & (np.hypot(right, up) <= most) & above

    def outline(share: Array) -> tuple[Array, Array]:
        angle = np.interp(np.mod(share, 1.0), np.arange(5) / 4, corners)
        along_x, along_y = np.cos(angle), np.sin(angle)
        near, far = np.zeros_like(angle), np.full_like(angle, width + height)
        for _ in range(_HALVINGS):
            middle = 0.5 * (near + far)
            held = inside(middle * along_x, from_up + middle * along_y)
            near, far = np.where(held, middle, near), np.where(held, far, middle)
        right, up = near * along_x, from_up + near * along_y
        return right * cosine + up * sine, up * cosine - right * sine

    return Part(outline, Place(from_up * sine, from_up * cosine), roll, projection)


_HALVINGS = 48


def _corners(right: float, top: float) -> list[tuple[float, float]]:
    return [(right, top), (-right, top), (-right, -top), (right, -top)]


def in_sky(
    projection: Projection, focal_length: float, altitude: float, right: Array, up: Array
) -> npt.NDArray[np.bool_]:
    """Which points of a level camera's picture, mm, are above the horizon; ``altitude``: of what
    the lens points at, radians."""
    _, y, ahead = directions(projection, np.asarray(focal_length), right, up)
    over: Array = ahead * math.sin(altitude) + y * math.cos(altitude)
    return over >= 0
