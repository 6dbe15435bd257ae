"""Form → use case → template."""

from __future__ import annotations

from functools import partial
from typing import Any

from django.http import HttpResponse, QueryDict
from django.shortcuts import redirect, render
from django.urls import reverse
from django.views.decorators.http import require_GET, require_POST

from optics.base import units
from optics.scene.answer import Answer
from optics.scene.answer import answer as answer_of
from web.bag import hand
from web.bag.gear import Asker, asker, formats_with
from web.bag.kept import ChangedMeanwhile, NameForm
from web.people.models import Owner
from web.people.owners import find, writer
from web.ui.axis import Axis, axis_from, step_from
from web.ui.folds import context as folded
from web.ui.planner import HtmxHttpRequest, query_before, shown
from web.ui.templatetags import format
from web.view import folds, pictures, turning
from web.view import plans as plan_store
from web.view import shown as shown_of
from web.view.checks import CARE
from web.view.distances import USUAL_ERRORS
from web.view.forms import is_scene, read_scene, scene_query
from web.view.models import Choose, FocusBy, How, Look, Place, Plan
from web.view.reading import Reading
from web.view.sample import GEAR, MARKS
from web.view.sample import NAME as SAMPLE_NAME

PLACES = (
    (Place.BETWEEN, Place.BETWEEN.label, "nearest and farthest equally sharp"),
    (Place.HYPERFOCAL, Place.HYPERFOCAL.label, "infinity just holds, most foreground"),
    (Place.SUBJECT, Place.SUBJECT.label, "the first mark; let the rest fall away"),
    (Place.THIRD_UP, Place.THIRD_UP.label, "the ground a third of the way up"),
    (Place.INFINITY, Place.INFINITY.label, "far detail first"),
    (Place.FRAMES, Place.FRAMES.label, "as few as cover the ends"),
    (Place.THIRD_ALONG, Place.THIRD_ALONG.label, "between nearest and farthest"),
)
WINDS = (
    ("", "not said"),
    ("still", "no wind"),
    ("light", "light air"),
    ("breeze", "a breeze"),
    ("strong", "strong wind"),
)
_APERTURE_CAPTIONS: dict[str, str] = {
    Choose.FIXED: "Aperture",
    Choose.WIDEST: "Widest that holds",
    Choose.SHARPEST: "Sharpest aperture",
    Choose.SOFTENS: "Soft where it should",
}
MEND_FIRST = "Not saved yet: something below needs mending first."
CHANGED_MEANWHILE = (
    "Not saved yet: this plan was saved elsewhere after you opened it, perhaps in another window. "
    "Save again to put this in its place, or save as new to keep both."
)
NO_SUCH_PLAN = "There is no such plan. It may have been deleted; the list has what is kept."


@require_GET
def page(request: HtmxHttpRequest, plan_id: int | None = None) -> HttpResponse:
    """View, with a scene from the link, a plan, or the sample; the fragment alone for htmx."""
    plan = plan_of(request.owner, plan_id)
    data: QueryDict = request.GET
    if not is_scene(data):
        data = _opening(request.owner) if plan is None else plan_store.query_of(plan)
    reading = read_scene(data, partial(query_before, request), asker(request))
    if (system := request.GET.get("read_in")) in units.SYSTEMS:
        return redirect(f"{request.path}?{reading.in_units(system).query()}")
    if not request.htmx or request.htmx.history_restore_request:
        sample = plan is None and not is_scene(request.GET)
        name = plan.name if plan else SAMPLE_NAME if sample else ""
        context = _context(request, reading, plan) | _page_context(request, reading, name, plan)
        return render(request, "view/page.html", context)
    reading, moving = _moved(request, reading)
    if renumber := "renumber" in request.GET and reading.valid:
        reading = reading.renumbered
        reading = read_scene(QueryDict(reading.query()), who=asker(request))
    axis = axis_from(request.GET)
    context = _context(request, reading, plan, axis if moving else None)
    if renumber:
        context |= {"renumber": True, "usual_errors": _usual_errors(request.owner)}
    response = render(request, "view/fragment.html", context)
    follow = reading.valid and not moving
    response["HX-Replace-Url"] = f"{request.path}?{reading.query()}" if follow else "false"
    return response


@require_POST
def save(request: HtmxHttpRequest, plan_id: int | None = None) -> HttpResponse:
    """Keep the scene under a name, and go to it; or the page again, saying what is wrong."""
    plan = plan_of(request.owner, plan_id)
    state = QueryDict(request.POST.get("state", ""))
    reading = read_scene(state, who=asker(request))
    form = NameForm(request.POST)
    if form.is_valid() and reading.valid:
        owner = writer(request)
        target = None if "as_new" in request.POST else plan_of(owner, plan_id)
        seen = request.POST.get("version", "")
        try:
            kept = plan_store.save(
                owner, form.cleaned_data["name"], reading, target, seen, _note(request)
            )
        except ChangedMeanwhile:
            return _not_saved(request, reading, target, CHANGED_MEANWHILE, 409)
        return redirect("view:plan", kept.pk)
    wrong = " ".join(str(message) for message in form.errors.get("name", []))
    return _not_saved(request, reading, plan, wrong or MEND_FIRST, 422)


