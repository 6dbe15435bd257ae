"""What a page of Sky is about: the link, a kept night, or the sample."""

from __future__ import annotations

from dataclasses import dataclass

from django.http import QueryDict

from web.bag.gear import Asker, asker
from web.people.owners import OwnedRequest
from web.sky.forms import is_sky, read_sky
from web.sky.nights import keeper
from web.sky.reading import Reading
from web.sky.sample import GEAR, NAME


@dataclass(frozen=True, slots=True)
class Opened:
    """A night to look at, its name (or none), and who asks."""

    reading: Reading
    name: str
    who: Asker


_NAME_LIMIT = 80


def opened(request: OwnedRequest, key: int | None) -> Opened:
    """What a request for a page beside the planner is about. A 404 for no night of theirs."""
    kept = keeper.of(request.owner, key)
    data: QueryDict = request.GET
    name = request.GET.get("name", "")[:_NAME_LIMIT] or (kept.name if kept else "")
    if not is_sky(data):
        if kept is not None:
            data = keeper.query_of(kept)
        else:
            name = name or NAME
            data = QueryDict(mutable=True)
            data.update({**GEAR, "units": request.owner.units})
    who = asker(request)
    return Opened(read_sky(data, who=who), name, who)


def without_way(request: OwnedRequest) -> str:
    """The link's query but for the way to get there and its step, to go on from: with an & at its
    end, or empty."""
    query = request.GET.copy()
    for name in ("way", "step"):
        query.pop(name, None)
    return query.urlencode(safe="/'") + "&" if query else ""
