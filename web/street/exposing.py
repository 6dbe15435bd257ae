"""What the light allows at one aperture: time, ISO, and which gives way first."""

from __future__ import annotations

from dataclasses import dataclass

from optics.lens.aperture import exact
from optics.light import dial, exposure, motion
from optics.zones import stretches
from web.street.streets import BASE_ISO, Street
from web.street.usecases import Answer

LIGHTS = (15.0, 13.0, 12.0, 10.0, 8.0, 6.0, 4.0, 2.0)
"""From full sun to street lamps far apart: exposure values at ISO 100."""


@dataclass(frozen=True, slots=True)
class Opened:
    """What opening up to an f-number would do, the ring left where it is: the gaps, mm."""

    f_number: float
    gaps: tuple[tuple[float, float], ...]


@dataclass(frozen=True, slots=True)
class Lit:
    """A light, and what to set in it. ``here``: the one chosen. ``short``: stops still missing with
    the ISO at its ceiling and the time at its limit; then ``slower`` is the time that would do, s,
    and ``opened`` what opening up instead does; None if the lens cannot open so far."""

    ev: float
    name: str
    here: bool
    seconds: float
    iso: float
    short: float
    slower: float
    opened: Opened | None


@dataclass(frozen=True, slots=True)
class Exposing:
    """By light, brightest first. ``first``: the brightest in which something gives way; None for
    none. ``still_from``: how near a walker across may come to be still at the slowest time, mm."""

    lights: tuple[Lit, ...]
    first: Lit | None
    still_from: float

    @property
    def here(self) -> Lit:
        """In the light chosen."""
        return next(lit for lit in self.lights if lit.here)


def exposing(answer: Answer) -> Exposing:
    """The aperture kept; ISO gives way up to its ceiling, the time not past its limit."""
    street = answer.street
    wanted = sorted({*LIGHTS, street.ev}, reverse=True)
    lights = tuple(_lit(answer, ev) for ev in wanted)
    still_from = motion.distance_where_still(street.setup, street.speed, street.slowest)
    return Exposing(lights, next((lit for lit in lights if lit.short), None), still_from)


def lit_here(answer: Answer) -> Lit:
    """What to set in the light chosen."""
    return _lit(answer, answer.street.ev)


def _lit(answer: Answer, ev: float) -> Lit:
    street = answer.street
    n = exact(street.setup.f_number)
    wished = exposure.Exposure(n, street.slowest, min(BASE_ISO, street.iso_most))
    order = (exposure.Gives.ISO,)
    found = exposure.settle(ev, wished, street.iso_most, street.slowest, order=order)
    opened = None
    if found.short:
        opened = _opened(street, answer.focuses, answer, n * 2.0 ** (-0.5 * found.short))
    return Lit(
        ev=ev,
        name=exposure.light_named(ev).name,
        here=ev == street.ev,
        seconds=dial.named_time(found.exposure.seconds),
        iso=min(dial.named_iso(found.exposure.iso), street.iso_most),
        short=found.short,
        slower=dial.named_time(found.exposure.seconds * 2.0**found.short),
        opened=opened,
    )


def _opened(
    street: Street, focuses: tuple[float, ...], answer: Answer, f_number: float
) -> Opened | None:
    """The narrowest aperture of the lens that is wide enough; None if none is."""
    enough = [n for n in street.apertures if exact(n) <= f_number * 1.01]
    if not enough:
        return None
    setup = street.at(max(enough)).setup
    gaps = stretches.left_open(setup, focuses, answer.band.from_, answer.band.far)
    return Opened(max(enough), tuple((gap.near, gap.far) for gap in gaps))
