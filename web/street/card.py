"""The card of a street: its positions on one side, light and people on the other."""

from __future__ import annotations

from typing import Any

from drawing import bands
from web.hand.asker import Asker
from web.people.owners import OwnedRequest
from web.planner.cards import Cards, papers
from web.street import judging, usecases
from web.street.exposing import exposing
from web.street.reading import Reading
from web.street.usecases import Answer
from web.street.views import pages
from web.ui.templatetags import format

_MOST_EDGES = 7
_LINE = 358.0


def context(reading: Reading, name: str, who: Asker) -> dict[str, Any]:
    """What the card's template needs."""
    answer = usecases.answer(reading.street)
    street = answer.street
    return {
        "reading": reading,
        "answer": answer,
        "street": street,
        "system": street.system,
        "name": name or "A street without a name",
        "aperture_text": format.f_number(street.setup.f_number),
        "exposing": exposing(answer),
        "edges": judging.sighted(answer, who.own()[0]).edges[:_MOST_EDGES],
        "line": _line(answer),
    }


def _line(answer: Answer) -> bands.BandsPicture | None:
    """What each position holds, and where the ring stands for it, on the one axis."""
    rows = [
        bands.Stretch(one.name, format.reading(one, answer.street.system), one.held, one.focus)
        for one in answer.positions
        if one.held is not None
    ]
    return bands.draw(rows, _LINE, answer.street.system) if rows else None


def _context(request: OwnedRequest, key: int | None) -> dict[str, Any]:
    opened = pages.opened(request, key)
    return context(opened.reading, opened.name, opened.who)


def _around(
    request: OwnedRequest, key: int | None, context: dict[str, Any], pdf: str
) -> dict[str, Any]:
    link = request.GET.urlencode(safe="/'")
    return {"papers": papers(f"{pdf}?{link}"), "back": pages.back(request, key, link)}


cards = Cards(
    pages, "street", "street/card.html", "street/card_page.html", "street-card", _context, _around
)
