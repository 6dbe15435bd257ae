"""Taking things of the bag in hand, from the panel of a planner."""

from __future__ import annotations

from typing import Any

from django.http import Http404, HttpResponse, HttpResponseRedirect, QueryDict
from django.urls import reverse
from django.views.decorators.http import require_POST

from web.bag.models import Attachment, Body, Lens, Standard, Thing
from web.bag.soundness import faults
from web.hand import first, panel, typical
from web.hand.fields import USUAL
from web.hand.reader import scaled
from web.people.models import Owner
from web.people.owners import OwnedRequest, find, writer
from web.ui.back import path_in

_PICKED: tuple[tuple[str, type[Thing]], ...] = (
    ("body", Body),
    ("lens", Lens),
    ("standard", Standard),
    ("adapter", Attachment),
)


@require_POST
def take(request: OwnedRequest) -> HttpResponse:
    """Take a body, a lens and a standard in hand, and go back to the planner with them."""
    owner = writer(request)
    query = QueryDict(request.POST.get("state", ""), mutable=True)
    texts = {name: str(query.get(name, usual)) for name, usual in USUAL.items()}
    body, lens, standard, adapter = (
        _picked(owner, model, request.POST.get(name, "")) for name, model in _PICKED
    )
    before = panel.hand(owner, texts)
    path = path_in(request, request.POST.get("next"), reverse("home"))
    planner, was = first.planner_of(path), before.in_use.lens
    factor = before.in_use.factor
    uses = panel.uses_of(owner)
    if planner and was is not None:
        uses = first.used(uses, was, planner, *panel.lengths_of(texts, factor))
    for name, kinds in (("body", typical.BODIES), ("lens", typical.LENSES)):
        usual = typical.picked(kinds, request.POST.get(name, ""))
        if usual is not None:
            texts |= usual.said(first.afresh(texts, planner))
    let_go = before.knows_lens and not request.POST.get("lens")
    if planner and lens is not None and lens != was:
        factor = 1.0
        focal_length, f_number = first.start(lens, planner, uses)
        texts |= {"focal_length_mm": f"{focal_length:g}", "f_number": f"{f_number:g}"}
    if (lens or was) and lens != was:
        for name in first.OF_A_LENS:
            query.pop(name, None)
    new = panel.taken(texts, body, lens, standard, adapter, factor, let_go=let_go)
    if standard is None:
        new |= scaled(new, query, lambda was: before.in_use.standard)
    panel.remember(owner, body, lens, standard, adapter, new, uses)
    for name, text in new.items():
        query[name] = text
    link = query.urlencode(safe="/'")
    return HttpResponseRedirect(f"{path.partition('?')[0]}?{link}")


@require_POST
def ring_off(request: OwnedRequest) -> HttpResponse:
    """Keep with the lens in hand that its ring is off by so much more than was known, or take that
    back, and go back to the planner."""
    owner = writer(request)
    query = QueryDict(request.POST.get("state", ""))
    texts = {name: str(query.get(name, usual)) for name, usual in USUAL.items()}
    lens = panel.hand(owner, texts).in_use.lens
    if lens is not None:
        lens.ring_is_off_by(request.POST.get("ring_off_mm", ""))
        lens.save()
    path = path_in(request, request.POST.get("next"), reverse("home"))
    return HttpResponseRedirect(f"{path.partition('?')[0]}?{query.urlencode(safe='/')}")


def _picked(owner: Owner, model: type[Thing], key: str) -> Any:
    if not key.isdecimal() or len(key) > 18:
        return None
    try:
        thing = find(model, owner, int(key), "")
    except Http404:
        return None
    return None if faults(thing) else thing
