"""Packs as pages: the list, one pack, and printing it a few cards at a time."""

from __future__ import annotations

from typing import Any

from django.http import Http404, HttpResponse, HttpResponseRedirect, QueryDict
from django.shortcuts import redirect, render
from django.template.loader import render_to_string
from django.urls import reverse
from django.views.decorators.http import require_POST, require_safe

from web.cards import of_lens, one_file, packs
from web.cards.asked import asked
from web.cards.made import Gone, Made, made, offered
from web.cards.models import NAME_LIMIT, Card, Pack, Paper, Size
from web.hand.with_lens import in_hand
from web.people.owners import OwnedRequest, writer
from web.people.quota import Full
from web.ui import printing
from web.ui.downloads import file_name, named
from web.ui.press import Busy, CannotPrint, TooLong
from web.ui.text import cleaned
from web.ui.throttle import throttled

ROWS = 24
"""Cards whose state is looked up at once."""


@require_POST
def new(request: OwnedRequest) -> HttpResponse:
    """Make a pack, and open it."""
    try:
        return redirect("cards:pack", packs.new(writer(request), _name(request) or packs.FIRST).pk)
    except Full as full:
        return _refused(request, full)


@require_safe
def page(request: OwnedRequest, key: int) -> HttpResponse:
    """One pack: its cards in order, how they are printed, and what else can be put in."""
    return _page(request, packs.of(request.owner, key))


@require_safe
def state(request: OwnedRequest, key: int) -> HttpResponse:
    """Which of a stretch of its cards have changed since they were printed, or are gone."""
    pack = packs.of(request.owner, key)
    text = request.GET.get("from", "0")
    first = int(text) if text.isdecimal() and len(text) < 6 else 0
    rows = [_row(card, request) for card in pack.cards.all()[first : first + ROWS]]
    return render(request, "cards/pack_state.html", {"pack": pack, "rows": rows})


@require_POST
def put(request: OwnedRequest, key: int | None = None) -> HttpResponse:
    """Put cards in; into a pack of their own if there is none yet."""
    owner = writer(request)
    text = request.POST.get("pack", "")
    if key is None and text.isdecimal() and len(text) < 19:
        key = int(text)
    try:
        pack = packs.new(owner, packs.FIRST) if key is None else packs.of(owner, key)
        packs.put(pack, request.POST.getlist("card"), request.POST.get("query", ""))
    except Full as full:
        return _refused(request, full)
    return redirect("cards:pack", pack.pk)


@require_POST
def change(request: OwnedRequest, key: int) -> HttpResponse:
    """Its name, the size of its cards, its paper; and what is said of one of its cards."""
    pack = packs.of(writer(request), key)
    said = request.POST
    card = said.get("card", "")
    if card.isdecimal() and len(card) < 19:
        if "to" in said:
            packs.move(pack, int(card), said["to"])
            return _here(pack, f"card-{card}")
        out = packs.take_out(pack, int(card))
        return _page(request, pack, taken_out=out)
    wrong = ""
    if "name" in said:
        name = _name(request)
        wrong = "" if name else "Give it a name to find it by."
        if len(name) > NAME_LIMIT:
            wrong = f"Keep the name to {NAME_LIMIT} letters."
        pack.name = pack.name if wrong else name
    if said.get("size", "") in Size.values:
        pack.size = said["size"]
    if said.get("paper", "") in Paper.values:
        pack.paper = said["paper"]
    if wrong:
        return _page(request, pack, name=said["name"], name_wrong=wrong, status=422)
    pack.save(update_fields=["name", "size", "paper"])
    return _here(pack)


@require_POST
def delete(request: OwnedRequest, key: int) -> HttpResponse:
    """Take it off the list, with a way back."""
    pack = packs.of(writer(request), key)
    packs.delete(pack)
    return redirect(f"{reverse('cards:page')}?deleted={pack.pk}")


@require_POST
def restore(request: OwnedRequest, key: int) -> HttpResponse:
    """Put a deleted one back."""
    pack = packs.of(request.owner, key, deleted=True)
    if not request.owner.is_sample:
        packs.put_back(pack)
    return redirect("cards:pack", pack.pk)


@require_POST
@throttled("pdf")
def begin(request: OwnedRequest, key: int) -> HttpResponse:
    """Begin to print it: all of it, or with ``which`` = changed what was not printed as it is."""
    pack = packs.of(writer(request), key)
    cards = list(pack.cards.all())
    if request.POST.get("which") == "changed":
        rows = (_row(card, request) for card in cards)
        cards = [row["card"] for row in rows if row["changes"] or not row["card"].printed]
    if not cards:
        return _page(request, pack, printing_says="There is nothing to print in it.", status=422)
    packs.begin(pack, cards)
    return _printing(request, pack)


