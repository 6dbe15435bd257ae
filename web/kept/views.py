"""The list of what is kept, and what can be done there with one of it."""

from __future__ import annotations

from typing import Any

from django.core.paginator import Paginator
from django.http import HttpResponse, QueryDict
from django.shortcuts import redirect, render
from django.urls import reverse
from django.views.decorators.http import require_POST, require_safe

from web.kept import along, keeper
from web.kept.kinds import kind_of, kinds, known
from web.kept.models import Kept
from web.kept.printed import address, printed
from web.people.owners import OwnedRequest, writer
from web.people.quota import Full

PER_PAGE = 30
_LONGEST_SEARCH = 80


@require_safe
def page(request: OwnedRequest) -> HttpResponse:
    """What is kept, the last changed first: of one kind or all, with one lens or any, by name."""
    kind = known(request.GET.get("kind", ""))
    wanted = keeper.Wanted(
        kind="" if kind is None else kind.key,
        lens=request.GET.get("lens", ""),
        words=request.GET.get("q", "")[:_LONGEST_SEARCH],
    )
    shown = Paginator(keeper.listed(request.owner, wanted), PER_PAGE)
    here = shown.get_page(request.GET.get("page"))
    lenses = keeper.lenses(request.owner)
    query = request.GET.copy()
    query.pop("page", None)
    query.pop("deleted", None)
    context = {
        "items": [_item(request, kept) for kept in here if known(kept.kind)],
        "here": here,
        "query": query.urlencode(),
        "wanted": wanted,
        "kind": kind,
        "kinds": kinds(),
        "lenses": lenses,
        "narrowed": bool(wanted.kind or wanted.lens or wanted.words),
        "deleted": _deleted(request),
        "undo_days": keeper.UNDO_FOR.days,
        "gone": keeper.gone(request.owner),
        "also": along.others(),
        "screen": "kept",
    }
    return render(request, "kept/page.html", context)


def _item(request: OwnedRequest, kept: Kept) -> dict[str, Any]:
    kind = kind_of(kept)
    found: dict[str, Any] = {"kept": kept, "kind": kind, "along": along.of(kept)}
    if (how := printed(kind.key)) is not None:
        face = how.faces[0]
        found |= {"prints": address(kind.key, face.key, kept.pk), "face": face.name}
    found["narrow"] = kind.opens_on_a_phone(kept.pk)
    try:
        reading = kind.read(keeper.query_of(kept), kind.asks(request))
        return {**found, "small": kind.small(reading), "setup": reading.setup}
    except (ArithmeticError, ValueError):  # it is named, and opens with what is wrong with it
        return found


def _deleted(request: OwnedRequest) -> Kept | None:
    """What has just been deleted, by its key; None for what is no such thing."""
    text = request.GET.get("deleted", "")
    if not text.isdecimal() or len(text) >= 19:
        return None
    own = Kept.with_deleted.filter(owner=request.owner, pk=text)
    return own.exclude(deleted=None).first()


def _own(request: OwnedRequest, key: int) -> Kept:
    keeper.of(request.owner, key)  # a 404 makes nobody an owner
    return keeper.of(writer(request), key)


@require_POST
def delete(request: OwnedRequest, key: int) -> HttpResponse:
    """Take one off the list, with a way back."""
    kept = _own(request, key)
    keeper.delete(kept)
    return _back(request, deleted=str(kept.pk))


@require_POST
def duplicate(request: OwnedRequest, key: int) -> HttpResponse:
    """Make another like it, and open that."""
    try:
        return redirect(keeper.duplicate(_own(request, key)).get_absolute_url())
    except Full as full:
        context = {"title": "Not duplicated", "text": full.sentence}
        return render(request, "ui/error.html", context, status=409)


@require_POST
def restore(request: OwnedRequest, key: int) -> HttpResponse:
    """Put a deleted one back."""
    kept = keeper.of(request.owner, key, deleted=True)
    if not request.owner.is_sample:
        keeper.put_back(kept)
    return _back(request)


def _back(request: OwnedRequest, **more: str) -> HttpResponse:
    """To the list as it was narrowed."""
    query = QueryDict(request.POST.get("back", ""), mutable=True)
    query.update(more)
    return redirect(f"{reverse('kept:page')}?{query.urlencode()}" if query else "kept:page")
