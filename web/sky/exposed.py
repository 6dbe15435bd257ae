"""Which ISO is set for a night, and what is done where the night asks for more than a body has.

Frames laid together gather the light of all of them: n frames are as clean as one at an nth of the
ISO, for what makes them grainy is the light itself, which comes in photons. Nothing more is
claimed: the noise of reading the sensor, and of its heat, is left out, and adds to it in short and
in warm frames. See ``optics.light.exposure.frames_laid``.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

from optics.lens.aperture import exact
from optics.light import dial, exposure, reciprocity
from web.sky.skies import Sky

MOST_FRAMES = 16
"""More are not laid together: it is too dark for that aperture and time."""
LEAST_ISO = 100.0
"""Bodies have none lower that gains anything."""
_SAME = 1.06
"""Of the ISO asked for: a sixth of a stop is no difference."""


@dataclass(frozen=True, slots=True)
class Exposed:
    """What a body is set to for a night.

    ``needed``  the ISO that one frame would take, in thirds of a stop; ``iso``: the one to set, no
                higher than somebody uses.
    ``frames``  how many, laid together, are as clean as one that had light enough for that ISO;
                more than ``MOST_FRAMES`` where it is too dark for that.
    ``stops``   by how much one frame alone is too dark; below 0 too bright, at the lowest ISO.
    ``total``   how long all of them take, s.
    """

    needed: float
    iso: float
    frames: int
    stops: float
    total: float

    @property
    def enough(self) -> bool:
        """Whether one frame does."""
        return self.frames == 1

    @property
    def too_dark(self) -> bool:
        """Whether no sensible number of frames does."""
        return self.frames > MOST_FRAMES

    @property
    def too_bright(self) -> float:
        """By how many stops even the lowest ISO is too bright; 0 where it is not."""
        return max(-self.stops, 0.0)

    @property
    def noise(self) -> float:
        """Of the frames laid together, in that of one: it falls with the root of their number."""
        return 1.0 / math.sqrt(self.frames)


def exposed(sky: Sky, f_number: float, seconds: float) -> Exposed:
    """What is set for the night at an aperture, as its dial names it, and a time, s."""
    ev, usable = sky.night.ev100, sky.iso_usable
    if sky.film:  # is as fast as it is
        metered = reciprocity.metered_of(seconds, sky.reciprocity)
        needed = exposure.iso_for(ev, exact(f_number), metered)
        stops = max(math.log2(needed / sky.film_iso), 0.0)
        return Exposed(dial.named_iso(needed), sky.film_iso, 1, stops, seconds)
    needed = exposure.iso_for(ev, exact(f_number), seconds)
    if needed * _SAME < LEAST_ISO:
        return Exposed(LEAST_ISO, LEAST_ISO, 1, math.log2(needed / LEAST_ISO), seconds)
    if needed <= usable * _SAME:
        return Exposed(dial.named_iso(needed), dial.named_iso(needed), 1, 0.0, seconds)
    frames = exposure.frames_laid(needed / _SAME, usable)
    stops = math.log2(needed / usable)
    return Exposed(dial.named_iso(needed), usable, frames, stops, frames * seconds)


GROUND_ISO = 1600.0
"""For a frame of the ground alone: nothing there moves, so time is cheaper than grain."""
PATIENCE = 240.0
"""s: longer than that the ISO goes up first, as far as it may; then frames are laid together."""


@dataclass(frozen=True, slots=True)
class FilmTime:
    """The time that the meter says for a film, s, and the one that it takes."""

    metered: float
    seconds: float


def film_time(sky: Sky) -> FilmTime:
    """For the night, at the aperture in hand."""
    metered = exposure.seconds_for(sky.night.ev100, exact(sky.setup.f_number), sky.film_iso)
    return FilmTime(metered, film_seconds(sky, sky.night.ev100, sky.setup.f_number))


def film_seconds(sky: Sky, ev100: float, f_number: float) -> float:
    """The time that film takes for a light, s, at an aperture as its dial names it."""
    metered = exposure.seconds_for(ev100, exact(f_number), sky.film_iso)
    return reciprocity.lengthened(metered, sky.reciprocity)


def ground_exposed(sky: Sky, f_number: float) -> tuple[Exposed, float]:
    """What is set for unlit ground in the dark at an aperture, as its dial names it, and the time
    of each frame, s."""
    ev, n = sky.night.ground_ev100(sky.underfoot), exact(f_number)
    if sky.film:
        seconds = dial.named_time(film_seconds(sky, ev, f_number))
        return Exposed(sky.film_iso, sky.film_iso, 1, 0.0, seconds), seconds
    iso = min(GROUND_ISO, sky.iso_usable)
    seconds = exposure.seconds_for(ev, n, iso)
    while seconds > PATIENCE and iso < sky.iso_usable:
        more = min(2.0, sky.iso_usable / iso)
        iso, seconds = more * iso, seconds / more
    if seconds <= PATIENCE:
        seconds = dial.named_time(seconds)
        return Exposed(iso, iso, 1, 0.0, seconds), seconds
    needed = exposure.iso_for(ev, n, PATIENCE)
    frames = exposure.frames_laid(needed / _SAME, iso)
    stops = math.log2(needed / iso)
    return Exposed(dial.named_iso(needed), iso, frames, stops, frames * PATIENCE), PATIENCE
