"""The card of a night as a page and as PDF."""

from __future__ import annotations

from functools import partial
from typing import Any

from django.http import HttpResponse
from django.shortcuts import render
from django.template.loader import render_to_string
from django.views.decorators.http import require_safe

from web.people.owners import OwnedRequest
from web.planner.escaped import worked_out
from web.sky import card
from web.sky.opening import without_way
from web.sky.views import pages
from web.ui import printing
from web.ui.downloads import file_name
from web.ui.printing import Paper
from web.ui.throttle import throttled

_CARD = Paper.CARD


@require_safe
@worked_out
def page(request: OwnedRequest, key: int | None = None) -> HttpResponse:
    """The card on the screen, with ways to print it."""
    context = _context(request, key)
    link = without_way(request)
    way = context["routine"].key
    path = pages.address("card_pdf", key)
    context |= {
        "papers": [(paper.value, paper.words, f"{path}?{link}way={way}") for paper in Paper],
        "ways": [
            (one.name, f"{request.path}?{link}way={one.key}", one.key == way)
            for one in context["routines"]
        ],
        "sides": {"front": "", "back": ""},
        "back": pages.back(request, key, link),
        "screen": "card",
    }
    return render(request, "sky/card_page.html", context)


@require_safe
@throttled("pdf")
@worked_out
def as_pdf(request: OwnedRequest, key: int | None = None) -> HttpResponse:
    """The card as PDF. ``paper``: card, a4 or letter; on these, both sides beside each other."""
    wanted = request.GET.get("paper", "")
    paper = Paper(wanted) if wanted in set(Paper) else _CARD
    context = _context(request, key) | {"ours": printing.OURS, "printed": True}

    def html_of(on: Paper, sides: dict[str, str]) -> str:
        return render_to_string("sky/card_print.html", context | {"paper": on, "sides": sides})

    def alone(side: str, density: str) -> str:
        return html_of(_CARD, {side: density})

    def made() -> bytes:
        # Each side as large as it has room for; on a sheet, both beside each other.
        sides = {side: printing.density_for(partial(alone, side)) for side in ("front", "back")}
        return printing.pdf(lambda _: html_of(paper, sides), len(sides))

    name = file_name(str(context["name"]), "night")
    return printing.answered(request, made, f"{name}, {paper}")


def _context(request: OwnedRequest, key: int | None) -> dict[str, Any]:
    night = pages.opened(request, key)
    return card.context(night.reading, night.name, request.GET.get("way", ""), night.who)
