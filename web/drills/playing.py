"""Tasks as a page needs them: all the answers, what is said of each, and where the pictures are."""

from __future__ import annotations

import math
import random
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any

from drills import focus, pictures, positions, ring, star
from drills.progress import Standing, five_minutes, parts_for
from drills.tasks import Gear, Stage, Task
from optics.base.errors import OpticsError
from web.drills import pavement, words_night
from web.drills.axis import axis, row_axis
from web.drills.gear import With
from web.drills.pictures import address
from web.drills.ring import ring_shown
from web.drills.words import WORDS, said

IN_A_GO = {
    "distance": 8, "ring": 8, "positions": 8, "moment": 6, "focus": 6, "blur": 7, "star": 4,
    "back": 4,
}  # fmt: skip
"""How many tasks of a drill are done in one go."""
_FIGURES = 5


@dataclass
class Made:
    """Tasks, each with what it is done with; and the drills, or parts of them, that this lens has
    none for, each with why."""

    tasks: list[tuple[Gear, Task]] = field(default_factory=list)
    left_out: dict[str, str] = field(default_factory=dict)


def add(made: Made, with_: With, standing: Standing, count: int, luck: random.Random) -> None:
    """So many tasks of a drill, of what is weak in it most."""
    drill, level = standing.drill, standing.level
    gear, words = with_.for_(drill.key), WORDS[drill.key]
    if drill.key == "positions":
        try:
            calls = positions.run(gear, luck, gear.positions, level, count)
        except OpticsError as error:
            made.left_out[words.name] = error.sentence
        else:
            made.tasks += [(gear, one) for one in calls]
        return
    for part in parts_for(standing, count, luck):
        try:
            made.tasks.append((gear, drill.make(gear, luck, part, level)))
        except OpticsError as error:
            made.left_out[f"{words.name}, {words.parts[part]}"] = error.sentence


def one(with_: With, standing: Standing, luck: random.Random) -> Made:
    """The tasks of a drill."""
    made = Made()
    add(made, with_, standing, IN_A_GO[standing.drill.key], luck)
    return made


def of_five(with_: With, standings: Mapping[str, Standing], luck: random.Random) -> Made:
    """The tasks of five minutes: drill by drill, the weakest first."""
    made = Made()
    for standing, count in five_minutes(standings.values()):
        add(made, with_, standing, count, luck)
    return made


def plain(gear: Gear, task: Task) -> dict[str, Any]:
    """A task as plain data."""
    system = gear.system
    words = said(task, system)
    shown: dict[str, Any] = {
        "drill": task.drill, "name": WORDS[task.drill].name, "part": task.part, "level": task.level,
        "stage": task.stage.value, "asks": words.asks, "hint": words.hint, "labels": words.labels,
        "says": words.says, "after": words.after, "best": task.best, "start": task.start,
        "right": [int(one.right) for one in task.outcomes],
        "off": [_cut(one.off) for one in task.outcomes],
    }  # fmt: skip
    if not math.isnan(task.outcomes[0].said):
        shown["said"] = [_cut(one.said) for one in task.outcomes]
        shown["was"] = _cut(task.outcomes[0].was)
    shown["picture"] = _picture(gear, task)
    if task.drill in _MORE:
        shown |= _MORE[task.drill](gear, task)
    turned = (shown["picture"] or {}).get("kind") == "stack" or task.part in ring.TURNED
    if task.stage in (Stage.DIAL, Stage.TOUCH) and not turned:
        shown["axis"] = axis(task.stops, system)
    return shown


def _cut(value: float) -> float:
    return float(f"{value:.{_FIGURES}g}")


def _picture(gear: Gear, task: Task) -> dict[str, Any] | None:
    """What goes with it, and how it is shown."""
    said = task.picture
    if said is None:
        return None
    if said["of"] == "ring":
        return ring_shown(gear, task)
    shown: dict[str, Any] = {"kind": "image", "src": address(said)}
    if said["of"] in ("stars", "far"):
        wide, high = pictures.STACK
        shown = {
            "kind": "stack", "src": address(said), "width": wide, "height": high,
            "across": pictures.ACROSS, "count": said["count"],
            "noise": task.facts.get("noise", 0.0), "wobble": _cut(task.facts.get("wobble", 0.0)),
        }  # fmt: skip
    elif said["of"] == "blurred":
        shown |= {"width": pictures.CLOSE[0], "height": pictures.CLOSE[1]}
    else:
        shown |= {"width": pictures.WIDE, "height": pictures.high(said)}
    if task.after is not None:
        shown["after"] = address(task.after)
    return shown


def _more_of_focus(gear: Gear, task: Task) -> dict[str, Any]:
    holds: Sequence[int] = task.facts["holds"] or (task.best,)
    return {"rows": row_axis(task.stops), "holds": [holds[0], holds[-1]], "third": focus.THIRD}


def _more_of_blur(gear: Gear, task: Task) -> dict[str, Any]:
    return {
        "then": {
            "asks": "What would have helped?",
            "labels": words_night.cures(task),
            "best": task.facts["cure"],
            "wrong": words_night.cure_was_wrong(task),
        }
    }


def _more_of_positions(gear: Gear, task: Task) -> dict[str, Any]:
    return {"calls": task.facts["name"], "wait": task.facts["wait_ms"], "home": task.part == "home"}


def _more_of_star(gear: Gear, task: Task) -> dict[str, Any]:
    return {"view": "taken"} if task.part == star.SHIFT else {}


_MORE: dict[str, Callable[[Gear, Task], dict[str, Any]]] = {
    "focus": _more_of_focus,
    "blur": _more_of_blur,
    "positions": _more_of_positions,
    "moment": pavement.shown,
    "star": _more_of_star,
}


def sources(shown: Mapping[str, Any]) -> list[str]:
    """The addresses of the pictures of a task as plain data."""
    picture = shown.get("picture") or {}
    return [picture[name] for name in ("src", "after") if name in picture]
