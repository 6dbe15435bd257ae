"""Tests under way go with their lens from a guest to the account they sign in to."""

from __future__ import annotations

from web.bag.models import Lens
from web.bench.models import Test, Thumbnail
from web.people.models import Owner
from web.people.owners import moves


@moves
def move(guest: Owner, owner: Owner) -> None:
    """Hand over the tests of lenses that went along; others end with the guest."""
    for test in Test.objects.filter(owner=guest, lens__owner=owner):
        test.owner = owner
        test.save(update_fields=["owner"])
    keys = [one.key for lens in Lens.objects.filter(owner=owner) for one in lens.found]
    Thumbnail.objects.filter(owner=guest, finding__in=keys).update(owner=owner)
