"""What frames teach, as a page; and taking it over into one's own measures."""

from __future__ import annotations

from django.http import HttpResponse
from django.shortcuts import redirect, render
from django.views.decorators.http import require_POST, require_safe

from web.outings.learning import judged_by, learnt
from web.people.owners import OwnedRequest, writer


@require_safe
def page(request: OwnedRequest) -> HttpResponse:
    """What there is to learn of all outings."""
    context = {
        "screen": "outing-learnt",
        "learnt": learnt(request.owner),
        "own": request.owner.judgement_error,
        "accepted": "accepted" in request.GET,
    }
    return render(request, "outings/learnt.html", context)


@require_POST
def accept(request: OwnedRequest) -> HttpResponse:
    """Take over how far off one judges by eye as one's own measure."""
    owner = writer(request)
    judged = judged_by(owner)
    if judged.enough:
        owner.judges(judged.off)
    return redirect("/outings/learnt/?accepted=1")
