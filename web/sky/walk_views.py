"""A way to get there, one step at a time and nothing else on the screen."""

from __future__ import annotations

from django.http import HttpResponse
from django.views.decorators.http import require_safe

from web.kept.escaped import worked_out
from web.people.owners import OwnedRequest
from web.planner import steps
from web.sky import usecases
from web.sky.routines import routines
from web.sky.views import pages


@require_safe
@worked_out
def page(request: OwnedRequest, key: int | None = None) -> HttpResponse:
    """The ways to infinity."""
    night = pages.opened(request, key)
    answer = usecases.answer(night.reading.sky)
    ways = routines(answer, answer.sky.in_use.body, night.who.own()[0])
    back = pages.back(request, key, steps.without_way(request).rstrip("&"))
    return steps.shown(request, ways, back, "walk", name=night.name or "A night without a name")
