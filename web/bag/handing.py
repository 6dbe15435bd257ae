"""A bag handed on: the sample's copied to a guest, a guest's to the account they sign in to."""

from __future__ import annotations

from typing import Any

from web.bag.models import Attachment, Body, InHand, Lens, Standard, Thing
from web.bag.usecases import KINDS
from web.people.models import Owner
from web.people.owners import copies, moves


@copies
def copy(source: Owner, target: Owner) -> None:
    """Copy everything in one owner's bag to another's."""
    new: dict[tuple[Any, int | None], Any] = {}
    for kind in KINDS:
        for thing in kind.objects.filter(owner=source).order_by("created_at", "pk"):
            key = thing.pk
            thing.pk, thing._state.adding = None, True
            thing.owner, thing.copied_from, thing.once = target, key, None
            thing.save()
            new[kind, key] = thing
    for standard in Standard.objects.filter(owner=target).exclude(than=None):
        standard.than = new.get((Standard, standard.than_id))
        standard.save(update_fields=["than"])
    chosen = InHand.objects.filter(owner=source).first()
    if chosen is not None:
        InHand.objects.create(
            owner=target,
            body=new.get((Body, chosen.body_id)),
            lens=new.get((Lens, chosen.lens_id)),
            attachment=new.get((Attachment, chosen.attachment_id)),
            standard=new.get((Standard, chosen.standard_id)),
            focal_length_mm=chosen.focal_length_mm,
            f_number=chosen.f_number,
        )


@moves
def move(guest: Owner, owner: Owner) -> None:
    """Hand over what a guest put into their bag, or changed; untouched copies stay behind.

    A name that is taken gets a number.
    """
    for kind in KINDS:
        names = set(kind.objects.filter(owner=owner).values_list("name", flat=True))
        for thing in kind.objects.filter(owner=guest):
            if _untouched(thing):
                continue
            thing.copied_from = None
            thing.name = _free(thing.name, names)
            names.add(thing.name)
            thing.owner = owner
            thing.save()


def _untouched(thing: Thing) -> bool:
    """Whether a copy is still all that the sample's thing is."""
    if thing.copied_from is None:
        return False
    original = type(thing).with_deleted.filter(pk=thing.copied_from).first()
    return original is not None and thing.said() == original.said()


def _free(name: str, taken: set[str]) -> str:
    if name not in taken:
        return name
    return next(new for n in range(2, 10**6) if (new := f"{name[:54]} ({n})") not in taken)
