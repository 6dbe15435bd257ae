"""What Sky works with, in core units."""

from __future__ import annotations

from dataclasses import dataclass, replace

from optics import Setup, stars
from optics.aperture import THIRDS
from optics.formats import Format
from web.bag.in_use import InUse

USUAL_MARGIN = 1.5
USUAL_TRAIL_PIXELS = 3.0
"""How far a star may go while the shutter is open, pixels: seen at full size, not in a print."""
USUAL_LIGHT = -8.0


@dataclass(frozen=True, slots=True)
class Sky:
    """A lens under stars. mm, s, radians.

    ``setup``        with the standard as its circle, diffraction counted always: a star is a point.
    ``star_pixels``  the standard in pixels; None where it was given as a circle.
    ``pitch``        of a pixel, mm; None for film.
    ``margin``       by how much a star is to be smaller than the standard, 1 or more.
    ``trail``        how far a star may drift, mm on the sensor.
    ``declination``  of what the lens points at; None where nobody said.
    ``seconds``      a time to look at; None for the longest that will do.
    ``ev``           of the night, at ISO 100.
    ``ground``       the lens with the standard in hand, which the ground is held to.
    ``foreground``   the nearest that must be sharp beside the stars, mm; None for nothing.
    """

    setup: Setup
    format: Format
    pixels_across: int | None
    upright: bool
    system: str
    star_pixels: float | None
    pitch: float | None
    margin: float
    trail: float
    declination: float | None
    seconds: float | None
    ev: float
    closest: float
    in_use: InUse
    ground: Setup
    foreground: float | None

    @property
    def turned_at(self) -> float:
        """The declination to compute with: the equator, the worst there is, if none was said."""
        return stars.WORST_DECLINATION if self.declination is None else self.declination

    @property
    def corner(self) -> float:
        """From the middle of the picture to its corner, mm."""
        return self.format.diagonal / 2

    @property
    def apertures(self) -> tuple[float, ...]:
        """What the lens can be set to, widest first."""
        if self.in_use.lens is None and self.in_use.tells.apertures is None:
            return THIRDS.names
        return self.in_use.apertures(float(self.setup.focal_length))

    def at_aperture(self, f_number: float) -> Sky:
        """The same sky with the lens at another aperture."""
        return replace(self, setup=replace(self.setup, f_number=f_number))

    def pixels(self, length: float) -> float | None:
        """A length on the sensor in pixels; None for film."""
        return None if self.pitch is None else length / self.pitch
