"""What can be done with outings: make, change, gather, begin, return, delete, put back."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Any

from django.db import transaction
from django.utils import timezone

from web.kept import keeper
from web.kept.models import Kept
from web.outings.models import MOST_ITEMS, Frame, Item, Look, Outing
from web.outings.taken_out import TakenOut, freeze
from web.people import quota
from web.people.models import Owner
from web.people.owners import find

MISSING = "There is no such outing. It may have been deleted; the list has what is there."


def of(owner: Owner, key: int, *, deleted: bool = False) -> Outing:
    """One of an owner's, or their copy of the sample's. Raises Http404."""
    return find(Outing, owner, key, MISSING, "with_deleted" if deleted else "objects")


def listed(owner: Owner) -> list[Outing]:
    """An owner's outings: those to come first, the next on top; then the others, the last first."""
    today = timezone.localdate()
    every = list(Outing.objects.filter(owner=owner))
    coming = [one for one in every if one.on is not None and one.on >= today]
    rest = [one for one in every if one not in coming]
    coming.sort(key=lambda one: (one.on, one.pk))
    rest.sort(key=lambda one: (one.on is None, one.on or one.created.date()), reverse=True)
    return [*coming, *rest]


def new(owner: Owner, name: str, **values: Any) -> Outing:
    """Make one. Raises quota.Full."""
    quota.check(owner, Outing.with_deleted.all(), "outings")
    return Outing.objects.create(owner=owner, name=name, **values)


def change(outing: Outing, values: dict[str, Any]) -> None:
    """Say something else of it."""
    for name, value in values.items():
        setattr(outing, name, value)
    touch(outing, *values)


def touch(outing: Outing, *fields: str) -> None:
    """It is another now."""
    outing.changed = timezone.now()
    outing.save(update_fields=["changed", *fields])


@transaction.atomic
def gather(outing: Outing, keys: Iterable[int]) -> int:
    """Take what is kept out on it too, by their keys; what is there already stays. How many came.
    Raises quota.Full, Http404."""
    there = {item.kept for item in outing.items.all()}
    at = outing.items.count()
    fresh: list[Item] = []
    for key in dict.fromkeys(keys):
        kept = keeper.of(outing.owner, key)
        if kept.pk not in there:
            there.add(kept.pk)
            fresh.append(item_of(outing, kept, at + len(fresh)))
    if at + len(fresh) > MOST_ITEMS:
        raise quota.Full(f"An outing has room for {MOST_ITEMS}: take some out of it first.")
    Item.objects.bulk_create(fresh)
    touch(outing)
    return len(fresh)


def item_of(outing: Outing, kept: Kept, at: int) -> Item:
    """What is kept, as something taken out."""
    return Item(outing=outing, at=at, kept=kept.pk, kind=kept.kind, name=kept.name,
                link=kept.link, lens=kept.lens, note=kept.note)  # fmt: skip


def item_by(outing: Outing, key: int) -> Item | None:
    """Something that is taken out on it, by its key, or by that of the sample's it is a copy of."""
    items = outing.items
    return items.filter(pk=key).first() or items.filter(copied_from=key).first()


def frames_by(outing: Outing, keys: Iterable[int]) -> list[Frame]:
    """Frames of it, by their keys, or by those of the sample's that they are copies of."""
    keys = list(keys)
    found = list(outing.frames.filter(pk__in=keys))
    if not found and outing.copied_from is not None:
        sample = Frame.objects.filter(pk__in=keys, outing=outing.copied_from)
        names = sample.values_list("name", flat=True)
        found = list(outing.frames.filter(name__in=list(names)))
    return found


def leave(outing: Outing, key: int) -> None:
    """Take something out of it."""
    item = item_by(outing, key)
    if item is not None:
        item.delete()
    touch(outing)


@transaction.atomic
def move(outing: Outing, key: int, to: str) -> None:
    """Move something taken out: ``up``, ``down``, ``first`` or ``last``."""
    items = list(outing.items.all())
    at = next((at for at, item in enumerate(items) if key in (item.pk, item.copied_from)), None)
    if at is None:
        return
    there = {"up": at - 1, "down": at + 1, "first": 0, "last": len(items) - 1}.get(to, at)
    items.insert(min(max(there, 0), len(items) - 1), items.pop(at))
    for place, item in enumerate(items):
        item.at = place
    Item.objects.bulk_update(items, ["at"])
    touch(outing)


def begin(outing: Outing, there: list[TakenOut]) -> None:
    """It has begun: what is taken out stays as it is now."""
    if outing.begun is None:
        freeze(outing, there)
        outing.begun = timezone.now()
        touch(outing, "begun")


def take_new(outing: Outing, there: TakenOut) -> None:
    """Take something out as it is kept now."""
    if there.now is not None:
        fresh = item_of(outing, there.now, there.item.at)
        fresh.pk = there.item.pk
        fresh.save()
        touch(outing)


@transaction.atomic
def again(outing: Outing, name: str, better: str) -> Outing:
    """Another outing to the same place, with what was taken out then, as it is kept now. Raises
    quota.Full."""
    fresh = new(
        outing.owner, name, place=outing.place, grounds=outing.grounds, after=outing,
        waits_for=outing.waits_for, better=better, packs=outing.packs,
        again_minutes=outing.again_minutes, again_frames=outing.again_frames,
        again_waves=outing.again_waves,
    )  # fmt: skip
    now = Kept.objects.filter(owner=outing.owner).in_bulk(
        [item.kept for item in outing.items.all() if item.kept is not None]
    )
    for item in outing.items.all():
        kept = now.get(item.kept) if item.kept is not None else None
        if kept is not None:
            item_of(fresh, kept, item.at).save()
            continue
        item.pk, item.outing = None, fresh
        item._state.adding = True
        item.save()
    return fresh


def delete(outing: Outing) -> None:
    """Take one off the list, with a way back. What was deleted long ago goes for good."""
    outing.deleted = timezone.now()
    outing.save(update_fields=["deleted"])
    Outing.with_deleted.filter(deleted__lt=timezone.now() - keeper.UNDO_FOR).delete()
    forget_looks()


def put_back(outing: Outing) -> None:
    """Undo that."""
    outing.deleted = None
    outing.save(update_fields=["deleted"])


def forget_looks() -> None:
    """Let what was seen in files go that are no outing's frames any more."""
    used = Frame.objects.exclude(look=None).values("look")
    Look.objects.exclude(pk__in=used).delete()
