"""What View keeps: plans and their marks."""

from __future__ import annotations

from django.db import models
from django.db.models import Q
from django.urls import reverse

from web.bag.kept import Kept, NotDeleted
from web.ui.choices import Units


class Place(models.TextChoices):
    """The ways of placing focus."""

    BETWEEN = "between", "Between the ends"
    HYPERFOCAL = "hyperfocal", "Hyperfocal"
    SUBJECT = "subject", "One subject"
    THIRD_UP = "third_up", "A third up the frame"
    INFINITY = "infinity", "Infinity with a margin"
    FRAMES = "frames", "Several frames"
    THIRD_ALONG = "third_along", "A third along the ground"


class Role(models.TextChoices):
    """What a mark is asked to be."""

    MUST = "must", "must be sharp"
    NICE = "nice", "nice to have"
    MAY_GO = "may_go", "may go soft"
    FALL_SOFT = "fall_soft", "should fall soft"
    SMEAR = "smear", "should smear"


class How(models.TextChoices):
    """How the distance of a mark was got."""

    RING = "ring", "off the ring or bar"
    STRAIGHT = "straight", "straight, by tape"
    GROUND = "ground", "along the ground"
    SIZE = "size", "from its size"
    EYE = "eye", "by eye"


class Look(models.TextChoices):
    """The look wished for; what must be sharp follows from it."""

    EVERYTHING = "everything", "Everything sharp"
    SUBJECT = "subject", "Subject, natural fall-off"


class FocusBy(models.TextChoices):
    """Ways of focusing (``optics.focusing.Way``)."""

    EYE = "eye", "by eye, in the finder"
    SCALE = "scale", "by the ring’s scale"
    LIGHT = "light", "confirmation light"
    SPOT = "spot", "spot autofocus"
    MAGNIFIED = "magnified", "magnified view"


class Choose(models.TextChoices):
    """Who chooses the aperture."""

    FIXED = "fixed", "as set by hand"
    WIDEST = "widest", "widest that holds"
    SHARPEST = "sharpest", "sharpest"
    SOFTENS = "softens", "soft where it should be"


class Plan(Kept):
    """A named scene. Distances keep the text as typed beside the depth it means."""

    place = models.CharField(max_length=20, choices=Place.choices)
    camera_height_text = models.CharField(max_length=40, blank=True)
    """Of the lens above the ground; empty where it is not known."""
    tilt_text = models.CharField(max_length=12, blank=True)
    slope_text = models.CharField(max_length=12, blank=True)
    moved_text = models.CharField(max_length=40, blank=True)
    """How far the camera has gone back since the distances were measured; forward with a minus."""
    look = models.CharField(max_length=12, choices=Look.choices, default=Look.EVERYTHING)
    choose = models.CharField(max_length=10, choices=Choose.choices, default=Choose.FIXED)
    folded = models.JSONField(default=dict, blank=True)
    """What was typed into the folded panels, by field name: light, trial frame, and so on."""
    note = models.TextField(blank=True, max_length=2000)
    ring_text = models.CharField(max_length=40, blank=True)
    """The ring as set by hand; empty for the computed setting."""

    objects = NotDeleted["Plan"]()
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
            models.CheckConstraint(condition=Q(look__in=Look.values), name="plan_look_is_known"),
            models.CheckConstraint(
                condition=Q(choose__in=Choose.values), name="plan_choice_is_a_known_one"
            ),
        ]

    def get_absolute_url(self) -> str:
        """Where it is opened."""
        return reverse("view:plan", args=[self.pk])


class PlanMark(models.Model):
    """One mark of a plan, in the order it was written."""

    plan = models.ForeignKey(Plan, on_delete=models.CASCADE, related_name="marks")
    position = models.PositiveSmallIntegerField()
    name = models.CharField(max_length=60, blank=True)
    distance_text = models.CharField(max_length=40)
    role = models.CharField(max_length=10, choices=Role.choices)
    how = models.CharField(max_length=10, choices=How.choices, default=How.RING)
    error_text = models.CharField(max_length=20, blank=True)
    """How far off the distance may be; empty for what is usual of the way it was got."""
    share_text = models.CharField(max_length=20, blank=True)
    """Of a distance from its size: how much of the frame's height it fills."""
    stands_text = models.CharField(max_length=40, blank=True)
    """How high above the ground it is, or ``sky``; empty on the ground."""
    at_text = models.CharField(max_length=20, blank=True)
    """Where in the frame it was put: per cent from the left and from below."""
    speed_text = models.CharField(max_length=20, blank=True)

    class Meta:
        ordering = ["position"]
        constraints = [
            models.UniqueConstraint(fields=["plan", "position"], name="mark_position_once"),
            models.CheckConstraint(condition=~Q(distance_text=""), name="mark_has_a_distance"),
            models.CheckConstraint(condition=Q(role__in=Role.values), name="mark_role_is_known"),
            models.CheckConstraint(condition=Q(how__in=How.values), name="mark_how_is_known"),
        ]

    def __str__(self) -> str:
        return self.name or f"mark {self.position}"
