"""Form → use case → template."""

from __future__ import annotations

import math
from functools import partial
from typing import Any

from django.http import HttpResponse, QueryDict
from django.shortcuts import redirect, render
from django.urls import reverse
from django.views.decorators.http import require_GET, require_POST

from optics import units
from web.bag import hand
from web.bag.gear import Asker, asker, formats_with
from web.people.models import Owner
from web.sky import folds, pictures, usecases
from web.sky.forms import NIGHTS, is_sky, read_sky
from web.sky.models import Night
from web.sky.nights import keeper
from web.sky.reading import Reading
from web.sky.sample import GEAR
from web.sky.sample import NAME as SAMPLE_NAME
from web.ui.axis import Axis, axis_from, step_from
from web.ui.folds import context as folded
from web.ui.planner import HtmxHttpRequest, query_before, shown
from web.ui.templatetags import format


@require_GET
def page(request: HtmxHttpRequest, key: int | None = None) -> HttpResponse:
    """Sky, from the link, a night, or the sample; the fragment alone for htmx."""
    kept = keeper.of(request.owner, key)
    data: QueryDict = request.GET
    if not is_sky(data):
        data = _opening(request.owner) if kept is None else keeper.query_of(kept)
    who = asker(request)
    reading = read_sky(data, partial(query_before, request), who)
    if (system := request.GET.get("read_in")) in units.SYSTEMS:
        return redirect(f"{request.path}?{reading.in_units(system).query()}")
    if not request.htmx or request.htmx.history_restore_request:
        sample = kept is None and not is_sky(request.GET)
        name = kept.name if kept else SAMPLE_NAME if sample else ""
        context = _context(request, reading, kept, who) | _page_context(
            request, reading, name, kept
        )
        return render(request, "sky/page.html", context)
    reading, moving = _moved(request, reading)
    axis = axis_from(request.GET) if moving else None
    response = render(request, "sky/fragment.html", _context(request, reading, kept, who, axis))
    follow = reading.valid and not moving
    response["HX-Replace-Url"] = f"{request.path}?{reading.query()}" if follow else "false"
    return response


def _moved(request: HtmxHttpRequest, reading: Reading) -> tuple[Reading, bool]:
    """The reading with the ring moved by hand, if that is what the request is for."""
    step, axis = step_from(request.GET), axis_from(request.GET)
    if step is None or axis is None:
        return reading, False
    return reading.with_ring(*usecases.turned(reading.sky, step, axis)), True


@require_POST
def save(request: HtmxHttpRequest, key: int | None = None) -> HttpResponse:
    """Keep the night under a name, and go to it; or the page again, saying what is wrong."""
    reading = read_sky(QueryDict(request.POST.get("state", "")), who=asker(request))
    kept = keeper.keep(request, reading, key)
    if isinstance(kept, Night):
        return redirect("sky:kept", kept.pk)
    context = _context(request, reading, kept.target, asker(request))
    context |= _page_context(request, reading, request.POST.get("name", ""), kept.target)
    context |= {"name_error": kept.why, "saved": False if kept.target else None}
    context["path"] = kept.target.get_absolute_url() if kept.target else reverse("sky:page")
    return render(request, "sky/page.html", context, status=kept.status)


def _opening(owner: Owner) -> QueryDict:
    """The sample's night; for those who have a bag of their own, with what was last in hand."""
    query = QueryDict(mutable=True)
    query.update({**GEAR, "units": owner.units} if owner.is_sample else hand.gear_of(owner, GEAR))
    return query


def _context(
    request: HtmxHttpRequest,
    reading: Reading,
    kept: Night | None,
    who: Asker,
    axis: Axis | None = None,
) -> dict[str, Any]:
    answer = usecases.answer(reading.sky)
    on_page = shown(request, (fold.id for fold in folds.ALL))
    sky = answer.sky
    saved = None
    if kept is not None:
        same_hand = Asker(in_use=lambda texts: reading.in_use)
        saved = read_sky(keeper.query_of(kept), who=same_hand).query() == reading.query()
    return {
        "plan": kept,
        "saved": saved,
        "sample": kept is None and not is_sky(request.GET),
        "reading": reading,
        "answer": answer,
        "sky": sky,
        "system": sky.system,
        "sightlines": pictures.sightlines(answer, on_page.sizes, axis),
        "streaks": pictures.streak_patches(answer),
        "under_sky": pictures.frame_under_sky(answer),
        "unit": sky.unit,
        "per": sky.unit_length,
        "paces": math.ceil(answer.here.focus / who.own()[0].pace)
        if math.isfinite(answer.here.focus)
        else None,
        "unfolded": on_page.unfolded,
        "opened": on_page.opened,
        "folds": folds.ALL,
        "errors": reading.errors,
        "texts": reading.texts,
        "query": reading.query(),
        "walk_path": reverse("sky:kept_walk", args=[kept.pk]) if kept else reverse("sky:walk"),
        "ring_text": format.reading(answer.here, sky.system),
        "aperture_text": format.f_number(float(sky.setup.f_number)),
        "messages": reading.messages,
        "path": request.path,
        **folded(folds.ALL, on_page.unfolded, answer, reading, who, request.owner),
    }


def _page_context(
    request: HtmxHttpRequest, reading: Reading, name: str, kept: Night | None
) -> dict[str, Any]:
    return {
        "name": name,
        "save_path": keeper.save_path(kept),
        "list_path": reverse("sky:all"),
        "hand": hand.hand(request.owner, reading.texts),
        "formats": formats_with(reading.sky.format),
        "notes": reading.notes,
        "nights": NIGHTS,
        "screen": "sky",
        "sheet_path": reverse("sky:kept_card", args=[kept.pk]) if kept else reverse("sky:card"),
        "sheet_name": "Card",
        "new_path": f"{reverse('sky:page')}?{reading.gear_query}",
        "engraved": [units.significant(n, 3) for n in reading.sky.apertures],
    }
