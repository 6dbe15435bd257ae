"""A bag as one file, and a file into a bag."""

from __future__ import annotations

from typing import Any

from django.http import HttpResponse
from django.shortcuts import redirect, render
from django.views.decorators.http import require_http_methods, require_safe

from web.bag import files
from web.people.owners import OwnedRequest, writer
from web.ui.downloads import named
from web.ui.storing import NotStored, storing
from web.ui.throttle import throttled


@require_safe
def file(request: OwnedRequest) -> HttpResponse:
    """The bag as one file."""
    response = HttpResponse(files.text_of(request.owner), content_type="application/json")
    response["Content-Disposition"] = named("bag.json")
    return response


@throttled("import", "POST")
@require_http_methods(["GET", "HEAD", "POST"])
def bring_in(request: OwnedRequest) -> HttpResponse:
    """Read a file, say what it would add or change, and take it when told to."""
    context: dict[str, Any] = {"screen": "bag"}
    if request.method != "POST":
        return render(request, "bag/import.html", context)
    uploaded = request.FILES.get("file")
    text = request.POST.get("text", "")
    try:
        if uploaded is not None and (uploaded.size or 0) > files.LARGEST:
            raise files.Refused("", "The file is larger than 1 MB: that is no bag.")
        raw = uploaded.read() if uploaded is not None else text.encode()
        if not raw:
            raise files.Refused("", "Choose a file, or paste what is in one.")
        if "take" in request.POST:
            files.read(raw, request.owner)  # what is refused makes nobody an owner
            with storing():
                owner = writer(request)
                found = files.read(raw, owner)
                files.take(found.data, owner)
            return redirect("bag:overview")
        context["found"] = files.read(raw, request.owner)
        context["text"] = raw.decode("utf-8")
    except files.Refused as refused:
        context |= {"refused": refused, "text": text}
    except NotStored as error:
        context |= {"refused": error, "text": text}
    return render(request, "bag/import.html", context, status=422 if "refused" in context else 200)
