"""The sky turning about its pole, and what that does to points of a picture.

A lens aimed at declination δ sees the sky in three directions at right angles: west (the way the
stars move, +x), towards the north celestial pole (+y), and ahead. A star at picture point (x, y) of
a rectilinear lens of focal length f lies in the direction (x, y, f). In that frame the pole is
(0, cos δ, sin δ); turning the direction about it by an angle φ (Rodrigues' formula) and dividing by
the part that still points ahead gives where the star is then. Source: [rotation] in
docs/references.md.

What is turned here is not checked: ``stars`` and ``starfield`` do that.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from optics.base.errors import require_angle
from optics.base.numbers import Array
from optics.sky.projection import Projection, directions, places, rim

SKY_TURNS = 7.2921159e-5
"""rad/s: the mean rate of the earth against the stars. Source: [earth]."""

POLE = math.pi / 2
_PAST_THE_POLE = "A declination lies between −90° and 90°."


def require_declination(declination: npt.ArrayLike) -> None:
    """Raise NotANumber or AngleTooLarge for what is no declination, in radians."""
    require_angle("declination", declination, POLE, _PAST_THE_POLE)


@dataclass(frozen=True, slots=True)
class Place:
    """A point of the picture, mm from its middle: +x the way the stars move, +y north."""

    x: float
    y: float


@dataclass(frozen=True, slots=True)
class Turned:
    """By how much directions have changed, mm on a sphere's scale of the picture: ``x`` west, ``y``
    north, ``z`` ahead. Only what changes, so that a short time loses no figures."""

    x: Array
    y: Array
    z: Array


def turned(f: Array, seconds: Array, declination: Array, x: Array, y: Array) -> Turned:
    """The change of the directions (x, y, f) in a time. All broadcast; mm, s, radians."""
    half = 0.5 * SKY_TURNS * seconds
    sine, versed = np.sin(2.0 * half), 2.0 * np.square(np.sin(half))  # sin φ, 1 − cos φ
    north, ahead = np.cos(declination), np.sin(declination)  # of the pole
    along = y * north + f * ahead
    return Turned(
        x=sine * (north * f - ahead * y) - versed * x,
        y=sine * ahead * x - versed * (y - along * north),
        z=-sine * north * x - versed * (f - along * ahead),
    )


def after(
    f: Array,
    seconds: Array,
    declination: Array,
    x: Array,
    y: Array,
    projection: Projection = Projection.RECTILINEAR,
) -> tuple[Array, Array]:
    """Where in the picture stars that start at (x, y) stand after a time, mm; nan once they have
    left a rectilinear lens's half of space."""
    right, up, ahead = directions(projection, f, x, y)
    change = turned(ahead, seconds, declination, right, up)
    if projection is not Projection.RECTILINEAR:
        return places(projection, f, right + change.x, up + change.y, ahead + change.z)
    depth = f + change.z
    depth = np.where(depth > 0, depth, np.nan)
    return f * (x + change.x) / depth, f * (y + change.y) / depth


def chords(
    f: Array,
    seconds: Array,
    declination: Array,
    x: Array,
    y: Array,
    projection: Projection = Projection.RECTILINEAR,
) -> Array:
    """How far stars go on the sensor, mm; inf once they have left a rectilinear lens's half of
    space. Points beyond a fisheye's rim have no stars: 0."""
    if projection is not Projection.RECTILINEAR:
        then_x, then_y = after(f, seconds, declination, x, y, projection)
        seen = np.hypot(x, y) <= _rims(projection, f) * (1 + 1e-9)
        return np.asarray(np.where(seen, np.hypot(then_x - x, then_y - y), 0.0))
    change = turned(f, seconds, declination, x, y)
    depth = f + change.z
    with np.errstate(divide="ignore", invalid="ignore"):
        chord = np.hypot(f * change.x - x * change.z, f * change.y - y * change.z) / depth
    return np.asarray(np.where(depth > 0, chord, np.inf))


def _rims(projection: Projection, f: Array) -> Array:
    return np.asarray(f) * rim(projection, 1.0)
