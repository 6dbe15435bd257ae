"""Tries: what was asked, what was answered, and how long it took."""

from __future__ import annotations

from django.db import models

from web.people.models import Owner

MOST_TRIES = 20_000
"""Of one owner: the oldest make room. Years of five minutes a day."""


class Try(models.Model):
    """One answer. It has a key that a device made: sent twice, it is one.

    ``drill``, ``part``  the keys of what was asked; ``level`` 1 to 3. ``at``: when, by the device.
    ``ms``        how long it took, by the clock of the page; None out there.
    ``right``     whether it was good enough. ``off``: by how much not, in the drill's own measure.
    ``said_mm``, ``was_mm``  distances as judged and as they were; None where none was asked for.
    ``way``       how that was found out in the field; empty for a task.
    """

    owner = models.ForeignKey(Owner, on_delete=models.CASCADE, related_name="tries")
    key = models.CharField(max_length=36)
    drill = models.CharField(max_length=12)
    part = models.CharField(max_length=12)
    level = models.PositiveSmallIntegerField(default=1)
    at = models.DateTimeField()
    ms = models.PositiveIntegerField(null=True, blank=True)
    right = models.BooleanField()
    off = models.FloatField(default=0.0)
    said_mm = models.FloatField(null=True, blank=True)
    was_mm = models.FloatField(null=True, blank=True)
    way = models.CharField(max_length=12, blank=True)

    class Meta:
        ordering = ["at", "pk"]
        indexes = [models.Index(fields=["owner", "drill", "at"], name="tries_in_order")]
        constraints = [
            models.UniqueConstraint(fields=["owner", "key"], name="a_try_is_kept_once"),
            models.CheckConstraint(
                condition=models.Q(level__gte=1, level__lte=3), name="try_has_a_level"
            ),
            models.CheckConstraint(
                condition=models.Q(said_mm=None, was_mm=None)
                | models.Q(said_mm__gt=0, was_mm__gt=0),
                name="try_has_both_distances",
            ),
        ]

    def __str__(self) -> str:
        return f"{self.drill} {self.at:%Y-%m-%d %H:%M}"
