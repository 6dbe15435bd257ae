"""What tests ask View with: links, and the headers of a page that asks for a fragment."""

from __future__ import annotations

from django.http import QueryDict

from web.view.forms import sample_query

HTMX = {"HX-Request": "true", "Aim-Screen": "wide"}


def changed(**changes: str) -> QueryDict:
    """The sample scene's link, with some of it another."""
    query = sample_query()
    for name, text in changes.items():
        query[name] = text
    return query
