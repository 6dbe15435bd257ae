"""The plan sheet as a page and as PDF."""

from __future__ import annotations

from django.http import Http404, HttpResponse, QueryDict
from django.shortcuts import render
from django.template.loader import render_to_string
from django.urls import reverse
from django.utils.text import slugify
from django.views.decorators.http import require_GET

from web.bag.gear import asker
from web.people.owners import OwnedRequest
from web.view import plans as plan_store
from web.view import printing, sheet
from web.view.forms import is_scene, read_scene, sample_query
from web.view.sample import NAME as SAMPLE_NAME
from web.view.views import plan_of


@require_GET
def page(request: OwnedRequest, plan_id: int | None = None) -> HttpResponse:
    """The sheet on the screen, with ways to print it."""
    context = _context(request, plan_id)
    query = request.GET.urlencode(safe="/'")
    path = reverse("view:plan_sheet_pdf", args=[plan_id]) if plan_id else reverse("view:sheet_pdf")
    back = reverse("view:plan", args=[plan_id]) if plan_id else reverse("view:page")
    context |= {
        "printed": False,
        "papers": [
            (paper.value, _PAPER_NAMES[paper], f"{path}?{query}") for paper in printing.Paper
        ],
        "back": f"{back}?{query}" if is_scene(request.GET) else back,
        "screen": "view",
    }
    return render(request, "view/sheet_page.html", context)


_PAPER_NAMES = {printing.Paper.A4: "A4", printing.Paper.LETTER: "Letter"}


@require_GET
def as_pdf(request: OwnedRequest, plan_id: int | None = None) -> HttpResponse:
    """The sheet as PDF. ``paper``: a4 or letter."""
    wanted = request.GET.get("paper", "")
    paper = printing.Paper(wanted) if wanted in _PAPER_NAMES else printing.Paper.A4
    context = _context(request, plan_id) | {"paper": paper, "printed": True, "ours": printing.OURS}

    def page_at(density: str) -> str:
        return render_to_string("view/sheet_print.html", context | {"density": density})

    try:
        made = printing.pdf(page_at)
    except printing.CannotPrint:
        sentence = (
            "This machine lacks the libraries that make a PDF. Open the plan sheet and print it "
            "from the browser instead."
        )
        return render(
            request, "ui/error.html", {"title": "No PDF here", "text": sentence}, status=501
        )
    response = HttpResponse(made, content_type="application/pdf")
    name = slugify(str(context["name"])) or "plan"
    response["Content-Disposition"] = f'inline; filename="{name}-{paper}.pdf"'
    return response


def _context(request: OwnedRequest, plan_id: int | None) -> dict[str, object]:
    plan = plan_of(request.owner, plan_id)
    data: QueryDict = request.GET
    name, note = request.GET.get("name", "")[:80], ""
    if plan is not None:
        name, note = name or plan.name, plan.note
    if not is_scene(data):
        data = sample_query() if plan is None else plan_store.query_of(plan)
        name = name or SAMPLE_NAME
    reading = read_scene(data, who=asker(request))
    if not reading.rows and not reading.valid:
        raise Http404("There is nothing to print.")
    return sheet.context(reading, name, note)
