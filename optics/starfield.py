"""The part of the sky in the picture: how the frame stands in it, and where stars drift farthest.

Stars at the corners of a rectilinear lens drift farther than those in its middle. Which corner is
the worst depends on how the frame is turned against the celestial north (``stars.aimed``); where
that is not known, a round part as wide as the frame's diagonal covers every way of holding it.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass
from functools import lru_cache
from typing import Any

import numpy as np
import numpy.typing as npt

from optics.errors import NotANumber, require_finite, require_positive
from optics.lens import Array
from optics.rotation import SKY_TURNS, Place, chords, require_declination, turned
from optics.search import crossing

_MIDDLE = Place(0.0, 0.0)
_KEPT = 512
"""Answers kept: of a lens under the same sky, the aperture changes none of them."""
_HALF_TURN = math.pi / SKY_TURNS


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


@dataclass(frozen=True, slots=True)
class Drifting:
    """A star: how far it drifts, mm, and where in the picture it starts."""

    drift: float
    start: Place


_ROUND = 120
"""Points tried along an outline: a multiple of four, so that a frame's corners are among them."""
_RINGS = 6
_LOOKS = 8
_AGREED = 1e-11
_CLOSER = np.linspace(-1.0, 1.0, 41)


def farthest(focal_length: float, seconds: float, declination: float, part: Part) -> Drifting:
    """The star of that part of the picture that drifts farthest.

    Found on a net over the part, and refined along its outline. Plain numbers only, as
    ``stars.drift``. Raises NotANumber, OutOfRange, AngleTooLarge.
    """
    _require(focal_length, declination)
    require_positive("seconds", seconds, "time", zero=True)
    net = _Net(focal_length, declination, part)
    found = net.drifts(seconds)
    at = np.unravel_index(int(found.argmax()), found.shape)
    best = Drifting(float(found[at]), Place(float(net.x[at]), float(net.y[at])))
    if math.isinf(best.drift):
        return best
    middle, width = float(_WAY[int(found[-1].argmax())]), 1.0 / _ROUND
    for _ in range(2):  # each time a twentieth of the step, round the best point of the outline
        near = middle + width * _CLOSER
        x, y = part.outline(near)
        edge = net.chords(seconds, x, y)
        best_at = int(edge.argmax())
        middle, width = float(near[best_at]), width / 20
        if edge[best_at] > best.drift:
            best = Drifting(float(edge[best_at]), Place(float(x[best_at]), float(y[best_at])))
    return best


def calmest(focal_length: float, seconds: float, declination: float, part: Part) -> Drifting:
    """The star of that part of the picture that drifts least: at a pole of the sky, if one is in
    the picture. As ``farthest``."""
    _require(focal_length, declination)
    require_positive("seconds", seconds, "time", zero=True)
    pole = pole_at(focal_length, declination)
    if pole is not None and _inside(part, pole):
        return Drifting(0.0, pole)
    net = _Net(focal_length, declination, part)
    found = net.drifts(seconds)
    at = np.unravel_index(int(found.argmin()), found.shape)
    return Drifting(float(found[at]), Place(float(net.x[at]), float(net.y[at])))


def longest(focal_length: float, tolerance: float, declination: float, part: Part) -> float:
    """How long until the worst star of that part of the picture has drifted too far, s.

    ``tolerance``: the longest chord allowed, mm, above 0. inf if no star ever drifts so far. Plain
    numbers only. Raises NotANumber, OutOfRange, AngleTooLarge.
    """
    require_positive("tolerance", tolerance, "tolerance")
    _require(focal_length, declination)
    return _longest(float(focal_length), float(tolerance), float(declination), part)


@lru_cache(maxsize=_KEPT)
def _longest(focal_length: float, tolerance: float, declination: float, part: Part) -> float:
    # Which star is the worst hardly changes with the time: solve for that one, and look again.
    seconds = tolerance / (focal_length * SKY_TURNS)
    for _ in range(_LOOKS):
        worst = farthest(focal_length, min(seconds, _HALF_TURN), declination, part)
        if abs(worst.drift / tolerance - 1) < _AGREED:
            return seconds
        seconds = longest_of(focal_length, tolerance, declination, worst.start)
        if math.isinf(seconds):
            break
    return _until(
        focal_length,
        tolerance,
        lambda seconds: farthest(focal_length, seconds, declination, part).drift,
    )


