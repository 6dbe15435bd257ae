"""How much of a frame its stars stay put in: shares of its area by how far stars drift.

The worst corner decides little: what most of a frame does is told beside it. A share is counted on
a lattice over the frame; where nobody knows how the frame stands in the sky, it is the least over
every way of holding it. Method and accuracy: docs/sky.md.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from functools import lru_cache

import numpy as np
import numpy.typing as npt

from optics.base.errors import OutOfRange, require_positive
from optics.base.numbers import Array
from optics.base.search import crossing
from optics.sky.parts import in_sky
from optics.sky.projection import Projection, angle_of, rim
from optics.sky.rotation import SKY_TURNS, chords, require_declination

_KEPT = 512
_POINTS = 6765
"""Of the lattice that shares are counted on, a number of Fibonacci's: whatever runs through it, a
straight edge along a side too, parts it within a few thousandths of the area."""
_GOLDEN = 0.5 * (math.sqrt(5.0) - 1.0)
_ROLLS = np.linspace(0.0, math.pi / 2, 13)
"""Ways of holding that are tried where nobody said: from level to upright."""
_HALF_TURN = math.pi / SKY_TURNS


@dataclass(frozen=True, slots=True)
class Framed:
    """A frame under the sky. mm, radians.

    ``width``, ``height``  as it is held, above 0.
    ``roll``     by how much its up is turned from the celestial north; None where nobody knows.
    ``horizon``  how high over its middle the level horizon runs: lower there are no stars. −inf
                 for none in sight; a frame with nothing above it counts as a whole.
    ``projection``  how the lens draws. The horizon of a fisheye is bent; its height is told where
                 it crosses the frame's upright middle line.
    Raises NotANumber, OutOfRange.
    """

    width: float
    height: float
    roll: float | None = None
    horizon: float = -math.inf
    projection: Projection = Projection.RECTILINEAR

    def __post_init__(self) -> None:
        require_positive("width", self.width, "width of the frame")
        require_positive("height", self.height, "height of the frame")


def share_within(
    focal_length: float, seconds: float, declination: float, frame: Framed, tolerance: float
) -> float:
    """The share of the frame's sky, 0 to 1, whose stars drift no farther than ``tolerance``, mm, in
    a time, s. The lens points at ``declination``, radians. Plain numbers only.
    Raises NotANumber, OutOfRange, AngleTooLarge."""
    _require(focal_length, declination)
    require_positive("seconds", seconds, "time", zero=True)
    require_positive("tolerance", tolerance, "tolerance")
    drifts = _drifts(focal_length, seconds, declination, frame)
    return float((drifts <= tolerance * (1 + 1e-9)).mean(axis=1).min())


def drift_of_share(
    focal_length: float, seconds: float, declination: float, frame: Framed, share: float
) -> float:
    """How far stars go at most in the calmest ``share`` of the frame, above 0 to 1, mm; inf where
    some have left the lens's half of space. As ``share_within``."""
    _require(focal_length, declination)
    require_positive("seconds", seconds, "time", zero=True)
    _require_share(share)
    numbers = (float(one) for one in (focal_length, seconds, declination, share))
    return _goes(*numbers, frame)


@lru_cache(maxsize=_KEPT)
def _goes(
    focal_length: float, seconds: float, declination: float, share: float, frame: Framed
) -> float:
    return float(_of_share(_drifts(focal_length, seconds, declination, frame), share).max())


def held_worst(
    focal_length: float, seconds: float, declination: float, frame: Framed, share: float
) -> Framed:
    """The frame, held so that a ``share`` of it drifts farthest; as it is where that is known. As
    ``share_within``."""
    if frame.roll is not None:
        return frame
    _require(focal_length, declination)
    require_positive("seconds", seconds, "time", zero=True)
    _require_share(share)
    drifts = _of_share(_drifts(focal_length, seconds, declination, frame), share)
    return replace(frame, roll=float(_ROLLS[int(drifts.argmax())]))


def longest_for_share(
    focal_length: float, tolerance: float, declination: float, frame: Framed, share: float
) -> float:
    """How long a ``share`` of the frame keeps its stars within ``tolerance``, mm: seconds, inf for
    ever. As ``share_within``."""
    _require(focal_length, declination)
    require_positive("tolerance", tolerance, "tolerance")
    _require_share(share)
    return _longest(float(focal_length), float(tolerance), float(declination), frame, float(share))


