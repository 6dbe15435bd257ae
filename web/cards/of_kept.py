"""The cards and sheets of what planners keep, or of a link of theirs: on the screen and as PDF."""

from __future__ import annotations

from functools import partial
from typing import Any

from django.http import Http404, HttpResponse, HttpResponsePermanentRedirect
from django.shortcuts import render
from django.template.loader import render_to_string
from django.views.decorators.http import require_safe

from web.cards import code, outgoing, packs
from web.cards.models import Of
from web.kept import keeper
from web.kept.escaped import worked_out
from web.kept.kinds import known
from web.kept.models import NAME_LIMIT
from web.kept.printed import CARD, SIDES, Face, Printed, address, printed
from web.people.owners import OwnedRequest
from web.ui import printing, tables
from web.ui.downloads import file_name
from web.ui.printing import Paper
from web.ui.throttle import throttled

_PAPERS = {True: (Paper.CARD, Paper.A4, Paper.LETTER), False: (Paper.A4, Paper.LETTER)}


@require_safe
@worked_out
def page(request: OwnedRequest, face: str, kind: str = "", key: int | None = None) -> HttpResponse:
    """One on the screen, at its size, with the ways to paper."""
    how, shown = _asked(request, face, kind, key)
    context = _context(request, how, shown, key)
    link = _link(request)
    ways = [
        (name, f"{request.path}?{link}way={way}", way == context["way"])
        for way, name in context.get("ways", ())
    ]
    way = f"way={context['way']}&" if ways else ""
    pdf = f"{address(how.kind.key, shown.key, key, 'pdf')}?{link}{way}"
    context |= {
        "face": shown,
        "faces": [
            (one.name, f"{address(how.kind.key, one.key, key)}?{link}", one is shown)
            for one in how.faces
        ],
        "ways": ways,
        "papers": [(paper.words, f"{pdf}paper={paper}") for paper in _PAPERS[shown.key == CARD]],
        "pictures": []
        if shown.key != CARD
        else [
            (
                f"{ending.upper()}, {side}",
                f"{address(how.kind.key, shown.key, key, ending)}?{link}{way}side={side}",
            )
            for ending in printing.PICTURES
            for side in SIDES
        ]
        + [
            (ending.upper(), f"{address(how.kind.key, shown.key, key, ending)}?{link}")
            for ending in ("csv", "json")
        ],
        "back": how.pages.back(request, key, link.rstrip("&")),
        "planner": how.kind.app.capitalize(),
        "packs": packs.listed(request.owner),
        "put_value": f"{Of.KEPT}:{key}:{CARD}" if key is not None and shown.key == CARD else "",
        "sides": dict.fromkeys(SIDES, ""),
        "density": "",
        "screen": shown.screen,
    }
    return render(request, "cards/kept.html", context)


@require_safe
@throttled("pdf")
@worked_out
def pdf(request: OwnedRequest, face: str, kind: str = "", key: int | None = None) -> HttpResponse:
    """One as PDF. ``paper``: card, a4 or letter; on those, a card's sides beside each other."""
    how, shown = _asked(request, face, kind, key)
    wanted = request.GET.get("paper", "")
    papers = _PAPERS[shown.key == CARD]
    paper = Paper(wanted) if wanted in papers else papers[0]
    context = _context(request, how, shown, key)
    name = file_name(str(context["name"]), how.kind.noun)
    made = partial(_card if shown.key == CARD else _sheet, shown, context, paper)
    return printing.answered(request, made, f"{name}, {paper}")


@require_safe
@throttled("pdf")
@worked_out
def picture(
    request: OwnedRequest, face: str, ending: str, kind: str = "", key: int | None = None
) -> HttpResponse:
    """A side of a card as PNG or SVG. ``side``: front, or back."""
    how, shown = _asked(request, face, kind, key)
    if shown.key != CARD:
        raise Http404("A sheet is printed on paper.")
    context = _context(request, how, shown, key)
    wanted = request.GET.get("side", "")
    side = wanted if wanted in SIDES else SIDES[0]
    one = _sides(shown, context)[side]
    name = f"{file_name(str(context['name']), how.kind.noun)}, {side}"
    made = partial(printing.picture, one, ending, str(context["name"]))
    return printing.answered(request, made, name, ending)


