"""Positions by touch: a name is called, and the thumb turns the ring there, unseen, and back home.

The measure is the share of the position's own stretch, in 1/distance, that is lost where the ring
was left: below 0 where it stands too near, above 0 where too far.
"""

from __future__ import annotations

import math
import random

from drills.tasks import Called, Drill, Gear, Outcome, Stage, Task, nearest_stop
from optics.base import settable
from optics.base.errors import OutOfRange
from optics.lens.depth import limits

AWAY, HOME = "away", "home"
_STOPS = 181
_KEPT = {1: 0.6, 2: 0.75, 3: 0.85}
"""By level: the share of a position's stretch that must still be sharp."""
_WAIT = {1: (1200, 2600), 2: (900, 3200), 3: (500, 3600)}
"""By level: after how long the next is called, ms."""


def settings(gear: Gear) -> tuple[float, ...]:
    """Where a ring may be left, evenly along its throw, mm as they can be read, nearest first; and
    where the positions are."""
    first, last = gear.ring.angle(gear.closest), gear.ring.infinity
    turned = (first + (last - first) * at / (_STOPS - 1) for at in range(_STOPS))
    read = (float(gear.ring.distance(angle)) for angle in turned)
    stops = [
        math.inf if one > 1e6 else settable.nearest(one, gear.system, settable.FINE) for one in read
    ]
    return tuple(sorted({*stops, *(one.focus for one in gear.positions)}))


def called(gear: Gear, luck: random.Random, position: Called, level: int, start: float) -> Task:
    """One call. ``start``: where the ring stands before it, mm."""
    stops = settings(gear)
    whole = _inverse(position.near) - _inverse(position.far)

    def outcome(focus: float) -> Outcome:
        held = limits(gear.setup, focus)
        kept = 0.0
        if not held.empty and whole > 0:
            low = max(_inverse(held.far), _inverse(position.far))
            high = min(_inverse(held.near), _inverse(position.near))
            kept = max(high - low, 0.0) / whole
        lost = min(max(1.0 - kept, 0.0), 1.0)
        facts = {"kept": math.floor(100 * (1 - lost) + 1e-6) / 100}
        return Outcome(
            facts["kept"] >= _KEPT[level], lost if focus > position.focus else -lost, facts=facts
        )

    outcomes = tuple(outcome(one) for one in stops)
    if not any(one.right for one in outcomes):
        raise OutOfRange("positions", position.focus, "Nothing is sharp there by this standard.")
    best, at = nearest_stop(stops, position.focus), nearest_stop(stops, start)
    facts = {
        "name": position.name, "focus": position.focus, "near": position.near,
        "far": position.far, "wait_ms": luck.randint(*_WAIT[level]), "touch": position.touch,
    }  # fmt: skip
    return Task(
        "positions", HOME if position.home else AWAY, level, Stage.TOUCH, stops,
        outcomes, best, at, facts,
    )  # fmt: skip


def run(
    gear: Gear, luck: random.Random, positions: tuple[Called, ...], level: int, count: int
) -> list[Task]:
    """Calls one after the other: from home to another, and back. One position alone is called from
    the near stop and from infinity."""
    home = next((one for one in positions if one.home), positions[0])
    others = [one for one in positions if one is not home]
    tasks: list[Task] = []
    waiting: list[Called] = []
    while len(tasks) < count:
        if not others:
            start = luck.choice((gear.closest, math.inf))
            tasks.append(called(gear, luck, home, level, start))
            continue
        if not waiting:  # each as often as the others, in no order that could be learned
            waiting = luck.sample(others, len(others))
        there = waiting.pop()
        tasks.append(called(gear, luck, there, level, home.focus))
        tasks.append(called(gear, luck, home, level, there.focus))
    return tasks[:count]


def _inverse(distance: float) -> float:
    return 0.0 if math.isinf(distance) else 1.0 / distance


def _one(gear: Gear, luck: random.Random, part: str, level: int) -> Task:
    positions = gear.positions
    wanted = [one for one in positions if one.home == (part == HOME)] or list(positions)
    home = next((one for one in positions if one.home), positions[0])
    start = home if part == AWAY else luck.choice(positions)
    return called(gear, luck, luck.choice(wanted), level, start.focus)


DRILL = Drill("positions", (AWAY, HOME), 5.0, 4, _one)
