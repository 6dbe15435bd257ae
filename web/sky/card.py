"""The card of a night, for the pocket: the answer on one side, a way to get there on the other."""

from __future__ import annotations

import math
from typing import Any

from drawing import bands
from web.bag.lenses import Draws
from web.hand.asker import Asker
from web.planner.steps import Routine
from web.sky import usecases
from web.sky.finding import WALK
from web.sky.foreground import foreground
from web.sky.kinds import Subject
from web.sky.pointing import direction, height, words
from web.sky.reading import Reading
from web.sky.routines import routines
from web.sky.templatetags.night import degrees
from web.sky.tries import tries
from web.ui.templatetags.format import number

_MOST_FRAMES, _MOST_TIMES = 4, 3


def context(reading: Reading, name: str, way: str, who: Asker) -> dict[str, Any]:
    """What the card's template needs. ``way``: the key of a routine; else the first."""
    answer = usecases.answer(reading.sky)
    sky, pace = answer.sky, who.own()[0].pace
    ways = routines(answer, sky.in_use.body, who.own()[0])
    fore = None
    if sky.foreground is not None:
        fore = foreground(answer, sky.foreground)
    return {
        "reading": reading,
        "answer": answer,
        "sky": sky,
        "system": sky.system,
        "name": name or "A night without a name",
        "unit": sky.unit,
        "per": sky.unit_length,
        "paces": math.ceil(answer.here.focus / pace) if answer.here.focus <= WALK else None,
        "times": tries(answer).times[:_MOST_TIMES],
        "frames": fore.in_order(sky.ground_last)[:_MOST_FRAMES] if fore else (),
        "more_frames": max(len(fore.frames) - _MOST_FRAMES, 0) if fore else 0,
        "fore": fore,
        "line": _line(answer),
        "points": None if sky.aim is None else _points(reading),
        "routine": _chosen(ways, way),
        "routines": ways,
        "special": _special(answer),
    }


def _special(answer: usecases.Answer) -> list[str]:
    """What makes this night another kind than stars from a tripod, in few words."""
    sky = answer.sky
    words = [] if sky.straight else [str(Draws(sky.projection).label)]
    if sky.off_pole is not None:
        words.append(f"on a mount that follows, {degrees(sky.off_pole)} off the pole")
    if sky.film:
        words.append(f"film, longer by {number(sky.reciprocity)}")
    if sky.aurora is not None:
        words.append(sky.aurora.name)
    if sky.subject is Subject.COMET:
        words.append("a comet: many short frames, laid on its head")
    return words


def _points(reading: Reading) -> str:
    """Where to point, in words that a cold head takes in."""
    texts = reading.texts
    return words(direction(texts["direction"]), height(texts["height"]))


def _chosen(ways: tuple[Routine, ...], key: str) -> Routine:
    return next((one for one in ways if one.key == key), ways[0])


_LINE = 358.0


def _line(answer: usecases.Answer) -> bands.BandsPicture:
    """What is sharp, and where the ring stands, on the one axis."""
    here = answer.here
    stretch = bands.Stretch("", "", here.held, here.focus)
    return bands.draw([stretch], _LINE, answer.sky.system)
