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

from optics.base.errors import NotANumber, require_finite, require_positive
from optics.base.numbers import Array
from optics.sky.rotation import Place

_MIDDLE = Place(0.0, 0.0)
_KEPT = 512


@dataclass(frozen=True, slots=True)
class Part:
    """A part of the picture, by its outline: to each share of the way round, 0 to 1, a point, mm,
    +x the way the stars move, +y north.

    ``middle``  a point from which all of it is seen.
    ``roll``    as of ``stars.Aim``.
    """

    outline: Callable[[Array], tuple[Array, Array]]
    middle: Place = _MIDDLE
    roll: float = 0.0

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


def round_part(radius: float) -> Part:
    """All within ``radius`` (mm) of the middle: half a diagonal covers a frame however turned."""
    require_positive("radius", radius, "radius", zero=True)
    return _round_part(float(radius))


@lru_cache(maxsize=_KEPT)
def _round_part(radius: float) -> Part:
    def outline(share: Array) -> tuple[Array, Array]:
        angle = 2.0 * math.pi * share
        return radius * np.cos(angle), radius * np.sin(angle)

    return Part(outline)


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
