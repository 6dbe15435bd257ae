"""The words of the drills for the street: distance, ring, positions, moment, focus."""

from __future__ import annotations

import math

from drills import distance, focus, moment, positions, ring
from drills.tasks import Outcome, Task
from optics.base import settable
from web.drills.wording import Words, far_off
from web.ui.templatetags import format, words

_THINGS = {"person": "the person", "bollard": "the bollard", "crate": "the crate"}
_OF = {
    "person": "About as tall as people are.",
    "bollard": "A bollard one metre high.",
    "crate": "A crate of no size that you know: only the ground tells.",
}


def _asks_distance(task: Task, system: str) -> str:
    return f"How far away is {_THINGS[task.facts['thing']]}?"


def _hint_distance(task: Task, system: str) -> str:
    return format.told_in(_OF[task.facts["thing"]].replace("one metre", "1 m"), system)


def _says_distance(task: Task, outcome: Outcome, at: int, system: str) -> str:
    was, said = format.exactly(outcome.was, system), format.exactly(outcome.said, system)
    return f"{was}. You said {said}: {far_off(outcome.off)}."


def _asks_ring(task: Task, system: str) -> str:
    facts = task.facts
    at = format.f_number(facts["f_number"])
    own = " by your standard" if facts.get("own") else ""
    if task.part in (ring.NEAREST, ring.FARTHEST):
        return f"What is the {task.part} that is sharp{own} at {at}, with the ring where it stands?"
    if task.part == ring.INFINITY:
        if own:
            return f"You shoot at {at}. Turn the ring so that infinity just holds{own}."
        return f"Turn the ring so that infinity stands at the mark of {at}."
    if task.part == ring.HOLD:
        near, far = (format.exactly(facts[one], system) for one in ("near", "far"))
        return f"Turn the ring so that {near} to {far} is sharp{own} at {at}."
    return f"You shoot at {at}. Which pair of marks tells the truth for your standard?"


def _hint_ring(task: Task, system: str) -> str:
    if task.part == ring.MARK or task.facts.get("own"):
        circle, own = (format.millimetres(task.facts[k]) for k in ("scale_circle", "circle"))
        return f"The marks were made for a circle of {circle}; yours is {own}."
    return "By the marks of the lens, and what they were made for."


def _label_ring(task: Task, at: int, system: str) -> str:
    if task.part == ring.MARK:
        stop = task.stops[at]
        return format.f_number(stop) if stop else "none of them"
    return format.exactly(task.stops[at], system)


def _says_ring(task: Task, outcome: Outcome, at: int, system: str) -> str:
    if task.part == ring.MARK:
        true = task.facts["true"]
        name = (
            f"The marks of {format.f_number(true)}"
            if true
            else "None of them: all promise too much"
        )
        return f"{'Right. ' if outcome.right else ''}{name}."
    if task.part in (ring.NEAREST, ring.FARTHEST):
        true = format.exactly(outcome.facts["true"], system)
        said = format.exactly(task.stops[at], system)
        return f"{true}. You read {said}{': right' if outcome.right else ''}."
    near, far = outcome.facts["near"], outcome.facts["far"]
    if math.isnan(near):
        return "Nothing is sharp there."
    span = format.placed(settable.inside(near, far, system), system)
    best = format.exactly(task.facts["best"], system)
    verdict = "Right" if outcome.right else f"{best} would have been right"
    return f"{verdict}: at {format.exactly(task.stops[at], system)} it is sharp {span}."


def _after_ring(task: Task, system: str) -> str:
    if task.part == ring.INFINITY:
        best = format.exactly(task.facts["best"], system)
        of = "by your standard" if task.facts["own"] else "of these marks"
        return f"The index then stands at {best}, the hyperfocal distance {of}."
    if task.part == ring.MARK:
        return (
            "A smaller circle asks for the marks of a wider aperture: the f-number, times your "
            "circle over theirs."
        )
    if task.part == ring.HOLD:
        return "Both ends under the marks of the aperture, or inside them."
    return "Under the left mark stands the nearest that is sharp, under the right one the farthest."


def _asks_positions(task: Task, system: str) -> str:
    return "Wait for the call."


def _says_positions(task: Task, outcome: Outcome, at: int, system: str) -> str:
    name, kept = task.facts["name"], outcome.facts["kept"]
    left = format.exactly(task.stops[at], system)
    if kept >= 0.995:
        return f"{name}: right, {left}."
    return (
        f"{name}: {'right' if outcome.right else 'missed'}, {left}: "
        f"{format.share_down(kept)} of it is sharp."
    )


def _after_positions(task: Task, system: str) -> str:
    where = format.exactly(task.facts["focus"], system)
    touch = task.facts["touch"]
    return f"{task.facts['name']} is at {where}{f', {touch}' if touch else ''}."


