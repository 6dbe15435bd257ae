"""Read the ring: the depth-of-field marks of one's own lens, and what they were made for.

The measure is how far off on the ring's own scale, in 1/distance, as a share of what is right on
that side: so a centimetre close up weighs what a metre does far away.
"""

from __future__ import annotations

import math
import random
from typing import Any

from drills.tasks import Drill, Gear, Outcome, Stage, Task, along, nearest_stop
from optics.base import settable
from optics.base.systems import BY_KEY
from optics.lens.aperture import Series
from optics.lens.depth import hyperfocal, limits
from optics.lens.focus_window import focus_window
from optics.lens.setup import Setup
from optics.lens.standards import engraved_mark

NEAREST, FARTHEST, INFINITY, HOLD, MARK = "nearest", "farthest", "infinity", "hold", "mark"
TURNED = (INFINITY, HOLD)
"""The parts in which the ring itself is turned."""
_CLOSE_ENOUGH = {1: 0.3, 2: 0.2, 3: 0.12}
"""By level: the share of one side of the depth of field that a reading may be off."""


def _stops(gear: Gear) -> tuple[float, ...]:
    return along(max(gear.closest, 300.0), 30_000.0, gear.system, endless=True)


def _asked(gear: Gear, f_number: float, level: int) -> tuple[Setup, bool]:
    """The lens with the circle that is asked for: the one that its marks were made for, and from
    the second level on one's own standard, where that holds anything; and whether it is that."""
    own = gear.kit.at(f_number)
    if level > 1 and math.isfinite(hyperfocal(own)):
        return own, True
    return Setup(gear.kit.focal_length, f_number, gear.scale_circle), False


def _marks(gear: Gear, stops: tuple[float, ...], low: float, high: float) -> list[float]:
    """Engraved distances to set the ring to, mm."""
    on_it = gear.engraved or BY_KEY[gear.system].ring
    return [d for d in on_it if max(low, stops[0]) <= d <= high and math.isfinite(d)]


def make(gear: Gear, luck: random.Random, part: str, level: int) -> Task:
    """A question about the ring of the lens."""
    how = {NEAREST: _end, FARTHEST: _end, INFINITY: _infinity, HOLD: _hold, MARK: _mark}[part]
    return how(gear, luck, part, level)


def _facts(gear: Gear, f_number: float, own: bool) -> dict[str, Any]:
    """What is asked about: the aperture, the circles, mm, and whether one's own counts."""
    return {"f_number": f_number, "own": own, "circle": gear.kit.coc,
            "scale_circle": gear.scale_circle}  # fmt: skip


def _picture(gear: Gear, turns: bool, focus: float = math.inf) -> dict[str, object]:
    return {"of": "ring", "turns": turns, "focus": focus}


def _end(gear: Gear, luck: random.Random, part: str, level: int) -> Task:
    """What is the nearest, or the farthest, that is sharp with the ring where it stands?"""
    stops = _stops(gear)
    f_number = luck.choice(gear.scale)
    setup, own = _asked(gear, f_number, level)
    over = hyperfocal(setup)
    places = _marks(gear, stops, gear.closest * 1.3, min(over * 1.2, 20_000.0)) or [over]
    focus = luck.choice(places)
    held = limits(setup, focus)
    true = max(held.near, stops[0]) if part == NEAREST else held.far
    best = nearest_stop(stops, true)
    side = abs(1.0 / focus - 1.0 / true)
    allowed = max(_CLOSE_ENOUGH[level] * side, 0.51 * _gap(stops, best))

    def outcome(said: float) -> Outcome:
        off = 1.0 / said - 1.0 / true
        facts = {"true": settable.nearest(true, gear.system) if math.isfinite(true) else true}
        return Outcome(abs(off) <= allowed, off / side if side else 0.0, facts=facts)

    facts = {**_facts(gear, f_number, own), "focus": focus}
    return Task(
        "ring", part, level, Stage.DIAL, stops, tuple(outcome(one) for one in stops), best,
        nearest_stop(stops, focus), facts, _picture(gear, turns=False, focus=focus),
    )  # fmt: skip


