"""What all things in a bag share: a name, an owner, and a way back."""

from __future__ import annotations

from typing import Any

from django.db import models
from django.db.models import F, Q
from django.utils import timezone

from web.people.models import Owned


class Kept(models.Manager[Any]):
    """Things that have not been taken out."""

    def get_queryset(self) -> models.QuerySet[Any]:
        return super().get_queryset().filter(deleted_at=None)


class Thing(Owned):
    """Something in the bag: named, its owner's, and put back if taken out by mistake."""

    name = models.CharField(max_length=60)
    created_at = models.DateTimeField(default=timezone.now, editable=False)
    updated_at = models.DateTimeField(auto_now=True)
    deleted_at = models.DateTimeField(null=True, blank=True, editable=False)
    once = models.UUIDField(null=True, blank=True, editable=False)
    """The form that made it, so that the same form sent twice makes it once."""

    objects = Kept()
    with_deleted = models.Manager[Any]()

    class Meta:
        abstract = True
        ordering = [F("copied_from").asc(nulls_first=True), "created_at", "pk"]  # one's own first
        default_manager_name = "with_deleted"

    def __str__(self) -> str:
        return self.name

    @classmethod
    def told(cls) -> list[models.Field[Any, Any]]:
        """The fields that a person fills in."""
        own = {field.name for field in (*Owned._meta.fields, *Thing._meta.fields)} - {"name"}
        return [f for f in cls._meta.fields if f.name not in own and not f.primary_key]

    def said(self) -> dict[str, Any]:
        """What a person has said of it, by field; another thing by its name."""
        values = {field.name: getattr(self, field.name) for field in self.told()}
        return {k: v.name if isinstance(v, Thing) else v for k, v in values.items()}


def constraints(kind: str, *more: models.BaseConstraint) -> list[models.BaseConstraint]:
    """What every kind of thing is held to by the database, and more."""
    return [
        models.CheckConstraint(condition=~Q(name=""), name=f"{kind}_has_a_name"),
        models.UniqueConstraint(
            fields=["owner", "name"], condition=Q(deleted_at=None), name=f"{kind}_name_once"
        ),
        models.UniqueConstraint(fields=["owner", "once"], name=f"{kind}_made_once"),
        *more,
    ]


def given(*names: str) -> Q:
    """All of these there and above zero: of a null SQL says neither yes nor no, and lets it in."""
    return Q(**{f"{name}__isnull": False for name in names}, **{f"{name}__gt": 0 for name in names})
