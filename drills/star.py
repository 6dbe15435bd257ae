"""Find the star: a magnified view, a ring that goes on past infinity, and the smallest star.

The measure is how much wider the star is than at its best, in pixels: below 0 where the ring was
left on the near side of infinity.
"""

from __future__ import annotations

import math
import random
from dataclasses import replace

from drills.tasks import Drill, Facts, Gear, Outcome, Stage, Task
from optics.lens.cone import Cone
from optics.lens.diffraction import combine
from optics.lens.setup import Setup

BRIGHT, DIM, SHIFT, COLD, NONE = "bright", "dim", "shift", "cold", "none"
STOPS = 57
WIDEST_DISC = 14.0
"""Pixels: the star's disc at the nearer end of what the ring is turned through."""
_ENOUGH = {1: 0.8, 2: 0.5, 3: 0.35}
"""By level: pixels that the star may be wider than at its best."""
_SEEING = {1: 0.0, 2: 2.0, 3: 4.0}
"""By level: how far the air moves a star, seconds of arc."""
_NOISE = {BRIGHT: 0.012, DIM: 0.05, SHIFT: 0.02, COLD: 0.02}
"""By part: the deviation of the noise, of white."""
NOTHING, NOISE, LARGE, STOPPED = "nothing", "noise", "large", "stopped"
_FIRST = {
    NOTHING: (NOTHING, "close", "autofocus", "smaller"),
    NOISE: (NOISE, "close", "autofocus", "smaller"),
    LARGE: (LARGE, NOISE, "autofocus", NOTHING),
    STOPPED: (STOPPED, "close", NOISE, "autofocus"),
}
"""What is seen, and what might be done: what it is named for is right, and the others are
no help."""
_SECOND = math.pi / 180 / 3600


def disc_at(setup: Setup, extension: float) -> float:
    """A star's equivalent disc, mm, with the lens that far out from where infinity is sharp, mm;
    below 0 past it. Defocus and diffraction as ``optics`` has them, and the lens's own blur."""
    cone = Cone.at(setup, extension / setup.focal_length)
    defocus = abs(float(cone.pupil) * float(cone.sharp))
    working = setup.f_number * (1.0 + max(float(cone.sharp), 0.0))
    return math.hypot(float(combine(defocus, working)), float(setup.lens_disc))


def make(gear: Gear, luck: random.Random, part: str, level: int) -> Task:
    """A star to find, or what to do where there is none."""
    return _none(gear, luck, level) if part == NONE else _view(gear, luck, part, level)


def _view(gear: Gear, luck: random.Random, part: str, level: int) -> Task:
    seen = gear.kit.at(gear.widest)
    taken = seen
    step = 2.0 * WIDEST_DISC * gear.pixel * gear.widest / (STOPS - 1)
    if part == SHIFT:
        taken = gear.kit.at(gear.closed(gear.widest * 1.9))
        if abs(taken.focus_shift - seen.focus_shift) < 4 * step:  # a lens that does not: one does
            shift = luck.choice((-1, 1)) * luck.uniform(5, 9) * step
            taken = replace(taken, focus_shift=seen.focus_shift + shift)
    true = luck.randrange(STOPS // 4, 3 * STOPS // 4)
    first = true * step  # of the stop that is nearest: how far it stands out
    outs = tuple(first - at * step for at in range(STOPS))
    sizes = [disc_at(taken, out) / gear.pixel for out in outs]
    best = min(range(STOPS), key=lambda at: sizes[at])
    mark = min(max(true + luck.choice((-1, 1)) * luck.randint(4, 11), 1), STOPS - 2)
    start = _start(luck, part, mark, true, best)
    outcomes = tuple(
        Outcome(
            size - sizes[best] <= _ENOUGH[level], (size - sizes[best]) * (-1 if at < best else 1),
            facts={"size": size, "from_mark": at - mark},
        )
        for at, size in enumerate(sizes)
    )  # fmt: skip
    seed = luck.randrange(10**6)
    facts = {
        "mark": mark, "smallest": sizes[best], "noise": _NOISE[part] * (1 + 0.3 * level),
        "wobble": _SEEING[level] * _SECOND * gear.kit.focal_length / gear.pixel,
        "taken": taken.f_number, "seen": seen.f_number, "turn": turn_of(gear, step),
    }  # fmt: skip
    return Task(
        "star", part, level, Stage.DIAL, tuple(range(STOPS)), outcomes, best, start, facts,
        picture=stack(gear, seen, outs, seed, 0.6 if part == DIM else 1.0),
        after=stack(gear, taken, outs, seed, 0.8) if part == SHIFT else None,
    )  # fmt: skip


def _start(luck: random.Random, part: str, mark: int, true: int, best: int) -> int:
    if part == COLD:  # where it was right, before the cold moved it
        away = luck.choice((-1, 1)) * luck.randint(4, 8)
        return min(max(best + away, 0), STOPS - 1)
    if part == DIM:
        return luck.choice((1, STOPS - 2))
    return mark


def turn_of(gear: Gear, step: float) -> float:
    """How far the ring turns, degrees, for a step of the lens, mm."""
    far = 50.0 * gear.kit.focal_length
    out = gear.kit.focal_length**2 / (far - 2.0 * gear.kit.focal_length)
    return math.degrees(abs(gear.ring.turn(far, math.inf))) * step / out


def stack(gear: Gear, setup: Setup, outs: tuple[float, ...], seed: int, bright: float) -> Facts:
    """Of pictures of the same stars, one for each setting."""
    return {
        "of": "stars", "focal": setup.focal_length, "f": setup.f_number, "pixel": gear.pixel,
        "shift": float(setup.focus_shift), "own": float(setup.lens_disc), "first": outs[0],
        "step": outs[0] - outs[1], "count": len(outs), "bright": bright, "seed": seed,
    }  # fmt: skip


def _none(gear: Gear, luck: random.Random, level: int) -> Task:
    """No star to be seen, or none that gets small: what first?"""
    seen = luck.choice(tuple(_FIRST))
    answers = list(_FIRST[seen])
    luck.shuffle(answers)
    outcomes = tuple(Outcome(one == seen, 0.0 if one == seen else 1.0) for one in answers)
    step = 2.0 * WIDEST_DISC * gear.pixel * gear.widest / (STOPS - 1)
    away = {NOTHING: 40.0, NOISE: 12.0, LARGE: 0.0, STOPPED: 8.0}[seen]
    outs = (away * step, (away - 1.0) * step)
    setup = gear.kit.at(gear.widest)
    if seen == LARGE:  # dew on the front spreads all of it
        setup = replace(setup, lens_disc=6.0 * gear.pixel)
    bright = 0.08 if seen in (NOTHING, NOISE) else 0.7
    picture = stack(gear, setup, outs, luck.randrange(10**6), bright)
    noise = 0.2 if seen == NOISE else 0.04
    return Task(
        "star", NONE, level, Stage.CHOICE, tuple(answers), outcomes, answers.index(seen), 0,
        {"seen": seen, "noise": noise}, picture=picture,
    )  # fmt: skip


DRILL = Drill("star", (BRIGHT, DIM, SHIFT, COLD, NONE), 25.0, 1, make)
