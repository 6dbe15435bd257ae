"""Whose outings are whose: copied to a new owner, handed over, told."""

from __future__ import annotations

from typing import Any

from django.db import transaction

from web.kept.models import Kept
from web.outings.log import plain
from web.outings.models import Entry, Frame, Item, Outing
from web.people.models import Owner
from web.people.owners import copies, moves, tells


@copies
@transaction.atomic
def copy_all(source: Owner, target: Owner) -> None:
    """Copy every outing of one owner to another, with its log and its frames. What was seen in
    files is shared."""
    made: dict[int, Outing] = {}
    own = {
        kept.copied_from: kept.pk
        for kept in Kept.objects.filter(owner=target).exclude(copied_from=None)
    }
    for outing in Outing.objects.filter(owner=source).order_by("created", "pk"):
        was, items = outing.pk, list(outing.items.all())
        entries, frames = list(outing.entries.all()), list(outing.frames.all())
        outing.pk, outing.owner, outing.copied_from = None, target, was
        outing.after = made.get(outing.after_id) if outing.after_id else None
        outing._state.adding = True
        outing.save()
        made[was] = outing
        fresh: dict[int, Item] = {}
        for item in items:
            before = item.pk
            item.pk, item.outing, item.copied_from = None, outing, before
            item.kept = own.get(item.kept) if item.kept is not None else None
            item._state.adding = True
            item.save()
            fresh[before] = item
        for rows in (entries, frames):
            for row in rows:
                row.pk, row.outing = None, outing
                row.item = fresh.get(row.item_id) if row.item_id else None
                row._state.adding = True
        Entry.objects.bulk_create(entries)
        Frame.objects.bulk_create(frames)


@moves
def hand_over(guest: Owner, owner: Owner) -> None:
    """Give a guest's outings to an owner: copies of the sample's stay behind, unless something came
    to them since."""
    for outing in Outing.with_deleted.filter(owner=guest):
        if outing.copied_from is not None:
            source = Outing.with_deleted.filter(pk=outing.copied_from).first()
            if source is not None and source.changed == outing.changed:
                continue
            outing.copied_from = None
        for item in outing.items.exclude(kept=None):
            assert item.kept is not None
            left = Kept.with_deleted.filter(owner=guest, pk=item.kept).first()
            if left is not None and left.copied_from is not None:
                own = Kept.with_deleted.filter(owner=owner, copied_from=left.copied_from).first()
                item.kept = None if own is None else own.pk
                item.save(update_fields=["kept"])
        outing.owner = owner
        outing.save(update_fields=["owner", "copied_from"])


@tells
def told(owner: Owner) -> dict[str, Any]:
    """Every outing of an owner: what was taken out, the log, and what is known of the frames."""
    return {"outings": [said(outing) for outing in Outing.objects.filter(owner=owner)]}


def said(outing: Outing) -> dict[str, Any]:
    """One, as plain data."""
    items = {item.pk: item for item in outing.items.all()}
    return {
        "name": outing.name, "place": outing.place, "grounds": outing.grounds,
        "on": None if outing.on is None else outing.on.isoformat(),
        "waits_for": outing.waits_for, "better": outing.better,
        "clock_off_s": outing.clock_off_s,
        "taken_out": [
            {"kind": item.kind, "name": item.name, "link": item.link, "says": item.says,
             "note": item.note}
            for item in items.values()
        ],
        "log": [
            {**plain(entry), "item": items[entry.item_id].name if entry.item_id else None}
            for entry in outing.entries.all()
        ],
        "frames": [told_of(frame, items) for frame in outing.frames.all().iterator(500)],
    }  # fmt: skip


def told_of(frame: Frame, items: dict[int, Item]) -> dict[str, Any]:
    """A frame, as plain data: what its file said, what was said of it, and what was found."""
    return {
        "name": frame.name, "bytes": frame.bytes,
        "at": None if frame.at is None else frame.at.isoformat(),
        "f_number": frame.f_number, "focal_length_mm": frame.focal_length_mm,
        "exposure_s": frame.exposure_s, "iso": frame.iso, "body": frame.body, "lens": frame.lens,
        "focus_mm": frame.focus_mm, "width": frame.width, "height": frame.height,
        "of": items[frame.item_id].name if frame.item_id in items else None,
        "sure": frame.sure, "rating": frame.rating, "keywords": frame.keywords,
        "marks": frame.marks, "found": frame.found, "wrong": frame.wrong,
    }  # fmt: skip
