"""Settings to try: apertures and times, and the ISO that each takes under the night chosen."""

from __future__ import annotations

import math
from dataclasses import dataclass

from optics.lens.aperture import stops_between
from optics.light import dial
from web.sky.exposed import Exposed, exposed
from web.sky.ring import AtInfinity, at_margin
from web.sky.skies import Sky
from web.sky.usecases import Answer

_SHARES = (0.5, 1.0, 2.0, 4.0)
"""Of the drift allowed: times to look at."""
_MOST_STOPS = 4.1
_LONGEST = 1800.0


@dataclass(frozen=True, slots=True)
class Time:
    """A time, s, and how far the worst star drifts in it, mm. ``now``: the one in hand."""

    seconds: float
    drift: float
    now: bool


@dataclass(frozen=True, slots=True)
class Cell:
    """What a time, s, takes at an aperture."""

    seconds: float
    exposed: Exposed
    now: bool


@dataclass(frozen=True, slots=True)
class Row:
    """An aperture: where the ring stands for the margin, and the ISO for each of the times.

    ``word``: whether a star holds with its margin, just does without, or is soft.
    """

    f_number: float
    here: AtInfinity
    word: str
    cells: tuple[Cell, ...]
    now: bool


@dataclass(frozen=True, slots=True)
class Tries:
    """Times across, apertures down."""

    times: tuple[Time, ...]
    rows: tuple[Row, ...]


def tries(answer: Answer) -> Tries:
    """Whole stops from the widest that the lens has, and the one in hand; times for half the drift
    allowed, all of it, twice and four times as much, and the one in hand."""
    sky = answer.sky
    f = sky.setup.focal_length
    wanted = {answer.seconds}
    for share in _SHARES:
        lasts = sky.longest(f, sky.trail * share, sky.counts)
        if sky.tracked:  # where stars hold far longer than is of use
            lasts = min(lasts, share * answer.seconds)
        if math.isfinite(lasts) and lasts <= _LONGEST:
            wanted.add(dial.longest_named(lasts))
    times = tuple(
        Time(
            seconds,
            sky.drift(seconds, sky.counts),
            seconds == answer.seconds,
        )
        for seconds in sorted(wanted)
    )
    in_hand = sky.setup.f_number
    return Tries(times, tuple(_row(answer, n, times) for n in _apertures(sky, in_hand)))


def _apertures(sky: Sky, in_hand: float) -> list[float]:
    widest = sky.apertures[0]
    found = {in_hand}
    for n in sky.apertures:
        stops = stops_between(widest, n)
        if stops <= _MOST_STOPS and abs(stops - round(stops)) < 0.1:
            found.add(n)
    return sorted(found)


def _row(answer: Answer, f_number: float, times: tuple[Time, ...]) -> Row:
    there = answer.sky.at(f_number)
    now = f_number == answer.sky.setup.f_number
    here = answer.computed if now else at_margin(there, there.margin)
    cells = tuple(
        Cell(time.seconds, exposed(there, f_number, time.seconds), now and time.now)
        for time in times
    )
    circles = here.star / there.setup.coc * (1 - 1e-9)
    word = "holds" if circles * there.margin <= 1 else "just" if circles <= 1 else "soft"
    return Row(f_number, here, word, cells, now)
