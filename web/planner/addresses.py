"""The addresses that every planner has."""

from __future__ import annotations

from typing import Any

from django.http import HttpRequest, HttpResponse
from django.shortcuts import redirect
from django.urls import URLPattern, path, reverse
from django.views.decorators.http import require_http_methods, require_POST, require_safe

from web.planner.pages import Pages


def addresses(pages: Pages[Any], one: str) -> list[URLPattern]:
    """Of a planner: its page, alone and with something kept, and saving. ``one``: what something
    kept is called in an address; where the list of these once was leads to the list of all."""
    asked = require_http_methods(["GET", "HEAD", "POST"])
    page, save = asked(pages.page), require_POST(pages.save)

    def its_list(request: HttpRequest) -> HttpResponse:
        return redirect(f"{reverse('kept:page')}?kind={pages.kind.key}")

    return [
        path("", page, name="page"),
        path(f"{one}/<int:key>/", page, name="kept"),
        path("save/", save, name="save"),
        path(f"{one}/<int:key>/save/", save, name="save_kept"),
        path(f"{one}s/", require_safe(its_list), name="all"),
    ]
