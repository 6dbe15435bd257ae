"""What tries tell: how well each drill goes, where in it one is weak, and what to do next.

Nothing here looks at a clock, and nothing asks to be done: a day that is left out changes nothing.
"""

from __future__ import annotations

import random
from collections.abc import Iterable, Sequence
from dataclasses import dataclass

from drills.tasks import LEVELS, Drill

LATEST = 24
"""Tries that a standing is told from."""
_FOR_A_LEVEL = 8
"""Tries at a level before another is thought of."""
_UP, _DOWN = 0.8, 0.35
_FIVE_MINUTES = 300.0


@dataclass(frozen=True, slots=True)
class Tried:
    """A try, as far as progress goes: which part, at which level, and whether it was right."""

    part: str
    level: int
    right: bool


@dataclass(frozen=True, slots=True)
class Standing:
    """How a drill goes: how often it was tried, how many of the latest and how many of those were
    right, the level to go on at, and its parts by how well they go, weakest first."""

    drill: Drill
    count: int
    latest: int
    right: int
    level: int
    parts: tuple[tuple[str, float], ...]

    @property
    def share(self) -> float:
        """Of the latest, how many are right; drawn to a half while there are few, and so much the
        less as it is done at a higher level: what is done at level 3 is harder than at level 1."""
        return (self.right + 1.0) / (self.latest + 2.0)

    @property
    def strength(self) -> float:
        """For the order: right ones, those of a higher level for more."""
        return self.share + 0.15 * (self.level - 1)


def standing(drill: Drill, tries: Sequence[Tried]) -> Standing:
    """``tries`` of one drill, the earliest first."""
    latest = tries[-LATEST:]
    by_part = []
    for part in drill.parts:
        of = [one.right for one in tries if one.part == part][-LATEST:]
        by_part.append((part, (sum(of) + 1.0) / (len(of) + 2.0)))
    order = sorted(by_part, key=lambda one: one[1])
    right = sum(one.right for one in latest)
    return Standing(drill, len(tries), len(latest), right, level_of(tries), tuple(order))


def level_of(tries: Sequence[Tried]) -> int:
    """The level to go on at: one up where most at the level one is at were right, one down where
    most were not."""
    if not tries:
        return LEVELS[0]
    level = min(max(tries[-1].level, LEVELS[0]), LEVELS[-1])
    here: list[bool] = []
    for one in reversed(tries):
        if one.level != level or len(here) == 2 * _FOR_A_LEVEL:
            break
        here.append(one.right)
    if len(here) < _FOR_A_LEVEL:
        return level
    share = sum(here) / len(here)
    step = (share >= _UP) - (share <= _DOWN)
    return min(max(level + step, LEVELS[0]), LEVELS[-1])


def parts_for(standing_: Standing, count: int, luck: random.Random) -> list[str]:
    """Which parts to do next: each now and then, the weaker the oftener. A drill that was never
    done begins with its first part."""
    parts = list(standing_.drill.parts)
    shares = dict(standing_.parts)
    # What is half right comes twice as often as what is nearly always right.
    weights = [max(1.0 - shares[part], 0.12) for part in parts]
    if not standing_.count:
        weights = [1.0 / (2 + at) for at in range(len(parts))]
    found = luck.choices(parts, weights, k=count)
    if not standing_.count and count:
        found[0] = parts[0]
    return found


def weakest_first(standings: Iterable[Standing]) -> list[Standing]:
    """In the order to do them."""
    return sorted(standings, key=lambda one: one.strength)


def five_minutes(standings: Iterable[Standing]) -> list[tuple[Standing, int]]:
    """Of every drill some, of the weakest more, for about five minutes: each with how many."""
    order = weakest_first(standings)
    counts = {one.drill.key: one.drill.unit for one in order}
    left = _FIVE_MINUTES - sum(one.drill.seconds * one.drill.unit for one in order)
    for one in (*order, *order):
        cost = one.drill.seconds * one.drill.unit
        if cost <= left:
            counts[one.drill.key] += one.drill.unit
            left -= cost
    return [(one, counts[one.drill.key]) for one in order]
