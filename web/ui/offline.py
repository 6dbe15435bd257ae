"""What a device does without a signal: the script that keeps pages, and the page for the others."""

from __future__ import annotations

from functools import lru_cache
from pathlib import Path

from django.contrib.staticfiles import finders
from django.http import HttpRequest, HttpResponse, JsonResponse
from django.shortcuts import render
from django.templatetags.static import static
from django.views.decorators.http import require_safe

from web.ui.preferences import DARK_ADAPTED

ICONS = (192, 512)


@lru_cache(maxsize=1)
def _script() -> bytes:
    found = finders.find("ui/worker.js")
    assert isinstance(found, str)
    return Path(found).read_bytes()


@require_safe
def worker(request: HttpRequest) -> HttpResponse:
    """The script, from the root, so that it may answer for every page."""
    response = HttpResponse(_script(), content_type="text/javascript; charset=utf-8")
    response["Cache-Control"] = "no-cache"
    return response


@require_safe
def manifest(request: HttpRequest) -> HttpResponse:
    """What a device needs to know to keep the site among its applications."""
    icons = [
        {"src": static(f"ui/icon-{size}.png"), "sizes": f"{size}x{size}", "type": "image/png",
         "purpose": "any maskable"}
        for size in ICONS
    ]  # fmt: skip
    icons.append({"src": static("ui/icon.svg"), "sizes": "any", "type": "image/svg+xml"})
    said = {
        "name": "Aim Still", "short_name": "Aim Still", "id": "/", "start_url": "/kept/",
        "scope": "/", "display": "standalone", "icons": icons,
        "description": "Where to set the focus ring, and which aperture to set with it.",
        "background_color": "#000000", "theme_color": "#000000",
    }  # fmt: skip
    return JsonResponse(said, content_type="application/manifest+json")


@require_safe
def page(request: HttpRequest) -> HttpResponse:
    """The page for what was not kept: always dark, since it may be night."""
    return render(request, "ui/offline.html", {"light": DARK_ADAPTED, "screen": "off-line"})
