"""How much somebody may keep: a guest less than an account, and both more than anybody needs."""

from __future__ import annotations

from django.db.models import QuerySet

from web.people.models import Owner

OF_A_GUEST, OF_AN_ACCOUNT = 300, 5000


class Full(Exception):
    """No more of it may be kept. ``sentence``: what to do."""

    def __init__(self, sentence: str) -> None:
        self.sentence = sentence
        super().__init__(sentence)


def check(owner: Owner, there: QuerySet, noun: str, more: int = 1) -> None:  # type: ignore[type-arg]
    """Whether so many more of what is ``there`` may be kept. Raises Full."""
    is_guest = owner.person_id is None
    most = OF_A_GUEST if is_guest else OF_AN_ACCOUNT
    if there.filter(owner=owner).count() + more > most:
        way = "make an account, or delete some first" if is_guest else "delete some first"
        raise Full(f"That is more than the {most} {noun} there is room for: {way}.")
