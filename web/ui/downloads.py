"""What a file is called when it is saved: any script, as RFC 6266 says it."""

from __future__ import annotations

from django.utils.http import content_disposition_header

from web.ui.text import cleaned

_NOT_IN_NAMES = set('/\\:*?"<>|')
_MOST = 120


def file_name(text: str, otherwise: str) -> str:
    """A name that people gave something as the name of a file: what no system takes is left out."""
    kept = "".join(" " if c in _NOT_IN_NAMES else c for c in cleaned(text))
    return " ".join(kept.split()).strip(". ")[:_MOST] or otherwise


def named(name: str, how: str = "attachment") -> str:
    """The header Content-Disposition. ``how``: attachment, or inline to be looked at."""
    return content_disposition_header(how == "attachment", name) or how
