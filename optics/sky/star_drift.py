"""Stars over a fixed camera: how far they drift on the sensor, and how long until that shows.

The geometry stands in ``rotation``; which star of a frame is the worst, in ``starfield``.

Nothing here knows of refraction near the horizon (under 1 % of drift above 10° of height).
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import overload

import numpy as np
import numpy.typing as npt

from optics.base.errors import require_angle, require_finite, require_positive
from optics.base.numbers import Array, plain
from optics.sky import parts, rotation, star_field
from optics.sky.projection import Projection
from optics.sky.rotation import POLE, Place, require_declination
from optics.sky.rotation import SKY_TURNS as SKY_TURNS  # part of what this module says

STREAK_AS_DISC = 1.1686
"""A streak of length L is as soft as a disc of so many L: both transmit one half of the contrast
at the same frequency, along the streak. sin(x)/x = ½ at x = 1.895494 against 2J₁(z)/z = ½ at
z = 2.215089; their ratio. See ``wave.DISC_HALF``."""


@overload
def drift(
    focal_length: float,
    seconds: float,
    declination: float,
    x: float = ...,
    y: float = ...,
    projection: Projection = ...,
) -> float: ...
@overload
def drift(
    focal_length: npt.ArrayLike,
    seconds: npt.ArrayLike,
    declination: npt.ArrayLike,
    x: npt.ArrayLike = ...,
    y: npt.ArrayLike = ...,
    projection: Projection = ...,
) -> Array | float: ...
def drift(
    focal_length: npt.ArrayLike,
    seconds: npt.ArrayLike,
    declination: npt.ArrayLike,
    x: npt.ArrayLike = 0.0,
    y: npt.ArrayLike = 0.0,
    projection: Projection = Projection.RECTILINEAR,
) -> Array | float:
    """The chord on the sensor that a star goes, mm; inf once it has left the half of space of a
    rectilinear lens, 0 beyond the rim of a fisheye.

    ``focal_length``  mm, above 0; the lens is focused on the stars.
    ``seconds``       0 or more, finite.
    ``declination``   of what the lens points at, radians, within ± π/2.
    ``x``, ``y``      where in the picture the star starts, mm from its middle.
    ``projection``    how the lens draws.
    Broadcasts. Raises NotANumber, OutOfRange, AngleTooLarge.
    """
    require_positive("focal_length", focal_length, "focal length")
    require_positive("seconds", seconds, "time", zero=True)
    require_declination(declination)
    require_finite("x", x, "place in the picture")
    require_finite("y", y, "place in the picture")
    return plain(
        rotation.chords(
            np.asarray(focal_length, dtype=np.float64),
            np.asarray(seconds, dtype=np.float64),
            np.asarray(declination, dtype=np.float64),
            np.asarray(x, dtype=np.float64),
            np.asarray(y, dtype=np.float64),
            projection,
        )
    )


def where_after(
    focal_length: float,
    seconds: float,
    declination: float,
    x: float = 0.0,
    y: float = 0.0,
    projection: Projection = Projection.RECTILINEAR,
) -> Place:
    """Where a star stands in the picture after a time; nan once it has left the view.

    Plain numbers only. As ``drift``, which is the distance from here to there.
    """
    require_positive("focal_length", focal_length, "focal length")
    require_positive("seconds", seconds, "time", zero=True)
    require_declination(declination)
    require_finite("x", x, "place in the picture")
    require_finite("y", y, "place in the picture")
    f, t, d = (np.asarray(v, dtype=np.float64) for v in (focal_length, seconds, declination))
    then_x, then_y = rotation.after(f, t, d, np.asarray(x), np.asarray(y), projection)
    return Place(float(then_x), float(then_y))


WORST_DECLINATION = 0.0
"""The celestial equator: nowhere do stars drift faster over any round part of a frame."""


def longest_exposure(
    focal_length: float, tolerance: float, declination: float, radius: float = 0.0
) -> float:
    """How long until the worst star within ``radius`` of the frame's middle has drifted too far.

    ``tolerance``    the longest chord allowed, mm, above 0.
    ``declination``  of what the lens points at, radians; ``WORST_DECLINATION`` if not known.
    ``radius``       mm, 0 or more; half the frame's diagonal covers the frame.
    Returns seconds; inf if no star ever drifts so far (round the pole). Plain numbers only.
    Raises NotANumber, OutOfRange, AngleTooLarge.
    """
    return star_field.longest(focal_length, tolerance, declination, parts.round_part(radius))


@overload
def declination_of(latitude: float, azimuth: float, altitude: float) -> float: ...
@overload
def declination_of(
    latitude: npt.ArrayLike, azimuth: npt.ArrayLike, altitude: npt.ArrayLike
) -> Array | float: ...
def declination_of(
    latitude: npt.ArrayLike, azimuth: npt.ArrayLike, altitude: npt.ArrayLike
) -> Array | float:
    """The declination of what the lens points at, radians.

    ``latitude`` north positive, within ± π/2; ``azimuth`` from true north through east;
    ``altitude`` above the horizon, within ± π/2; all radians. Broadcasts.
    sin δ = sin φ sin a + cos φ cos a cos A: the cosine rule, [rotation].
    Raises NotANumber, OutOfRange, AngleTooLarge.
    """
    require_angle("latitude", latitude, POLE, "A latitude lies between −90° and 90°.")
    require_angle("altitude", altitude, POLE, "A height above the horizon is at most 90°.")
    require_finite("azimuth", azimuth, "direction")
    phi, a, direction = (np.asarray(v, dtype=np.float64) for v in (latitude, altitude, azimuth))
    sine = np.sin(phi) * np.sin(a) + np.cos(phi) * np.cos(a) * np.cos(direction)
    return plain(np.arcsin(np.clip(sine, -1.0, 1.0)))


@dataclass(frozen=True, slots=True)
class Aim:
    """Where a level camera points, radians. ``declination``; ``altitude`` above the horizon;
    ``roll``: by how much the frame's up is turned from the celestial north towards the west."""

    declination: float
    altitude: float
    roll: float


def aimed(latitude: float, azimuth: float, altitude: float) -> Aim:
    """Where a level camera points. As ``stars.declination_of``; plain numbers only.

    tan of the roll = sin A cos φ ÷ (sin φ cos a − cos φ sin a cos A). At a pole of the sky, where
    no direction is north, and where the lens points straight up, it is what it is just beside.
    Raises NotANumber, OutOfRange, AngleTooLarge.
    """
    declination = declination_of(latitude, azimuth, altitude)
    up = math.sin(latitude) * math.cos(altitude)
    up -= math.cos(latitude) * math.sin(altitude) * math.cos(azimuth)
    return Aim(declination, altitude, math.atan2(math.sin(azimuth) * math.cos(latitude), up))


def rule_number(focal_length: float, seconds: float, crop_factor: float = 1.0) -> float:
    """What the number of a rule *number ÷ focal length* would have to be for the same time.

    ``crop_factor``: how much smaller than full frame the format's diagonal is, for rules that
    speak of equivalent focal lengths; 1 for those that mean the engraved one. All above 0.
    """
    require_positive("focal_length", focal_length, "focal length")
    require_positive("seconds", seconds, "time", finite=False)
    require_positive("crop_factor", crop_factor, "crop factor")
    return seconds * focal_length * crop_factor


def seconds_of_rule(number: float, focal_length: float, crop_factor: float = 1.0) -> float:
    """The time, s, that a rule *number ÷ focal length* gives. As ``rule_number``."""
    require_positive("number", number, "number of the rule")
    return number / rule_number(focal_length, 1.0, crop_factor)