def _gap(stops: tuple[float, ...], at: int) -> float:
    """The wider way from a stop to its neighbours, in 1/distance."""
    beside = [stops[k] for k in (at - 1, at + 1) if 0 <= k < len(stops)]
    return max(abs(1.0 / one - 1.0 / stops[at]) for one in beside)


def _turned(gear: Gear, setup: Setup, part: str, level: int, stops: tuple[float, ...],
            window: tuple[float, float], best: float, start: int,
            facts: dict[str, Any]) -> Task:  # fmt: skip
    """Turn the ring to somewhere in a window, mm."""
    near, far = window
    whole = 1.0 / near - (0.0 if math.isinf(far) else 1.0 / far)

    def outcome(focus: float) -> Outcome:
        inverse = 1.0 / focus
        over = max(inverse - 1.0 / near, 0.0) - max(1.0 / far - inverse, 0.0)
        held = limits(setup, focus)
        return Outcome(
            over == 0.0, over / whole if whole else 0.0, facts={"near": held.near, "far": held.far}
        )

    at = nearest_stop(stops, best)
    return Task(
        "ring", part, level, Stage.DIAL, stops, tuple(outcome(one) for one in stops), at, start,
        facts, _picture(gear, turns=True),
    )  # fmt: skip


def _infinity(gear: Gear, luck: random.Random, part: str, level: int) -> Task:
    """Set infinity to the mark of an aperture: all the depth of field there is, and no more."""
    f_number = luck.choice(gear.scale)
    setup, own = _asked(gear, f_number, level)
    over = hyperfocal(setup)
    stops = _stops(gear)
    most = 1.0 + _CLOSE_ENOUGH[level] * 1.5
    best = settable.up(over, gear.system)
    facts = {**_facts(gear, f_number, own), "best": best}
    return _turned(
        gear, setup, part, level, tuple(sorted({*stops, best})), (over, max(over * most, best)),
        best, len(stops) // 3, facts,
    )  # fmt: skip


def _hold(gear: Gear, luck: random.Random, part: str, level: int) -> Task:
    """Turn the ring so that a stretch is held."""
    f_number = luck.choice([n for n in gear.scale if n >= 8] or gear.scale)
    setup, own = _asked(gear, f_number, level)
    stops = _stops(gear)
    over = hyperfocal(setup)
    focus = luck.choice(_marks(gear, stops, gear.closest * 1.5, over * 0.8) or [over * 0.6])
    held = limits(setup, focus)
    slack = 1.0 + _CLOSE_ENOUGH[level] * 0.5
    near = settable.up(held.near * slack, gear.system)
    far = settable.down(min(held.far / slack, 30_000.0), gear.system)
    window = focus_window(setup, near, far) if near < far else None
    if window is None:  # narrower than what can be said: its own focus is all that there is
        near, far = held.near, held.far
        window = focus_window(setup, near * 1.001, far * 0.999)
    assert window is not None
    facts = {**_facts(gear, f_number, own), "near": near, "far": far, "best": focus}
    return _turned(
        gear, setup, part, level, tuple(sorted({*stops, focus})),
        (window.nearest, window.farthest), focus, len(stops) - 1, facts,
    )  # fmt: skip


def _mark(gear: Gear, luck: random.Random, part: str, level: int) -> Task:
    """Which engraved mark is to be read, where the picture is looked at harder than the marks were
    made for?"""
    series = Series(1, gear.scale)
    marks = {n: engraved_mark(n, gear.scale_circle, gear.kit.coc, series) for n in gear.scale}
    f_number = luck.choice([n for n in gear.scale if marks[n] in gear.scale] or gear.scale)
    true = marks[f_number] if marks[f_number] in gear.scale else 0.0
    stops = (0.0, *gear.scale)
    best = stops.index(true)

    def outcome(said: float) -> Outcome:
        off = 0.0 if said == true else 2.0 * math.log2((said or 1.0) / (true or 1.0))
        return Outcome(said == true, off)

    facts = {**_facts(gear, f_number, own=True), "true": true}
    return Task("ring", part, level, Stage.CHOICE, stops, tuple(outcome(n) for n in stops), best,
                0, facts, _picture(gear, turns=False))  # fmt: skip


DRILL = Drill("ring", (INFINITY, NEAREST, FARTHEST, HOLD, MARK), 15.0, 2, make)
