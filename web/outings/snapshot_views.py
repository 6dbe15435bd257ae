"""Measuring from a snapshot: the page, what clicks tell, and what a file says of itself."""

from __future__ import annotations

from typing import Any

from django.core.exceptions import ValidationError
from django.core.files.uploadedfile import UploadedFile
from django.http import HttpRequest, HttpResponse, JsonResponse
from django.shortcuts import render
from django.views.decorators.http import require_POST, require_safe

from imaging.errors import PictureError
from imaging.exif import exif_of
from optics.base.formats import FORMATS
from web.outings.as_it_would_be import Drawn, drawn
from web.outings.measuring import Scouting, Snapshot, measured
from web.outings.snapshot_forms import SnapshotForm, height_of, spot_of, things_of
from web.people.owners import OwnedRequest
from web.ui.templatetags.format import number
from web.ui.throttle import throttled

MOST_BYTES = 60_000_000
_FRAME_OF_35 = 36.0


@require_safe
def snapshot(request: OwnedRequest) -> HttpResponse:
    """A snapshot to be measured, and what was measured in it. The link holds all but the picture,
    which stays where it is."""
    whole = "HX-Request" not in request.headers
    context: dict[str, Any] = {
        "screen": "snapshot",
        "texts": request.GET,
        "system": request.owner.units,
        "formats": [(one.key, one.name) for one in FORMATS],
        "horizon": ([*request.GET.getlist("horizon"), "", ""])[:2],
        **_told(request),
    }
    template = "outings/snapshot.html" if whole else "outings/snapshot_told.html"
    return render(request, template, context)


def _told(request: OwnedRequest) -> dict[str, Any]:
    """What clicks tell, or what is missing, or wrong and where."""
    data, owner = request.GET, request.owner
    if "focal_length_mm" not in data:
        return {}
    form, wrong = SnapshotForm(data), {}
    if not form.is_valid():
        wrong = {name: " ".join(map(str, errors)) for name, errors in form.errors.items()}
    height = None
    try:
        height = height_of(data.get("lens_height", ""), owner.units, owner.measures)
    except ValidationError as error:
        wrong["lens_height"] = " ".join(error.messages)
    spots = []
    try:
        read = [spot_of(text) for text in data.getlist("horizon")[:2]]
        spots = [spot for spot in read if spot is not None]
    except ValidationError as error:
        wrong["horizon"] = " ".join(error.messages)
    things = things_of(data, owner.units, owner.measures)
    if wrong:
        return {"wrong": wrong, "things": things}
    values = form.cleaned_data
    taken = Snapshot(
        values["focal_length_mm"], values["sensor_mm"],
        (values["width_px"], values["height_px"]), values.get("shown_px") or 1.0, height,
        tuple(spots),
    )  # fmt: skip
    told = measured(taken, things, owner.units, data.get("lens_height", "").strip()[:80])
    if isinstance(told, Scouting):
        made = drawn(request, taken, told, data)
        if isinstance(made, Drawn):
            return {"told": told, "things": things, "drawn": made}
        return {"told": told, "things": things, "wrong_taken": made}
    return {"waits": told, "things": things}


@throttled("frames", "POST")
@require_POST
def read_file(request: HttpRequest) -> HttpResponse:
    """What a file says of how it was taken, as JSON; the file is not kept."""
    upload: UploadedFile[bytes] | None = request.FILES.get("file")
    if upload is None or (upload.size or 0) > MOST_BYTES:
        return JsonResponse({"wrong": "Choose a picture of 60 MB at most."}, status=422)
    try:
        exif = exif_of(upload.read())
    except PictureError as error:
        return JsonResponse({"wrong": error.sentence}, status=422)
    sensor = ""
    if exif.focal_length and exif.focal_length_35:
        sensor = number(_FRAME_OF_35 * exif.focal_length / exif.focal_length_35)
    focal_length = "" if exif.focal_length is None else number(exif.focal_length)
    return JsonResponse(
        {
            "focal_length_mm": focal_length,
            "sensor_mm": sensor,
            "taken": exif.taken,
            "doubts": list(exif.doubts),
        }
    )
