"""The pictures of tasks, by addresses that say what is in them and that nobody else can make."""

from __future__ import annotations

from collections.abc import Mapping
from functools import lru_cache
from typing import Any

from django.core import signing
from django.http import Http404, HttpResponse
from django.urls import reverse
from django.views.decorators.http import require_safe

from drills.pictures import File, drawn
from simulator.errors import SceneError
from web.people.owners import OwnedRequest
from web.ui.throttle import throttled

_SALT = "drills"
_LONGEST = 2000
_A_YEAR = 365 * 24 * 3600


def address(said: Mapping[str, Any]) -> str:
    """Where the picture of some numbers is."""
    plain = {
        name: float(f"{value:.7g}") if isinstance(value, float) else value
        for name, value in said.items()
    }
    return reverse("drills:seen", args=[signing.dumps(plain, salt=_SALT, compress=True)])


@lru_cache(maxsize=64)  # two megabytes: one that is asked for twice, before and as it is shown
def _file(said: str) -> File:
    wanted = signing.loads(said[:_LONGEST], salt=_SALT)
    return drawn(wanted)


@require_safe
@throttled("drawn")
def seen(request: OwnedRequest, said: str) -> HttpResponse:
    """A picture. It is always the same, so whoever has it need not ask again."""
    try:
        file = _file(said)
    except (signing.BadSignature, KeyError, ValueError, TypeError, SceneError):
        raise Http404("There is no such picture.") from None
    response = HttpResponse(file.body, content_type=file.kind)
    response["Cache-Control"] = f"private, max-age={_A_YEAR}, immutable"
    return response