def _asks_moment(task: Task, system: str) -> str:
    if task.part == moment.SEEN:
        return "Press as soon as somebody steps out."
    near, far = task.facts["near"], task.facts["far"]
    held = settable.inside(near, far, system)
    return f"Press when they are in {task.facts['name']}, {format.stretch(held, system)}."


def _hint_moment(task: Task, system: str) -> str:
    if task.part == moment.SEEN:
        return "Not before: what comes too early was a guess."
    return f"They walk at {words.speed(task.facts['speed'], system)}; the shutter takes 0.05 s."


def _says_moment(task: Task, outcome: Outcome, at: int, system: str) -> str:
    if task.part == moment.SEEN:
        late = f"{format.figures2(outcome.off)} s"
        if outcome.right:
            return f"{late} after they stepped out."
        return f"{late}: a guess, not a press." if outcome.off < 0.1 else f"{late}: late."
    where = format.exactly(outcome.facts["caught"], system)
    if outcome.right:
        return f"Caught at {where}: in {task.facts['name']}."
    when = "early" if outcome.off < 0 else "late"
    return f"Caught at {where}: {format.figures2(abs(outcome.off))} s too {when}."


def _after_moment(task: Task, system: str) -> str:
    if task.part == moment.SEEN:
        return ""
    return "Press while they still come on: what you see is a moment old when it is taken."


def _asks_focus(task: Task, system: str) -> str:
    at = format.f_number(task.facts["f_number"])
    what = "the ridge" if task.part == focus.RIDGE else "the wall"
    return f"Where does the focus point go, so that the slab and {what} hold at {at}?"


def _hint_focus(task: Task, system: str) -> str:
    near, far = task.facts["near"], task.facts["far"]
    held = f"The slab is at {format.exactly(near, system)}"
    return (
        f"{held}, the wall at {format.exactly(far, system)}." if math.isfinite(far) else f"{held}."
    )


def _label_focus(task: Task, at: int, system: str) -> str:
    return f"{format.share(task.stops[at])} of the way up"


def _ends(task: Task, outcome: Outcome) -> str:
    """Which of the two ends hold, in words."""
    near, far = outcome.facts["near"] <= 1.0, outcome.facts["far"] <= 1.0
    back = "the ridge" if task.part == focus.RIDGE else "the wall"
    if near and far:
        return f"the slab and {back} hold"
    if near or far:
        soft = back if near else "the slab"
        worst = outcome.facts["far"] if near else outcome.facts["near"]
        return f"{soft} is soft, {format.times(worst)} the circle"
    return "neither holds"


def _says_focus(task: Task, outcome: Outcome, at: int, system: str) -> str:
    where = format.exactly(outcome.facts["focus"], system)
    return f"{'Right. ' if outcome.right else ''}At {where} {_ends(task, outcome)}."


def _after_focus(task: Task, system: str) -> str:
    third, best = (task.outcomes[at] for at in (task.facts["third"], task.best))
    rows = [format.share(task.stops[at]) for at in (task.facts["holds"] or (task.best,))]
    where = f"from {rows[0]} to {rows[-1]}" if rows[0] != rows[-1] else f"at {rows[0]}"
    answer = format.exactly(best.facts["focus"], system)
    rule = format.exactly(third.facts["focus"], system)
    return (
        f"Best at {answer}; anything {where} of the way up holds both. "
        f"A third of the way up is {rule}: there {_ends(task, third)}."
    )


WORDS = (
    Words(
        "distance", "Distance by eye", "How far away is what stands in the picture?",
        {distance.NEAR: "close", distance.MIDDLE: "in the middle", distance.FAR: "far"},
        _asks_distance, _says_distance, hint=_hint_distance,
    ),
    Words(
        "ring", "Read the ring", "Its depth-of-field marks, and what they were made for.",
        {ring.INFINITY: "infinity to a mark", ring.NEAREST: "the nearest",
         ring.FARTHEST: "the farthest",
         ring.HOLD: "hold a stretch", ring.MARK: "which mark"},
        _asks_ring, _says_ring, label=_label_ring, hint=_hint_ring, after=_after_ring,
    ),
    Words(
        "positions", "Positions by touch", "A name is called: turn there unseen, and back home.",
        {positions.AWAY: "from home", positions.HOME: "back home"},
        _asks_positions, _says_positions, after=_after_positions,
    ),
    Words(
        "moment", "Press at the right moment", "How late you are, and when to press for a tile.",
        {moment.SEEN: "your own lag", moment.TILE: "into the tile"},
        _asks_moment, _says_moment, label=lambda task, at, system: "", hint=_hint_moment,
        after=_after_moment,
    ),
    Words(
        "focus", "Focus here", "A scene in the finder: put the focus point where both ends hold.",
        {focus.RIDGE: "to the ridge", focus.WALL: "to a wall"},
        _asks_focus, _says_focus, label=_label_focus, hint=_hint_focus, after=_after_focus,
    ),
)  # fmt: skip