def longest_of(focal_length: float, tolerance: float, declination: float, start: Place) -> float:
    """As ``longest``, for a single star."""
    _require(focal_length, declination)
    require_finite("start", (start.x, start.y), "place in the picture")
    f, d, x, y = (np.asarray(v) for v in (focal_length, declination, start.x, start.y))
    return _until(
        focal_length, tolerance, lambda seconds: float(chords(f, np.asarray(seconds), d, x, y))
    )


def _until(focal_length: float, tolerance: float, drift: Callable[[float], float]) -> float:
    require_positive("tolerance", tolerance, "tolerance")

    def too_far(seconds: float) -> float:
        return drift(seconds) - tolerance

    if too_far(_HALF_TURN) <= 0:
        return math.inf
    # The start of the curve is nearly straight: a bracket about where it would lead.
    lost = min(tolerance / (focal_length * SKY_TURNS), _HALF_TURN)
    while too_far(lost) <= 0:
        lost = min(4 * lost, _HALF_TURN)
    return crossing(too_far, lost, 0.0)


def pole_at(focal_length: float, declination: float) -> Place | None:
    """Where the pole of the sky that is nearer stands in the picture's plane; None if it is at
    right angles to the lens or behind it."""
    _require(focal_length, declination)
    if declination == 0:
        return None
    return Place(0.0, focal_length / math.tan(declination))


@dataclass(frozen=True, slots=True)
class Trails:
    """The ways of stars over the picture, mm: a row for each star, a column for each time; nan
    where a star is not in the lens's half of space."""

    x: Array
    y: Array


def trails(
    focal_length: float,
    seconds: npt.ArrayLike,
    declination: float,
    x: npt.ArrayLike,
    y: npt.ArrayLike,
) -> Trails:
    """Where stars that start at some points are at each of a row of times, s, before or after.

    Points and places as ``Place``. Raises NotANumber, OutOfRange, AngleTooLarge.
    """
    _require(focal_length, declination)
    require_finite("seconds", seconds, "time")
    require_finite("x", x, "place in the picture")
    require_finite("y", y, "place in the picture")
    from_x, from_y = (np.atleast_1d(np.asarray(v, dtype=np.float64))[:, np.newaxis] for v in (x, y))
    times = np.atleast_1d(np.asarray(seconds, dtype=np.float64))
    f = np.asarray(focal_length, dtype=np.float64)
    change = turned(f, times, np.asarray(declination), from_x, from_y)
    depth = f + change.z
    depth = np.where(depth > 0, depth, np.nan)
    return Trails(f * (from_x + change.x) / depth, f * (from_y + change.y) / depth)


_WAY = np.arange(_ROUND) / _ROUND
_SHARES = np.linspace(0, 1, _RINGS)[:, np.newaxis]


@lru_cache(maxsize=_KEPT)
def _points(part: Part) -> tuple[Array, Array]:
    """Points all over a part of the picture, the outermost row along its outline."""
    x, y = part.outline(_WAY)
    middle = part.middle
    return middle.x + _SHARES * (x - middle.x), middle.y + _SHARES * (y - middle.y)


class _Net:
    """Stars all over a part of the picture, for one lens."""

    def __init__(self, focal_length: float, declination: float, part: Part) -> None:
        self.f, self.declination = np.asarray(focal_length), np.asarray(declination)
        self.x, self.y = _points(part)

    def chords(self, seconds: float, x: Array, y: Array) -> Array:
        return chords(self.f, np.asarray(seconds), self.declination, x, y)

    def drifts(self, seconds: float) -> Array:
        return self.chords(seconds, self.x, self.y)


def _inside(part: Part, place: Place) -> bool:
    """Whether a point is within an outline: on every side of which it is on the inner side."""
    x, y = part.outline(_WAY)
    dx, dy = np.roll(x, -1) - x, np.roll(y, -1) - y
    return bool(np.all(dx * (place.y - y) - dy * (place.x - x) >= 0))


def _require(focal_length: float, declination: float) -> None:
    require_positive("focal_length", focal_length, "focal length")
    require_declination(declination)
