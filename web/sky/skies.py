"""What Sky works with, in core units."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, field, replace
from enum import StrEnum

from optics import Kit, Setup
from optics.base.formats import Format
from optics.light.night import Ground, Night
from optics.sky import fractions, parts, star_drift, star_field
from optics.sky.rotation import Place
from web.hand.in_use import InUse

USUAL_MARGIN = 1.5
USUAL_TRAIL_PIXELS = 4.0
"""How far a star may go while the shutter is open, pixels: seen at full size, hardly in a print."""
FOUR_FIFTHS = 0.8
USUAL_ISO = 6400.0
"""What is taken for the highest that a body does well, where nobody said."""
MIDDLE = Place(0.0, 0.0)
_STRAIGHT_UP = math.pi / 2 - 1e-6


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
    ``ground_kit``, ``ground``  the same with the standard in hand, which the ground is held to.
    ``foreground``   the nearest that must be sharp beside the stars, mm; None for nothing;
                     ``underfoot``: what the ground is, where nobody lights it.
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
    in_use: InUse
    ground_kit: Kit
    foreground: float | None
    underfoot: Ground
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
        """The declination to compute with: the equator, the worst there is, if none was said."""
        return star_drift.WORST_DECLINATION if self.aim is None else self.aim.declination

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
        return -self.setup.focal_length * math.tan(self.aim.altitude)

    @property
    def part(self) -> parts.Part:
        """What of the sky is in the picture; where nobody said how it stands there, all that could
        be."""
        if self.aim is None:
            return parts.round_part(self.format.diagonal / 2)
        return parts.frame_part(*self.sides, self.aim.roll, self.horizon)

    @property
    def frame(self) -> fractions.Framed:
        """The picture as it stands under the sky, as far as that was said."""
        roll = None if self.aim is None else self.aim.roll
        return fractions.Framed(*self.sides, roll, self.horizon)

    def longest(self, focal_length: float, trail: float, counts: Counts) -> float:
        """How long a lens keeps the stars of a part of the frame within ``trail``, mm: seconds, inf
        for ever."""
        declination = self.turned_at
        if counts is Counts.MIDDLE:
            return star_field.longest_of(focal_length, trail, declination, MIDDLE)
        if counts is Counts.CORNERS:
            return star_field.longest(focal_length, trail, declination, self.part)
        return fractions.longest_for_share(
            focal_length, trail, declination, self.frame, FOUR_FIFTHS
        )

    def drift(self, seconds: float, counts: Counts) -> float:
        """How far stars in a part of the frame go at most in a time, mm."""
        f, declination = self.setup.focal_length, self.turned_at
        if counts is Counts.MIDDLE:
            return float(star_drift.drift(f, seconds, declination))
        if counts is Counts.CORNERS:
            return star_field.farthest(f, seconds, declination, self.part).drift
        return fractions.drift_of_share(f, seconds, declination, self.frame, FOUR_FIFTHS)

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
