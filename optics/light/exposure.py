"""Exposure: the same light by another aperture, time, ISO or filter, and what gives way first.

An exposure value counts stops: EV = log₂(N²/t) for f-number N and time t, at ISO 100; a scene of so
many EV is well exposed at ISO S when log₂(N²/t) = EV + log₂(S/100). A filter of d stops lets
through 2⁻ᵈ. What counts close up is the working f-number, N(1 + m/p): a lens drawn out is darker.
Source: [apex] in docs/references.md.
"""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import dataclass, replace
from enum import StrEnum

from optics.base.errors import require_finite, require_positive

BASE_ISO = 100.0


@dataclass(frozen=True, slots=True)
class Exposure:
    """An aperture, a time and a sensitivity, through a filter.

    ``f_number``  above 0, and the working one close up.
    ``seconds``   above 0.
    ``iso``       above 0.
    ``nd_stops``  how many stops a neutral-density filter takes, 0 or more.
    """

    f_number: float
    seconds: float
    iso: float = BASE_ISO
    nd_stops: float = 0.0

    def __post_init__(self) -> None:
        require_positive("f_number", self.f_number, "aperture")
        require_positive("seconds", self.seconds, "time")
        require_positive("iso", self.iso, "ISO")
        require_positive("nd_stops", self.nd_stops, "density of the filter", zero=True)

    @property
    def ev100(self) -> float:
        """The light it is right for, as an exposure value at ISO 100."""
        through = self.f_number**2 / self.seconds
        return math.log2(through) - math.log2(self.iso / BASE_ISO) + self.nd_stops


def seconds_for(
    ev100: float, f_number: float, iso: float = BASE_ISO, nd_stops: float = 0.0
) -> float:
    """The time for a light, s. ``ev100``: exposure value at ISO 100, finite."""
    require_finite("ev100", ev100, "exposure value")
    at_one = Exposure(f_number, 1.0, iso, nd_stops)
    return float(2.0 ** (at_one.ev100 - ev100))


def iso_for(ev100: float, f_number: float, seconds: float, nd_stops: float = 0.0) -> float:
    """The ISO for a light."""
    require_finite("ev100", ev100, "exposure value")
    at_base = Exposure(f_number, seconds, BASE_ISO, nd_stops)
    return float(BASE_ISO * 2.0 ** (at_base.ev100 - ev100))


def frames_laid(iso: float, most_iso: float) -> int:
    """How many frames, where one takes ``iso``, are laid together to be as clean as one that had
    light enough for ``most_iso``.

    Light comes in photons, whose number scatters by its own root [photons]: n frames are as clean
    as one at an nth of the ISO. Nothing is said of the noise of reading or of heat. Both above 0.
    Raises NotANumber, OutOfRange.
    """
    require_positive("iso", iso, "ISO")
    require_positive("most_iso", most_iso, "highest ISO")
    return max(math.ceil(iso / most_iso * (1 - 1e-9)), 1)


def nd_stops_of(factor: float) -> float:
    """A filter's factor (ND 8, ND 64, ND 1000) in stops. ``factor``: 1 or more."""
    require_positive("factor", factor, "factor of the filter")
    require_positive("factor", factor - 1.0, "factor of the filter, less one,", zero=True)
    return math.log2(factor)


@dataclass(frozen=True, slots=True)
class Light:
    """A light by its plain name. ``ev100``: about, for an average scene in it."""

    ev100: float
    name: str


LIGHTS = (
    Light(16, "sun on snow or bright sand"),
    Light(15, "full sun"),
    Light(14, "hazy sun, soft shadows"),
    Light(13, "bright cloud, no shadows"),
    Light(12, "open shade, or heavy cloud"),
    Light(10, "just before sunset, or under trees"),
    Light(8, "a bright street at night, or shop windows"),
    Light(6, "a lit room, or a street at dusk"),
    Light(4, "a dim room, or floodlit walls"),
    Light(2, "street lamps far apart"),
    Light(-2, "full moon on the land"),
    Light(-4, "half moon on the land"),
    Light(-6, "stars and the glow of a town"),
    Light(-8, "stars alone"),
)
"""Brightest first. A guide to within a stop or so: a meter or a trial frame knows. Source:
[lights] in docs/references.md."""


def light_named(ev100: float) -> Light:
    """The named light closest to an exposure value at ISO 100."""
    require_finite("ev100", ev100, "exposure value")
    return min(LIGHTS, key=lambda light: abs(light.ev100 - ev100))


class Gives(StrEnum):
    """What gives way when the light falls."""

    ISO = "iso"
    TIME = "time"
    APERTURE = "aperture"


@dataclass(frozen=True, slots=True)
class Settled:
    """What to set, and what had to give way for it, in order.

    ``short``: how many stops it is still underexposed; 0 if it can be done. ``gave``: what left the
    wished-for value. ``next``: what must give way if the light falls by any more; None if nothing
    is left.
    """

    exposure: Exposure
    gave: tuple[Gives, ...]
    short: float
    next: Gives | None


USUAL_ORDER = (Gives.ISO, Gives.TIME, Gives.APERTURE)


def settle(
    ev100: float,
    wished: Exposure,
    most_iso: float,
    most_seconds: float,
    widest: float | None = None,
    order: Iterable[Gives] = USUAL_ORDER,
) -> Settled:
    """What to set in a light when ISO has a ceiling and the time a floor; what gives way first.

    ``ev100``         the light, exposure value at ISO 100.
    ``wished``        aperture, time and the lowest ISO one would like; its filter stays on.
    ``most_iso``      the ceiling on ISO, at least the wished one.
    ``most_seconds``  the floor on shutter speed: the longest time that still does, at least the
                      wished one.
    ``widest``        the widest f-number that may be opened to; None: the aperture stays.
    ``order``         what gives way first, second, third.
    Too much light is met the other way round: ISO is as wished already, so the time is cut.
    Raises NotANumber, OutOfRange.
    """
    require_finite("ev100", ev100, "exposure value")
    require_positive("most_iso", most_iso, "ceiling on ISO")
    require_positive("most_seconds", most_seconds, "longest time")
    ways = tuple(order)
    missing = wished.ev100 - ev100  # stops of light that the wished exposure lacks
    if missing <= 0:
        seconds = wished.seconds * 2.0**missing
        gave = (Gives.TIME,) if missing < 0 else ()
        return Settled(replace(wished, seconds=seconds), gave, 0.0, next(iter(ways), None))
    room = {
        Gives.ISO: max(math.log2(most_iso / wished.iso), 0.0),
        Gives.TIME: max(math.log2(most_seconds / wished.seconds), 0.0),
        Gives.APERTURE: 0.0
        if widest is None
        else max(2 * math.log2(wished.f_number / widest), 0.0),
    }
    taken = dict.fromkeys(Gives, 0.0)
    for way in ways:
        taken[way] = min(room[way], missing)
        missing -= taken[way]
    left = (way for way in ways if room[way] - taken[way] > _NO_STOPS)
    return Settled(
        exposure=replace(
            wished,
            f_number=wished.f_number * 2.0 ** (-0.5 * taken[Gives.APERTURE]),
            seconds=wished.seconds * 2.0 ** taken[Gives.TIME],
            iso=wished.iso * 2.0 ** taken[Gives.ISO],
        ),
        gave=tuple(way for way in ways if taken[way] > _NO_STOPS),
        short=missing if missing > _NO_STOPS else 0.0,
        next=next(left, None),
    )


_NO_STOPS = 1e-9
