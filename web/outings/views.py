"""Outings as pages: the list, one before it begins, and what can be done with it."""

from __future__ import annotations

from typing import Any

from django.http import Http404, HttpResponse
from django.shortcuts import redirect, render
from django.template.loader import render_to_string
from django.urls import reverse
from django.utils import timezone
from django.views.decorators.http import require_POST, require_safe

from web.cards import packs
from web.kept import along, keeper
from web.kept.kinds import kinds, known
from web.outings import usecases
from web.outings.forms import GROUNDS, OutingForm, texts_of
from web.outings.log import conflicts, standing
from web.outings.models import NAME_LIMIT, WORDS_LIMIT, Outing, What
from web.outings.packing import care, packing
from web.outings.returning import best_of, differences
from web.outings.taken_out import TakenOut, taken_out
from web.people.owners import OwnedRequest, writer
from web.people.quota import Full
from web.ui import printing
from web.ui.downloads import file_name
from web.ui.storing import NotStored, storing
from web.ui.text import cleaned
from web.ui.throttle import throttled

_OFFERED = 60
KB_OF_THE_PAGE = 30


def is_key(text: str) -> bool:
    """Whether a text can be the key of something."""
    return text.isdecimal() and len(text) < 19


@require_safe
def page(request: OwnedRequest) -> HttpResponse:
    """The outings there are."""
    return _list(request)


def _list(request: OwnedRequest, status: int = 200, **more: Any) -> HttpResponse:
    today = timezone.localdate()
    rows = [
        {
            "outing": one,
            "coming": one.on is not None and one.on >= today,
            "items": one.items.count(),
            "frames": one.frames.count(),
        }
        for one in usecases.listed(request.owner)
    ]
    context = {"screen": "outings", "rows": rows, "deleted": _deleted(request), **more}
    return render(request, "outings/page.html", context, status=status)


def _deleted(request: OwnedRequest) -> Outing | None:
    text = request.GET.get("deleted", "")
    if not is_key(text):
        return None
    try:
        found = usecases.of(request.owner, int(text), deleted=True)
    except Http404:
        return None
    return found if found.deleted else None


@require_POST
def new(request: OwnedRequest) -> HttpResponse:
    """Make one, and open it."""
    name = cleaned(request.POST.get("name", "")).strip()
    if not name or len(name) > NAME_LIMIT:
        wrong = f"Keep the name to {NAME_LIMIT} letters." if name else "Give it a name first."
        return _list(request, 422, name=name, wrong=wrong)
    try:
        with storing():
            made = usecases.new(writer(request), name)
    except Full as full:
        return _list(request, 409, name=name, wrong=full.sentence)
    except NotStored as error:
        return _list(request, 503, name=name, wrong=error.sentence)
    return redirect("outings:outing", made.pk)


@require_safe
def outing(request: OwnedRequest, key: int) -> HttpResponse:
    """One: what goes along, and all that is to be known of it."""
    return _page(request, usecases.of(request.owner, key))


def _page(request: OwnedRequest, one: Outing, status: int = 200, **more: Any) -> HttpResponse:
    there = taken_out(request, one)
    entries = standing(one.entries.all())
    own_packs = packs.listed(request.owner)
    context = {
        "screen": "outings",
        "outing": one,
        "texts": texts_of(one),
        "wrong": {},
        "there": there,
        "grounds": GROUNDS,
        "packed": packing(one, there),
        "care": care(one, there),
        "offered": _offered(request, there),
        "own_packs": own_packs,
        "packs": [pack for pack in own_packs if pack.pk in one.packs],
        "along": _along(one, there),
        "logged": len([e for e in entries if e.what != What.SETTLED]),
        "conflicts": len(conflicts(one.entries.all())),
        "frames": one.frames.count(),
        **_last_time(request, one),
        **more,
    }
    return render(request, "outings/outing.html", context, status=status)


def _last_time(request: OwnedRequest, one: Outing) -> dict[str, Any]:
    """The outing that this one returns to the place of, pictures of it, and what is set otherwise
    by now."""
    before = one.after
    if before is None or before.deleted is not None:
        return {}
    then = taken_out(request, before)
    return {"before": before, "pictures": best_of(before), "differences": differences(then)}


def _along(one: Outing, there: list[TakenOut]) -> dict[str, Any]:
    """What a button to take all of it along needs."""
    pages = [("There", reverse("outings:there", args=[one.pk]))]
    for item in there:
        pages += [(f"{label}, {item.name}", address) for label, address in item.pages]
    about = KB_OF_THE_PAGE + along.KB_OF_A_PAGE * (len(pages) - 1)
    return along.thing(f"outing-{one.pk}", one.name, "outing", pages, about)


