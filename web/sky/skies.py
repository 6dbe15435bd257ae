"""What Sky works with, in core units."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, field, replace
from enum import StrEnum
from functools import lru_cache

from optics import Kit, Setup
from optics.base.formats import Format
from optics.light.aurora import Aurora
from optics.light.night import Ground, Night
from optics.sky import fractions, parts, star_drift, star_field, tracking
from optics.sky.projection import Projection, radius_of, rim
from optics.sky.rotation import Place
from web.hand.in_use import InUse
from web.sky.kinds import Subject

USUAL_MARGIN = 1.5
USUAL_TRAIL_PIXELS = 4.0
"""How far a star may go while the shutter is open, pixels: seen at full size, hardly in a print."""
FOUR_FIFTHS = 0.8
USUAL_ISO = 6400.0
"""What is taken for the highest that a body does well, where nobody said."""
MIDDLE = Place(0.0, 0.0)
_STRAIGHT_UP = math.pi / 2 - 1e-6
_AROUND = tuple(math.radians(degrees) for degrees in range(0, 91, 15))
_A_MINUTE = 60.0


class Counts(StrEnum):
    """Which part of the frame its stars are to stay points in."""

    MIDDLE = "middle"
    MOST = "four-fifths"
    CORNERS = "corners"


PARTS = {
    Counts.MIDDLE: "the middle",
    Counts.MOST: "four fifths of the frame",
    Counts.CORNERS: "every corner",
}
"""As people say it."""


@dataclass(frozen=True, slots=True)
class Sky:
    """A lens under stars. mm, s, radians.

    ``kit``          with the standard for stars, diffraction counted always: a star is a point.
    ``setup``        that at the aperture in hand.
    ``star_pixels``  the standard in pixels; None where it was given as a circle.
    ``pitch``        of a pixel, mm; None for film.
    ``margin``       by how much a star is to be smaller than the standard, 1 or more.
    ``trail``        how far a star may drift, mm on the sensor; ``counts``: where that counts.
    ``ring``         where a hand has set it, mm; None for where the margin puts it.
    ``aim``          where the lens points; None where nobody said.
    ``seconds``      a time to look at; None for the longest that will do.
    ``night``        how bright it is, and ``night_said``: how that is spoken of.
    ``iso_usable``   the highest that somebody uses.
    ``subject``      an aurora, or what else is taken; ``projection``: how the lens draws.
    ``off_pole``     of a mount that follows the sky, radians; None on a tripod.
    ``film_iso``, ``reciprocity``  of film: its ISO, and the exponent by which it grows slower.
    ``ground_kit``, ``ground``  the same with the standard in hand, which the ground is held to.
    ``foreground``   the nearest that must be sharp beside the stars, mm; None for nothing;
                     ``underfoot``: what the ground is, where nobody lights it; ``ground_last``:
                     whether its frames are taken after those of the stars.
    """

    kit: Kit
    f_number: float
    format: Format
    pixels_across: int | None
    upright: bool
    system: str
    star_pixels: float | None
    pitch: float | None
    margin: float
    trail: float
    counts: Counts
    ring: float | None
    aim: star_drift.Aim | None
    seconds: float | None
    night: Night
    night_said: str
    iso_usable: float
    subject: Aurora | Subject
    projection: Projection
    off_pole: float | None
    film_iso: float
    reciprocity: float
    in_use: InUse
    ground_kit: Kit
    foreground: float | None
    underfoot: Ground
    ground_last: bool
    setup: Setup = field(init=False, repr=False, compare=False)
    ground: Setup = field(init=False, repr=False, compare=False)

    def __post_init__(self) -> None:
        object.__setattr__(self, "setup", self.kit.at(self.f_number))
        object.__setattr__(self, "ground", self.ground_kit.at(self.f_number))

    @property
    def closest(self) -> float:
        """The nearest that the lens focuses, mm."""
        return self.kit.closest

    @property
    def turned_at(self) -> float:
        """The declination to compute with for the part of the frame that counts."""
        return self.turned_for(self.setup.focal_length, self.counts)

    @property
    def sides(self) -> tuple[float, float]:
        """The picture's width and height as it is held, mm."""
        sides = (self.format.width, self.format.height)
        return sides[::-1] if self.upright else sides

    @property
    def horizon(self) -> float:
        """How high over the picture's middle the level horizon runs, mm; −inf where it is not in
        front of the lens, or nobody said where that points."""
        if self.aim is None or self.aim.altitude >= _STRAIGHT_UP:
            return -math.inf
        return -radius_of(self.projection, self.setup.focal_length, self.aim.altitude)

    @property
    def tracked(self) -> bool:
        """Whether a mount follows the sky."""
        return self.off_pole is not None

    @property
    def pace(self) -> float:
        """The share of the sky's pace at which stars go over the sensor."""
        return 1.0 if self.off_pole is None else tracking.pace_left(self.off_pole)

    @property
    def placed(self) -> star_drift.Aim | None:
        """How the picture stands under the turning sky; None where that is not known, or a mount
        that follows turns the camera with it."""
        return None if self.tracked else self.aim

    @property
    def film(self) -> bool:
        """Whether there are no pixels."""
        return self.pitch is None

    @property
    def aurora(self) -> Aurora | None:
        """The aurora that is taken, if one is."""
        return self.subject if isinstance(self.subject, Aurora) else None

    @property
    def straight(self) -> bool:
        """Whether the lens keeps straight lines straight."""
        return self.projection is Projection.RECTILINEAR

    @property
    def part(self) -> parts.Part:
        """What of the sky is in the picture; where nobody said how it stands there, all that could
        be."""
        placed = self.placed
        if placed is None:
            widest = rim(self.projection, self.setup.focal_length)
            return parts.round_part(min(self.format.diagonal / 2, widest), self.projection)
        if self.straight:
            return parts.frame_part(*self.sides, placed.roll, self.horizon)
        return parts.fisheye_part(
            *self.sides,
            placed.roll,
            self.setup.focal_length,
            self.projection,
            placed.altitude,
        )

    @property
    def frame(self) -> fractions.Framed:
        """The picture as it stands under the sky, as far as that was said."""
        placed = self.placed
        roll = None if placed is None else placed.roll
        return fractions.Framed(*self.sides, roll, self.horizon, self.projection)

    def turned_for(self, focal_length: float, counts: Counts) -> float:
        """The declination to compute with for a part of the frame: the worst there is, where nobody
        said where the lens points. That is the equator, but for what a fisheye has off its axis."""
        if self.placed is not None:
            return self.placed.declination
        if self.straight or counts is Counts.MIDDLE:
            return star_drift.WORST_DECLINATION
        return _worst(focal_length, counts, self.frame, self.part)

    def longest(self, focal_length: float, trail: float, counts: Counts) -> float:
        """How long a lens keeps the stars of a part of the frame within ``trail``, mm: seconds, inf
        for ever."""
        return self._longest(focal_length, trail, counts) / self.pace

    def _longest(self, focal_length: float, trail: float, counts: Counts) -> float:
        declination = self.turned_for(focal_length, counts)
        if counts is Counts.MIDDLE:
            return star_field.longest_of(focal_length, trail, declination, MIDDLE, self.projection)
        if counts is Counts.CORNERS:
            return star_field.longest(focal_length, trail, declination, self.part)
        return fractions.longest_for_share(
            focal_length, trail, declination, self.frame, FOUR_FIFTHS
        )

    def drift(self, seconds: float, counts: Counts) -> float:
        """How far stars in a part of the frame go at most in a time, mm."""
        f = self.setup.focal_length
        declination = self.turned_for(f, counts)
        return _drift(f, self.turns(seconds), declination, counts, self.frame, self.part)

    def turns(self, seconds: float) -> float:
        """The time, s, in which stars over a tripod would go as far as here in so many seconds."""
        return seconds * self.pace

    def ground_drift(self, seconds: float) -> float:
        """How far what stands still goes over the sensor in a time, mm: on a mount that follows,
        about as far as stars do on a tripod."""
        if not self.tracked:
            return 0.0
        declination = star_drift.WORST_DECLINATION if self.aim is None else self.aim.declination
        f = self.setup.focal_length
        return float(star_drift.drift(f, seconds, declination, projection=self.projection))

    @property
    def unit_length(self) -> float:
        """What lengths on the sensor are counted in, mm: pixels; on film, the circle."""
        return self.setup.coc if self.pitch is None else self.pitch

    @property
    def unit(self) -> str:
        """The word for that."""
        return "× the circle" if self.pitch is None else "px"

    @property
    def apertures(self) -> Sequence[float]:
        """What the lens can be set to, widest first."""
        return self.kit.apertures

    def at(self, f_number: float) -> Sky:
        """The same sky with the lens at another aperture."""
        return replace(self, f_number=f_number)


def _drift(
    f: float,
    seconds: float,
    declination: float,
    counts: Counts,
    frame: fractions.Framed,
    part: parts.Part,
) -> float:
    if counts is Counts.MIDDLE:
        return float(star_drift.drift(f, seconds, declination, projection=frame.projection))
    if counts is Counts.CORNERS:
        return star_field.farthest(f, seconds, declination, part).drift
    return fractions.drift_of_share(f, seconds, declination, frame, FOUR_FIFTHS)


@lru_cache(maxsize=256)
def _worst(f: float, counts: Counts, frame: fractions.Framed, part: parts.Part) -> float:
    """The declination at which a part of the frame has the fastest stars."""
    return max(_AROUND, key=lambda at: _drift(f, _A_MINUTE, at, counts, frame, part))
