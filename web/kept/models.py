"""What a planner keeps: one model for all of it. The link is the state."""

from __future__ import annotations

from typing import Any

from django.db import models
from django.db.models import Q
from django.utils import timezone

from web.kept.kinds import kind_of
from web.people.models import Owned

NAME_LIMIT = 80
NOTE_LIMIT = 2000
NOTE_LINES = 40
"""As many as a sheet of paper has room for beside two dozen marks."""
LENS_LIMIT = 80
COPY = ", copy"


class NotDeleted(models.Manager["Kept"]):
    """What has not been deleted."""

    def get_queryset(self) -> models.QuerySet[Kept]:
        return super().get_queryset().filter(deleted=None)


class Kept(Owned):
    """A planner's work under a name.

    ``kind``  the key of a kind in the registry (``web.kept.kinds``), which reads the link.
    ``link``  the query of the planner's own link: reading it gives what was saved.
    ``lens``  the name of the lens it was made with, to find it by.
    ``was``   the key it had in the table of its kind, before there was one table for all.
    """

    kind = models.CharField(max_length=20)
    name = models.CharField(max_length=NAME_LIMIT)
    note = models.TextField(blank=True, max_length=NOTE_LIMIT)
    link = models.TextField(blank=True)
    lens = models.CharField(max_length=LENS_LIMIT, blank=True)
    created = models.DateTimeField(default=timezone.now, editable=False)
    changed = models.DateTimeField(default=timezone.now, editable=False)
    deleted = models.DateTimeField(null=True, blank=True, editable=False)
    """Set while a deletion can still be undone."""
    was = models.BigIntegerField(null=True, blank=True, editable=False)

    objects = NotDeleted()
    with_deleted = models.Manager["Kept"]()

    class Meta:
        ordering = ["-changed", "-pk"]
        default_manager_name = "with_deleted"
        indexes = [
            models.Index(fields=["owner", "deleted", "-changed", "-id"], name="kept_recent"),
            models.Index(
                fields=["owner", "kind", "deleted", "-changed", "-id"], name="kept_recent_of_kind"
            ),
            models.Index(fields=["owner", "deleted", "lens"], name="kept_lens"),
            models.Index(fields=["kind", "was"], name="kept_was"),
        ]
        constraints = [
            models.CheckConstraint(condition=~Q(name=""), name="kept_has_a_name"),
            models.CheckConstraint(condition=~Q(kind=""), name="kept_is_of_a_kind"),
        ]

    def __str__(self) -> str:
        return self.name

    @property
    def version(self) -> str:
        """What is another after each save."""
        return self.changed.isoformat()

    def get_absolute_url(self) -> str:
        """Where it is opened."""
        return kind_of(self).opens(self.pk)

    def made_another(self, owner: Any = None) -> Kept:
        """Another like it, not saved yet: a copy beside it, or one of another owner's with its
        dates."""
        same = {"kind": self.kind, "note": self.note, "link": self.link, "lens": self.lens}
        if owner is None:
            name = f"{self.name[: NAME_LIMIT - len(COPY)]}{COPY}"
            return Kept(owner=self.owner, name=name, **same)
        dates = {"created": self.created, "changed": self.changed}
        return Kept(owner=owner, name=self.name, copied_from=self.pk, **same, **dates)