def _offered(request: OwnedRequest, there: list[TakenOut]) -> list[tuple[str, list[Any]]]:
    """What is kept and not taken out yet, by kind."""
    have = {one.now.pk for one in there if one.now is not None}
    kept = [
        one
        for one in keeper.listed(request.owner, keeper.Wanted())[: _OFFERED + len(have)]
        if one.pk not in have and known(one.kind)
    ]
    groups = [(kind.plural, [one for one in kept if one.kind == kind.key]) for kind in kinds()]
    return [(name, group) for name, group in groups if group]


@require_POST
def change(request: OwnedRequest, key: int) -> HttpResponse:
    """Say something else of it."""
    usecases.of(request.owner, key)
    one = usecases.of(writer(request), key)
    form = OutingForm(request.POST)
    if not form.is_valid():
        wrong = {name: " ".join(map(str, errors)) for name, errors in form.errors.items()}
        texts = {**request.POST.dict(), "grounds": request.POST.getlist("grounds")}
        return _page(request, one, 422, texts=texts, wrong=wrong)
    try:
        with storing():
            usecases.change(one, form.values(request.POST))
    except NotStored as error:
        texts = {**request.POST.dict(), "grounds": request.POST.getlist("grounds")}
        return _page(request, one, 503, texts=texts, wrong={"name": error.sentence})
    return redirect("outings:outing", one.pk)


@require_POST
def gather(request: OwnedRequest, key: int) -> HttpResponse:
    """Take things out on it: what is kept, by ``kept``; packs of cards, by ``pack``. With ``out``,
    ``move`` or ``fresh``, the key of an item: out of it, to another place, or as it is kept now."""
    usecases.of(request.owner, key)
    one = usecases.of(writer(request), key)
    said = request.POST
    item = said.get("item", "")
    if is_key(item):
        if "out" in said:
            usecases.leave(one, int(item))
        elif "fresh" in said:
            for each in taken_out(request, one):
                if int(item) in (each.item.pk, each.item.copied_from):
                    usecases.take_new(one, each)
        else:
            usecases.move(one, int(item), said.get("to", ""))
        return redirect("outings:outing", one.pk)
    try:
        usecases.gather(one, [int(value) for value in said.getlist("kept") if is_key(value)])
    except Full as full:
        return _page(request, one, 409, full=full.sentence)
    if "packs" in said:
        own = {pack.pk for pack in packs.listed(request.owner)}
        wanted = [int(value) for value in said.getlist("pack") if is_key(value)]
        usecases.change(one, {"packs": [key for key in wanted if key in own]})
    return redirect("outings:outing", one.pk)


@require_POST
def delete(request: OwnedRequest, key: int) -> HttpResponse:
    """Take it off the list, with a way back."""
    usecases.of(request.owner, key)
    one = usecases.of(writer(request), key)
    usecases.delete(one)
    return redirect(f"{reverse('outings:page')}?deleted={one.pk}")


@require_POST
def restore(request: OwnedRequest, key: int) -> HttpResponse:
    """Put a deleted one back."""
    one = usecases.of(request.owner, key, deleted=True)
    if not request.owner.is_sample:
        usecases.put_back(one)
    return redirect("outings:outing", one.pk)


@require_safe
def sheet(request: OwnedRequest, key: int) -> HttpResponse:
    """All of it on one sheet."""
    context = _sheet(request, key)
    return render(request, "outings/sheet_page.html", {"screen": "outing-sheet", **context})


@throttled("pdf")
@require_safe
def pdf(request: OwnedRequest, key: int) -> HttpResponse:
    """The sheet as PDF. ``paper``: a4 or letter."""
    context = _sheet(request, key)
    paper = request.GET.get("paper", "")
    paper = paper if paper in ("a4", "letter") else "a4"

    def html_of(density: str) -> str:
        more = {"ours": printing.OURS, "paper": paper, "density": density}
        return render_to_string("outings/sheet.html", {**context, **more})

    shorter = render_to_string(
        "outings/sheet.html",
        {**context, "ours": printing.OURS, "paper": paper, "density": "closest", "brief": True},
    )
    name = f"{file_name(context['outing'].name, 'outing')}, {paper}"
    return printing.answered(request, lambda: printing.pdf(html_of, shorter=[shorter]), name)


def _sheet(request: OwnedRequest, key: int) -> dict[str, Any]:
    one = usecases.of(request.owner, key)
    there = taken_out(request, one)
    return {
        "outing": one,
        "there": there,
        "packed": packing(one, there),
        "care": care(one, there),
    }


@require_POST
def again(request: OwnedRequest, key: int) -> HttpResponse:
    """Return to the place: another outing, with what was taken out then."""
    usecases.of(request.owner, key)
    one = usecases.of(writer(request), key)
    better = cleaned(request.POST.get("better", ""), lines=True).strip()[:WORDS_LIMIT]
    try:
        fresh = usecases.again(one, f"{one.name[: NAME_LIMIT - 7]}, again", better or one.better)
    except Full as full:
        return _page(request, one, 409, full=full.sentence)
    return redirect("outings:outing", fresh.pk)
