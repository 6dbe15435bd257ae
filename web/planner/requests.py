"""What the fragments of planners have in common: what is shown, and what was asked before."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

from django.core.exceptions import TooManyFieldsSent
from django.http import QueryDict
from django_htmx.middleware import HtmxDetails

from drawing.sightline import Size
from web.people.owners import OwnedRequest
from web.planner.axis import SIZES


class HtmxHttpRequest(OwnedRequest):
    """A request with what django-htmx puts on it."""

    htmx: HtmxDetails


def query_before(request: HtmxHttpRequest) -> QueryDict | None:
    """What was in hand on the page that asks when it was last all right, as a link says it."""
    try:
        return QueryDict(request.headers["Aim-Before"])
    except (KeyError, TooManyFieldsSent):
        return None


@dataclass(frozen=True, slots=True)
class Shown:
    """What a page shows: the sizes of its pictures, and the folds that are drawn; ``opened``: those
    the user has unfolded."""

    sizes: tuple[Size, ...]
    unfolded: list[str]
    opened: list[str]


def shown(request: HtmxHttpRequest, folds: Iterable[str]) -> Shown:
    """A whole page has everything; a fragment leaves out what its page does not show: the other
    screen's picture, folded text."""
    sizes = tuple(SIZES.values())
    if not request.htmx:
        return Shown(sizes, list(folds), [])
    size = SIZES.get(request.headers.get("Aim-Screen", ""))
    unfolded = request.headers.get("Aim-Unfolded", "").split()
    return Shown((size,) if size else sizes, unfolded, unfolded)
