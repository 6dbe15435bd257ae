"""Tests under way go with their lens from a guest to the account they sign in to."""

from __future__ import annotations

from web.bench.models import Test
from web.people.models import Owner
from web.people.owners import moves


@moves
def move(guest: Owner, owner: Owner) -> None:
    """Hand over the tests of lenses that went along; others end with the guest."""
    for test in Test.objects.filter(owner=guest, lens__owner=owner):
        test.owner = owner
        test.save(update_fields=["owner"])
