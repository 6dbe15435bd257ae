"""Something done one step at a time, with nothing else on the screen: a routine of a planner."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

from django.http import HttpResponse
from django.shortcuts import render

from web.people.owners import OwnedRequest


@dataclass(frozen=True, slots=True)
class Branch:
    """Where a step can go wrong: what one says then, what to try, in that order, and the key of the
    step to go back to; empty for none."""

    when: str
    tries: tuple[str, ...]
    back: str = ""


@dataclass(frozen=True, slots=True)
class Step:
    """What to do, in a few words, and what there is to know about it. ``now``: the aperture, the
    time and the ISO to set for it, if it needs any. ``each``: what it is done with, each a name and
    what to know of it. ``branches``: where it can go wrong. ``key``: for branches to come back to.
    ``brief``: what there is to know on paper, where that is less; ``paper``: whether it stands
    there at all.
    """

    do: str
    know: str = ""
    now: tuple[str, str, str] | None = None
    each: tuple[tuple[str, str], ...] = ()
    branches: tuple[Branch, ...] = ()
    key: str = ""
    brief: str | None = None
    paper: bool = True

    @property
    def on_paper(self) -> str:
        """What there is to know, where there is little room."""
        return self.know if self.brief is None else self.brief


@dataclass(frozen=True, slots=True)
class Routine:
    """A way to get there: its name, when it is for, its steps in order, and the settings of the
    picture that they lead to; None for none."""

    key: str
    name: str
    when: str
    steps: tuple[Step, ...]
    picture: tuple[str, str, str] | None = None

    @property
    def on_paper(self) -> tuple[Step, ...]:
        """The steps that stand on a card."""
        return tuple(step for step in self.steps if step.paper)

    def goes_back(self, branch: Branch) -> tuple[int, str] | None:
        """The number of the step that a branch goes back to and what it says; None for none."""
        for number, step in enumerate(self.steps, start=1):
            if branch.back and step.key == branch.back:
                return number, step.do
        return None

    @property
    def branched(self) -> tuple[tuple[Step, list[tuple[Branch, tuple[int, str] | None]]], ...]:
        """The steps, each with its branches and where those go back to."""
        return tuple(
            (step, [(branch, self.goes_back(branch)) for branch in step.branches])
            for step in self.steps
        )


def without_way(request: OwnedRequest) -> str:
    """The link's query but for the way to get there and its step, to go on from: with an & at its
    end, or empty."""
    query = request.GET.copy()
    for name in ("way", "step"):
        query.pop(name, None)
    return query.urlencode(safe="/'") + "&" if query else ""


def shown(
    request: OwnedRequest, ways: Sequence[Routine], back: str, screen: str, **more: Any
) -> HttpResponse:
    """The step that the link says, of the way it says; the others wait in the page.

    ``back``: the address of the planner; ``screen``: the key of the page; ``more``: at least
    ``name``; ``home``: what ``back`` is called.
    """
    wanted = request.GET.get("way", "")
    routine = next((one for one in ways if one.key == wanted), ways[0])
    link = without_way(request)
    context = {
        "home": "The plan",
        "routine": routine,
        "step": _step(request.GET.get("step", ""), len(routine.steps)),
        "link": f"{request.path}?{link}way={routine.key}",
        "ways": [
            (number, one.name, f"{request.path}?{link}way={one.key}")
            for number, one in enumerate(ways, start=1)
            if one != routine
        ],
        "back": back,
        "screen": screen,
    }
    return render(request, "planner/walk.html", context | more)


def _step(text: str, count: int) -> int:
    return min(max(int(text), 1), count) if text.isdecimal() and len(text) < 5 else 1
