"""The target to print: as a PDF of true size, and as a page."""

from __future__ import annotations

from typing import Any

from django.http import Http404, HttpResponse
from django.shortcuts import render
from django.template.loader import render_to_string
from django.views.decorators.http import require_safe

from drawing import target
from web.people.owners import OwnedRequest
from web.ui import printing
from web.ui.throttle import throttled


@require_safe
def page(request: OwnedRequest) -> HttpResponse:
    """The target, to be printed from the browser."""
    return render(request, "bench/target_page.html", {"screen": "target", **_target("a4")})


@throttled("pdf")
@require_safe
def pdf(request: OwnedRequest, paper: str) -> HttpResponse:
    """The target at its true size, as a PDF."""
    if paper not in target.PAPERS:
        raise Http404
    html = render_to_string("bench/target.html", {**_target(paper), "ours": printing.OURS})
    return printing.answered(request, lambda: printing.pdf(lambda _: html), f"target-{paper}")


def _target(paper: str) -> dict[str, Any]:
    width, height = target.PAPERS[paper]
    foot = -target.CHECK_Y
    return {
        "paper": paper,
        "width": width,
        "height": height,
        "box": f"{-width / 2} {-height / 2} {width} {height}",
        "target": target.picture(),
        "check_top": foot - 1.5,
        "words_y": foot + 5.0,
        "far_y": -foot,
    }
