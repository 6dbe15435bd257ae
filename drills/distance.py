"""Distance by eye: a thing stands in a picture that the lens took; how far away is it?

The measure is ln(judged ÷ true), as in ``optics.zones.judging``.
"""

from __future__ import annotations

import math
import random

from drills.tasks import Drill, Gear, Outcome, Stage, Task, along

NEAR, MIDDLE, FAR = "near", "middle", "far"
_BANDS = {NEAR: (0.0, 2500.0), MIDDLE: (2500.0, 6000.0), FAR: (6000.0, math.inf)}
_REACH = {1: (1500.0, 10_000.0), 2: (1200.0, 16_000.0), 3: (900.0, 25_000.0)}
"""By level: between which distances things stand, mm."""
_THINGS = {1: ("person",), 2: ("person", "person", "bollard"), 3: ("person", "bollard", "crate")}
"""By level: a crate is of no known size, so only the ground tells."""
RIGHT = math.log(1.15)
"""|ln(judged ÷ true)| up to which a judgement counts as right: what the planner takes as usual."""
EYE = 1600.0


def band_of(depth: float) -> str:
    """Which part of the drill a distance belongs to, mm."""
    return next(name for name, (low, high) in _BANDS.items() if low <= depth < high)


def make(gear: Gear, luck: random.Random, part: str, level: int) -> Task:
    """A person, a bollard or a crate, on a pavement or in a field."""
    near, far = _REACH[level]
    stops = along(0.6 * near, 1.8 * far, gear.system)
    there = [at for at, stop in enumerate(stops) if near <= stop <= far and band_of(stop) == part]
    best = luck.choice(there)
    was = stops[best]
    thing = luck.choice(_THINGS[level])
    if was < 2 * EYE * gear.kit.focal_length / gear.frame.height:
        thing = "person"  # the foot of a low thing would be below the picture
    return Task(
        "distance", part, level, Stage.DIAL, stops,
        tuple(_outcome(said, was) for said in stops), best,
        start=luck.randrange(len(stops) // 3, 2 * len(stops) // 3),
        facts={"thing": thing, "was": was},
        picture={
            "of": luck.choice(("street", "field")), "focal": gear.kit.focal_length,
            "width": gear.frame.width, "height": gear.frame.height, "depth": was, "thing": thing,
            "aside": luck.uniform(-0.22, 0.22), "seed": luck.randrange(10**6),
        },
    )  # fmt: skip


def _outcome(said: float, was: float) -> Outcome:
    off = math.log(said / was)
    return Outcome(abs(off) <= RIGHT, off, said, was)


DRILL = Drill("distance", (MIDDLE, FAR, NEAR), 12.0, 2, make)
