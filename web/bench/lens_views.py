"""What tests found of a lens, as a page; and its small pictures."""

from __future__ import annotations

from typing import Any

from django.http import HttpResponse, HttpResponseRedirect
from django.shortcuts import render
from django.urls import reverse
from django.views.decorators.http import require_POST, require_safe

from web.bench import usecases
from web.bench.kinds import KINDS
from web.bench.models import Thumbnail
from web.bench.shown import shown_findings, together
from web.bench.views import jpeg, lens_of
from web.people.owners import OwnedRequest, find, writer


@require_safe
def page(request: OwnedRequest, key: int) -> HttpResponse:
    """What tests found of a lens."""
    lens = lens_of(request.owner, str(key))
    context = {
        "screen": "bench",
        "lens": lens,
        "found": shown_findings(lens),
        "together": together(lens),
        "kinds": KINDS.values(),
        "out": _put_back(request),
        "system": request.owner.units,
    }
    return render(request, "bench/lens.html", context)


@require_POST
def found(request: OwnedRequest, key: int) -> HttpResponse:
    """Use a finding of a lens or leave it out, take it out, or put it back."""
    lens = lens_of(writer(request), str(key))
    which = request.POST.get("finding", "")
    if "used" in request.POST:
        usecases.switch(lens, which, request.POST["used"] == "1")
    elif "out" in request.POST:
        request.session["bench_out"] = {"lens": lens.pk, "finding": usecases.take_out(lens, which)}
    elif "back" in request.POST:
        gone = request.session.pop("bench_out", None)
        if gone and gone["lens"] == lens.pk and gone["finding"]:
            usecases.put_back(lens, gone["finding"])
    return HttpResponseRedirect(reverse("bench:lens", args=[lens.pk]))


def _put_back(request: OwnedRequest) -> Any:
    """What was taken out last, while it can be put back."""
    gone = request.session.get("bench_out")
    return gone if gone and gone.get("finding") else None


@require_safe
def thumbnail(request: OwnedRequest, key: int) -> HttpResponse:
    """A frame that a finding was made of, small."""
    shown: Thumbnail = find(Thumbnail, request.owner, key, "")
    return jpeg(shown.small)
