"""What the pages beside Sky have in common."""

from __future__ import annotations

from web.people.owners import OwnedRequest


def without_way(request: OwnedRequest) -> str:
    """The link's query but for the way to get there and its step, to go on from: with an & at its
    end, or empty."""
    query = request.GET.copy()
    for name in ("way", "step"):
        query.pop(name, None)
    return query.urlencode(safe="/'") + "&" if query else ""
