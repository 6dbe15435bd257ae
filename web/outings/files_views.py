"""The files that came home: read one after the other, matched, asked for, and given out again."""

from __future__ import annotations

import re
from datetime import datetime, timedelta
from typing import Any

from django.core.files.uploadedfile import UploadedFile
from django.db.models import Count, Q
from django.http import Http404, HttpResponse, JsonResponse
from django.shortcuts import redirect, render
from django.utils.dateparse import parse_datetime
from django.views.decorators.http import require_POST, require_safe

from web.outings import files, sidecars, usecases
from web.outings.exported import table_of
from web.outings.handing import said
from web.outings.log import standing
from web.outings.matching import match_all, zone_of
from web.outings.models import Frame, Outing, State, What
from web.outings.returning import differences
from web.outings.taken_out import taken_out
from web.outings.telling import tell_all, untold
from web.outings.views import is_key
from web.people.owners import OwnedRequest, writer
from web.people.quota import Full
from web.ui.downloads import file_name, named
from web.ui.storing import NotStored, storing
from web.ui.tables import json_of, sent
from web.ui.throttle import throttled

MOST_BYTES = 200_000_000
ROWS = 40
_MOST_ASKED = 40
_OFF = re.compile(r"-?\d{1,6}")


@require_safe
def after(request: OwnedRequest, key: int) -> HttpResponse:
    """What came home: the files, the frames, and what is asked of them."""
    return _page(request, usecases.of(request.owner, key))


def _page(request: OwnedRequest, outing: Outing, status: int = 200, **more: Any) -> HttpResponse:
    there = taken_out(request, outing)
    states = outing.frames.order_by().values_list("state").annotate(Count("pk"))
    counts = dict.fromkeys(State.values, 0) | dict(states)
    counts["all"] = sum(counts.values())
    asked = outing.frames.filter(state=State.ASKED)
    entries = standing(outing.entries.all())
    context = {
        "screen": "outings",
        "outing": outing,
        "there": there,
        "counts": counts,
        "asked": list(asked[:_MOST_ASKED]),
        "asked_all": counts[State.ASKED],
        "zone": zone_of(outing),
        "clocks": _clocks(outing, [one for one in entries if one.what == What.CLOCK]),
        "differences": differences(there),
        "limit": MOST_BYTES,
        "untold": counts[State.UNTOLD],
        **_rows(request, outing),
        **more,
    }
    return render(request, "outings/after.html", context, status=status)


def _clocks(outing: Outing, entries: list[Any]) -> list[dict[str, Any]]:
    """What was logged when the page's clock was photographed, each with the frame that comes
    nearest to it by what the clocks are thought to show."""
    found = []
    for entry in entries[:4]:
        at = int((entry.at - outing.clock_off).timestamp() * 1000)
        after = outing.frames.exclude(at=None).filter(order__gte=at).order_by("order").first()
        before = outing.frames.exclude(at=None).filter(order__lt=at).order_by("-order").first()
        near = sorted((one for one in (after, before) if one), key=lambda f: abs(f.order - at))
        if near:
            shown = entry.at + timedelta(minutes=outing.zone_minutes)
            found.append({"entry": entry, "shown": shown, "frames": near})
    return found


def _rows(request: OwnedRequest, outing: Outing) -> dict[str, Any]:
    """A stretch of the frames, in order: from after the one that the address names."""
    text = request.GET.get("after", "")
    rows = outing.frames.select_related("item").order_by("order", "pk")
    wanted = request.GET.get("only", "")
    if wanted in State.values:
        rows = rows.filter(state=wanted)
    if is_key(text):
        last = outing.frames.filter(pk=int(text)).first()
        if last is not None:
            later = Q(order__gt=last.order) | Q(order=last.order, pk__gt=last.pk)
            rows = rows.filter(later, order__gte=last.order)
    shown = list(rows[: ROWS + 1])
    more = shown[ROWS - 1].pk if len(shown) > ROWS else None
    return {"frames": shown[:ROWS], "more": more, "only": wanted, "first": not is_key(text)}


@require_safe
def frames(request: OwnedRequest, key: int) -> HttpResponse:
    """The next stretch of the frames."""
    outing = usecases.of(request.owner, key)
    context = {"outing": outing, "screen": "outings", **_rows(request, outing)}
    return render(request, "outings/frames.html", context)


@require_safe
def known(request: OwnedRequest, key: int) -> HttpResponse:
    """Which files were read already, as JSON: names and sizes, so that they need not be sent."""
    outing = usecases.of(request.owner, key)
    rows = outing.frames.values_list("name", "bytes")
    return JsonResponse({"files": [f"{name}|{size}" for name, size in rows]})


