"""What stands on the cards of a lens: each number a setting that a hand finds, judged as such."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

from drawing import ring_strip as ring_strips
from drawing import sliding_strip
from optics import Setup
from optics.base import settable
from optics.base.settable import Span
from optics.base.systems import BY_KEY
from optics.lens.depth import hyperfocal, limits
from optics.lens.ring_strip import ring_strip
from optics.lens.short_card import Stretch, short_card
from optics.lens.sliding import sliding
from web.bag.models import Turn
from web.cards.asked import Asked

STRIP_MM = 170.0
"""How long the scale of a sliding strip is."""
NARROW_MM = 82.0
"""The same on a phone, where it is dragged."""
_FROM = 25.0
"""Focal lengths: nearer than that a scale would leave no room for the rest."""
_BEYOND = 2.5
"""Hyperfocal distances: farther than that all settings are alike, but infinity itself."""


@dataclass(frozen=True, slots=True)
class Row:
    """A setting and what it holds. mm from the sensor.

    ``focal_length``, ``f_number``  of the lens. ``focus``: where a hand sets the ring. ``held``:
    from where to where it is sharp, written inwards; None for nothing. ``here``: whether it is the
    nearest that holds infinity.
    """

    focal_length: float
    f_number: float
    focus: float
    held: Span | None
    here: bool = False

    @property
    def exact(self) -> float:
        """As a hand finds it."""
        return math.nan


def zoom_rows(asked: Asked) -> tuple[Row, ...]:
    """For each focal length that is engraved, where infinity just holds, and from where on."""
    setups = map(asked.setup_of, asked.focal_lengths)
    return tuple(nearest_for_infinity(setup, asked.system) for setup in setups)


def nearest_for_infinity(setup: Setup, system: str) -> Row:
    """The nearest setting that holds infinity, and what it holds."""
    return _row(setup, settable.up(hyperfocal(setup), system), system)


def short_rows(asked: Asked) -> tuple[Stretch, ...]:
    """The fewest numbers for the whole zoom; where they change, on whole millimetres, as a zoom
    ring is read."""
    lens = asked.lens
    ends = lens.shortest_mm, lens.longest_mm
    return short_card(asked.setup_of, *ends, asked.give, asked.system, step=1.0)


def short_by_aperture(asked: Asked) -> tuple[tuple[float, tuple[Stretch, ...]], ...]:
    """The short card of each whole stop, where anything is that sharp."""
    found = ((n, short_rows(replace(asked, f_number=n))) for n in _whole_stops(asked))
    return tuple((n, rows) for n, rows in found if rows)


def over_and_under(asked: Asked) -> tuple[Row, ...]:
    """What a ring set nearer or farther than it should be holds: at every mark that rings carry."""
    setup, system = asked.setup, asked.system
    exact = hyperfocal(setup)
    here = settable.up(exact, system)
    marks = {mark for mark in BY_KEY[system].ring if asked.kit.closest <= mark <= _BEYOND * exact}
    settings = sorted({*marks, here, math.inf})
    return tuple(_row(setup, focus, system, here=focus == here) for focus in settings)


@dataclass(frozen=True, slots=True)
class Table:
    """Apertures across, settings of the ring down: what each holds."""

    apertures: tuple[float, ...]
    rows: tuple[tuple[Row, ...], ...]


def table(asked: Asked) -> Table:
    """Of the lens at the focal length in hand, at every mark that rings carry."""
    apertures = _whole_stops(asked)
    marks = [mark for mark in BY_KEY[asked.system].ring if mark >= asked.kit.closest]
    rows = []
    for focus in (*marks, math.inf):
        setups = (asked.kit.at(f_number) for f_number in apertures)
        rows.append(tuple(_row(setup, focus, asked.system) for setup in setups))
    return Table(apertures, tuple(rows))


def strip(asked: Asked, length_mm: float = STRIP_MM) -> sliding_strip.Strip:
    """The sliding strip, its scale so long."""
    nearest = max(asked.kit.closest, _FROM * asked.kit.focal_length)
    made = sliding(asked.kit, _whole_stops(asked), nearest, length_mm * sliding_strip.POINTS)
    return sliding_strip.draw(made, asked.system)


def ring_of(asked: Asked) -> ring_strips.Strip:
    """The strip to wrap round its barrel."""
    lens = asked.lens
    made = ring_strip(
        lens.ring, asked.kit, _whole_stops(asked), asked.barrel, lens.closest_or_assumed.value
    )
    return ring_strips.draw(made, asked.system, infinity_left=lens.to_infinity == Turn.CLOCKWISE)


def _whole_stops(asked: Asked) -> tuple[float, ...]:
    """Every third of the apertures it has, from the widest on; and the one in hand."""
    apertures = tuple(asked.kit.apertures)
    step = 3 if len(apertures) > 12 else 2 if len(apertures) > 8 else 1
    return tuple(sorted({*apertures[::step], asked.f_number}))[:9]


def _row(setup: Setup, focus: float, system: str, *, here: bool = False) -> Row:
    held = limits(setup, focus)
    span = None if held.empty else settable.inside(held.near, held.far, system)
    return Row(setup.focal_length, setup.f_number, focus, span, here)
