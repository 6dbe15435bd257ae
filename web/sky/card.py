"""The card of a night, for the pocket: the answer on one side, a way to get there on the other."""

from __future__ import annotations

import math
from typing import Any

from drawing import bands
from web.bag.lenses import Draws
from web.kept.printed import CARD, Face, Opened, Printed, register
from web.planner import paper
from web.planner.steps import Routine
from web.sky import usecases
from web.sky.finding import WALK
from web.sky.foreground import foreground
from web.sky.kind import KIND
from web.sky.kinds import Subject
from web.sky.pointing import direction, height, words
from web.sky.reading import Reading
from web.sky.routines import routines
from web.sky.templatetags.night import degrees
from web.sky.tries import tries
from web.sky.views import pages
from web.ui.templatetags.format import number
from web.ui.templatetags.words import in_units

_MOST_FRAMES, _MOST_TIMES = 4, 3


def context(opened: Opened[Reading], way: str) -> dict[str, Any]:
    """What the card's template needs. ``way``: the key of a routine; else the first."""
    reading, own = opened.reading, opened.who.own()[0]
    answer = usecases.answer(reading.sky)
    sky, pace = answer.sky, own.pace
    ways = routines(answer, sky.in_use.body, own)
    routine = _chosen(ways, way)
    stretch = bands.Stretch("", "", answer.here.held, answer.here.focus)
    head = paper.head(opened, "A night without a name", _sharp(answer))
    fore = None
    if sky.foreground is not None:
        fore = foreground(answer, sky.foreground)
    return {
        "reading": reading,
        "answer": answer,
        "answered": answer,
        "sky": sky,
        "system": sky.system,
        "head": head,
        "name": head.name,
        "unit": sky.unit,
        "per": sky.unit_length,
        "paces": math.ceil(answer.here.focus / pace) if answer.here.focus <= WALK else None,
        "times": tries(answer).times[:_MOST_TIMES],
        "frames": fore.in_order(sky.ground_last)[:_MOST_FRAMES] if fore else (),
        "more_frames": max(len(fore.frames) - _MOST_FRAMES, 0) if fore else 0,
        "fore": fore,
        "line": paper.line([stretch], sky.system),
        "points": None if sky.aim is None else _points(reading),
        "routine": routine,
        "ways": [(one.key, one.name) for one in ways],
        "way": routine.key,
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


def _sharp(answer: usecases.Answer) -> str:
    """What is called sharp under stars: how wide one may be."""
    sky = answer.sky
    if sky.pitch is None:
        return ""
    return f"stars to {in_units(sky.setup.coc, sky.unit_length)} {sky.unit}"


PRINTED = register(
    Printed(KIND, pages, (Face(CARD, "Card", "sky/card.html", context, loosest=(1, 2)),))
)
