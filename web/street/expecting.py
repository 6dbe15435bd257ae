"""What share of subjects to expect sharp, and what would help most."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

from web.street.placing import choose, shares_of
from web.street.streets import MOST_POSITIONS, Street
from web.street.usecases import Answer

PRACTICE = 2 / 3
"""What practice makes of an error of judging."""
_WORTH_SAYING = 0.005


@dataclass(frozen=True, slots=True)
class Expected:
    """The share of subjects kept with so many positions; ``now`` if they are those in use."""

    count: int
    share: float
    now: bool


@dataclass(frozen=True, slots=True)
class Help:
    """A change and what it gains, as a share. ``kind``: position, aperture or practice; ``value``:
    the number of positions, the f-number, or the error judged with."""

    kind: str
    value: float
    gain: float


@dataclass(frozen=True, slots=True)
class Expecting:
    """By number of positions, and the changes, the most helpful first."""

    by_count: tuple[Expected, ...]
    helps: tuple[Help, ...]


def expecting(answer: Answer) -> Expecting:
    """Expected shares of this band at the user's own judging error."""
    street, band = answer.street, answer.band
    now = len(answer.positions)

    def share(changed: Street, count: int) -> float:
        return sum(shares_of(changed, choose(changed, band, count).focuses))

    most = min(max(3, now), MOST_POSITIONS)
    least = max(1, len(street.locked) + (street.home is not None))
    by_count = [
        Expected(n, answer.share if n == now else share(street, n), n == now)
        for n in range(least, most + 1)
    ]
    helps = []
    if now < MOST_POSITIONS and now >= street.count:
        more = next((one.share for one in by_count if one.count == now + 1), None)
        more = share(street, now + 1) if more is None else more
        helps.append(Help("position", now + 1, more - answer.share))
    closed = _stop_down(street)
    if closed is not None:
        gain = sum(shares_of(street.at(closed), answer.focuses)) - answer.share
        helps.append(Help("aperture", closed, gain))
    if street.judging > 0:
        better = replace(street, judging=street.judging * PRACTICE)
        gain = sum(shares_of(better, answer.focuses)) - answer.share
        helps.append(Help("practice", better.judging, gain))
    worth = [one for one in helps if one.gain >= _WORTH_SAYING]
    return Expecting(tuple(by_count), tuple(sorted(worth, key=lambda one: -one.gain)))


def _stop_down(street: Street) -> float | None:
    """The lens's aperture about a stop smaller; None where it has none."""
    wanted = street.setup.f_number * math.sqrt(2.0)
    smaller = [n for n in street.apertures if n > street.setup.f_number * 1.2]
    return min(smaller, key=lambda n: abs(math.log(n / wanted)), default=None)
