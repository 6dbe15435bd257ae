"""Stars over a fixed camera: how far they drift on the sensor, and how long until that shows.

The sky turns about the celestial pole by ``SKY_TURNS`` radians a second. A lens aimed at
declination δ sees the sky in three directions at right angles: west (the way the stars move, +x),
towards the north celestial pole (+y), and ahead. A star at picture point (x, y) of a rectilinear
lens of focal length f lies in the direction (x, y, f). In that frame the pole is (0, cos δ, sin δ);
turning the direction about it by an angle φ (Rodrigues' formula) and dividing by the part that
still points ahead gives where the star is then. Source: [rotation] in docs/references.md.

Nothing here knows of refraction near the horizon (under 1 % of drift above 10° of height), of
fisheyes, or of lenses that are not rectilinear.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from optics.errors import OutOfRange, require_angle, require_finite, require_positive
from optics.lens import Array, plain
from optics.search import crossing

SKY_TURNS = 7.2921159e-5
"""rad/s: the mean rate of the earth against the stars. Source: [earth]."""

STREAK_AS_DISC = 1.1686
"""A streak of length L is as soft as a disc of so many L: both transmit one half of the contrast
at the same frequency, along the streak. sin(x)/x = ½ at x = 1.895494 against 2J₁(z)/z = ½ at
z = 2.215089; their ratio. See ``wave.DISC_HALF``."""

_POLE = math.pi / 2
_PAST_THE_POLE = "A declination lies between −90° and 90°."


def _require_declination(declination: npt.ArrayLike) -> None:
    require_angle("declination", declination, _POLE, _PAST_THE_POLE)


def drift(
    focal_length: npt.ArrayLike,
    seconds: npt.ArrayLike,
    declination: npt.ArrayLike,
    x: npt.ArrayLike = 0.0,
    y: npt.ArrayLike = 0.0,
) -> Array | float:
    """The chord on the sensor that a star goes, mm; inf once it has left the lens's half of space.

    ``focal_length``  mm, above 0; the lens is focused on the stars.
    ``seconds``       0 or more, finite.
    ``declination``   of what the lens points at, radians, within ± π/2.
    ``x``, ``y``      where in the picture the star starts, mm from its middle.
    Broadcasts. Raises NotANumber, OutOfRange, AngleTooLarge.
    """
    require_positive("focal_length", focal_length, "focal length")
    require_positive("seconds", seconds, "time", zero=True)
    _require_declination(declination)
    require_finite("x", x, "place in the picture")
    require_finite("y", y, "place in the picture")
    return plain(
        _drift(
            *(np.asarray(v, dtype=np.float64) for v in (focal_length, seconds, declination, x, y))
        )
    )


def _drift(f: Array, seconds: Array, declination: Array, x: Array, y: Array) -> Array:
    half = 0.5 * SKY_TURNS * seconds
    sine, turned = np.sin(2.0 * half), 2.0 * np.square(np.sin(half))  # sin φ, 1 − cos φ
    north, ahead = np.cos(declination), np.sin(declination)  # of the pole
    along = y * north + f * ahead
    # Only what changes is computed, so that a short time loses no figures.
    dx = sine * (north * f - ahead * y) - turned * x
    dy = sine * ahead * x - turned * (y - along * north)
    dz = -sine * north * x - turned * (f - along * ahead)
    depth = f + dz
    with np.errstate(divide="ignore", invalid="ignore"):
        chord = np.hypot(f * dx - x * dz, f * dy - y * dz) / depth
    return np.asarray(np.where(depth > 0, chord, np.inf))


@dataclass(frozen=True, slots=True)
class Place:
    """A point of the picture, mm from its middle: +x the way the stars move, +y north."""

    x: float
    y: float


def where_after(
    focal_length: float, seconds: float, declination: float, x: float = 0.0, y: float = 0.0
) -> Place:
    """Where a star stands in the picture after a time; nan once it has left the view.

    Plain numbers only. As ``drift``, which is the distance from here to there.
    """
    require_positive("focal_length", focal_length, "focal length")
    require_positive("seconds", seconds, "time", zero=True)
    _require_declination(declination)
    require_finite("x", x, "place in the picture")
    require_finite("y", y, "place in the picture")
    phi = SKY_TURNS * seconds
    north, ahead = math.cos(declination), math.sin(declination)
    along = y * north + focal_length * ahead
    sine, turned = math.sin(phi), 2.0 * math.sin(0.5 * phi) ** 2
    px = x + sine * (north * focal_length - ahead * y) - turned * x
    py = y + sine * ahead * x - turned * (y - along * north)
    pz = focal_length - sine * north * x - turned * (focal_length - along * ahead)
    if pz <= 0:
        return Place(math.nan, math.nan)
    return Place(focal_length * px / pz, focal_length * py / pz)


WORST_DECLINATION = 0.0
"""The celestial equator: nowhere do stars drift faster over any round part of a frame."""

_ROUND_ANGLES = 180
_RINGS = 7
_HALF_TURN = math.pi / SKY_TURNS


def worst_drift(
    focal_length: float, seconds: float, declination: float, radius: float = 0.0
) -> float:
    """The longest chord of any star that starts within ``radius`` (mm) of the frame's middle.

    However the frame is turned: so its corners are covered by half its diagonal. Found on a
    net of points over the disc and refined along its edge. Plain numbers only. As ``drift``.
    """
    require_positive("radius", radius, "radius", zero=True)
    _require_plain(focal_length, declination)
    require_positive("seconds", seconds, "time", zero=True)
    return _Disc(focal_length, declination, radius).worst(seconds)


@dataclass(frozen=True, slots=True)
class _Disc:
    """The part of the picture that is asked about."""

    focal_length: float
    declination: float
    radius: float

    def chords(self, seconds: float, angle: Array, share: npt.ArrayLike = 1.0) -> Array:
        r = self.radius * np.asarray(share)
        values = (self.focal_length, seconds, self.declination)
        f, t, d = (np.asarray(value) for value in values)
        return _drift(f, t, d, r * np.cos(angle), r * np.sin(angle))

    def worst(self, seconds: float) -> float:
        if self.radius == 0:
            return float(self.chords(seconds, np.asarray(0.0)))
        angles = np.linspace(0, 2 * math.pi, _ROUND_ANGLES, endpoint=False)
        shares = np.linspace(0, 1, _RINGS)[:, np.newaxis]
        net = self.chords(seconds, angles, shares)
        best = float(net.max())
        if math.isinf(best):
            return best
        at = int(net[-1].argmax())
        width = angles[1]
        middle = angles[at]
        for _ in range(3):  # each time a tenth of the step, round the best point of the edge
            near = middle + np.linspace(-width, width, 21)
            edge = self.chords(seconds, near)
            middle, width = near[int(edge.argmax())], width / 10
            best = max(best, float(edge.max()))
        return best


def _require_plain(focal_length: float, declination: float) -> None:
    require_positive("focal_length", focal_length, "focal length")
    _require_declination(declination)


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
    require_positive("tolerance", tolerance, "tolerance")
    require_positive("radius", radius, "radius", zero=True)
    _require_plain(focal_length, declination)
    disc = _Disc(focal_length, declination, radius)
    if disc.worst(_HALF_TURN) <= tolerance:
        return math.inf

    def too_far(seconds: float) -> float:
        return disc.worst(seconds) - tolerance

    # The start of the curve is nearly straight: a bracket about where it would lead.
    guess = tolerance / (focal_length * SKY_TURNS)
    lost = min(guess, _HALF_TURN)
    while too_far(lost) <= 0:
        lost = min(4 * lost, _HALF_TURN)
    return crossing(too_far, lost, 0.0)


def declination_of(
    latitude: npt.ArrayLike, azimuth: npt.ArrayLike, altitude: npt.ArrayLike
) -> Array | float:
    """The declination of what the lens points at, radians.

    ``latitude`` north positive, within ± π/2; ``azimuth`` from true north through east;
    ``altitude`` above the horizon, within ± π/2; all radians. Broadcasts.
    sin δ = sin φ sin a + cos φ cos a cos A: the cosine rule, [rotation].
    Raises NotANumber, OutOfRange, AngleTooLarge.
    """
    require_angle("latitude", latitude, _POLE, "A latitude lies between −90° and 90°.")
    require_angle("altitude", altitude, _POLE, "A height above the horizon is at most 90°.")
    require_finite("azimuth", azimuth, "direction")
    phi, a, direction = (np.asarray(v, dtype=np.float64) for v in (latitude, altitude, azimuth))
    sine = np.sin(phi) * np.sin(a) + np.cos(phi) * np.cos(a) * np.cos(direction)
    return plain(np.arcsin(np.clip(sine, -1.0, 1.0)))


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


@dataclass(frozen=True, slots=True)
class Gathered:
    """What a lens collects before stars trail.

    ``seconds``  the longest exposure.
    ``of_star``  area of the entrance pupil × time, mm²·s: how faint a star can be.
    ``of_sky``   time ÷ N², s: how bright the sky, the Milky Way and a foreground come out.
    """

    seconds: float
    of_star: float
    of_sky: float


def gathered(
    focal_length: float, f_number: float, tolerance: float, declination: float, radius: float = 0.0
) -> Gathered:
    """The light a lens gathers before stars trail, to rank the lenses of a bag.

    As ``longest_exposure``; ``f_number`` above 0. Raises OutOfRange where stars never trail.
    """
    require_positive("f_number", f_number, "aperture")
    seconds = longest_exposure(focal_length, tolerance, declination, radius)
    if math.isinf(seconds):
        raise OutOfRange("declination", declination, "There no star ever drifts that far.")
    pupil = math.pi / 4 * (focal_length / f_number) ** 2
    return Gathered(seconds, pupil * seconds, seconds / f_number**2)
