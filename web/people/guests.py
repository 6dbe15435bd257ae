"""How a browser is known before there is an account: by a cookie that only it has.

The cookie is there from the first page on, so that two windows that keep something at the same
moment are one guest. It says whether anything is kept under it, so that those who only look are not
looked for; and the day it was set, so that it is set anew once a day and never ends for those who
come back. The database has only a hash of it.
"""

from __future__ import annotations

import hashlib
import re
import secrets
from dataclasses import dataclass, replace

from django.conf import settings
from django.http import HttpRequest, HttpResponse
from django.utils import timezone

COOKIE = "guest"
AGE = 400 * 24 * 3600
"""s: as long as browsers keep a cookie."""
_FORM = re.compile(r"^([A-Za-z0-9_-]{43})\.([ol])\.(\d{8})$")


@dataclass(frozen=True, slots=True)
class Known:
    """A browser. ``owns``: whether something is kept under it. ``day``: when it was last told."""

    token: str
    owns: bool
    day: str

    @property
    def hash(self) -> str:
        """What the database knows it by."""
        return hashlib.sha256(self.token.encode()).hexdigest()

    @property
    def text(self) -> str:
        """The cookie."""
        return f"{self.token}.{'o' if self.owns else 'l'}.{self.day}"


def today() -> str:
    """The day, as the cookie has it."""
    return timezone.localdate().strftime("%Y%m%d")


def known(request: HttpRequest) -> Known | None:
    """The browser that asks; None for one that has no cookie of ours."""
    if (found := getattr(request, "_guest", None)) is not None:
        return found if isinstance(found, Known) else None
    match = _FORM.match(request.COOKIES.get(COOKIE, ""))
    return Known(match[1], match[2] == "o", match[3]) if match else None


def made_known(request: HttpRequest, *, owns: bool) -> Known:
    """The browser that asks, known from now on."""
    found = known(request) or Known(secrets.token_urlsafe(32), owns, "")
    found = replace(found, owns=found.owns or owns)
    request._guest = found  # type: ignore[attr-defined]
    return found


def forget(request: HttpRequest) -> None:
    """Nothing is kept under this browser any more: it is an account's."""
    request._guest = False  # type: ignore[attr-defined]


def tell(request: HttpRequest, response: HttpResponse) -> None:
    """Set the cookie if it is not there yet as it should be, or is of another day."""
    before = request.COOKIES.get(COOKIE, "")
    if getattr(request, "_guest", None) is False:
        if before:
            response.delete_cookie(COOKIE, samesite="Lax")
        return
    found = known(request)
    if found is None:
        kind = response.headers.get("Content-Type", "")
        if request.method != "GET" or response.status_code != 200 or "text/html" not in kind:
            return
        found = made_known(request, owns=False)
    now = replace(found, day=today())
    if now.text != before:
        response.set_cookie(
            COOKIE, now.text, max_age=AGE, httponly=True, samesite="Lax",
            secure=settings.SESSION_COOKIE_SECURE,
        )  # fmt: skip
