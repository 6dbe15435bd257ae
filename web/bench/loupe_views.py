"""Two files side by side under one loupe."""

from __future__ import annotations

import secrets
from typing import Any

from django.core.files.uploadedfile import UploadedFile
from django.http import Http404, HttpResponse, HttpResponseBase
from django.shortcuts import render
from django.views.decorators.http import require_POST, require_safe

from imaging.errors import PictureError
from imaging.reading import read
from web.bench import loupe
from web.bench.views import MOST_BYTES, is_key
from web.people.owners import OwnedRequest
from web.ui.throttle import throttled

_WHICH = ("first", "second")


@require_safe
def page(request: OwnedRequest) -> HttpResponse:
    """The loupe, with nothing under it yet."""
    return render(request, "bench/loupe.html", {"screen": "loupe"})


@throttled("frames", "POST")
@require_POST
def compare(request: OwnedRequest) -> HttpResponse:
    """What is said of two pictures."""
    whole = "HX-Request" not in request.headers
    seed = secrets.randbelow(2**31) if "made_up" in request.POST else None
    wrong: dict[str, str] = {}
    raw: dict[str, bytes] = {}
    for which in _WHICH:
        if seed is not None:
            raw[which] = loupe.made_up(seed, which)
            continue
        upload: UploadedFile[bytes] | None = request.FILES.get(which)
        if upload is None:
            wrong[which] = "Choose a file."
        elif (upload.size or 0) > MOST_BYTES:
            wrong[which] = "The file is larger than 60 MB: no frame is."
        else:
            raw[which] = upload.read()
    pictures = {}
    for which, held in raw.items():
        try:
            pictures[which] = read(held)
        except PictureError as error:
            wrong[which] = error.sentence
    context: dict[str, Any] = {"screen": "loupe", "wrong": wrong, "seed": seed}
    if not wrong:
        try:
            context["compared"] = loupe.beside(pictures["first"], pictures["second"])
        except PictureError as error:
            wrong["second"] = error.sentence
    status = 422 if wrong and whole else 200
    template = "bench/loupe.html" if whole else "bench/loupe_said.html"
    return render(request, template, context, status=status)


@throttled("frames", "POST")
@require_POST
def developed(request: OwnedRequest) -> HttpResponse:
    """A picture that a browser cannot read, as one that it can; nothing is kept."""
    upload: UploadedFile[bytes] | None = request.FILES.get("file")
    if upload is None or (upload.size or 0) > MOST_BYTES:
        return HttpResponse("No picture.", status=422, content_type="text/plain")
    try:
        picture = read(upload.read())
    except PictureError as error:
        return HttpResponse(error.sentence, status=422, content_type="text/plain")
    return HttpResponse(loupe.developed(picture), content_type="image/jpeg")


@throttled("frames")
@require_safe
def made_up(request: OwnedRequest, seed: str, which: str) -> HttpResponseBase:
    """A picture of a pair by the made-up camera."""
    if which not in _WHICH or not is_key(seed) or int(seed) >= 2**31:
        raise Http404
    response = HttpResponse(loupe.made_up(int(seed), which), content_type="image/jpeg")
    response["Cache-Control"] = "private, max-age=3600"
    return response
