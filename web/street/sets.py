"""What a user can do with sets: save, change, duplicate. And what a set says."""

from __future__ import annotations

from django.db import transaction
from django.http import QueryDict

from web.bag.kept import hand_over
from web.people.models import Owner
from web.people.owners import copies, moves
from web.street.models import PositionSet
from web.street.reading import Reading
from web.street.sample import STREET

_TOLD = ("lens_range", "lens_closest")
"""What a link tells of a lens, for other bags than this."""


def query_of(kept: PositionSet) -> QueryDict:
    """The set as a link would say it: reading it gives the positions that were saved."""
    query = QueryDict(mutable=True)
    said = dict.fromkeys((*STREET, *_TOLD), "") | {k: str(v) for k, v in kept.said.items()}
    query.update(said | kept.gear_texts)
    return query


@transaction.atomic
def save(
    owner: Owner, name: str, reading: Reading, kept: PositionSet | None = None, seen: str = ""
) -> PositionSet:
    """Keep positions under a name: as a new set of ``owner``, or in place of what ``kept`` was.

    ``reading`` must be valid. ``seen``: the ``version`` that was opened, if it is known. Raises
    ChangedMeanwhile if ``kept`` has another by now; nothing is written then.
    """
    if kept is not None:
        kept.refuse_if_changed(seen)
    kept = kept or PositionSet(owner=owner)
    street = reading.street
    kept.name = name
    kept.take_gear(street.setup, street.format, street.pixels_across, reading.texts)
    said = {k: text for k, text in reading.linked.items() if text and k != "upright"}
    kept.said = {k: said[k] for k in (*STREET, *_TOLD) if k in said}
    kept.save()
    return kept


@copies
def copy(source: Owner, target: Owner) -> None:
    """Copy every set of one owner to another, with their dates."""
    for kept in PositionSet.objects.filter(owner=source).order_by("updated_at"):
        changed = kept.updated_at
        kept.made_another(owner=target)
        kept.save()
        PositionSet.objects.filter(pk=kept.pk).update(updated_at=changed)


@moves
def move(guest: Owner, owner: Owner) -> None:
    """Hand over the sets a guest made or changed."""
    hand_over(PositionSet, guest, owner)
