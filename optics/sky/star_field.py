"""Stars all over a picture: which drifts farthest, which least, and for how long none goes too far.

Stars at the corners of a rectilinear lens drift farther than those in its middle. Which corner is
the worst depends on how the frame is turned against the celestial north (``stars.aimed``); where
that is not known, a round part as wide as the frame's diagonal covers every way of holding it.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass
from functools import lru_cache

import numpy as np
import numpy.typing as npt

from optics.base.errors import require_finite, require_positive
from optics.base.numbers import Array
from optics.base.search import crossing
from optics.sky.parts import Part
from optics.sky.projection import Projection, radius_of
from optics.sky.rotation import SKY_TURNS, Place, after, chords, require_declination

_KEPT = 512
"""Answers kept: of a lens under the same sky, the aperture changes none of them."""
_HALF_TURN = math.pi / SKY_TURNS


@dataclass(frozen=True, slots=True)
class Drifting:
    """A star: how far it drifts, mm, and where in the picture it starts."""

    drift: float
    start: Place


_ROUND = 120
"""Points tried along an outline: a multiple of four, so that a frame's corners are among them."""
_RINGS, _FISHEYE_RINGS = 6, 31
"""Over a part: what bends may have its worst star anywhere inside."""
_LOOKS = 8
_AGREED = 1e-11
_CLOSER, _AROUND = np.linspace(-1.0, 1.0, 41), np.linspace(-1.0, 1.0, 21)


def farthest(focal_length: float, seconds: float, declination: float, part: Part) -> Drifting:
    """The star of that part of the picture that drifts farthest.

    Found on a net over the part, and refined along its outline, in a fisheye inside it too.
    Plain numbers only, as ``stars.drift``. Raises NotANumber, OutOfRange, AngleTooLarge.
    """
    _require(focal_length, declination)
    require_positive("seconds", seconds, "time", zero=True)
    net = _Net(focal_length, declination, part)
    found = net.drifts(seconds)
    at = np.unravel_index(int(found.argmax()), found.shape)
    best = Drifting(float(found[at]), Place(float(net.x[at]), float(net.y[at])))
    if math.isinf(best.drift):
        return best
    if part.projection is not Projection.RECTILINEAR:  # a fisheye's may be anywhere inside
        best = _closer(net, part, seconds, found, 1)
    for start in _peaks(found[-1]):
        middle, width = float(_WAY[start]), 1.0 / _ROUND
        for _ in range(2):  # each time a twentieth of the step, round a peak along the outline
            near = middle + width * _CLOSER
            x, y = part.outline(near)
            edge = net.chords(seconds, x, y)
            best_at = int(edge.argmax())
            middle, width = float(near[best_at]), width / 20
            if edge[best_at] > best.drift:
                best = Drifting(float(edge[best_at]), Place(float(x[best_at]), float(y[best_at])))
    return best


_NEAR_BEST = 0.98
"""A peak between two points of a bent outline may be so much higher than either."""


def _peaks(drifts: Array) -> list[int]:
    """Where along an outline to look closer: its highest points, the highest first."""
    at = np.flatnonzero(
        (drifts >= np.roll(drifts, 1))
        & (drifts > np.roll(drifts, -1))
        & (drifts >= _NEAR_BEST * drifts.max())
    )
    return sorted(at.tolist(), key=lambda one: -float(drifts[one])) or [int(drifts.argmax())]


def calmest(focal_length: float, seconds: float, declination: float, part: Part) -> Drifting:
    """The star of that part of the picture that drifts least: at a pole of the sky, if one is in
    the picture. As ``farthest``."""
    _require(focal_length, declination)
    require_positive("seconds", seconds, "time", zero=True)
    pole = pole_at(focal_length, declination, part.projection)
    if pole is not None and _inside(part, pole):
        return Drifting(0.0, pole)
    net = _Net(focal_length, declination, part)
    found = net.drifts(seconds)
    return _closer(net, part, seconds, found, -1)


