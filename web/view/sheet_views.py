"""The plan sheet as a page and as PDF."""

from __future__ import annotations

from django.http import Http404, HttpResponse
from django.shortcuts import render
from django.template.loader import render_to_string
from django.views.decorators.http import require_safe

from web.people.owners import OwnedRequest
from web.planner.escaped import worked_out
from web.ui import printing
from web.ui.downloads import file_name
from web.ui.printing import Paper
from web.ui.throttle import throttled
from web.view import sheet
from web.view.views import pages


@require_safe
@worked_out
def page(request: OwnedRequest, key: int | None = None) -> HttpResponse:
    """The sheet on the screen, with ways to print it."""
    context = _context(request, key)
    query = request.GET.urlencode(safe="/'")
    path = pages.address("sheet_pdf", key)
    context |= {
        "printed": False,
        "papers": [(paper.value, paper.words, f"{path}?{query}") for paper in _PAPERS],
        "back": pages.back(request, key, query),
        "screen": "sheet",
    }
    return render(request, "view/sheet_page.html", context)


_PAPERS = (Paper.A4, Paper.LETTER)


@require_safe
@throttled("pdf")
@worked_out
def as_pdf(request: OwnedRequest, key: int | None = None) -> HttpResponse:
    """The sheet as PDF. ``paper``: a4 or letter."""
    wanted = request.GET.get("paper", "")
    paper = Paper(wanted) if wanted in _PAPERS else Paper.A4
    context = _context(request, key) | {"paper": paper, "printed": True, "ours": printing.OURS}

    def page_at(density: str, **other: object) -> str:
        return render_to_string("view/sheet_print.html", context | {"density": density, **other})

    def made() -> bytes:
        # A note that no setting has room for is cut short, and says so.
        note = sheet.shortened(str(context["note"]), sheet.SHORT_LINES, sheet.SHORT_LETTERS)
        return printing.pdf(page_at, shorter=[page_at(printing.DENSITIES[-1], note=note)])

    name = file_name(str(context["name"]), "plan")
    return printing.answered(request, made, f"{name}, {paper}")


def _context(request: OwnedRequest, key: int | None) -> dict[str, object]:
    plan = pages.opened(request, key)
    if not plan.reading.rows and not plan.reading.valid:
        raise Http404("There is nothing to print.")
    return sheet.context(plan.reading, plan.name, plan.note)
