"""What a person prefers on this device: so far the light they work in. Kept in a cookie."""

from __future__ import annotations

from typing import Any

from django.http import HttpRequest, HttpResponse, HttpResponseRedirect
from django.views.decorators.http import require_POST

from web.ui.back import path_in

DAYLIGHT = "daylight"
DARK_ADAPTED = "dark"
LIGHT_COOKIE = "light"
_A_YEAR = 365 * 24 * 3600


def context(request: HttpRequest) -> dict[str, Any]:
    """For every page: the light, and the one to change to."""
    dark = request.COOKIES.get(LIGHT_COOKIE) == DARK_ADAPTED
    return {"light": DARK_ADAPTED if dark else DAYLIGHT}


@require_POST
def set_light(request: HttpRequest) -> HttpResponse:
    """Change the light and come back to the page it was changed on."""
    response = HttpResponseRedirect(path_in(request, request.POST.get("next"), "/"))
    keep_light(response, request.POST.get("light"))
    return response


def keep_light(response: HttpResponse, chosen: str | None) -> None:
    """Remember a light on this device, if it is one."""
    if chosen in (DAYLIGHT, DARK_ADAPTED):
        # Readable by the page's script, which changes the light without a request.
        response.set_cookie(LIGHT_COOKIE, chosen, max_age=_A_YEAR, samesite="Lax")
