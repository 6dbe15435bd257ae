"""What every answer tells browsers and caches, beside what Django's own middleware tells them."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from django.http import HttpRequest

_NOT_USED = (
    "accelerometer", "camera", "display-capture", "geolocation", "gyroscope", "magnetometer",
    "microphone", "midi", "payment", "usb",
)  # fmt: skip
PERMISSIONS = ", ".join(f"{name}=()" for name in _NOT_USED)
PRIVATE = "private, no-cache"
"""Kept by nobody but the browser, which asks before it shows it again."""
SECRET = "no-store"
_SECRET_PATHS = ("/you/",)


def middleware(get_response: Callable[[HttpRequest], Any]) -> Callable[[HttpRequest], Any]:
    """Adds these to what does not say otherwise."""

    def handle(request: HttpRequest) -> Any:
        response = get_response(request)
        response.headers.setdefault("Permissions-Policy", PERMISSIONS)
        response.headers.setdefault("Cross-Origin-Resource-Policy", "same-origin")
        secret = request.path.startswith(_SECRET_PATHS)
        response.headers.setdefault("Cache-Control", SECRET if secret else PRIVATE)
        return response

    return handle
