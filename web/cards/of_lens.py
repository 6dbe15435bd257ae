"""The kinds of card that a lens has, and what they are drawn from."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache
from typing import Any

from django.http import Http404, HttpRequest
from django.utils.safestring import SafeString

from web.bag.models import Lens
from web.cards import code, usecases
from web.cards.asked import Asked
from web.ui.templatetags import format


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


def said(found: Asked, key: str) -> list[str]:
    """What the code on one of its cards says: the fewest numbers of a zoom, else what the nearest
    setting that holds infinity does."""
    at, system = format.f_number(found.f_number), found.system
    if key == "zoom" and not found.several:
        rows = usecases.short_rows(found)
        return [
            code.plain(f"to {one.end:g} mm: ring {format.reading(one, system)}, {at}, "
                       f"sharp from {format.fine_up(one.nearest, system)}")
            for one in rows
        ]  # fmt: skip
    if key == "zoom":
        return [
            code.plain(f"{format.f_number(n)}: " + "; ".join(
                f"to {one.end:g} mm {format.reading(one, system)}" for one in rows))
            for n, rows in usecases.short_by_aperture(found)
        ]  # fmt: skip
    here = next((row for row in usecases.over_and_under(found) if row.here), None)
    if here is None:
        return []
    held = "nothing sharp" if here.held is None else f"sharp {format.placed(here.held, system)}"
    length = format.millimetres(found.kit.focal_length)
    return [code.plain(f"{length}: ring {format.reading(here, system)}, {at}, {held}")]


def code_of(found: Asked, key: str, request: HttpRequest) -> SafeString | None:
    """The code on one of its cards; None where there is no room for one."""
    if key not in KINDS or not KINDS[key].packs:
        return None
    name = f"{found.lens.name}, {KINDS[key].name.lower()}"
    return code.drawn(code.address(request, name, said(found, key), "view", found.link))


def context(found: Asked, key: str = "", request: HttpRequest | None = None) -> dict[str, Any]:
    """What the cards need, each worked out where it is shown. ``key``: of the only one that is
    needed, which then has its code, by how ``request`` reached us."""
    zoom = found.lens.is_zoom
    return {
        "code": None if request is None else code_of(found, key, request),
        "asked": found,
        "head": found.head,
        "system": found.system,
        "zoom_rows": cache(lambda: usecases.zoom_rows(found) if zoom else ()),
        "short_rows": cache(lambda: usecases.short_rows(found) if zoom else ()),
        "short_by_aperture": cache(
            lambda: usecases.short_by_aperture(found) if zoom and found.several else ()
        ),
        "over_rows": cache(lambda: usecases.over_and_under(found)),
        "strip": cache(lambda: usecases.strip(found)),
        "narrow_strip": cache(lambda: usecases.strip(found, usecases.NARROW_MM)),
        "table": cache(lambda: usecases.table(found)),
        "ring_strip": cache(lambda: usecases.ring_of(found)),
        "barrel": found.barrel,
    }
