"""The card of a night as a page and as PDF."""

from __future__ import annotations

from typing import Any

from web.people.owners import OwnedRequest
from web.planner.cards import Cards, papers
from web.planner.steps import without_way
from web.sky import card
from web.sky.views import pages


def _context(request: OwnedRequest, key: int | None) -> dict[str, Any]:
    night = pages.opened(request, key)
    return card.context(night.reading, night.name, request.GET.get("way", ""), night.who)


def _around(
    request: OwnedRequest, key: int | None, context: dict[str, Any], pdf: str
) -> dict[str, Any]:
    link = without_way(request)
    way = context["routine"].key
    return {
        "papers": papers(f"{pdf}?{link}way={way}"),
        "ways": [
            (one.name, f"{request.path}?{link}way={one.key}", one.key == way)
            for one in context["routines"]
        ],
        "back": pages.back(request, key, link),
    }


cards = Cards(pages, "night", "sky/card.html", "sky/card_page.html", "card", _context, _around)
