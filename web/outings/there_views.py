"""An outing while it lasts: the page for one thumb, and the log that comes from devices."""

from __future__ import annotations

import json
from typing import Any

from django.http import HttpRequest, HttpResponse, JsonResponse
from django.middleware.csrf import get_token
from django.shortcuts import redirect, render
from django.views.decorators.http import require_http_methods, require_POST, require_safe

from web.kept.kinds import known
from web.outings import log, usecases
from web.outings.matching import match_all
from web.outings.models import Entry, Outing, What
from web.outings.packing import care
from web.outings.taken_out import TakenOut, taken_out
from web.people.owners import OwnedRequest, writer
from web.ui.storing import NotStored, storing

MOST_BYTES = 2_000_000
_ENDS = {1: ("subject",), 2: ("nearest", "farthest")}


@require_safe
def there(request: OwnedRequest, key: int) -> HttpResponse:
    """The page for out there. It works without a signal: what is logged is kept on the device."""
    outing = usecases.of(request.owner, key)
    items = taken_out(request, outing)
    context = {
        "screen": "outing-there",
        "outing": outing,
        "there": [{"it": one, "ends": ends(one)} for one in items],
        "care": care(outing, items),
        "words": log.WORDS,
    }
    return render(request, "outings/there.html", context)


def ends(one: TakenOut) -> list[tuple[str, str]]:
    """What of it is checked magnified: which end, and what stands there."""
    meant = sorted(one.meant, key=lambda it: it.depth)
    if not meant:
        return [(end, end) for end in log.ENDS]
    if len(meant) == 1:
        return [("subject", meant[0].name or meant[0].letter)]
    found = [("nearest", meant[0]), ("farthest", meant[-1])]
    if len(meant) > 2:
        found.insert(1, ("subject", meant[len(meant) // 2]))
    return [(end, it.name or it.letter) for end, it in found]


@require_http_methods(["GET", "HEAD", "POST"])
def heard(request: OwnedRequest, key: int) -> HttpResponse:
    """The log, as JSON: what is in it; and with POST, what a device sends. What becomes of each
    entry is said by its key."""
    outing = usecases.of(request.owner, key)
    said: dict[str, Any] = {}
    if request.method == "POST":
        try:
            body = json.loads(request.body[:MOST_BYTES] or b"{}")
        except (ValueError, RecursionError):
            return JsonResponse({"wrong": "That is no log."}, status=422)
        if not isinstance(body, dict):
            return JsonResponse({"wrong": "That is no log."}, status=422)
        outing = usecases.of(writer(request), key)
        try:
            with storing():
                said = _hear(request, outing, body)
        except NotStored as error:
            return JsonResponse({"wrong": error.sentence}, status=503)
    entries = list(outing.entries.select_related("item"))
    return JsonResponse(
        {
            **said,
            "token": get_token(request),
            "entries": [log.plain(entry) for entry in entries],
            "conflicts": [[e.key for e in one.entries] for one in log.conflicts(entries)],
        }
    )


def _hear(request: HttpRequest, outing: Outing, body: dict[str, Any]) -> dict[str, Any]:
    result = log.hear(outing, body.get("entries"))
    if result.kept:
        zone = body.get("zone")
        if isinstance(zone, int) and -900 <= zone <= 900:
            outing.zone_minutes = zone
            outing.save(update_fields=["zone_minutes"])
        there = taken_out(request, outing)  # type: ignore[arg-type]
        usecases.begin(outing, there)
        match_all(outing, there)
    return {"heard": result.kept, "refused": dict(result.refused)}


@require_safe
def logged(request: OwnedRequest, key: int) -> HttpResponse:
    """The log to be read, what contradicts itself first, side by side."""
    outing = usecases.of(request.owner, key)
    entries = list(outing.entries.select_related("item"))
    standing = log.standing(entries)
    context = {
        "screen": "outings",
        "outing": outing,
        "entries": [one for one in standing if one.what != What.SETTLED],
        "conflicts": log.conflicts(entries),
        "kinds": {item.pk: known(item.kind) for item in outing.items.all()},
    }
    return render(request, "outings/log.html", context)


@require_POST
def settle(request: OwnedRequest, key: int) -> HttpResponse:
    """Of entries that contradict each other, keep one: the others stay in the log, and do not
    count."""
    usecases.of(request.owner, key)
    outing = usecases.of(writer(request), key)
    wanted = request.POST.get("keep", "")
    entries = list(outing.entries.all())
    for conflict in log.conflicts(entries):
        keys = [one.key for one in conflict.entries]
        if wanted in keys:
            over = " ".join(one for one in keys if one != wanted)
            _settled(outing, conflict, wanted, over)
    return redirect("outings:logged", outing.pk)


def _settled(outing: Outing, conflict: log.Conflict, wanted: str, over: str) -> None:
    last = max(conflict.entries, key=lambda one: one.at)
    Entry.objects.get_or_create(
        outing=outing,
        key=f"settled-{wanted}"[:36],
        defaults={
            "at": last.at, "what": What.SETTLED, "subject": conflict.subject,
            "says": {"keep": wanted, "over": over},
        },
    )  # fmt: skip
