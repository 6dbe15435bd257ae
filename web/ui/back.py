"""Where a form asks to be led back to: an address of ours, and no other."""

from __future__ import annotations

from django.http import HttpRequest
from django.utils.http import url_has_allowed_host_and_scheme

from web.ui.limits import MOST_HEADER


def path_in(request: HttpRequest, text: str | None, otherwise: str) -> str:
    """That address if it is a path of this site, else another."""
    there = text or ""
    ours = there.startswith("/") and len(there) <= MOST_HEADER and there.isprintable()
    if ours and url_has_allowed_host_and_scheme(there, allowed_hosts={request.get_host()}):
        return there
    return otherwise
