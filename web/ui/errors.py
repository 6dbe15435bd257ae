"""Plain pages for what goes wrong: what happened, and where to go from there."""

from __future__ import annotations

import sys

from django.http import HttpRequest, HttpResponse
from django.shortcuts import render

from web.ui import storing


def _page(request: HttpRequest, status: int, title: str, text: str) -> HttpResponse:
    context = {
        "title": title,
        "text": text,
        "id": getattr(request, "id", "") if status >= 500 else "",
    }
    return render(request, "ui/error.html", context, status=status)


def bad_request(request: HttpRequest, exception: Exception) -> HttpResponse:
    """400: a request too large or malformed to be read at all."""
    text = "The link or form could not be read. It may have been cut, or be far too long."
    return _page(request, 400, "That could not be read", text)


def not_found(request: HttpRequest, exception: Exception) -> HttpResponse:
    """404: in the sentence of the view that raised it, if it gave one."""
    said = exception.args[0] if exception.args and isinstance(exception.args[0], str) else ""
    return _page(request, 404, "Not here", said or "There is no page at this address.")


def server_error(request: HttpRequest) -> HttpResponse:
    """500: our fault, and said to be; 503 where the database takes or gives nothing."""
    error = sys.exc_info()[1]
    if storing.is_outage(error) and error is not None:
        text = f"{storing.why(error)} What you had typed is still in the page before this one."
        response = _page(request, 503, "Not just now", text)
        response["Retry-After"] = "60"
        return response
    text = "Something broke on our side. What you had typed is still in the page before this one."
    return _page(request, 500, "That went wrong", text)


def csrf_failure(request: HttpRequest, reason: str = "") -> HttpResponse:
    """403: the form's token does not match, most often because cookies are off."""
    text = (
        "The form came without its cookie, so nothing was changed. "
        "Allow cookies for this site, go back, and send it again."
    )
    return _page(request, 403, "Not accepted", text)