@throttled("files", "POST")
@require_POST
def take_in(request: OwnedRequest, key: int) -> HttpResponse:
    """Read one file, and let it go. What became of it, as JSON."""
    usecases.of(request.owner, key)
    upload: UploadedFile[bytes] | None = request.FILES.get("file")
    if upload is None:
        return JsonResponse({"state": "broken", "says": "There is no file."}, status=422)
    name = upload.name or "a frame"
    if (upload.size or 0) > MOST_BYTES:
        return JsonResponse({"state": "broken", "says": "It is larger than 200 MB."}, status=422)
    outing = usecases.of(writer(request), key)
    try:
        with storing():
            if name.lower().endswith(".xmp"):
                count = sidecars.apply(outing, name, upload.read())
                words = f"It was read for {count} frame{'' if count == 1 else 's'}."
                return JsonResponse({"state": "sidecar", "says": words})
            return JsonResponse(_taken_in(request, outing, name, upload.read()))
    except sidecars.NoSidecar as error:
        return JsonResponse({"state": "broken", "says": error.sentence}, status=422)
    except Full as full:
        return JsonResponse({"state": "full", "says": full.sentence}, status=409)
    except NotStored as error:
        return JsonResponse({"state": "wait", "says": error.sentence}, status=503)
    except files.Busy:
        return JsonResponse({"state": "wait", "says": "Others are reading files."}, status=503)


def _taken_in(request: OwnedRequest, outing: Outing, name: str, raw: bytes) -> dict[str, Any]:
    found = files.take_in(outing, name, raw)
    if found.state == "new":
        there = taken_out(request, outing)
        usecases.begin(outing, there)
        match_all(outing, there, [found.frame])
        tell_all(outing, there, [found.frame])
    return {"state": found.state, "says": found.says, "name": found.frame.name}


@require_POST
def belongs(request: OwnedRequest, key: int) -> HttpResponse:
    """Say what frames are of: ``frame``, with ``item``, the key of what was taken out, or empty for
    nothing of that."""
    usecases.of(request.owner, key)
    outing = usecases.of(writer(request), key)
    wanted = [int(text) for text in request.POST.getlist("frame") if is_key(text)]
    text = request.POST.get("item", "")
    item = usecases.item_by(outing, int(text)) if is_key(text) else None
    if is_key(text) and item is None:
        raise Http404
    frames = usecases.frames_by(outing, wanted)
    for frame in frames:
        frame.item, frame.sure, frame.told, frame.found = item, item is not None, True, None
        frame.why = "As you said."
        frame.settle()
    Frame.objects.bulk_update(frames, ["item", "sure", "told", "found", "why", "state"])
    tell_all(outing, taken_out(request, outing), frames)
    back = request.POST.get("back", "")
    if is_key(back):
        return redirect("outings:frame", frames[0].pk if frames else int(back))
    return redirect("outings:after", outing.pk)


@require_POST
def tell(request: OwnedRequest, key: int) -> HttpResponse:
    """Say of the next few frames what is to be said, and how many are left."""
    usecases.of(request.owner, key)
    outing = usecases.of(writer(request), key)
    done = tell_all(outing, taken_out(request, outing))
    left = untold(outing).count() if done else 0
    context = {"outing": outing, "untold": left, "screen": "outings"}
    if request.headers.get("HX-Request"):
        return render(request, "outings/untold.html", context)
    return redirect("outings:after", outing.pk)


@require_POST
def clock(request: OwnedRequest, key: int) -> HttpResponse:
    """Set the camera's clock against the device's: ``frame``, which shows the page's clock at
    ``shown``; or ``off``, half hours that are added."""
    usecases.of(request.owner, key)
    outing = usecases.of(writer(request), key)
    said = request.POST
    off, text = None, said.get("frame", "")
    if is_key(text):
        frame = next(iter(usecases.frames_by(outing, [int(text)])), None)
        shown = _shown(said.get("shown", ""), frame)
        if frame is None or frame.at is None or shown is None:
            wrong = "Write the time as the picture shows it: 21:04:07."
            return _page(request, outing, 422, clock_wrong=wrong)
        off = (shown - frame.at).total_seconds()
    elif _OFF.fullmatch(said.get("off", "")):
        off = (outing.clock_off_s or 0.0) + float(said["off"])
    elif "forget" in said:
        usecases.change(outing, {"clock_off_s": None})
    if off is not None:
        usecases.change(outing, {"clock_off_s": off})
    match_all(outing, taken_out(request, outing))
    return redirect("outings:after", outing.pk)


def _shown(text: str, frame: Frame | None) -> datetime | None:
    """The time that a picture shows; of the day alone, on the frame's own day."""
    text = text.strip()[:30]
    if frame is None or frame.at is None:
        return None
    if len(text) <= 8:
        text = f"{frame.at:%Y-%m-%d}T{text}"
    try:
        found = parse_datetime(f"{text.removesuffix('Z')}Z")
    except ValueError:
        return None
    if found is None:
        return None
    off = (found - frame.at).total_seconds()
    if abs(off) > 43_200 and len(text) <= 19:  # just before midnight, or just after
        found += timedelta(days=-1 if off > 0 else 1) if abs(off) < 90_000 else timedelta(0)
    return found


@throttled("files")
@require_safe
def out(request: OwnedRequest, key: int, ending: str) -> HttpResponse:
    """All that is known of the frames: csv, json, or sidecars as zip."""
    outing = usecases.of(request.owner, key)
    name = file_name(outing.name, "outing")
    rows = outing.frames.select_related("item").order_by("order", "pk")
    if ending == "csv":
        items = {item.pk: item for item in outing.items.all()}
        return sent(table_of(rows.iterator(500), items), f"{name}, frames", "csv")
    if ending == "json":
        return sent(json_of(said(outing)), name, "json")
    if ending != "zip":
        raise Http404
    response = HttpResponse(sidecars.zipped(rows.iterator(500)), content_type="application/zip")
    response["Content-Disposition"] = named(f"{name}, sidecars.zip")
    return response