@require_safe
@worked_out
def numbers(
    request: OwnedRequest, face: str, ending: str, kind: str = "", key: int | None = None
) -> HttpResponse:
    """The frames on a card, as CSV or JSON: docs/cards.md says what stands in them."""
    how, shown = _asked(request, face, kind, key)
    opened = how.pages.opened(request, key)
    head = shown.context(opened, "")["head"]
    reading = opened.reading
    rows = outgoing.frames(how.kind.shots(how.kind.answer(reading)))
    if ending == "json":
        link = f"/{how.kind.app}/?{reading.query()}"
        body = tables.json_of(outgoing.card(head, how.kind.noun, link, rows))
    else:
        body = tables.csv_of(rows, outgoing.FRAME_COLUMNS)
    return tables.sent(body, file_name(head.name, how.kind.noun), ending)


@require_safe
def moved(request: OwnedRequest, face: str, kind: str, key: int | None = None) -> HttpResponse:
    """Where the planners once had their cards: links and bookmarks of that time lead on."""
    if key is not None:
        key = keeper.of(request.owner, key, known(kind)).pk
    ending = "pdf" if request.path.endswith(".pdf") else ""
    query = request.GET.urlencode(safe="/'")
    there = address(kind, face, key, ending)
    return HttpResponsePermanentRedirect(f"{there}?{query}" if query else there)


def _asked(request: OwnedRequest, face: str, kind: str, key: int | None) -> tuple[Printed, Face]:
    """How what is asked for is printed. A 404 for no such kind, thing or face."""
    how = printed(kind or keeper.of(request.owner, key or 0).kind)
    shown = None if how is None else how.face(face)
    if how is None or shown is None:
        raise Http404("There is no such card.")
    return how, shown


def _context(request: OwnedRequest, how: Printed, shown: Face, key: int | None) -> dict[str, Any]:
    opened = how.pages.opened(request, key)
    context = shown.context(opened, request.GET.get("way", ""))
    if shown.key == CARD:
        context["code"] = code.of_context(request, how, opened, context)
    return context


@require_safe
def at(request: OwnedRequest) -> HttpResponse:
    """What a card's code says, written large. Off-line, the page's own script does the same."""
    said = request.GET
    context = {
        "name": said.get(code.NAME, "")[:NAME_LIMIT],
        "lines": [one[:200] for one in said.getlist(code.LINE)[: code.MOST_LINES]],
        "link": code.link_of(said),
        "screen": "at",
    }
    return render(request, "cards/at.html", context)


def _link(request: OwnedRequest) -> str:
    """What the address says, ready for one more field; without the way and the paper."""
    link = request.GET.copy()
    for name in ("way", "paper"):
        link.pop(name, None)
    query = link.urlencode(safe="/'")
    return f"{query}&" if query else ""


def _card(shown: Face, context: dict[str, Any], paper: Paper) -> bytes:
    """Each side as large as it has room for; on a sheet, both beside each other."""

    def html_of(on: Paper, sides: dict[str, str]) -> str:
        more = {"ours": printing.OURS, "printed": True, "paper": on, "sides": sides, "face": shown}
        return render_to_string("cards/kept_print.html", {**context, **more})

    two = _sides(shown, context)
    if paper is Paper.CARD:
        return printing.cards(list(two.values()))[1]
    sides = {side: printing.density_for(one) for side, one in two.items()}
    return printing.pdf(lambda _: html_of(paper, sides))


def _sides(shown: Face, context: dict[str, Any]) -> dict[str, printing.Side]:
    """A card's sides, each on a page of its own."""

    def alone(side: str, density: str) -> str:
        more = {"ours": printing.OURS, "printed": True, "paper": Paper.CARD, "face": shown}
        sides = {side: density}
        return render_to_string("cards/kept_print.html", {**context, **more, "sides": sides})

    return {
        side: printing.side(partial(alone, side), loosest)
        for side, loosest in zip(SIDES, shown.loosest, strict=True)
    }


def _sheet(shown: Face, context: dict[str, Any], paper: Paper) -> bytes:
    def html_of(density: str, **other: object) -> str:
        more = {"ours": printing.OURS, "printed": True, "paper": paper, "face": shown}
        return render_to_string(
            "cards/kept_print.html", {**context, **more, "density": density, **other}
        )

    again = context.get("again", {})
    return printing.pdf(html_of, shorter=[html_of(printing.DENSITIES[-1], **again)])
