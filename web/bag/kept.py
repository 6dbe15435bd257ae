"""What planners keep under a name: with what is in hand, and a way back after deleting."""

from __future__ import annotations

from datetime import timedelta
from typing import Any, TypeVar

from django import forms
from django.db import models
from django.urls import reverse
from django.utils import timezone

from optics import Setup
from optics.base.formats import FORMATS, Format
from web.people.models import Owned
from web.ui.choices import Units

NAME_LIMIT = 80
NOTE_LIMIT = 2000
UNDO_FOR = timedelta(days=30)
"""How long what was deleted can be put back."""
_COPY = ", copy"


Kind = TypeVar("Kind", bound=models.Model)


class NotDeleted(models.Manager[Kind]):
    """Things that have not been deleted."""

    def get_queryset(self) -> models.QuerySet[Kind]:
        return super().get_queryset().filter(deleted_at=None)


class ChangedMeanwhile(Exception):
    """The thing is not what it was when the one who saves it opened it."""


class NameForm(forms.Form):
    """The name that something is saved under."""

    name = forms.CharField(
        max_length=NAME_LIMIT,
        error_messages={
            "required": "Give it a name to find it by.",
            "max_length": f"Keep the name to {NAME_LIMIT} letters.",
        },
    )


class Kept(Owned):
    """A planner's work under a name: what was in hand, in numbers, and when it was changed."""

    name = models.CharField(max_length=NAME_LIMIT)
    created_at = models.DateTimeField(default=timezone.now, editable=False)
    updated_at = models.DateTimeField(auto_now=True)
    deleted_at = models.DateTimeField(null=True, blank=True)
    """Set while a deletion can still be undone."""

    lens = models.CharField(max_length=80, blank=True)
    format = models.CharField(max_length=20, choices=[(f.key, f.name) for f in FORMATS])
    pixels_across = models.PositiveIntegerField(null=True, blank=True)
    focal_length_mm = models.FloatField()
    f_number = models.FloatField()
    circle_mm = models.FloatField()
    counts_diffraction = models.BooleanField(default=False)
    upright = models.BooleanField(default=False)
    units = models.CharField(max_length=2, choices=Units.choices)

    class Meta:
        abstract = True

    def __str__(self) -> str:
        return self.name

    @property
    def version(self) -> str:
        """What is another after each save."""
        return self.updated_at.isoformat()

    @property
    def gear_texts(self) -> dict[str, str]:
        """What was in hand as a link would say it."""
        return {
            "lens": self.lens,
            "format": self.format,
            "pixels_across": "" if self.pixels_across is None else str(self.pixels_across),
            "focal_length_mm": f"{self.focal_length_mm:.12g}",
            "f_number": f"{self.f_number:.12g}",
            "circle_mm": f"{self.circle_mm:.12g}",
            "diffraction": "1" if self.counts_diffraction else "",
            "upright": "1" if self.upright else "",
            "units": self.units,
        }

    def take_gear(
        self, setup: Setup, frame: Format, pixels_across: int | None, texts: dict[str, str]
    ) -> None:
        """Keep what is in hand. ``texts``: those of the planner's fields that are only text."""
        self.lens, self.upright = texts["lens"], bool(texts["upright"])
        self.format, self.pixels_across = frame.key, pixels_across
        self.focal_length_mm = float(setup.focal_length)
        self.f_number, self.circle_mm = float(setup.f_number), float(setup.coc)
        self.counts_diffraction = setup.diffraction
        self.units = texts["units"]

    def refuse_if_changed(self, seen: str) -> None:
        """Raises ChangedMeanwhile unless it is as it was when ``seen``, a ``version``, if known."""
        self.refresh_from_db()
        if seen and seen != self.version:
            raise ChangedMeanwhile

    def made_another(self, name: str | None = None, owner: Any = None) -> None:
        """Turn into another of its kind, not saved yet: a copy beside it, or of another owner."""
        key = self.pk
        self.pk, self._state.adding = None, True
        if owner is None:
            self.name = name or f"{self.name[: NAME_LIMIT - len(_COPY)]}{_COPY}"
            self.created_at, self.copied_from = timezone.now(), None
        else:
            self.owner, self.copied_from = owner, key

    def take_off(self) -> None:
        """Delete it so that it can be put back. What was deleted long ago goes for good."""
        now = timezone.now()
        self.deleted_at = now
        self.save(update_fields=["deleted_at"])
        type(self)._default_manager.filter(deleted_at__lt=now - UNDO_FOR).delete()

    def put_back(self) -> None:
        """Undo that."""
        self.deleted_at = None
        self.save(update_fields=["deleted_at"])


class KeptTexts(Kept):
    """What is kept as it was typed."""

    said = models.JSONField(default=dict, blank=True)
    """By field name; empty texts left out."""

    class Meta:
        abstract = True

    def get_absolute_url(self) -> str:
        """Where it is opened: ``Keeper.urls`` of its app."""
        return reverse(f"{self._meta.app_label}:kept", args=[self.pk])


def deleted_of(kind: type[Kept], owner: Any, text: str) -> Kept | None:
    """What an owner has just deleted, by its key as text; None for what is no such thing."""
    if not text.isdecimal() or len(text) >= 19:
        return None
    own = kind._default_manager.filter(owner=owner, pk=text)
    return own.exclude(deleted_at=None).first()


def kinds_kept() -> list[type[Kept]]:
    """All that planners keep, kind by kind."""
    found: list[type[Kept]] = []
    waiting = list(Kept.__subclasses__())
    while waiting:
        kind = waiting.pop()
        if kind._meta.abstract:
            waiting += kind.__subclasses__()
        else:
            found.append(kind)
    return found


def hand_over(kind: type[Kept], guest: Any, owner: Any) -> None:
    """Give a guest's things to an owner: untouched copies of the sample's stay behind."""
    own = kind._default_manager.filter(owner=guest)
    samples = kind._default_manager.filter(owner__is_sample=True, deleted_at=None)
    untouched = own.filter(
        copied_from__in=samples.values("pk"), updated_at__in=samples.values("updated_at")
    )
    own.exclude(pk__in=untouched.values("pk")).update(owner=owner, copied_from=None)
