"""What can be done with what is kept: save, list, copy, delete, put back, hand over."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import timedelta
from typing import Any

from django import forms
from django.core.exceptions import ValidationError
from django.db import transaction
from django.db.models import QuerySet
from django.http import Http404, QueryDict
from django.urls import reverse
from django.utils import timezone

from web.kept.kinds import KeptReading, Kind, known
from web.kept.models import LENS_LIMIT, NAME_LIMIT, NOTE_LIMIT, NOTE_LINES, Kept
from web.people import quota
from web.people.models import Owner
from web.people.owners import OwnedRequest, copies, find, moves, tells, writer
from web.ui.fields import WordsField
from web.ui.storing import NotStored, storing
from web.ui.text import cleaned

UNDO_FOR = timedelta(days=30)
"""How long what was deleted can be put back."""
MEND_FIRST = "Not saved yet: something below needs mending first."


class ChangedMeanwhile(Exception):
    """The thing is not what it was when the one who saves it opened it."""


class KeptForm(forms.Form):
    """The name that something is saved under, and a note."""

    name = WordsField(
        max_length=NAME_LIMIT,
        error_messages={
            "required": "Give it a name to find it by.",
            "max_length": f"Keep the name to {NAME_LIMIT} letters.",
        },
    )
    note = forms.CharField(required=False)

    def clean_note(self) -> str:
        note = cleaned(self.cleaned_data["note"], lines=True).strip()
        lines = note.count("\n") + 1
        if len(note) > NOTE_LIMIT:
            raise ValidationError(
                f"The note has {len(note)} letters; {NOTE_LIMIT} fit on its sheet. Shorten it."
            )
        if lines > NOTE_LINES:
            raise ValidationError(
                f"The note has {lines} lines; {NOTE_LINES} fit on its sheet. Join some."
            )
        return note


@dataclass(frozen=True, slots=True)
class NotKept:
    """Why something was not saved, the status to answer with, and what it would have replaced.

    ``about_note``: what is wrong with the note.
    """

    why: str
    status: int
    target: Kept | None
    about_note: str = ""


def of(owner: Owner, key: int, kind: Kind | None = None, *, deleted: bool = False) -> Kept:
    """One of an owner's, by its key, the one it had before there was one table for all, or that of
    the sample's it is a copy of. ``kind``: it must be of this one. Else a plain 404."""
    noun = "thing" if kind is None else kind.noun
    missing = f"There is no such {noun}. It may have been deleted; the list has what is kept."
    if kind is not None and 0 < key < 2**63:
        before = Kept.with_deleted.filter(kind=kind.key, was=key).values_list("pk", flat=True)
        key = before.first() or key
    found = find(Kept, owner, key, missing, "with_deleted" if deleted else "objects")
    if known(found.kind) is None or (kind is not None and found.kind != kind.key):
        raise Http404(missing)
    return found


def query_of(kept: Kept) -> QueryDict:
    """Its link, to be read."""
    return QueryDict(kept.link)


@transaction.atomic
def save(
    owner: Owner,
    kind: Kind,
    name: str,
    reading: KeptReading,
    kept: Kept | None = None,
    seen: str = "",
    note: str | None = None,
) -> Kept:
    """Keep under a name: as a new one of ``owner``, or in place of what ``kept`` was.

    ``reading`` must be valid. ``seen``: the ``version`` that was opened, if it is known. ``note``:
    None leaves the one there is. Raises ChangedMeanwhile if ``kept`` has another version by now;
    nothing is written then.
    """
    if kept is None:
        quota.check(owner, Kept.with_deleted.all(), "plans, sets and nights")
        kept = Kept(owner=owner, kind=kind.key)
    else:
        kept = Kept.objects.select_for_update().get(pk=kept.pk)
        if seen and seen != kept.version:
            raise ChangedMeanwhile
    kept.name = name
    kept.link = reading.query()
    kept.lens = reading.texts["lens"][:LENS_LIMIT]
    if note is not None:
        kept.note = note
    kept.changed = timezone.now()
    kept.save()
    return kept


def keep(
    request: OwnedRequest, kind: Kind, reading: KeptReading, key: int | None
) -> Kept | NotKept:
    """Save what a request asks to, or say why not."""
    form = KeptForm(request.POST)
    if not form.is_valid() or not reading.valid:
        wrong, note_wrong = (
            " ".join(str(message) for message in form.errors.get(name, []))
            for name in ("name", "note")
        )
        if note_wrong:
            wrong = wrong or "Not saved yet: the note is too long for its sheet."
        target = None if key is None else of(request.owner, key, kind)
        return NotKept(wrong or MEND_FIRST, 422, target, note_wrong)
    try:
        with storing():
            return _kept(request, kind, reading, key, form)
    except NotStored as error:
        target = None if key is None else of(request.owner, key, kind)
        return NotKept(error.sentence, 503, target)


