"""How bright a night is: its sky by a class or a meter, the moon, and ground that nobody lights.

A sky of m magnitudes per square arc second has a luminance of 1.08 × 10⁵ × 10^(−0.4 m) cd/m²
[magnitudes], and 0.125 cd/m² is EV 0 at ISO 100 [apex]. A night is to look like one: it is put
``UNDER`` stops under a meter's middle grey. Moonlight in the sky is the model of [moonlight], for a
moon 45° high and a picture 45° high, a right angle away from it; ground gives back a share of what
falls on it from the whole sky and from the moon. What that may be off by: ``Night.doubt``.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from enum import StrEnum

from optics.base.errors import OutOfRange, require_finite, require_positive

DARKEST, BRIGHTEST = 22.5, 14.0
"""Magnitudes per square arc second that a sky under stars has, from none to a lit square."""
UNDER = 1.0
"""Stops under middle grey that a night sky is put."""
_EV_0 = 0.125
USUAL_MAGNITUDE = -2.5 * math.log10(_EV_0 * 2.0 ** (-8.0 - UNDER) / 1.08e5)
"""Magnitudes per square arc second of a sky of stars alone, which is exposed by EV −8: 21.6."""
_NANOLAMBERT = 3.183e-6
"""cd/m²."""
_FOOTCANDLE = 10.764
"""lux."""
_EXTINCTION = 0.172
"""Magnitudes that clear air takes, straight up."""
_HEIGHT = math.pi / 4
"""Of the moon and of what is pointed at; they stand ``_APART``."""
_APART = 90.0


@dataclass(frozen=True, slots=True)
class SkyClass:
    """A dark-sky class: its number, 1 to 9, in plain words, its magnitudes per square arc second,
    and how far off that may be, magnitudes."""

    number: int
    name: str
    magnitude: float
    doubt: float


CLASSES = (
    SkyClass(1, "no lamp anywhere", 22.0, 0.2),
    SkyClass(2, "faint glows far off", 21.94, 0.2),
    SkyClass(3, "glows low on the horizon", 21.8, 0.25),
    SkyClass(4, "towns glow, Milky Way plain", 21.1, 0.6),
    SkyClass(5, "Milky Way only overhead, pale", 20.0, 0.5),
    SkyClass(6, "edge of a town, hardly a Milky Way", 19.2, 0.4),
    SkyClass(7, "suburb, the sky grey", 18.7, 0.4),
    SkyClass(8, "town, a page can be read", 18.1, 0.5),
    SkyClass(9, "city, the brightest stars only", 17.5, 0.7),
)
"""Darkest first; each in the middle of what is usual for it. Source: [dark-sky]."""


class Moon(StrEnum):
    """How much of a moon there is, in plain words."""

    NONE = "none"
    CRESCENT = "crescent"
    HALF = "half"
    GIBBOUS = "nearly-full"
    FULL = "full"


_PHASES = {Moon.CRESCENT: 130.0, Moon.HALF: 90.0, Moon.GIBBOUS: 45.0, Moon.FULL: 5.0}
"""Degrees between sun and earth, seen from the moon: 0 when it is full."""


class Ground(StrEnum):
    """What unlit ground is, in plain words."""

    SNOW = "snow"
    PALE = "pale"
    GRASS = "grass"
    DARK = "dark"


REFLECTED = {Ground.SNOW: 0.8, Ground.PALE: 0.3, Ground.GRASS: 0.15, Ground.DARK: 0.06}
"""The share of light that ground gives back. Source: [ground]."""


def luminance(magnitude: float) -> float:
    """Of a sky, cd/m². ``magnitude``: per square arc second, finite."""
    require_finite("magnitude", magnitude, "magnitude of the sky")
    return float(1.08e5 * 10.0 ** (-0.4 * magnitude))


def magnitude_of(luminance: float) -> float:
    """The other way round. ``luminance``: cd/m², above 0."""
    require_positive("luminance", luminance, "luminance")
    return -2.5 * math.log10(luminance / 1.08e5)


def exposure_value(luminance: float) -> float:
    """The exposure value at ISO 100 at which something so bright, cd/m², looks like night."""
    require_positive("luminance", luminance, "luminance")
    return math.log2(luminance / _EV_0) + UNDER


def moon_on_level_ground(moon: Moon) -> float:
    """What the moon throws on level ground, lux."""
    if moon is Moon.NONE:
        return 0.0
    return _outside(moon) * _FOOTCANDLE * _through(_EXTINCTION * _air()) * math.sin(_HEIGHT)


def moon_in_sky(moon: Moon) -> float:
    """What the moon adds to the luminance of the sky, cd/m²."""
    if moon is Moon.NONE:
        return 0.0
    apart = math.radians(_APART)
    scattered = 10.0**5.36 * (1.06 + math.cos(apart) ** 2) + 10.0 ** (6.15 - _APART / 40.0)
    dimmed = _through(_EXTINCTION * _air())
    return float(scattered * _outside(moon) * dimmed * (1.0 - dimmed) * _NANOLAMBERT)


def _outside(moon: Moon) -> float:
    """Its light above the air, footcandles."""
    phase = _PHASES[moon]
    return float(10.0 ** (-0.4 * (3.84 + 0.026 * phase + 4e-9 * phase**4)))


def _air() -> float:
    """How much air it comes through, as against straight down."""
    return 1.0 / math.sqrt(1.0 - 0.96 * math.cos(_HEIGHT) ** 2)


def _through(magnitudes: float) -> float:
    return float(10.0 ** (-0.4 * magnitudes))


@dataclass(frozen=True, slots=True)
class Night:
    """A sky and the moon in it.

    ``magnitude``  of the sky without the moon, per square arc second, 14 to 22.5.
    ``moon``       how much of it is up; ``known``: by how many magnitudes the sky may be off.
    ``glow``       what else shines in it where the lens points, such as an aurora, cd/m².
    Raises NotANumber, OutOfRange.
    """

    magnitude: float = USUAL_MAGNITUDE
    moon: Moon = Moon.NONE
    known: float = 0.75
    glow: float = 0.0

    def __post_init__(self) -> None:
        require_finite("magnitude", self.magnitude, "magnitude of the sky")
        if not BRIGHTEST <= self.magnitude <= DARKEST:
            said = f"A night sky is from {BRIGHTEST:g} to {DARKEST:g} magnitudes."
            raise OutOfRange("magnitude", self.magnitude, said)
        require_positive("known", self.known, "doubt of the sky", zero=True)
        require_positive("glow", self.glow, "glow of the sky", zero=True)

    @property
    def luminance(self) -> float:
        """Of what the lens points at, cd/m²: the sky, the moon in it, and its glow."""
        return self.around + self.glow

    @property
    def around(self) -> float:
        """Of the sky with the moon in it, cd/m²."""
        return luminance(self.magnitude) + moon_in_sky(self.moon)

    @property
    def ev100(self) -> float:
        """What the sky is exposed by."""
        return exposure_value(self.luminance)

    @property
    def moon_stops(self) -> float:
        """By how much the moon brightens the sky: what the Milky Way loses against it."""
        return math.log2(self.around / luminance(self.magnitude))

    @property
    def doubt(self) -> float:
        """How far off all this may be, stops: what the sky is known by, and a moon higher, lower
        or nearer than assumed."""
        plain = self.moon is Moon.NONE and not self.glow
        return max(self.known * 0.4 * math.log2(10.0), 0.0 if plain else 1.0)

    def ground_ev100(self, ground: Ground) -> float:
        """What unlit ground is exposed by: it gives back a share of the sky's light and the
        moon's."""
        falls = self.around + moon_on_level_ground(self.moon) / math.pi
        return exposure_value(REFLECTED[ground] * falls)

    def ground_darker(self, ground: Ground) -> float:
        """By how many stops unlit ground is darker than the sky; below 0 where it is brighter."""
        return self.ev100 - self.ground_ev100(ground)
