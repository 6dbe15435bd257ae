"""What the core refuses although every field was all right, caught once and made a message.

A field's limits are meant to be the core's; where a combination gets past them, whoever typed it is
told so beside what they typed, and the log has where it came from.
"""

from __future__ import annotations

import logging
from collections.abc import Callable
from functools import wraps
from typing import Any

from django.http import HttpResponse
from django.shortcuts import render

from optics.base.errors import OpticsError
from web.people.owners import OwnedRequest

ESCAPED = (ArithmeticError, ValueError)
"""OpticsError is a ValueError too."""

_log = logging.getLogger("aim.escaped")


def sentence_of(error: Exception) -> str:
    """What to say of it, and a line in the log. The line has no link: it may say who was where."""
    _log.warning("not worked out: %s", type(error).__name__, exc_info=error)
    why = f" {error.sentence}" if isinstance(error, OpticsError) else ""
    return f"What is typed does not go together, and cannot be worked out.{why}"


def worked_out(view: Callable[..., HttpResponse]) -> Callable[..., HttpResponse]:
    """For a page beside a planner: what cannot be worked out is said on a page of its own."""

    @wraps(view)
    def guarded(request: OwnedRequest, *args: Any, **kwargs: Any) -> HttpResponse:
        try:
            return view(request, *args, **kwargs)
        except ESCAPED as error:
            text = f"{sentence_of(error)} Go back to where it was typed and mend it there."
            context = {"title": "That cannot be worked out", "text": text}
            return render(request, "ui/error.html", context, status=422)

    return guarded
