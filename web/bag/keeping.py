"""What planners do with what they keep as texts: save, list, duplicate, delete, put back.

A ``Keeper`` is made once by each planner that keeps what was typed, and gives it its addresses.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any, Generic, Protocol, TypeVar

from django.db import transaction
from django.http import HttpResponse, QueryDict
from django.shortcuts import redirect, render
from django.urls import URLPattern, path, reverse
from django.views.decorators.http import require_GET, require_POST

from optics import Setup
from optics.base.formats import Format
from web.bag.gear import TOLD
from web.bag.kept import ChangedMeanwhile, KeptTexts, NameForm, deleted_of
from web.people.models import Owner
from web.people.owners import OwnedRequest, find, writer

Thing = TypeVar("Thing", bound=KeptTexts)
View = Callable[..., HttpResponse]
MEND_FIRST = "Not saved yet: something below needs mending first."


class TextReading(Protocol):
    """What a planner read, as far as keeping it needs."""

    @property
    def texts(self) -> dict[str, str]:
        """As typed, by field name."""

    @property
    def linked(self) -> dict[str, str]:
        """The same as a link says it."""

    @property
    def valid(self) -> bool:
        """Whether everything typed could be used."""

    @property
    def setup(self) -> Setup:
        """The lens at its aperture, and the standard in hand."""

    @property
    def frame(self) -> Format:
        """The format in hand."""

    @property
    def pixels_across(self) -> int | None:
        """Of the body in hand."""


@dataclass(frozen=True, slots=True)
class NotKept(Generic[Thing]):
    """Why something was not saved, the status to answer with, and what it would have replaced."""

    why: str
    status: int
    target: Thing | None


@dataclass(frozen=True, slots=True)
class Keeper(Generic[Thing]):
    """Keeps the texts ``names`` of a planner beside what is in hand.

    ``app``: where its addresses live; ``one``: what a thing is called, in addresses and to people;
    ``listed``: what the list says of each; ``card``: whether there is a card of each to print.
    """

    kind: type[Thing]
    app: str
    one: str
    names: tuple[str, ...]
    listed: Callable[[Thing], dict[str, Any]]
    card: bool = False

    @property
    def missing(self) -> str:
        """For what is not there."""
        return f"There is no such {self.one}. It may have been deleted; the list has what is kept."

    @property
    def changed_meanwhile(self) -> str:
        """For the second of two windows."""
        return (
            f"Not saved yet: this {self.one} was saved elsewhere after you opened it, perhaps in "
            "another window. Save again to put this in its place, or save as new to keep both."
        )

    def of(self, owner: Owner, key: int | None) -> Thing | None:
        """One of an owner's; None for no key, a 404 for one that is not theirs."""
        return None if key is None else find(self.kind, owner, key, self.missing)

    def query_of(self, kept: Thing) -> QueryDict:
        """It as a link would say it: reading that gives what was saved."""
        query = QueryDict(mutable=True)
        said = dict.fromkeys((*self.names, *TOLD), "")
        query.update(said | {k: str(v) for k, v in kept.said.items()} | kept.gear_texts)
        return query

    @transaction.atomic
    def save(
        self,
        owner: Owner,
        name: str,
        reading: TextReading,
        kept: Thing | None = None,
        seen: str = "",
    ) -> Thing:
        """Keep under a name: as a new one of ``owner``, or in place of what ``kept`` was.

        ``reading`` must be valid. ``seen``: the ``version`` that was opened, if it is known. Raises
        ChangedMeanwhile if ``kept`` has another by now; nothing is written then.
        """
        if kept is not None:
            kept.refuse_if_changed(seen)
        kept = kept or self.kind(owner=owner)
        kept.name = name
        kept.take_gear(reading.setup, reading.frame, reading.pixels_across, reading.texts)
        said = reading.linked
        told = (name for name in (*self.names, *TOLD) if name != "upright")
        kept.said = {name: said[name] for name in told if said[name]}
        kept.save()
        return kept

    def keep(
        self, request: OwnedRequest, reading: TextReading, key: int | None
    ) -> Thing | NotKept[Thing]:
        """Save what a request asks to, or say why not."""
        form = NameForm(request.POST)
        if not form.is_valid() or not reading.valid:
            wrong = " ".join(str(message) for message in form.errors.get("name", []))
            return NotKept(wrong or MEND_FIRST, 422, self.of(request.owner, key))
        owner = writer(request)
        target = None if "as_new" in request.POST else self.of(owner, key)
        seen = request.POST.get("version", "")
        try:
            return self.save(owner, form.cleaned_data["name"], reading, target, seen)
        except ChangedMeanwhile:
            return NotKept(self.changed_meanwhile, 409, target)

    def copy(self, source: Owner, target: Owner) -> None:
        """Copy everything kept of one owner to another, with its dates."""
        things = self.kind._default_manager.filter(owner=source, deleted_at=None)
        for kept in things.order_by("updated_at"):
            changed = kept.updated_at
            kept.made_another(owner=target)
            kept.save()
            self.kind._default_manager.filter(pk=kept.pk).update(updated_at=changed)

    def save_path(self, kept: Thing | None) -> str:
        """Where a page sends what it wants kept."""
        if kept is None:
            return reverse(f"{self.app}:save")
        return reverse(f"{self.app}:save_kept", args=[kept.pk])

    # Addresses ------------------------------------------------------------------------------

    def urls(self, page: View, save: View) -> list[URLPattern]:
        """Of a planner: its page, alone and with something kept; its list, and the deeds there."""
        one = f"{self.one}/<int:key>/"
        return [
            path("", page, name="page"),
            path(one, page, name="kept"),
            path("save/", save, name="save"),
            path(f"{one}save/", save, name="save_kept"),
            path(f"{self.one}s/", require_GET(self.list), name="all"),
            path(f"{one}delete/", require_POST(self.delete), name="delete"),
            path(f"{one}duplicate/", require_POST(self.duplicate), name="duplicate"),
            path(f"{one}restore/", require_POST(self.restore), name="restore"),
        ]

    def list(self, request: OwnedRequest) -> HttpResponse:
        """Everything kept, the last changed first."""
        own = self.kind._default_manager.filter(owner=request.owner, deleted_at=None)
        context = {
            "items": [{"kept": one, **self.listed(one)} for one in own],
            "deleted": deleted_of(self.kind, request.owner, request.GET.get("deleted", "")),
            "screen": self.app,
            "card": self.card,
            "words": f"{self.app}/{self.one}_words.html",
        }
        return render(request, f"{self.app}/{self.one}s.html", context)

    def _own(self, request: OwnedRequest, key: int) -> Thing:
        find(self.kind, request.owner, key, self.missing)  # a 404 makes nobody an owner
        return find(self.kind, writer(request), key, self.missing)

    def delete(self, request: OwnedRequest, key: int) -> HttpResponse:
        """Take one off the list, with a way back."""
        kept = self._own(request, key)
        kept.take_off()
        return redirect(f"{reverse(f'{self.app}:all')}?deleted={kept.pk}")

    def duplicate(self, request: OwnedRequest, key: int) -> HttpResponse:
        """Make another like it, and open that."""
        kept = self._own(request, key)
        kept.made_another()
        kept.save()
        return redirect(f"{self.app}:kept", kept.pk)

    def restore(self, request: OwnedRequest, key: int) -> HttpResponse:
        """Put a deleted one back."""
        kept = find(self.kind, request.owner, key, self.missing, "with_deleted")
        if not request.owner.is_sample:
            kept.put_back()
        return redirect(f"{self.app}:all")
