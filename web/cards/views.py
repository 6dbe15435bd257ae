"""Cards: of lenses here, of plans, sets and nights where they are kept."""

from __future__ import annotations

from typing import Any

from django.http import Http404, HttpResponse
from django.shortcuts import render
from django.template.loader import render_to_string
from django.urls import reverse
from django.views.decorators.http import require_safe

from web.bag.models import Lens
from web.bag.soundness import sound
from web.cards import of_bag, of_lens, one_file, outgoing, pack_views, packs
from web.cards.asked import GIVES, asked
from web.hand.with_lens import in_hand
from web.kept import along, keeper
from web.kept.kinds import kind_of
from web.kept.printed import address
from web.kept.printed import printed as printed_how
from web.people.owners import OwnedRequest
from web.ui import printing, tables
from web.ui.downloads import file_name
from web.ui.throttle import throttled

_MOST_KEPT = 60


@require_safe
def page(request: OwnedRequest) -> HttpResponse:
    """The lenses of the bag, and what is kept that has a card or a sheet."""
    lenses = sound(Lens.objects.filter(owner=request.owner))
    wanted = keeper.Wanted(kind="", lens="", words="")
    kept = [
        (one, kind_of(one).noun, address(one.kind, how.faces[0].key, one.pk))
        for one in keeper.listed(request.owner, wanted)[:_MOST_KEPT]
        if (how := printed_how(one.kind)) is not None
    ]
    context = {
        "lenses": lenses,
        "kept": kept,
        "packs": packs.listed(request.owner),
        "deleted": pack_views.deleted(request),
        "screen": "cards",
    }
    return render(request, "cards/page.html", context)


@require_safe
def lens(request: OwnedRequest, key: int) -> HttpResponse:
    """The cards of a lens, as they come out of the printer."""
    found = asked(request, key)
    context = of_lens.context(found) | {
        "screen": "cards",
        "kinds": [
            (
                kind,
                f"{reverse('cards:pdf', args=[key, kind.key])}?{found.query()}",
                of_lens.code_of(found, kind.key, request),
            )
            for kind in of_lens.kinds(found.lens)
        ],
        "gives": GIVES,
        "packs": packs.listed(request.owner),
        "along": along.thing(
            f"lens-{found.lens.pk}",
            found.lens.name,
            "cards of a lens",
            [("Cards and strips", reverse("cards:lens", args=[found.lens.pk]))],
            about=36,
        ),
        "one_file": f"{reverse('cards:pocket', args=[key])}?{found.query()}",
    }
    return render(request, "cards/lens.html", context)


@require_safe
def strip(request: OwnedRequest) -> HttpResponse:
    """The sliding strip of the lens in hand, alone: it works without a signal."""
    lens = in_hand(request)
    context = {} if lens is None else of_lens.context(asked(request, lens.pk))
    return render(request, "cards/strip_page.html", {**context, "screen": "cards"})


@require_safe
def bag(request: OwnedRequest) -> HttpResponse:
    """The card of all lenses of the bag."""
    context = of_bag.context(request, request.GET.urlencode())
    more = {"packs": packs.listed(request.owner), "screen": "cards", "density": ""}
    return render(request, "cards/bag.html", context | more)


@require_safe
@throttled("pdf")
def bag_file(request: OwnedRequest, ending: str) -> HttpResponse:
    """It as PDF, or as a picture."""
    context = of_bag.context(request, request.GET.urlencode())
    context |= {"ours": printing.OURS, "printed": True, "card": of_bag.TEMPLATE, "sheet": "card"}
    return _answered(request, context, of_bag.NAME, "card", 1, ending)


@require_safe
@throttled("pdf")
def printed(request: OwnedRequest, key: int, kind: str, ending: str = "pdf") -> HttpResponse:
    """One of them as PDF at true size, or as a picture."""
    if kind not in of_lens.KINDS:
        raise Http404("There is no such card.")
    found = asked(request, key)
    one = of_lens.KINDS[kind]
    context = of_lens.context(found, kind, request)
    context |= {"ours": printing.OURS, "printed": True}
    context |= {"card": one.template, "sheet": one.sheet}
    return _answered(request, context, found.lens.name, one.name, one.loosest, ending)


def _answered(
    request: OwnedRequest, context: dict[str, Any], name: str, title: str, loosest: int, ending: str
) -> HttpResponse:
    """A card as a file."""
    context = context | {"title": title}

    def html_of(density: str) -> str:
        return render_to_string("cards/print.html", {**context, "density": density})

    side = printing.side(html_of, loosest)

    def made() -> bytes:
        if ending in printing.PICTURES:
            return printing.picture(side, ending, f"{name}, {title.lower()}")
        return printing.cards([side])[1]

    called = file_name(f"{name}, {title.lower()}", title.lower())
    return printing.answered(request, made, called, ending)


@require_safe
def pocket(request: OwnedRequest, key: int) -> HttpResponse:
    """All of them in one file with everything in it."""
    found = asked(request, key)
    context = of_lens.context(found)
    inside = [
        one_file.Inside(kind.key, kind.name, "", render_to_string(kind.template, context))
        for kind in of_lens.kinds(found.lens)
    ]
    return one_file.sent(found.lens.name, inside)


@require_safe
def numbers(request: OwnedRequest, key: int, kind: str) -> HttpResponse:
    """The table's numbers, as CSV or JSON: docs/cards.md says what stands in them."""
    found = asked(request, key)
    rows = outgoing.rows(found)
    name = file_name(found.lens.name, "table")
    as_json = kind == "json"
    body = tables.csv_of(rows, outgoing.COLUMNS)
    if as_json:
        body = tables.json_of(outgoing.document(found, rows))
    return tables.sent(body, name, kind)
