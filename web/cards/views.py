"""Cards: of lenses here, of plans, sets and nights where they are kept."""

from __future__ import annotations

import json
from functools import cache, partial
from typing import Any

from django.http import Http404, HttpResponse
from django.shortcuts import render
from django.template.loader import render_to_string
from django.urls import reverse
from django.views.decorators.http import require_safe

from web.bag.models import Lens
from web.bag.soundness import sound
from web.cards import one_file, outgoing, usecases
from web.cards.asked import Asked, asked
from web.kept import keeper
from web.kept.kinds import kind_of
from web.kept.printed import address, printed
from web.people.owners import OwnedRequest
from web.ui import printing
from web.ui.downloads import file_name, named
from web.ui.throttle import throttled

KINDS = {
    "zoom": ("Zoom card", "cards/zoom.html"),
    "over": ("Over and under", "cards/over.html"),
    "table": ("Table", "cards/table.html"),
    "strip": ("Sliding strip", "cards/strip.html"),
    "ring": ("Ring strip", "cards/ring.html"),
}
"""The cards of a lens: their names and templates."""
_SHEETS = {"zoom": "card", "over": "card", "table": "table"}
"""What each is printed on; else a strip's sheet."""
_MOST_KEPT = 60


@require_safe
def page(request: OwnedRequest) -> HttpResponse:
    """The lenses of the bag, and what is kept that has a card or a sheet."""
    lenses = sound(Lens.objects.filter(owner=request.owner))
    wanted = keeper.Wanted(kind="", lens="", words="")
    kept = [
        (one, kind_of(one).noun, address(one.kind, how.faces[0].key, one.pk))
        for one in keeper.listed(request.owner, wanted)[:_MOST_KEPT]
        if (how := printed(one.kind)) is not None
    ]
    return render(request, "cards/page.html", {"lenses": lenses, "kept": kept, "screen": "cards"})


@require_safe
def lens(request: OwnedRequest, key: int) -> HttpResponse:
    """The cards of a lens, as they come out of the printer."""
    found = asked(request, key)
    context = _context(found) | {
        "screen": "cards",
        "kinds": [
            (kind, name, template, f"{reverse('cards:pdf', args=[key, kind])}?{found.query()}")
            for kind, name, template in _kinds(found)
        ],
        "one_file": f"{reverse('cards:pocket', args=[key])}?{found.query()}",
    }
    return render(request, "cards/lens.html", context)


@require_safe
@throttled("pdf")
def pdf(request: OwnedRequest, key: int, kind: str) -> HttpResponse:
    """One of them as PDF, at true size."""
    if kind not in KINDS:
        raise Http404("There is no such card.")
    found = asked(request, key)
    name, template = KINDS[kind]
    context = _context(found) | {"ours": printing.OURS, "card": template, "printed": True}
    context |= {"sheet": _SHEETS.get(kind, "strip"), "title": name}

    def html_of(density: str) -> str:
        return render_to_string("cards/print.html", {**context, "density": density})

    called = file_name(found.lens.name, name.lower())
    return printing.answered(request, partial(printing.pdf, html_of), called)


@require_safe
def pocket(request: OwnedRequest, key: int) -> HttpResponse:
    """All of them in one file with everything in it."""
    found = asked(request, key)
    text = one_file.written(_context(found) | {"kinds": _kinds(found)})
    response = HttpResponse(text, content_type="text/html; charset=utf-8")
    name = file_name(found.lens.name, "cards")
    response["Content-Disposition"] = named(f"{name}.html", "attachment")
    return response


@require_safe
def numbers(request: OwnedRequest, key: int, kind: str) -> HttpResponse:
    """The table's numbers, as CSV or JSON: docs/cards.md says what stands in them."""
    found = asked(request, key)
    rows = outgoing.rows(found)
    name = file_name(found.lens.name, "table")
    if kind == "json":
        body = json.dumps(outgoing.document(found, rows), ensure_ascii=False, indent=1)
        response = HttpResponse(body, content_type="application/json; charset=utf-8")
    else:
        response = HttpResponse(outgoing.csv_of(rows), content_type="text/csv; charset=utf-8")
    response["Content-Disposition"] = named(f"{name}.{kind}", "attachment")
    return response


def _kinds(found: Asked) -> list[tuple[str, str, str]]:
    """The cards that a lens has: a prime has no zoom card."""
    return [
        (kind, name, template)
        for kind, (name, template) in KINDS.items()
        if kind != "zoom" or found.lens.is_zoom
    ]


def _context(found: Asked) -> dict[str, Any]:
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
