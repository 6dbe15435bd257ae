"""The field page: one plan to be read at arm's length, and the next check to tap."""

from __future__ import annotations

from typing import Any

from django.http import HttpResponse
from django.shortcuts import render
from django.views.decorators.http import require_safe

from optics.scene.after_trial import Trial
from optics.scene.answer import Answer
from optics.scene.answer import answer as answer_of
from web.kept import keeper
from web.kept.escaped import worked_out
from web.kept.models import Kept
from web.kept.printed import SHEET, address
from web.people.owners import OwnedRequest
from web.view import checks, light, pictures
from web.view.kind import KIND
from web.view.reading import Reading
from web.view.tolerance import OnRing, tolerance
from web.view.trial import MOST_FRAMES, trials_text
from web.view.uncounted import left_out
from web.view.views import pages


@require_safe
@worked_out
def page(request: OwnedRequest, key: int | None = None) -> HttpResponse:
    """A plan, or a link, at the place."""
    plan = pages.opened(request, key)
    reading = plan.reading
    answer = answer_of(reading.scene)
    found = tolerance(answer, reading.in_use, reading.panels.focus_by)
    query = reading.query()
    context = {
        "screen": "field",
        "fixed": True,
        "name": plan.name or "A view without a name",
        "note": plan.note,
        "reading": reading,
        "answer": answer,
        "system": reading.system,
        "lit": light.light(answer, reading.panels),
        "touch": found.on_ring.touch if found.on_ring and _is_felt(found.on_ring) else "",
        "left_out": left_out(reading.rows),
        "finder": pictures.finder(answer, None),
        "checks": checks.checks(answer, reading.in_use, found, reading.panels),
        "care": checks.care(reading.panels),
        "taps": _taps(answer, reading),
        "back": pages.back(request, key, query),
        "sheet": f"{address('plan', SHEET, key)}?{query}",
        "tried": pages.is_said(request.GET) and bool(reading.trials),
        **_neighbours(request, key),
    }
    return render(request, "view/field.html", context)


def _is_felt(on_ring: OnRing) -> bool:
    """Whether a thumb finds the ring without looking."""
    return on_ring.lens.has_scale and on_ring.lens.tab_at_infinity_hours is not None


def _taps(answer: Answer, reading: Reading) -> list[dict[str, str]]:
    """How the ends came out, each a link to the answer that takes it in. None for several frames,
    nor once as many trial frames are taken as are counted."""
    must = sorted(answer.scene.must, key=lambda mark: mark.depth)
    trials = reading.trials
    if not must or answer.more_frames or len(trials) >= MOST_FRAMES:
        return []
    near, far = must[0].letter, must[-1].letter
    ways = [("Both sharp", "", near + far), (f"{near} soft", near, ""), (f"{far} soft", far, "")]
    if near == far:
        ways = [("Sharp", "", near), ("Soft", near, "")]
    return [
        {"says": says, "query": _taken_in(answer, reading, soft, sharp), "soft": soft}
        for says, soft, sharp in ways
    ]


def _taken_in(answer: Answer, reading: Reading, soft: str, sharp: str) -> str:
    ring, number = answer.ring.focus, answer.scene.setup.f_number
    taken = (*reading.trials, Trial(ring, number, frozenset(soft), frozenset(sharp)))
    texts = {"trials": trials_text(taken, reading.system), "ring": ""}
    return reading.saying(texts).query()


def _neighbours(request: OwnedRequest, key: int | None) -> dict[str, Any]:
    """The plans before and after this one in the list."""
    if key is None:
        return {}
    wanted = keeper.Wanted(kind=KIND.key)
    keys = list(keeper.listed(request.owner, wanted).values_list("pk", flat=True))
    kept: Kept = keeper.of(request.owner, key, KIND)
    if kept.pk not in keys:
        return {}
    at = keys.index(kept.pk)
    return {
        "place": at + 1,
        "count": len(keys),
        "before": pages.address("field", keys[at - 1]) if at else "",
        "after": pages.address("field", keys[at + 1]) if at + 1 < len(keys) else "",
    }
