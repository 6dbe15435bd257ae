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
from web.ui import printing
from web.ui.printing import Paper
from web.view import plans as plan_store
from web.view import sheet
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
        "papers": [(paper.value, paper.words, f"{path}?{query}") for paper in _PAPERS],
        "back": f"{back}?{query}" if is_scene(request.GET) else back,
        "screen": "view",
    }
    return render(request, "view/sheet_page.html", context)


_PAPERS = (Paper.A4, Paper.LETTER)


@require_GET
def as_pdf(request: OwnedRequest, plan_id: int | None = None) -> HttpResponse:
    """The sheet as PDF. ``paper``: a4 or letter."""
    wanted = request.GET.get("paper", "")
    paper = Paper(wanted) if wanted in _PAPERS else Paper.A4
    context = _context(request, plan_id) | {"paper": paper, "printed": True, "ours": printing.OURS}

    def page_at(density: str) -> str:
        return render_to_string("view/sheet_print.html", context | {"density": density})

    name = slugify(str(context["name"])) or "plan"
    return printing.answered(request, lambda: printing.pdf(page_at), f"{name}-{paper}")


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
