"""The kinds of card that a lens has, and what they are drawn from."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache
from typing import Any

from django.http import Http404

from web.bag.models import Lens
from web.cards import usecases
from web.cards.asked import Asked


@dataclass(frozen=True, slots=True)
class LensCard:
    """A kind of card of a lens. ``sheet``: what it is printed on, a card's or a table's or a
    strip's; ``for_zooms``: whether only zooms have it; ``packs``: whether it goes on a card;
    ``loosest``: the density it begins at."""

    key: str
    name: str
    template: str
    sheet: str
    for_zooms: bool = False
    packs: bool = False
    loosest: int = 0


KINDS = {
    one.key: one
    for one in (
        LensCard("zoom", "Zoom card", "cards/zoom.html", "card", for_zooms=True, packs=True),
        LensCard("over", "Over and under", "cards/over.html", "card", packs=True, loosest=2),
        LensCard("table", "Table", "cards/table.html", "table"),
        LensCard("strip", "Sliding strip", "cards/strip.html", "strip"),
        LensCard("ring", "Ring strip", "cards/ring.html", "strip"),
    )
}


def kinds(lens: Lens) -> list[LensCard]:
    """Those that a lens has: a prime has no zoom card."""
    return [kind for kind in KINDS.values() if lens.is_zoom or not kind.for_zooms]


def for_a_pack(lens: Lens) -> list[LensCard]:
    """Those of them that are as large as a card."""
    return [kind for kind in kinds(lens) if kind.packs]


def kind(found: Asked, key: str) -> LensCard:
    """One of them. Raises Http404 for one it has not."""
    one = KINDS.get(key)
    if one is None or one not in kinds(found.lens):
        raise Http404("There is no such card.")
    return one


def context(found: Asked) -> dict[str, Any]:
    """What the cards need, each worked out where it is shown."""
    zoom = found.lens.is_zoom
    return {
        "asked": found,
        "head": found.head,
        "system": found.system,
        "zoom_rows": cache(lambda: usecases.zoom_rows(found) if zoom else ()),
        "short_rows": cache(lambda: usecases.short_rows(found) if zoom else ()),
        "over_rows": cache(lambda: usecases.over_and_under(found)),
        "strip": cache(lambda: usecases.strip(found)),
        "narrow_strip": cache(lambda: usecases.strip(found, usecases.NARROW_MM)),
        "table": cache(lambda: usecases.table(found)),
        "ring_strip": cache(lambda: usecases.ring_of(found)),
        "barrel": found.barrel,
    }