@lru_cache(maxsize=_KEPT)
def _longest(
    focal_length: float, tolerance: float, declination: float, frame: Framed, share: float
) -> float:
    def too_long(frame: Framed, seconds: float) -> float:
        drift = drift_of_share(focal_length, seconds, declination, frame, share)
        return min(drift, 1e6 * tolerance) - tolerance

    def until(frame: Framed) -> float:
        def too_far(seconds: float) -> float:
            return too_long(frame, seconds)

        if too_far(_HALF_TURN) <= 0:
            return math.inf
        lost = min(tolerance / (focal_length * SKY_TURNS), _HALF_TURN)
        while too_far(lost) <= 0:
            lost = min(2 * lost, _HALF_TURN)
        return crossing(too_far, lost, 0.0)

    # Which way of holding is the worst hardly changes with the time: solve for it, and look again.
    first = tolerance / (focal_length * SKY_TURNS)
    seconds = until(held_worst(focal_length, min(first, _HALF_TURN), declination, frame, share))
    if math.isfinite(seconds) and too_long(frame, seconds) <= 1e-9 * tolerance:
        return seconds
    return until(frame)


@dataclass(frozen=True, slots=True)
class Cells:
    """A frame in cells as it is held: places of their middles, mm, right and up of the frame's
    middle, and how far a star that starts there drifts, mm; nan under the horizon. A row for each
    height, lowest first."""

    right: Array
    up: Array
    drift: Array


def over_frame(
    focal_length: float, seconds: float, declination: float, frame: Framed, across: int
) -> Cells:
    """How far stars drift all over a frame, ``across`` cells along its longer side. Where nobody
    said how it is held, its width runs the way the stars move. As ``share_within``."""
    _require(focal_length, declination)
    right, up = _cells(frame, across)
    x, y = _in_sky(right, up, frame.roll or 0.0)
    drift = _chords(focal_length, seconds, declination, frame, x, y)
    return Cells(right, up, np.where(_seen(frame, focal_length, right, up), drift, np.nan))


def _from(frame: Framed) -> float:
    """How high in the frame the sky begins, mm over its middle."""
    return frame.horizon if frame.horizon < 0.5 * frame.height else -math.inf


def _seen(frame: Framed, focal_length: float, right: Array, up: Array) -> npt.NDArray[np.bool_]:
    """Which points of the frame have a sky in them."""
    if frame.projection is Projection.RECTILINEAR:
        return up >= _from(frame)
    inside = np.hypot(right, up) <= rim(frame.projection, focal_length)
    if not math.isfinite(frame.horizon):
        return inside
    altitude = -angle_of(frame.projection, focal_length, frame.horizon)
    above = inside & in_sky(frame.projection, focal_length, altitude, right, up)
    return above if above.any() else inside


def _cells(frame: Framed, along: int) -> tuple[Array, Array]:
    """Middles of equal cells of the frame, mm."""
    cell = max(frame.width, frame.height) / along
    columns, rows = (max(round(side / cell), 1) for side in (frame.width, frame.height))
    right = ((np.arange(columns) + 0.5) / columns - 0.5) * frame.width
    up = ((np.arange(rows) + 0.5) / rows - 0.5) * frame.height
    across, high = np.meshgrid(right, up)
    return across, high


@lru_cache(maxsize=32)
def _lattice(frame: Framed, focal_length: float) -> tuple[Array, Array]:
    """Points spread evenly over the frame's sky, in no rows."""
    straight = frame.projection is Projection.RECTILINEAR
    bottom = max(_from(frame) if straight else -math.inf, -0.5 * frame.height)
    at = np.arange(_POINTS)
    right = ((at + 0.5) / _POINTS - 0.5) * frame.width
    up = bottom + np.mod(at * _GOLDEN, 1.0) * (0.5 * frame.height - bottom)
    seen = _seen(frame, focal_length, right, up)
    return right[seen], up[seen]


def _in_sky(right: Array, up: Array, roll: float) -> tuple[Array, Array]:
    sine, cosine = math.sin(roll), math.cos(roll)
    return right * cosine + up * sine, up * cosine - right * sine


def _drifts(focal_length: float, seconds: float, declination: float, frame: Framed) -> Array:
    """How far stars all over the frame drift, mm: a row for each way of holding it."""
    right, up = _lattice(frame, focal_length)
    rolls = _ROLLS if frame.roll is None else [frame.roll]
    return np.array(
        [
            _chords(focal_length, seconds, declination, frame, *_in_sky(right, up, float(roll)))
            for roll in rolls
        ]
    )


def _chords(
    focal_length: float, seconds: float, declination: float, frame: Framed, x: Array, y: Array
) -> Array:
    f, t, d = (np.asarray(value) for value in (focal_length, seconds, declination))
    return chords(f, t, d, x, y, frame.projection)


def _of_share(drifts: Array, share: float) -> Array:
    """The drift that a share of each row stays within."""
    at = max(math.ceil(share * drifts.shape[1] - 1e-9), 1) - 1
    return np.partition(drifts, at, axis=1)[:, at]


def _require(focal_length: float, declination: float) -> None:
    require_positive("focal_length", focal_length, "focal length")
    require_declination(declination)


def _require_share(share: float) -> None:
    require_positive("share", share, "share of the frame")
    if share > 1:
        raise OutOfRange("share", share, "A share of the frame is at most 1.")
