"""How often something may be asked from one place: what costs much, or what guesses.

Counted in the cache (``settings.CACHES``), so that all processes count together.
"""

from __future__ import annotations

from collections.abc import Callable
from functools import wraps
from typing import Any

from django.http import HttpRequest, HttpResponse
from django.shortcuts import render
from django_ratelimit import ALL  # type: ignore[import-untyped]
from django_ratelimit.core import get_usage  # type: ignore[import-untyped]

RATES = {
    "pdf": "60/m",
    "frames": "1200/h",
    "files": "7200/h",
    "drawn": "1500/h",
    "join": "20/h",
    "reset": "10/h",
    "import": "60/h",
    "old password": "20/h",
    "sign in": "200/h",
    "first things": "120/h",
}
"""By what is asked: how often from one address, in a minute or an hour."""


class TooOften(Exception):
    """It was asked too often. ``seconds``: after how long to ask again."""

    def __init__(self, seconds: int) -> None:
        self.seconds = seconds
        super().__init__(f"again in {seconds} s")


def count(request: HttpRequest, what: str) -> None:
    """Count one of those. Raises TooOften."""
    usage = get_usage(
        request, group=f"aim {what}", key="ip", rate=RATES[what], method=ALL, increment=True
    )
    if usage is not None and usage["should_limit"]:
        raise TooOften(int(usage["time_left"]) + 1)


def throttled(what: str, method: str = "") -> Callable[..., Any]:
    """A view that may be asked so often. ``method``: counted only for that."""

    def around(view: Callable[..., Any]) -> Callable[..., Any]:
        @wraps(view)
        def counted(request: HttpRequest, *args: Any, **kwargs: Any) -> Any:
            if not method or request.method == method:
                try:
                    count(request, what)
                except TooOften as error:
                    return too_often(request, error)
            return view(request, *args, **kwargs)

        return counted

    return around


def too_often(request: HttpRequest, error: TooOften) -> HttpResponse:
    """429: with when to come back."""
    minutes = (error.seconds + 59) // 60
    wait = f"{error.seconds} seconds" if error.seconds < 90 else f"{minutes} minutes"
    context = {
        "title": "Too often",
        "text": f"That was asked very often from where you are. Wait {wait}, then ask again.",
    }
    response = render(request, "ui/error.html", context, status=429)
    response["Retry-After"] = str(error.seconds)
    return response


def middleware(get_response: Callable[[HttpRequest], Any]) -> Callable[[HttpRequest], Any]:
    """Answers what was asked too often somewhere within."""

    class Guarded:
        def __call__(self, request: HttpRequest) -> Any:
            return get_response(request)

        def process_exception(self, request: HttpRequest, error: Exception) -> Any:
            return too_often(request, error) if isinstance(error, TooOften) else None

    return Guarded()
