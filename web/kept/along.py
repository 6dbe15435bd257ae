"""What of something kept goes along on a device: its pages for out there."""

from __future__ import annotations

import json
from typing import Any

from django.urls import reverse

from web.kept.kinds import kind_of
from web.kept.models import Kept
from web.kept.printed import address, printed

KB_OF_A_PAGE = 45
"""About how large a page is: to be said before it is taken, and measured when it is."""


def of(kept: Kept) -> dict[str, Any]:
    """What a button to take it along needs."""
    kind = kind_of(kept)
    pages = [
        (label, reverse(f"{kind.app}:{page}", args=[kept.pk])) for label, page in kind.outdoors
    ]
    how = printed(kind.key)
    faces = () if how is None else how.faces
    pages += [(face.name, address(kind.key, face.key, kept.pk)) for face in faces]
    return thing(f"kept-{kept.pk}", kept.name, kind.noun, pages)


def thing(key: str, name: str, noun: str, pages: list[tuple[str, str]]) -> dict[str, Any]:
    """The same of anything: ``pages``, each what it is called and where it is."""
    about = KB_OF_A_PAGE * len(pages)
    return {"key": key, "name": name, "noun": noun, "pages": json.dumps(pages), "about": about}


_ALSO: list[tuple[str, str, str, str]] = []


def also(key: str, name: str, noun: str, address_name: str) -> None:
    """Make known what else can go along: one page, by the name of its address."""
    _ALSO.append((key, name, noun, address_name))


def others() -> list[dict[str, Any]]:
    """What else can."""
    return [thing(key, name, noun, [(name, reverse(there))]) for key, name, noun, there in _ALSO]
