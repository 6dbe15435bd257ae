"""Back from infinity: turn until the far thing just softens, and a touch back: by eye to the
hyperfocal setting, which is then worked out.

The measure is ln(blur of infinity ÷ circle): 0 at the hyperfocal setting, above 0 past it.
"""

from __future__ import annotations

import math
import random

from drills.star import turn_of
from drills.tasks import Drill, Gear, Outcome, Stage, Task
from optics.base import settable
from optics.base.errors import OutOfRange
from optics.lens.cone import Cone
from optics.lens.conjugates import focus_of, magnification
from optics.lens.depth import counted_blur, hyperfocal, limits

CLEAR, HAZY = "clear", "hazy"
STOPS = 49
_TO = 2.0
"""Times the way from infinity to the hyperfocal setting."""
_LEAST = {1: 0.5, 2: 0.6, 3: 0.7}
"""By level: the share of the circle that infinity's blur must reach."""
PER_CIRCLE = 2.5
"""Pixels of the view to a circle: so far magnified, softness shows when it would in the print."""


def make(gear: Gear, luck: random.Random, part: str, level: int) -> Task:
    """A hut on a far ridge, from infinity on."""
    setup = gear.kit.at(gear.closed(5.6))
    over = hyperfocal(setup)
    if math.isinf(over):  # this aperture softens more than the circle: a wider one
        setup = gear.kit.at(gear.widest)
        over = hyperfocal(setup)
    if math.isinf(over) or limits(setup, over).empty:
        raise OutOfRange("coc", setup.coc, "No aperture of this lens is sharp by this standard.")
    ring = float(magnification(setup, min(over, 1e7)))
    rings = [_TO * ring * at / (STOPS - 1) for at in range(STOPS)]
    focuses = [math.inf if not m else float(focus_of(setup, m)) for m in rings]
    read = [settable.nearest(one, gear.system, settable.FINE) for one in focuses]
    outcomes = []
    for focus in read:
        blur = float(counted_blur(setup, math.inf, focus)) / setup.coc
        held = limits(setup, focus)
        near = math.nan if held.empty else settable.up(held.near, gear.system)
        right = blur <= 1.0 and blur >= _LEAST[level]
        facts = {"focus": focus, "near": near, "blur": blur}
        outcomes.append(Outcome(right, math.log(max(blur, 0.02)), facts=facts))
    best = max((at for at, one in enumerate(outcomes) if one.facts["blur"] <= 1.0), default=0)
    held = limits(setup, read[best])
    facts = {
        "f_number": setup.f_number, "over": settable.up(over, gear.system), "noise": 0.012 * level,
        "near": settable.up(held.near, gear.system), "wobble": 0.0,
        "turn": turn_of(gear, setup.focal_length * rings[1]),
    }  # fmt: skip
    return Task(
        "back", part, level, Stage.DIAL, tuple(read), tuple(outcomes), best, 0, facts,
        picture={
            "of": "far", "focal": setup.focal_length, "f": setup.f_number,
            "pixel": setup.coc / PER_CIRCLE, "first": 0.0,
            "step": float(Cone.at(setup, rings[1]).sharp) * setup.focal_length, "count": STOPS,
            "haze": 0.6 if part == HAZY else 0.0, "seed": luck.randrange(10**6),
        },
    )  # fmt: skip


DRILL = Drill("back", (CLEAR, HAZY), 20.0, 1, make)
