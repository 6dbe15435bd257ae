"""What an installation says of itself while it runs: lines on standard error, each request with an
id that the error page shows too, and counters in the text format that monitoring systems read.

A line never has a link, a name, a note, a password or a token: of a request it has the method, the
name of its address, the status, the time it took, and its id. An address somebody asked from stands
only where sign-in locked it.
"""

from __future__ import annotations

import json
import logging
import re
import secrets
import time
from collections.abc import Callable
from datetime import UTC, datetime
from typing import Any

from django.conf import settings
from django.http import HttpRequest

from web.running import counters

_log = logging.getLogger("aim.request")
_ID = re.compile(r"^[A-Za-z0-9-]{8,64}$")
HEADER = "X-Request-ID"


def middleware(get_response: Callable[[HttpRequest], Any]) -> Callable[[HttpRequest], Any]:
    """Gives each request an id, and says what broke or was slow."""

    def handle(request: HttpRequest) -> Any:
        given = request.headers.get(HEADER, "")
        trusted = settings.PROXIES > 0 and _ID.match(given)
        request.id = given if trusted else secrets.token_hex(8)  # type: ignore[attr-defined]
        begun = time.monotonic()
        response = get_response(request)
        took = time.monotonic() - begun
        response.headers[HEADER] = request.id  # type: ignore[attr-defined]
        counters.counted(response.status_code, took)
        if response.status_code >= 500 or took > settings.SLOW_SECONDS:
            _say(request, response.status_code, took)
        return response

    return handle


def _say(request: HttpRequest, status: int, took: float) -> None:
    match = getattr(request, "resolver_match", None)
    name = match.view_name if match is not None else "no address of ours"
    level = logging.ERROR if status >= 500 and status != 503 else logging.WARNING
    _log.log(
        level, "%s %s answered %s in %.2f s, request %s",
        request.method, name, status, took, request.id,  # type: ignore[attr-defined]
        extra={"status": status, "seconds": round(took, 3), "address": name,
               "method": request.method, "request": request.id},  # type: ignore[attr-defined]
    )  # fmt: skip


class Lines(logging.Formatter):
    """A line for people; what broke with where, in lines after it."""

    def __init__(self) -> None:
        super().__init__("%(asctime)s %(levelname)s %(name)s: %(message)s")


class Json(logging.Formatter):
    """One JSON object a line."""

    def format(self, record: logging.LogRecord) -> str:
        told: dict[str, Any] = {
            "at": datetime.fromtimestamp(record.created, UTC).isoformat(timespec="milliseconds"),
            "level": record.levelname,
            "from": record.name,
            "says": record.getMessage(),
        }
        for name in ("status", "seconds", "address", "method", "request", "who", "where"):
            if (value := getattr(record, name, None)) is not None:
                told[name] = value
        if record.exc_info and record.exc_info[0] is not None:
            told["broke"] = self.formatException(record.exc_info)
        return json.dumps(told, ensure_ascii=False)


class NoLinks(logging.Filter):
    """Leaves out what Django says of requests, which has their links: that is said here without."""

    def filter(self, record: logging.LogRecord) -> bool:
        request = getattr(record, "request", None)
        if record.name == "django.request" and not record.exc_info:
            return False
        if isinstance(request, HttpRequest):
            record.request = getattr(request, "id", "")
            match = getattr(request, "resolver_match", None)
            name = match.view_name if match is not None else "no address of ours"
            record.msg, record.args = "broke: %s, request %s", (name, getattr(request, "id", ""))
        return True


def config(*, as_json: bool, level: str) -> dict[str, Any]:
    """For ``settings.LOGGING``."""
    form = "json" if as_json else "lines"
    return {
        "version": 1,
        "disable_existing_loggers": False,
        "filters": {"no links": {"()": "web.running.log.NoLinks"}},
        "formatters": {
            "lines": {"()": "web.running.log.Lines"},
            "json": {"()": "web.running.log.Json"},
        },
        "handlers": {
            "err": {
                "class": "logging.StreamHandler", "formatter": form, "filters": ["no links"],
            },
        },
        "root": {"handlers": ["err"], "level": level},
        "loggers": {
            "django": {"handlers": [], "level": "ERROR", "propagate": True},
            "django.security.DisallowedHost": {"level": "CRITICAL"},  # anybody can send any name
            "django.server": {"handlers": [], "level": "ERROR", "propagate": True},
            "axes": {"level": "CRITICAL"},
            "weasyprint": {"level": "ERROR"},
            "fontTools": {"level": "ERROR"},
        },
    }  # fmt: skip
