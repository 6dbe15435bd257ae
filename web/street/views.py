"""Form → use case → template."""

from __future__ import annotations

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
from web.street import expecting, folds, pictures, usecases
from web.street.forms import LIGHT_CHOICES, is_street, read_street
from web.street.models import PositionSet
from web.street.placing import band_of
from web.street.reading import Reading, said
from web.street.sample import GEAR
from web.street.sample import NAME as SAMPLE_NAME
from web.street.sets import keeper
from web.ui.axis import Axis, axis_from, step_from, turned
from web.ui.folds import context as folded
from web.ui.planner import HtmxHttpRequest, query_before, shown
from web.ui.templatetags import format


@require_GET
def page(request: HtmxHttpRequest, key: int | None = None) -> HttpResponse:
    """Street, from the link, a set, or the sample; the fragment alone for htmx."""
    kept = keeper.of(request.owner, key)
    data: QueryDict = request.GET
    if not is_street(data):
        data = _opening(request.owner) if kept is None else keeper.query_of(kept)
    who = asker(request)
    reading = read_street(data, partial(query_before, request), who)
    if (system := request.GET.get("read_in")) in units.SYSTEMS:
        return redirect(f"{request.path}?{reading.in_units(system).query()}")
    if not request.htmx or request.htmx.history_restore_request:
        sample = kept is None and not is_street(request.GET)
        name = kept.name if kept else SAMPLE_NAME if sample else ""
        context = _context(request, reading, kept, who)
        context |= _page_context(request, reading, name, kept)
        return render(request, "street/page.html", context)
    reading, held = _moved(request, reading)
    axis = None if held is None else axis_from(request.GET)
    context = _context(request, reading, kept, who, axis)
    if held is not None:
        context["held_at"] = context["answer"].focuses.index(held)
    response = render(request, "street/fragment.html", context)
    follow = reading.valid and held is None
    response["HX-Replace-Url"] = f"{request.path}?{reading.query()}" if follow else "false"
    return response


@require_POST
def save(request: HtmxHttpRequest, key: int | None = None) -> HttpResponse:
    """Keep the positions under a name, and go to them; or the page again, saying what is wrong."""
    reading = read_street(QueryDict(request.POST.get("state", "")), who=asker(request))
    kept = keeper.keep(request, reading, key)
    if isinstance(kept, PositionSet):
        return redirect("street:kept", kept.pk)
    context = _context(request, reading, kept.target, asker(request))
    context |= _page_context(request, reading, request.POST.get("name", ""), kept.target)
    context |= {"name_error": kept.why, "saved": False if kept.target else None}
    context["path"] = kept.target.get_absolute_url() if kept.target else reverse("street:page")
    return render(request, "street/page.html", context, status=kept.status)


def _opening(owner: Owner) -> QueryDict:
    """The sample's street; for those who have a bag of their own, with what was last in hand."""
    query = QueryDict(mutable=True)
    query.update({**GEAR, "units": owner.units} if owner.is_sample else hand.gear_of(owner, GEAR))
    return query


def _moved(request: HtmxHttpRequest, reading: Reading) -> tuple[Reading, float | None]:
    """The reading with a position moved by hand, if that is what the request is for, and where to,
    mm: others may have changed places with it."""
    step, axis = step_from(request.GET), axis_from(request.GET)
    at = request.GET.get("at", "")
    if step is None or axis is None or not at.isdecimal() or len(at) > 2:
        return reading, None
    answer = usecases.answer(reading.street)
    if int(at) >= len(answer.positions):
        return reading, None
    before, street = answer.positions[int(at)].focus, reading.street
    focus, _ = turned(before, step, axis, street.system, street.closest)
    return reading.with_position(before, focus, answer.home.focus), focus


def _context(
    request: HtmxHttpRequest,
    reading: Reading,
    kept: PositionSet | None,
    who: Asker,
    axis: Axis | None = None,
) -> dict[str, Any]:
    answer = usecases.answer(reading.street)
    system = reading.street.system
    on_page = shown(request, (fold.id for fold in folds.ALL))
    saved = None
    if kept is not None:
        same_hand = Asker(in_use=lambda texts: reading.in_use)
        saved = read_street(keeper.query_of(kept), who=same_hand).query() == reading.query()
    return {
        "reading": reading,
        "answer": answer,
        "street": answer.street,
        "said": reading.fixed,
        "system": system,
        "lines": pictures.tile_lines(answer, on_page.sizes, axis),
        "plans": [(size.name, pictures.pavement_plan(answer, size.name)) for size in on_page.sizes],
        "expecting": expecting.expecting(answer),
        "unfolded": on_page.unfolded,
        "opened": on_page.opened,
        "folds": folds.ALL,
        "errors": reading.errors,
        "texts": reading.texts,
        "aperture_text": format.f_number(float(answer.street.setup.f_number)),
        "plan": kept,
        "saved": saved,
        "messages": reading.messages,
        "sample": kept is None and not is_street(request.GET),
        "path": request.path,
        **folded(folds.ALL, on_page.unfolded, answer, who),
    }


def _page_context(
    request: HtmxHttpRequest, reading: Reading, name: str, kept: PositionSet | None
) -> dict[str, Any]:
    street = reading.street
    judged = format.share(street.judging)
    return {
        "hand": hand.hand(request.owner, reading.texts),
        "name": name,
        "formats": formats_with(street.format),
        "notes": reading.notes,
        "lights": LIGHT_CHOICES,
        "judged": judged,
        "touched": [(label, said(at, street.system)) for label, at in street.touched],
        "lock_example": "none; 2 ft; inf" if street.system == units.FEET else "none; 0.7 m; inf",
        "drawer_open": any(reading.texts[field] for field in _IN_DRAWER) or bool(reading.errors),
        "band_words": band_words(reading),
        "screen": "street",
        "sets_path": reverse("street:all"),
        "new_path": f"{reverse('street:page')}?{reading.gear_query}",
        "save_path": keeper.save_path(kept),
        "engraved": [units.significant(n, 3) for n in street.apertures],
    }


_IN_DRAWER = (
    "near", "far", "home", "locked", "speed", "angle_deg", "lag", "judge", "light", "iso_most",
    "slowest", "upright",
)  # fmt: skip


def band_words(reading: Reading) -> tuple[str, str]:
    """The ends of the band as placeholders, where they follow from the distance liked."""
    band = band_of(reading.street)
    system = reading.street.system
    return units.write(band.near, system, 2), units.write(band.far, system, 2)
