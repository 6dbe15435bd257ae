"""What View keeps: plans and their marks."""

from __future__ import annotations

from django.db import models
from django.db.models import Q
from django.utils import timezone

from optics.formats import FORMATS
from web.people.models import Owned
from web.ui.choices import Units


class Place(models.TextChoices):
    """The ways of placing focus."""

    BETWEEN = "between", "Between the ends"
    HYPERFOCAL = "hyperfocal", "Hyperfocal"
    SUBJECT = "subject", "One subject"
    THIRD_UP = "third_up", "A third up the frame"
    INFINITY = "infinity", "Infinity with a margin"


class Role(models.TextChoices):
    """What a mark is asked to be."""

    MUST = "must", "must be sharp"
    MAY_GO = "may_go", "may go soft"


class KeptPlans(models.Manager["Plan"]):
    """Plans that have not been deleted."""

    def get_queryset(self) -> models.QuerySet[Plan]:
        return super().get_queryset().filter(deleted_at=None)


class Plan(Owned):
    """A named scene. Distances keep the text as typed beside the depth it means."""

    name = models.CharField(max_length=80)
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
    place = models.CharField(max_length=20, choices=Place.choices)
    camera_height_text = models.CharField(max_length=40, blank=True)
    """Of the lens above the ground; empty where it is not known."""
    tilt_text = models.CharField(max_length=12, blank=True)
    upright = models.BooleanField(default=False)
    ring_text = models.CharField(max_length=40, blank=True)
    """The ring as set by hand; empty for the computed setting."""
    units = models.CharField(max_length=2, choices=Units.choices)

    objects = KeptPlans()
    with_deleted = models.Manager["Plan"]()

    class Meta:
        ordering = ["-updated_at", "-pk"]
        default_manager_name = "with_deleted"
        indexes = [models.Index(fields=["owner", "-updated_at"], name="view_plan_owner_recent")]
        constraints = [
            models.CheckConstraint(condition=~Q(name=""), name="plan_has_a_name"),
            models.CheckConstraint(condition=Q(focal_length_mm__gt=0), name="plan_focal_positive"),
            models.CheckConstraint(condition=Q(f_number__gt=0), name="plan_f_number_positive"),
            models.CheckConstraint(condition=Q(circle_mm__gt=0), name="plan_circle_positive"),
            models.CheckConstraint(
                condition=Q(place__in=Place.values), name="plan_place_is_a_known_one"
            ),
            models.CheckConstraint(
                condition=Q(units__in=Units.values), name="plan_units_are_known_ones"
            ),
        ]

    def __str__(self) -> str:
        return self.name

    @property
    def version(self) -> str:
        """What is another after each save."""
        return self.updated_at.isoformat()


class PlanMark(models.Model):
    """One mark of a plan, in the order it was written."""

    plan = models.ForeignKey(Plan, on_delete=models.CASCADE, related_name="marks")
    position = models.PositiveSmallIntegerField()
    name = models.CharField(max_length=60, blank=True)
    distance_text = models.CharField(max_length=40)
    role = models.CharField(max_length=10, choices=Role.choices)

    class Meta:
        ordering = ["position"]
        constraints = [
            models.UniqueConstraint(fields=["plan", "position"], name="mark_position_once"),
            models.CheckConstraint(condition=~Q(distance_text=""), name="mark_has_a_distance"),
            models.CheckConstraint(condition=Q(role__in=Role.values), name="mark_role_is_known"),
        ]

    def __str__(self) -> str:
        return self.name or f"mark {self.position}"
