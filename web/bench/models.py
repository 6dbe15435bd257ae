"""Tests under way: what was photographed and seen, or read. A picture itself is not kept."""

from __future__ import annotations

import math
from typing import Any

from django.db import models
from django.db.models import Q
from django.utils import timezone

from web.bag.models import Lens
from web.people.models import Owned

MOST_FRAMES = 60
MOST_READINGS = 60
MOST_TESTS = 40
"""Under way at once, of one owner."""


class Test(Owned):
    """A test of a lens, from its first frame until its result is kept or it is given up.

    ``focal_length_mm`` and ``pitch_mm``: said for frames whose files do not say them.
    ``adapter``: the name of what is behind the lens; empty for nothing.
    ``made_up``: the seed of the made-up camera that takes its frames; None for a real one.
    """

    lens = models.ForeignKey(Lens, on_delete=models.CASCADE, related_name="tests")
    kind = models.CharField(max_length=12, default="shift")
    body = models.CharField(max_length=60, blank=True, default="")
    adapter = models.CharField(max_length=60, blank=True, default="")
    begun = models.DateTimeField(default=timezone.now, editable=False)
    focal_length_mm = models.FloatField(null=True, blank=True)
    pitch_mm = models.FloatField(null=True, blank=True)
    made_up = models.BigIntegerField(null=True, blank=True, editable=False)

    class Meta:
        ordering = ["-begun", "-pk"]
        constraints = [
            models.CheckConstraint(
                condition=Q(focal_length_mm=None) | Q(focal_length_mm__gt=0),
                name="test_focal_length_positive",
            ),
            models.CheckConstraint(
                condition=Q(pitch_mm=None) | Q(pitch_mm__gt=0), name="test_pitch_positive"
            ),
        ]

    def __str__(self) -> str:
        return f"{self.kind} of {self.lens}"


class Frame(models.Model):
    """A frame of a test, as its file was read.

    ``f_number``, ``focal_length_mm``, ``pitch_mm``  as its file says, or as was said here.
    ``way``    by which way it was focused, where that is what is tested.
    ``wrong``  why nothing can be measured in it, with the cure; empty where it can.
    ``seen``   what was seen in it (``imaging.looked``), as plain data; None where nothing was.
    ``small``  it, small, as JPEG.
    """

    test = models.ForeignKey(Test, on_delete=models.CASCADE, related_name="frames")
    name = models.CharField(max_length=120)
    bytes = models.PositiveIntegerField(default=0)
    f_number = models.FloatField(null=True, blank=True)
    focal_length_mm = models.FloatField(null=True, blank=True)
    pitch_mm = models.FloatField(null=True, blank=True)
    lens_named = models.CharField(max_length=80, blank=True, default="")
    way = models.CharField(max_length=12, blank=True, default="")
    wrong = models.CharField(max_length=400, blank=True, default="")
    seen = models.JSONField(null=True, blank=True)
    small = models.BinaryField(null=True, blank=True)

    class Meta:
        ordering = ["pk"]
        constraints = [
            models.UniqueConstraint(fields=["test", "name", "bytes"], name="frame_file_once"),
            models.CheckConstraint(
                condition=Q(f_number=None) | Q(f_number__gt=0), name="frame_f_number_positive"
            ),
        ]

    def __str__(self) -> str:
        return self.name


class Reading(models.Model):
    """A reading of a test, by hand. ``values``: lengths mm, angles degrees, infinity as text."""

    test = models.ForeignKey(Test, on_delete=models.CASCADE, related_name="readings")
    values = models.JSONField()

    class Meta:
        ordering = ["pk"]

    def __str__(self) -> str:
        return f"reading {self.pk}"

    @property
    def read(self) -> dict[str, Any]:
        """Its values, infinity a number."""
        return {k: math.inf if v == INFINITE else v for k, v in self.values.items()}


INFINITE = "infinity"


def plain(values: dict[str, Any]) -> dict[str, Any]:
    """Values of a reading as they are kept; what was left empty is left out."""
    return {k: INFINITE if v == math.inf else v for k, v in values.items() if v not in (None, "")}


class Thumbnail(Owned):
    """A frame that a finding was made of, small. ``finding``: its key."""

    finding = models.CharField(max_length=8)
    name = models.CharField(max_length=120)
    f_number = models.FloatField(null=True, blank=True)
    small = models.BinaryField()

    class Meta:
        ordering = ["f_number", "pk"]
        indexes = [models.Index(fields=["finding"], name="thumbnail_by_finding")]

    def __str__(self) -> str:
        return self.name
