"""Where a request comes from: what sign-in counts wrong passwords by."""

from __future__ import annotations

from django.conf import settings
from django.http import HttpRequest


def of(request: HttpRequest) -> str:
    """The address of whoever asks.

    Behind so many proxies of one's own (``settings.PROXIES``) it is what the outermost of them saw,
    that many places from the end of X-Forwarded-For; anything before that could have been made up.
    Without proxies the header is not believed at all.
    """
    seen = str(request.META.get("REMOTE_ADDR", ""))
    if settings.PROXIES < 1:
        return seen
    hops = [hop.strip() for hop in request.META.get("HTTP_X_FORWARDED_FOR", "").split(",")]
    hops = [hop for hop in hops if hop]
    return hops[-settings.PROXIES] if len(hops) >= settings.PROXIES else seen
