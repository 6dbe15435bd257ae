"""What of something kept goes along on a device: its pages for out there."""

from __future__ import annotations

import json
from typing import Any

from django.urls import reverse

from web.kept.kinds import kind_of
from web.kept.models import Kept
from web.kept.printed import address, printed

KB_OF_A_PAGE = 16
"""How large such a page is with the sample world, 11 to 20: said before it is taken; what it really
is, once it is there."""


def of(kept: Kept) -> dict[str, Any]:
    """What a button to take it along needs."""
    kind = kind_of(kept)
    pages = kind.outside(kept.pk)
    how = printed(kind.key)
    faces = () if how is None else how.faces
    pages += [(face.name, address(kind.key, face.key, kept.pk)) for face in faces]
    return thing(f"kept-{kept.pk}", kept.name, kind.noun, pages)


def thing(
    key: str, name: str, noun: str, pages: list[tuple[str, str]], about: int = 0
) -> dict[str, Any]:
    """The same of anything: ``pages``, each what it is called and where it is; ``about``: how many
    kB all of them are, where they are no usual ones."""
    about = about or KB_OF_A_PAGE * len(pages)
    return {"key": key, "name": name, "noun": noun, "pages": json.dumps(pages), "about": about}


_ALSO: list[tuple[str, str, str, str, int]] = []


def also(key: str, name: str, noun: str, address_name: str, about: int) -> None:
    """Make known what else can go along: one page, by the name of its address; ``about``: kB."""
    _ALSO.append((key, name, noun, address_name, about))


def others() -> list[dict[str, Any]]:
    """What else can."""
    return [
        thing(key, name, noun, [(name, reverse(there))], about)
        for key, name, noun, there, about in _ALSO
    ]