def _kept(
    request: OwnedRequest, kind: Kind, reading: KeptReading, key: int | None, form: KeptForm
) -> Kept | NotKept:
    replaced = None if "as_new" in request.POST else key
    if replaced is not None:
        of(request.owner, replaced, kind)  # a 404 makes nobody an owner
    owner = writer(request)
    target = None if replaced is None else of(owner, replaced, kind)
    seen = request.POST.get("version", "")
    note = form.cleaned_data["note"] if "note" in request.POST else None
    try:
        return save(owner, kind, form.cleaned_data["name"], reading, target, seen, note)
    except ChangedMeanwhile:
        return NotKept(_changed_meanwhile(kind), 409, target)
    except quota.Full as full:
        return NotKept(full.sentence, 422, target)


def _changed_meanwhile(kind: Kind) -> str:
    return (
        f"Not saved yet: this {kind.noun} was saved elsewhere after you opened it, perhaps in "
        "another window. Save again to put this in its place, or save as new to keep both."
    )


@dataclass(frozen=True, slots=True)
class Wanted:
    """What of an owner's to list: of a kind, with a lens, with words in its name; empty for all."""

    kind: str = ""
    lens: str = ""
    words: str = ""


def listed(owner: Owner, wanted: Wanted) -> QuerySet[Kept]:
    """What an owner has kept, the last changed first."""
    found = Kept.objects.filter(owner=owner)
    if wanted.kind:
        found = found.filter(kind=wanted.kind)
    if wanted.lens:
        found = found.filter(lens=wanted.lens)
    for word in wanted.words.split():
        found = found.filter(name__icontains=word)
    return found


def lenses(owner: Owner) -> list[str]:
    """The lenses that an owner's things were made with."""
    own = Kept.objects.filter(owner=owner).exclude(lens="").order_by("lens")
    return list(own.values_list("lens", flat=True).distinct())


_MOST_GONE = 20


def gone(owner: Owner) -> list[Kept]:
    """What was deleted and can still be put back, the last first."""
    found = Kept.with_deleted.filter(owner=owner, deleted__gte=timezone.now() - UNDO_FOR)
    return list(found.order_by("-deleted", "-pk")[:_MOST_GONE])


def delete(kept: Kept) -> None:
    """Take one off the list, with a way back. What was deleted long ago goes for good."""
    now = timezone.now()
    kept.deleted = now
    kept.save(update_fields=["deleted"])
    Kept.with_deleted.filter(deleted__lt=now - UNDO_FOR).delete()


def put_back(kept: Kept) -> None:
    """Undo that."""
    kept.deleted = None
    kept.save(update_fields=["deleted"])


def duplicate(kept: Kept) -> Kept:
    """Make another like it, at the top of the list. Raises quota.Full."""
    quota.check(kept.owner, Kept.with_deleted.all(), "plans, sets and nights")
    copy = kept.made_another()
    copy.save()
    return copy


@copies
def copy_all(source: Owner, target: Owner) -> None:
    """Copy everything kept of one owner to another, with its dates."""
    for kept in Kept.objects.filter(owner=source).order_by("changed", "pk"):
        kept.made_another(target).save()


@tells
def told(owner: Owner) -> dict[str, Any]:
    """Everything kept of an owner, each with the link that opens it."""
    found = []
    for kept in Kept.objects.filter(owner=owner).order_by("created", "pk"):
        kind = known(kept.kind)
        path = reverse(f"{kind.app}:page") if kind is not None else ""
        found.append(
            {
                "kind": kept.kind,
                "name": kept.name,
                "note": kept.note,
                "link": f"{path}?{kept.link}",
                "created": kept.created.isoformat(timespec="seconds"),
                "changed": kept.changed.isoformat(timespec="seconds"),
            }
        )
    return {"kept": found}


@moves
def hand_over(guest: Owner, owner: Owner) -> None:
    """Give a guest's things to an owner: untouched copies of the sample's stay behind."""
    own = Kept.with_deleted.filter(owner=guest)
    samples = Kept.objects.filter(owner__is_sample=True)
    untouched = own.filter(
        copied_from__in=samples.values("pk"), changed__in=samples.values("changed")
    )
    own.exclude(pk__in=untouched.values("pk")).update(owner=owner, copied_from=None)
