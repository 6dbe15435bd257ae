"""Form → use case → template."""

from __future__ import annotations

import math
from functools import partial
from typing import Any

from django.http import HttpResponse, QueryDict
from django.shortcuts import redirect, render
from django.urls import reverse
from django.views.decorators.http import require_GET

from optics import units
from web.bag import hand
from web.bag.gear import Asker, asker, formats_with
from web.people.models import Owner
from web.sky import folds, pictures, usecases
from web.sky.forms import NIGHTS, is_sky, read_sky
from web.sky.reading import Reading
from web.sky.sample import GEAR
from web.ui.folds import context as folded
from web.ui.planner import HtmxHttpRequest, query_before, shown
from web.ui.templatetags import format


@require_GET
def page(request: HtmxHttpRequest) -> HttpResponse:
    """Sky, from the link or the sample; the fragment alone for htmx."""
    data: QueryDict = request.GET
    if not is_sky(data):
        data = _opening(request.owner)
    who = asker(request)
    reading = read_sky(data, partial(query_before, request), who)
    if (system := request.GET.get("read_in")) in units.SYSTEMS:
        return redirect(f"{request.path}?{reading.in_units(system).query()}")
    if not request.htmx or request.htmx.history_restore_request:
        context = _context(request, reading, who) | _page_context(request, reading)
        return render(request, "sky/page.html", context)
    response = render(request, "sky/fragment.html", _context(request, reading, who))
    link = f"{request.path}?{reading.query()}"
    response["HX-Replace-Url"] = link if reading.valid else "false"
    return response


def _opening(owner: Owner) -> QueryDict:
    """The sample's night; for those who have a bag of their own, with what was last in hand."""
    query = QueryDict(mutable=True)
    query.update({**GEAR, "units": owner.units} if owner.is_sample else hand.gear_of(owner, GEAR))
    return query


def _context(request: HtmxHttpRequest, reading: Reading, who: Asker) -> dict[str, Any]:
    answer = usecases.answer(reading.sky)
    on_page = shown(request, (fold.id for fold in folds.ALL))
    sky = answer.sky
    return {
        "reading": reading,
        "answer": answer,
        "sky": sky,
        "system": sky.system,
        "sightlines": pictures.sightlines(answer, on_page.sizes),
        "streaks": pictures.streak_patches(answer),
        "unit": "px" if sky.pitch else "× the circle",
        "per": sky.pitch or float(sky.setup.coc),
        "paces": math.ceil(answer.here.focus / who.own()[0].pace)
        if math.isfinite(answer.here.focus)
        else None,
        "unfolded": on_page.unfolded,
        "opened": on_page.opened,
        "folds": folds.ALL,
        "errors": reading.errors,
        "texts": reading.texts,
        "aperture_text": format.f_number(float(sky.setup.f_number)),
        "messages": reading.messages,
        "path": request.path,
        **folded(folds.ALL, on_page.unfolded, answer, who, request.owner),
    }


def _page_context(request: HtmxHttpRequest, reading: Reading) -> dict[str, Any]:
    return {
        "hand": hand.hand(request.owner, reading.texts),
        "formats": formats_with(reading.sky.format),
        "notes": reading.notes,
        "nights": NIGHTS,
        "screen": "sky",
        "new_path": f"{reverse('sky:page')}?{reading.gear_query}",
        "engraved": [units.significant(n, 3) for n in reading.sky.apertures],
    }
