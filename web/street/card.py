"""The card of a street: its positions on one side, light and people on the other."""

from __future__ import annotations

from typing import Any

from drawing import bands
from web.kept.printed import CARD, Face, Opened, Printed, register
from web.planner import paper
from web.street import judging, usecases
from web.street.exposing import exposing
from web.street.kind import KIND
from web.street.reading import Reading
from web.street.usecases import Answer
from web.street.views import pages
from web.ui.templatetags import format

_MOST_EDGES = 7


def context(opened: Opened[Reading], way: str) -> dict[str, Any]:
    """What the card's template needs."""
    reading = opened.reading
    answer = usecases.answer(reading.street)
    street = answer.street
    head = paper.head(opened, "A street without a name")
    return {
        "reading": reading,
        "answer": answer,
        "answered": answer,
        "street": street,
        "system": street.system,
        "head": head,
        "name": head.name,
        "aperture_text": format.f_number(street.setup.f_number),
        "exposing": exposing(answer),
        "edges": judging.sighted(answer, opened.who.own()[0]).edges[:_MOST_EDGES],
        "line": _line(answer),
    }


def _line(answer: Answer) -> bands.BandsPicture | None:
    """What each position holds, and where the ring stands for it, on the one axis."""
    rows = [
        bands.Stretch(one.name, format.reading(one, answer.street.system), one.held, one.focus)
        for one in answer.positions
        if one.held is not None
    ]
    return paper.line(rows, answer.street.system)


PRINTED = register(
    Printed(KIND, pages, (Face(CARD, "Card", "street/card.html", context, loosest=(2, 1)),))
)
