"""Name the blur: a picture that is not sharp; which is it, and what is to be changed?

What each looks like: a focus that fell in front or behind leaves something else sharp; what moved
is drawn out alone, a camera that moved draws everything out one way; diffraction softens all of it
evenly; haze leaves edges sharp and takes the contrast; stars that drifted are lines, all alike.
"""

from __future__ import annotations

import random

from drills.tasks import Drill, Gear, Outcome, Stage, Task

NEAR, FAR, MOTION, SHAKE = "near", "far", "motion", "shake"
DIFFRACTION, HAZE, DRIFT = "diffraction", "haze", "drift"
CAUSES = (NEAR, FAR, MOTION, SHAKE, DIFFRACTION, HAZE, DRIFT)
_AMOUNT = {1: 1.0, 2: 0.72, 3: 0.5}
"""By level: how much of it there is, of what is plain to see."""
_ALIKE = {
    NEAR: (FAR, MOTION, DIFFRACTION), FAR: (NEAR, SHAKE, DIFFRACTION),
    MOTION: (NEAR, DIFFRACTION, HAZE), SHAKE: (NEAR, DIFFRACTION, HAZE),
    DIFFRACTION: (NEAR, SHAKE, HAZE), HAZE: (FAR, MOTION, DIFFRACTION),
    DRIFT: (FAR, DIFFRACTION, HAZE),
}  # fmt: skip
"""Whose cures are offered beside its own: none of them would help it."""


def make(gear: Gear, luck: random.Random, part: str, level: int) -> Task:
    """A crop of a picture, at full size. ``part``: what went wrong in it."""
    cures = [part, *_ALIKE[part]]
    luck.shuffle(cures)
    outcomes = tuple(
        Outcome(one == part, 0.0 if one == part else 1.0, facts={"named": one}) for one in CAUSES
    )
    picture = {
        "of": "blurred", "cause": part, "amount": _AMOUNT[level] * luck.uniform(0.9, 1.15),
        "way": luck.uniform(-0.5, 0.5), "seed": luck.randrange(10**6),
    }  # fmt: skip
    return Task(
        "blur", part, level, Stage.CHOICE, CAUSES, outcomes, CAUSES.index(part), 0,
        {"cures": tuple(cures), "cure": cures.index(part)}, picture, {**picture, "amount": 0.0},
    )  # fmt: skip


DRILL = Drill("blur", CAUSES, 12.0, 2, make)