def _closer(net: _Net, part: Part, seconds: float, found: Array, sign: int) -> Drifting:
    """The star that drifts farthest, or least with a ``sign`` of −1, near the best of the net."""
    ring, way = np.unravel_index(int((sign * found).argmax()), found.shape)
    best = Drifting(
        float(found[ring, way]), Place(float(net.x[ring, way]), float(net.y[ring, way]))
    )
    rings = len(found)
    share, along = float(ring) / (rings - 1), float(_WAY[way])
    wide, long = 1.0 / (rings - 1), 1.0 / _ROUND
    for _ in range(4):  # each time a tenth of the step, round the best point
        shares = np.clip(share + wide * _AROUND, 0.0, 1.0)[:, np.newaxis]
        ways = along + long * _AROUND
        edge_x, edge_y = part.outline(ways)
        x = part.middle.x + shares * (edge_x - part.middle.x)
        y = part.middle.y + shares * (edge_y - part.middle.y)
        near = net.chords(seconds, x, y)
        at = np.unravel_index(int((sign * near).argmax()), near.shape)
        share, along = float(shares[at[0], 0]), float(ways[at[1]])
        wide, long = wide / 10, long / 10
        if sign * near[at] > sign * best.drift:
            best = Drifting(float(near[at]), Place(float(x[at]), float(y[at])))
    return best


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
        seconds = longest_of(focal_length, tolerance, declination, worst.start, part.projection)
        if math.isinf(seconds):
            break
    return _until(
        focal_length,
        tolerance,
        lambda seconds: farthest(focal_length, seconds, declination, part).drift,
    )


def longest_of(
    focal_length: float,
    tolerance: float,
    declination: float,
    start: Place,
    projection: Projection = Projection.RECTILINEAR,
) -> float:
    """As ``longest``, for a single star."""
    _require(focal_length, declination)
    require_finite("start", (start.x, start.y), "place in the picture")
    f, d, x, y = (np.asarray(v) for v in (focal_length, declination, start.x, start.y))
    return _until(
        focal_length,
        tolerance,
        lambda seconds: float(chords(f, np.asarray(seconds), d, x, y, projection)),
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


def pole_at(
    focal_length: float, declination: float, projection: Projection = Projection.RECTILINEAR
) -> Place | None:
    """Where the pole of the sky that is nearer stands in the picture's plane; None if it is at
    right angles to the lens or behind it."""
    _require(focal_length, declination)
    if declination == 0:
        return None
    if projection is Projection.RECTILINEAR:
        return Place(0.0, focal_length / math.tan(declination))
    away = math.copysign(math.pi / 2, declination) - declination
    return Place(0.0, radius_of(projection, focal_length, away))


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
    projection: Projection = Projection.RECTILINEAR,
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
    return Trails(*after(f, times, np.asarray(declination), from_x, from_y, projection))


_WAY = np.arange(_ROUND) / _ROUND


@lru_cache(maxsize=_KEPT)
def _points(part: Part) -> tuple[Array, Array]:
    """Points all over a part of the picture, the outermost row along its outline."""
    x, y = part.outline(_WAY)
    middle = part.middle
    straight = part.projection is Projection.RECTILINEAR
    shares = np.linspace(0, 1, _RINGS if straight else _FISHEYE_RINGS)[:, np.newaxis]
    return middle.x + shares * (x - middle.x), middle.y + shares * (y - middle.y)


class _Net:
    """Stars all over a part of the picture, for one lens."""

    def __init__(self, focal_length: float, declination: float, part: Part) -> None:
        self.f, self.declination = np.asarray(focal_length), np.asarray(declination)
        self.projection = part.projection
        self.x, self.y = _points(part)

    def chords(self, seconds: float, x: Array, y: Array) -> Array:
        return chords(self.f, np.asarray(seconds), self.declination, x, y, self.projection)

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
