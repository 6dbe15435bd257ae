"""How long a link may be: the same for the server, pages that make links, and whoever sends one.

Sixty marks, each with a name of sixty letters in a script whose letters take nine bytes each in
a link, and all that can be said of a mark, come to about three quarters of it.
"""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from django.http import HttpRequest
from django.shortcuts import render

MOST_LINK = 80_000
"""Bytes of what stands behind the question mark."""
MOST_HEADER = MOST_LINK + 8_000
"""Bytes of one line of a request: a link with its address, as the browser tells of it too."""


def middleware(get_response: Callable[[HttpRequest], Any]) -> Callable[[HttpRequest], Any]:
    """Refuses a longer one with a page that says so: 414."""

    def handle(request: HttpRequest) -> Any:
        if len(request.META.get("QUERY_STRING", "")) <= MOST_LINK:
            return get_response(request)
        context = {
            "title": "Too long a link",
            "text": "That is more than one scene holds. Go back, take some marks out, or give them "
            "shorter names.",
        }
        return render(request, "ui/error.html", context, status=414)

    return handle