def _note(request: HtmxHttpRequest) -> str:
    """The note as typed, without what cannot be printed."""
    text = request.POST.get("note", "").replace("\r\n", "\n")
    return "".join(c for c in text if c.isprintable() or c == "\n").strip()


def _not_saved(
    request: HtmxHttpRequest, reading: Reading, plan: Plan | None, why: str, status: int
) -> HttpResponse:
    context = _context(request, reading, plan) | _page_context(
        request, reading, request.POST.get("name", ""), plan
    )
    context |= {"name_error": why, "saved": False if plan else None}
    context["path"] = reverse("view:plan", args=[plan.pk]) if plan else reverse("view:page")
    return render(request, "view/page.html", context, status=status)


def plan_of(owner: Owner, plan_id: int | None) -> Plan | None:
    """One of an owner's plans; None for no key, a 404 for one that is not theirs."""
    return None if plan_id is None else find(Plan, owner, plan_id, NO_SUCH_PLAN)


def _opening(owner: Owner) -> QueryDict:
    """The sample's marks, with what was last in hand."""
    return scene_query(hand.gear_of(owner, GEAR), MARKS)


def _moved(request: HtmxHttpRequest, reading: Reading) -> tuple[Reading, bool]:
    """The reading with the ring moved by hand, if that is what the request is for."""
    step, axis = step_from(request.GET), axis_from(request.GET)
    if step is None or axis is None:
        return reading, False
    return reading.with_ring(turning.turned(reading.scene, step, axis)), True


def _context(
    request: HtmxHttpRequest, reading: Reading, plan: Plan | None, axis: Axis | None = None
) -> dict[str, Any]:
    answer = answer_of(reading.scene)
    system = reading.scene.system
    page = shown(request, (fold.id for fold in folds.ALL))
    unfolded = page.unfolded
    saved = None
    if plan is not None:
        same_hand = Asker(in_use=lambda texts: reading.in_use)
        saved = read_scene(plan_store.query_of(plan), who=same_hand).query() == reading.query()
    return {
        "reading": reading,
        "answer": answer,
        "system": system,
        "sightlines": pictures.sightlines(answer, page.sizes, axis),
        "unfolded": unfolded,
        "opened": page.opened,
        "folds": folds.RESULTS,
        "folds_of_why": folds.WHY,
        "tools": folds.TOOLS,
        "errors": reading.errors,
        "texts": reading.texts,
        "ring_text": format.reading(answer.ring, system),
        "aperture_text": format.f_number(float(answer.scene.setup.f_number)),
        "aperture_caption": _APERTURE_CAPTIONS[answer.scene.choose],
        "sharp_text": format.placed(answer.sharp, system) if answer.sharp else "nowhere",
        "rows": _rows(reading, answer),
        "textbook_hyperfocal": shown_of.textbook_hyperfocal(answer),
        "standard_pixels": shown_of.standard_pixels(answer),
        "plan": plan,
        "saved": saved,
        "messages": reading.messages,
        "sample": plan is None and not is_scene(request.GET),
        "path": request.path,
        **folded(folds.ALL, unfolded, answer, reading),
    }


def _rows(reading: Reading, answer: Answer) -> list[dict[str, Any]]:
    """Each row as typed, with its verdict if it has one."""
    verdicts = {verdict.mark.letter: verdict for verdict in answer.verdicts}
    return [{"row": row, "verdict": verdicts.get(row.letter)} for row in reading.rows]


def _page_context(
    request: HtmxHttpRequest, reading: Reading, name: str, plan: Plan | None
) -> dict[str, Any]:
    in_hand = hand.hand(request.owner, reading.texts)
    return {
        "hand": in_hand,
        "name": name,
        "formats": formats_with(reading.scene.format),
        "places": PLACES,
        "place_now": reading.scene.school,
        "usual_errors": _usual_errors(request.owner),
        "looks": Look.choices,
        "apertures_by": Choose.choices,
        "winds": WINDS,
        "care_kinds": [(name, title) for name, (title, _) in CARE.items()],
        "note": request.POST.get("note", plan.note if plan else ""),
        "focusing_by": [("", "not said"), *FocusBy.choices],
        "notes": reading.notes,
        "screen": "view",
        "new_path": f"{reverse('view:page')}?{reading.gear_query}",
        "sheet_path": reverse("view:plan_sheet", args=[plan.pk]) if plan else reverse("view:sheet"),
        "save_path": reverse("view:save_plan", args=[plan.pk]) if plan else reverse("view:save"),
        "engraved": [units.significant(n, 3) for n in reading.scene.apertures],
    }


def _usual_errors(owner: Owner) -> dict[str, str]:
    """How far off a distance usually is by each way of getting it; by eye, their own."""
    errors = USUAL_ERRORS | {How.EYE: owner.judgement_error}
    return {how.value: format.share(error) for how, error in errors.items()}
