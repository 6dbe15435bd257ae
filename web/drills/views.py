"""Drills: the page of all of them, one that is done, and the tries that come of it."""

from __future__ import annotations

import json
import random
import secrets
from typing import Any

from django.http import Http404, HttpResponse, JsonResponse
from django.middleware.csrf import get_token
from django.shortcuts import redirect, render
from django.views.decorators.http import require_http_methods, require_POST, require_safe

from drills.every import BY_KEY
from web.bag.models import Lens
from web.bag.soundness import sound
from web.drills import judging, playing, tried
from web.drills.gear import ON_THE_STREET, With, gear_for
from web.drills.models import Try
from web.drills.progress import progress
from web.drills.words import WORDS
from web.people.owners import OwnedRequest, writer
from web.ui import tables
from web.ui.storing import NotStored, storing

MOST_BYTES = 1_000_000
FIVE = "five"
_COLUMNS = ("at", "drill", "part", "level", "right", "off", "ms", "said_mm", "was_mm", "way")


@require_safe
def page(request: OwnedRequest) -> HttpResponse:
    """All of them, the weakest first; what tries tell; five minutes of everything."""
    owner = request.owner
    with_ = gear_for(request)
    context = {
        "screen": "drills",
        "progress": progress(owner),
        "judged": judging.judgements(owner),
        "lag": judging.lag_of(owner),
        "own": owner,
        "with": with_,
        "lenses": [(one.pk, one.name) for one in sound(Lens.objects.filter(owner=owner))],
        "accepted": request.GET.get("accepted", ""),
        "sample": owner.is_sample,
        "query": _query(request),
    }
    return render(request, "drills/page.html", context)


def _query(request: OwnedRequest) -> str:
    """What of the link goes on to what is opened from here."""
    kept = request.GET.copy()
    for name in ("accepted", "seed", "count"):
        kept.pop(name, None)
    text = kept.urlencode()
    return f"?{text}" if text else ""


@require_safe
def play(request: OwnedRequest, key: str) -> HttpResponse:
    """One of them, or five minutes of all, to be done."""
    if key != FIVE and key not in BY_KEY:
        raise Http404("There is no such drill.")
    return _played(request, key, gear_for(request))


@require_safe
def of_set(request: OwnedRequest, key: int) -> HttpResponse:
    """The positions of a kept set, by touch."""
    return _played(request, "positions", gear_for(request, key))


def _played(request: OwnedRequest, key: str, with_: With) -> HttpResponse:
    seed = request.GET.get("seed", "")
    luck = random.Random(int(seed) if seed.isdecimal() and len(seed) < 12 else secrets.randbits(32))
    there = tried.afresh() if request.owner.is_sample else tried.standings(request.owner)
    if key == FIVE:
        made = playing.of_five(with_, there, luck)
    else:
        made = playing.one(with_, there[key], luck)
    plain = [playing.plain(gear, task) for gear, task in made.tasks]
    context = {
        "screen": "drill",
        "key": key,
        "name": "Five minutes" if key == FIVE else WORDS[key].name,
        "does": "" if key == FIVE else WORDS[key].does,
        "tasks": plain,
        "count": len(plain),
        "left_out": made.left_out.items(),
        "pictures": list(dict.fromkeys(src for one in plain for src in playing.sources(one))),
        "with": with_,
        "on_the_street": key in ON_THE_STREET,
        "positions": with_.street.positions if key == "positions" else (),
        "system": with_.gear.system,
        "query": _query(request),
    }
    return render(request, "drills/play.html", context)


@require_safe
def field(request: OwnedRequest) -> HttpResponse:
    """Distances guessed out there, and then found out. It works without a signal."""
    context = {
        "screen": "drill-field",
        "ways": tried.WAYS,
        "judged": judging.judgements(request.owner)[1],
        "system": request.owner.units,
    }
    return render(request, "drills/field.html", context)


@require_http_methods(["GET", "HEAD", "POST"])
def tries(request: OwnedRequest) -> HttpResponse:
    """What a device sends, as JSON: what becomes of each try is said by its key."""
    said: dict[str, Any] = {}
    if request.method == "POST":
        try:
            body = json.loads(request.body[:MOST_BYTES] or b"{}")
        except (ValueError, RecursionError):
            body = None
        if not isinstance(body, dict):
            return JsonResponse({"wrong": "Those are no tries."}, status=422)
        try:
            with storing():
                heard = tried.hear(writer(request), body.get("entries"))
        except NotStored as error:
            return JsonResponse({"wrong": error.sentence}, status=503)
        said = {"heard": heard.kept, "refused": dict(heard.refused)}
    return JsonResponse({**said, "token": get_token(request)})


@require_POST
def accept(request: OwnedRequest) -> HttpResponse:
    """Take over what tries tell as one's own measure: how far off one judges, or one's lag."""
    owner = writer(request)
    what = request.POST.get("what", "")
    if what == "lag":
        lag = judging.lag_of(owner)
        if lag.seconds is not None:
            owner.takes_lag(lag.seconds)
    else:
        there = {one.where: one for one in judging.judgements(owner)}
        one = there.get(what)
        if one is None or not one.enough:
            what = ""
        else:
            owner.judges(one.off)
    return redirect(f"/drills/?accepted={what if what in ('lag', 'screen', 'field') else ''}")


@require_safe
def table(request: OwnedRequest) -> HttpResponse:
    """Every try, as CSV."""
    rows = Try.objects.filter(owner=request.owner).order_by("at", "pk").values(*_COLUMNS)
    told = ({**row, "at": row["at"].isoformat()} for row in rows.iterator(2000))
    return tables.sent(tables.csv_of(told, _COLUMNS), "drills", "csv")
