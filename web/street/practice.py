"""Three calm steps that teach a thumb the positions, and an eye the distances."""

from __future__ import annotations

import math

from django.http import HttpResponse
from django.views.decorators.http import require_safe

from optics.base import settable
from web.hand.touch import width_in_fingers
from web.kept.escaped import worked_out
from web.people.owners import OwnedRequest
from web.planner import steps
from web.planner.steps import Routine, Step
from web.street import judging, usecases
from web.street.position import Position
from web.street.usecases import Answer
from web.street.views import pages
from web.ui.templatetags import format, words

TIMES = "Ten"
"""How often each is done: nine right of them are enough for a street."""


def practice(answer: Answer, sighted: judging.Sighted) -> Routine:
    """Home blind; from home to the others and back; guess, set, check."""
    steps = (_home(answer), _others(answer), _guess(answer, sighted))
    return Routine("practice", "Practice", "at home, before the street", steps)


def _home(answer: Answer) -> Step:
    home, system = answer.home, answer.street.system
    where = format.reading(home, system)
    right = ""
    if home.window is not None:
        span = settable.inside(home.window.nearest, home.window.farthest, system)
        right = "" if span.reach else f" Right is anywhere {format.placed(span, system)}."
    found = f"It is at {where}"
    found += f", {home.touch}." if home.by_touch and home.touch else "."
    return Step(
        f"Find home without looking: {where}.",
        f"{found} Look once. Then turn the ring away, shut your eyes, bring it back, and look. "
        f"{TIMES} times.{right}",
    )


def _others(answer: Answer) -> Step:
    others = [one for one in answer.positions if not one.home]
    if not others:
        return Step(
            "From home to a stop, and back.",
            "There is one position, so the thumb has one thing to know: the way back to it. From "
            f"the near stop, from infinity, without looking. {TIMES} times.",
        )
    return Step(
        "From home to each, and back to home.",
        f"Say its name, turn, look, and go back. {TIMES} times each, slowly: speed comes itself.",
        each=tuple((one.name, _way(answer, one)) for one in reversed(others)),
    )


def _way(answer: Answer, one: Position) -> str:
    """Where a position is, and how far from home."""
    says = format.reading(one, answer.street.system)
    if one.by_touch and one.touch:
        says += f", {one.touch}"
    hands = answer.street.in_use.hands
    if hands is not None:
        turned = abs(float(hands.ring.turn(answer.home.focus, one.focus)))
        towards = "farther" if one.focus > answer.home.focus else "nearer"
        says += f": {width_in_fingers(turned)} {towards}"
    return says


def _guess(answer: Answer, sighted: judging.Sighted) -> Step:
    system = answer.street.system
    told = [
        (
            format.exactly(edge.depth, system),
            f"{edge.says}: an adult {edge.cut}" if edge.cut else
            f"{edge.says}: an adult fills {words.filled(edge.adult)} of the frame",
        )
        for edge in sighted.edges
        if math.isfinite(edge.depth)
    ]  # fmt: skip
    return Step(
        "Guess, set, check.",
        "Pick a post, a door, a friend. Say which position it falls to, set that, and only then "
        f"look through the finder: how it is cut tells. {TIMES} guesses; nine right are enough for "
        "the street. Stand still while you look.",
        each=tuple(told),
    )


@require_safe
@worked_out
def page(request: OwnedRequest, key: int | None = None) -> HttpResponse:
    """The practice of what the link says."""
    opened = pages.opened(request, key)
    answer = usecases.answer(opened.reading.street)
    sighted = judging.sighted(answer, opened.who.own()[0])
    back = pages.back(request, key, steps.without_way(request).rstrip("&"))
    name = opened.name or "A street without a name"
    return steps.shown(request, [practice(answer, sighted)], back, "practice", name=name)
