"""Press at the right moment: first how late one's own finger is, then a walker and a tile.

The measure is in seconds: of the first how late the finger was; of the second how far the picture
is from the tile, below 0 for too early.
"""

from __future__ import annotations

import math
import random
import statistics
from collections.abc import Iterable

from drills.tasks import Called, Drill, Gear, Outcome, Stage, Task
from optics.base import settable
from optics.base.errors import OutOfRange

SEEN, TILE = "seen", "tile"
STEP = 25
"""ms: moments are told apart that far."""
_FINE = 10
"""ms: the same for one's own lag, so that what is written is what is kept."""
SHUTTER = 0.05
"""s from the button to the exposure, of the camera itself: a usual one."""
_LEAST, _MOST = 0.1, 0.35
"""s: nobody sees and presses faster; later is not at once."""
_SPEEDS = {1: (1000.0, 1300.0), 2: (1200.0, 1700.0), 3: (1300.0, 2600.0)}
"""mm/s by level: a stroll, a walk, somebody in a hurry."""
_ANGLE = math.radians(15.0)
_BEFORE = (2.0, 4.0)
"""s that somebody is seen before they come into the tile."""
_LONGEST = 12.0


def make(gear: Gear, luck: random.Random, part: str, level: int) -> Task:
    """Somebody who steps out, or somebody who comes on."""
    return _seen(luck, level) if part == SEEN else _tile(gear, luck, level)


def _seen(luck: random.Random, level: int) -> Task:
    late = [at * _FINE / 1000 for at in range(2000 // _FINE)]
    outcomes = tuple(Outcome(_LEAST <= one <= _MOST, one, facts={"late": one}) for one in late)
    facts = {"wait_ms": luck.randint(1500, 5000), "step_ms": _FINE, "side": luck.choice((-1, 1))}
    return Task("moment", SEEN, level, Stage.MOMENT, tuple(late), outcomes, 200 // _FINE, 0, facts)


def _tile(gear: Gear, luck: random.Random, level: int) -> Task:
    """``stops``: where they are, by the moment of pressing, mm."""
    tiles = [one for one in gear.positions if math.isfinite(one.far) and one.far < 12_000.0]
    tile = luck.choice(tiles or [_cut(gear.positions[0])])
    speed = 100.0 * round(luck.uniform(*_SPEEDS[level]) / 100.0)
    closing = speed * math.cos(_ANGLE)
    begins = tile.far + closing * luck.uniform(*_BEFORE)
    ends = max(tile.near - 1.5 * closing, 0.3 * tile.near)
    count = math.ceil(min((begins - ends) / closing, _LONGEST) * 1000 / STEP)
    middle = 0.5 * (tile.near + tile.far)
    stops, outcomes = [], []
    for at in range(count):
        seconds = at * STEP / 1000
        stops.append(begins - closing * seconds)
        caught = settable.nearest(
            begins - closing * (seconds + SHUTTER), gear.system, settable.FINE
        )
        right = tile.near <= caught <= tile.far
        edge = min(max(caught, tile.near), tile.far)
        off = 0.0 if right else (edge - caught) / closing
        outcomes.append(Outcome(right, off, facts={"caught": caught}))
    if not any(one.right for one in outcomes):
        raise OutOfRange("positions", tile.near, "Nobody can be caught in so narrow a stretch.")
    best = min(range(count), key=lambda at: abs(stops[at] - SHUTTER * closing - middle))
    facts = {
        "name": tile.name, "near": tile.near, "far": tile.far, "speed": speed, "step_ms": STEP,
        "angle": _ANGLE, "begins": begins, "plan": level < 3,
    }  # fmt: skip
    return Task("moment", TILE, level, Stage.MOMENT, tuple(stops), tuple(outcomes), best, 0, facts)


def _cut(tile: Called) -> Called:
    """A tile that goes on for ever, as far as people on a street are caught in it."""
    far = min(tile.far, max(3.0 * tile.near, 3000.0))
    return Called(tile.name, tile.focus, tile.near, far, tile.home)


def lag(seconds: Iterable[float]) -> float | None:
    """From seeing to the exposure, s, of the tries at pressing at once: the finger's middle one,
    and the shutter. None for fewer than five that could be true."""
    there = [one for one in seconds if _LEAST <= one <= 1.0]
    return statistics.median(there) + SHUTTER if len(there) >= 5 else None


DRILL = Drill("moment", (SEEN, TILE), 9.0, 3, make)
