"""The card of a bag: for each of its lenses, where infinity just holds, and from where on."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Any

from django.http import Http404, HttpRequest, QueryDict

from web.bag.models import Lens
from web.bag.soundness import faults, sound
from web.cards import code, usecases
from web.cards.asked import Asked, asked
from web.hand.with_lens import in_hand
from web.kept.printed import Head
from web.people.owners import OwnedRequest
from web.ui.templatetags import format

APERTURES = (4.0, 5.6, 8.0, 11.0, 16.0)
"""Across the card."""
NAME = "The bag"
TEMPLATE = "cards/bag_card.html"


@dataclass(frozen=True, slots=True)
class Line:
    """A lens at a focal length, mm: what each aperture does, None for one that it has not or at
    which nothing is that sharp."""

    lens: str
    focal_length: float
    cells: tuple[usecases.Row | None, ...]


def lines(request: OwnedRequest, said: QueryDict) -> tuple[Line, ...]:
    """Every lens of the bag that is whole, a zoom at both its ends, by focal length."""
    found = []
    for lens in sound(Lens.objects.filter(owner=request.owner)):
        if faults(lens):
            continue
        one = asked(request, lens.pk, said)
        for focal_length in sorted({float(lens.shortest_mm), float(lens.longest_mm)}):
            cells = tuple(_cell(one, focal_length, f_number) for f_number in APERTURES)
            found.append(Line(lens.name, focal_length, cells))
    return tuple(sorted(found, key=lambda line: line.focal_length))


def _cell(one: Asked, focal_length: float, f_number: float) -> usecases.Row | None:
    lens = one.lens
    if not lens.widest_at(focal_length) <= f_number <= max(one.kit.apertures):
        return None
    setup = replace(one, f_number=f_number).setup_of(focal_length)
    row = usecases.nearest_for_infinity(setup, one.system)
    return row if row.held is not None else None


def context(request: OwnedRequest, query: str = "") -> dict[str, Any]:
    """What the card's template needs. ``query``: the body and the standard, as a lens's cards have
    them. Raises Http404 for a bag without a lens."""
    said = QueryDict(query)
    first = in_hand(request)
    if first is None:
        raise Http404("There is no lens in your bag yet: give it one, and its card is here.")
    one = asked(request, first.pk, said)
    rows = lines(request, said)
    head = Head(NAME, one.head.gear, one.head.sharp, one.system)
    return {
        "head": head,
        "name": head.name,
        "system": one.system,
        "apertures": APERTURES,
        "lines": rows,
        "code": code_of(request, rows, one.system),
    }


def code_of(request: HttpRequest, rows: tuple[Line, ...], system: str) -> Any:
    """The code: each lens at f/8, or the next aperture that it has."""
    said = []
    for row in rows[: code.MOST_LINES]:
        cell = next((cell for cell in (*row.cells[2:], *row.cells[:2]) if cell is not None), None)
        if cell is not None and cell.held is not None:
            said.append(code.plain(
                f"{format.millimetres(row.focal_length)}: ring {format.reading(cell, system)}, "
                f"{format.f_number(cell.f_number)}, sharp {format.placed(cell.held, system)}"
            ))  # fmt: skip
    return code.drawn(code.address(request, NAME, said))
