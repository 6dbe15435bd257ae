"""A way to get there, one step at a time and nothing else on the screen."""

from __future__ import annotations

from django.http import HttpResponse
from django.shortcuts import render
from django.views.decorators.http import require_safe

from web.people.owners import OwnedRequest
from web.planner.escaped import worked_out
from web.sky import usecases
from web.sky.opening import without_way
from web.sky.routines import routines
from web.sky.views import pages


@require_safe
@worked_out
def page(request: OwnedRequest, key: int | None = None) -> HttpResponse:
    """The step that the link says, of the way it says; the others wait in the page."""
    night = pages.opened(request, key)
    answer = usecases.answer(night.reading.sky)
    ways = routines(answer, answer.sky.in_use.body, night.who.own()[0])
    wanted = request.GET.get("way", "")
    routine = next((one for one in ways if one.key == wanted), ways[0])
    link = without_way(request)
    step = _step(request.GET.get("step", ""), len(routine.steps))
    context = {
        "name": night.name or "A night without a name",
        "routine": routine,
        "step": step,
        "link": f"{request.path}?{link}way={routine.key}",
        "ways": [
            (number, one.name, f"{request.path}?{link}way={one.key}")
            for number, one in enumerate(ways, start=1)
            if one != routine
        ],
        "back": pages.back(request, key, link.rstrip("&")),
        "screen": "walk",
    }
    return render(request, "sky/walk.html", context)


def _step(text: str, count: int) -> int:
    return min(max(int(text), 1), count) if text.isdecimal() and len(text) < 5 else 1