@require_POST
def go_on(request: OwnedRequest, key: int) -> HttpResponse:
    """Print the next few."""
    return _printing(request, packs.of(writer(request), key))


@require_safe
@throttled("pdf")
def pocket(request: OwnedRequest, key: int) -> HttpResponse:
    """All its cards in one file, and the sliding strip of the lens in hand."""
    pack = packs.of(request.owner, key)
    inside = []
    for card in pack.cards.all():
        now = made(card, request)
        if isinstance(now, Made):
            inside.append(one_file.Inside(f"card-{card.pk}", now.name, now.noun, now.shown()))
    lens = in_hand(request)
    if lens is not None:
        context = of_lens.context(asked(request, lens.pk, QueryDict()))
        strip = render_to_string(of_lens.KINDS["strip"].template, context)
        inside.append(one_file.Inside("strip", lens.name, "sliding strip", strip))
    return one_file.sent(pack.name, inside)


@require_safe
@throttled("pdf")
def pdf(request: OwnedRequest, key: int) -> HttpResponse:
    """What was printed of it."""
    pack = packs.of(request.owner, key)
    response = HttpResponse(packs.printed(pack), content_type="application/pdf")
    name = f"{file_name(pack.name, 'cards')}, {pack.size}, {pack.paper}"
    response["Content-Disposition"] = named(f"{name}.pdf", "inline")
    return response


def _printing(request: OwnedRequest, pack: Pack) -> HttpResponse:
    """A few more; then on, or to the PDF."""
    says, retry, gone = "", False, []
    if pack.queue:
        try:
            gone = packs.step(pack, request)
        except (Busy, TooLong):
            says, retry = "Others are printing; this goes on by itself in a moment.", True
        except CannotPrint:
            says = printing.why_not(CannotPrint)
    ready, of_all = packs.progress(pack)
    context = {
        "pack": pack, "ready": ready, "of_all": of_all, "says": says, "screen": "cards",
        "more": bool(pack.queue) and (retry or not says), "wait": 2 if retry else 0,
        "gone": gone,
    }  # fmt: skip
    part = request.headers.get("HX-Request")
    template = "cards/pack_progress.html" if part else "cards/pack_printing.html"
    return render(request, template, context)


def _page(request: OwnedRequest, pack: Pack, status: int = 200, **more: Any) -> HttpResponse:
    cards = list(pack.cards.all())
    known = _names(request)
    context = {
        "pack": pack,
        "name": pack.name,
        "name_limit": NAME_LIMIT,
        "rows": [(card, *known.get(_value(card), ("", ""))) for card in cards],
        "stretches": range(0, len(cards), ROWS),
        "sizes": Size.choices,
        "papers": Paper.choices,
        "offered": offered(request),
        "ready": pack.pieces.exists() and not pack.queue,
        "screen": "cards",
        **more,
    }
    return render(request, "cards/pack.html", context, status=status)


def _names(request: OwnedRequest) -> dict[str, tuple[str, str]]:
    """What can be put in, by its value: its name and what it is."""
    every = (one for group in offered(request).values() for one in group)
    return {one["value"]: (one["name"], one["noun"]) for one in every}


def _value(card: Card) -> str:
    return f"{card.of}:{card.thing}:{card.face}"


def _row(card: Card, request: OwnedRequest) -> dict[str, Any]:
    """A card as it is now, against how it was printed."""
    now = made(card, request)
    fresh = isinstance(now, Made) and card.printed is not None
    return {
        "card": card,
        "now": now if isinstance(now, Made) else None,
        "gone": now if isinstance(now, Gone) else None,
        "changes": packs.changes(card, now) if fresh and isinstance(now, Made) else [],
    }


def _name(request: OwnedRequest) -> str:
    return cleaned(request.POST.get("name", "")).strip()


def _here(pack: Pack, anchor: str = "") -> HttpResponseRedirect:
    there = reverse("cards:pack", args=[pack.pk])
    return HttpResponseRedirect(f"{there}#{anchor}" if anchor else there)


def _refused(request: OwnedRequest, full: Full) -> HttpResponse:
    context = {"title": "No room for that", "text": full.sentence}
    return render(request, "ui/error.html", context, status=409)


def deleted(request: OwnedRequest) -> Pack | None:
    """What has just been deleted, by its key in the address; None for what is no such thing."""
    text = request.GET.get("deleted", "")
    if not text.isdecimal():
        return None
    try:
        pack = packs.of(request.owner, int(text[:20]), deleted=True)
    except Http404:
        return None
    return pack if pack.deleted else None
