"""People, and owners: whose a thing is, signed in or not."""

from __future__ import annotations

from django.contrib.auth.models import AbstractUser
from django.db import models
from django.db.models import Q
from django.utils import timezone

from optics.base.units import METRES, USUAL, Measures
from web.ui.choices import unit_systems

USUAL_PACE_MM = USUAL.pace
USUAL_ARM_MM = USUAL.arm
USUAL_EYE_HEIGHT_MM = 1600.0
USUAL_JUDGEMENT = 0.15
USUAL_LAG = 0.2
"""s from seeing to the exposure: the finger more than the camera."""
LONGEST_LAG = 5.0
_JUDGED = (0.02, 0.6)
"""What tries tell of judging is kept within: nobody is better, and nobody guesses worse."""


class Person(AbstractUser):
    """Somebody with a name and a password. The mail address is for resetting the password only."""


class Owner(models.Model):
    """Whose bag, plans and preferences something is.

    A person's, a guest's (known by their browser until they make an account), or the
    sample's, which every guest reads until they change something and get a copy of their own.
    """

    person = models.OneToOneField(
        Person, on_delete=models.CASCADE, null=True, blank=True, related_name="owner"
    )
    guest = models.CharField(max_length=64, null=True, blank=True, unique=True, editable=False)
    """What a guest's browser is known by: a hash of its cookie (``web.people.guests``)."""
    is_sample = models.BooleanField(default=False)
    created_at = models.DateTimeField(default=timezone.now, editable=False)
    used_on = models.DateField(default=timezone.localdate, editable=False)
    """The day they were last here: guests are forgotten in the end."""

    units = models.CharField(max_length=8, choices=unit_systems, default=METRES)
    pace_mm = models.FloatField(default=USUAL_PACE_MM)
    arm_mm = models.FloatField(default=USUAL_ARM_MM)
    eye_height_mm = models.FloatField(default=USUAL_EYE_HEIGHT_MM)
    judgement_error = models.FloatField(default=USUAL_JUDGEMENT)
    """How far off a distance judged by eye usually is, as a share."""
    lag_s = models.FloatField(default=USUAL_LAG)
    """How late their finger is, and the shutter after it, s."""

    class Meta:
        constraints = [
            models.UniqueConstraint(
                fields=["is_sample"], condition=Q(is_sample=True), name="one_sample"
            ),
            models.CheckConstraint(
                condition=Q(is_sample=False) | Q(person=None), name="the_sample_is_nobodys"
            ),
            models.CheckConstraint(condition=Q(pace_mm__gt=0), name="pace_positive"),
            models.CheckConstraint(condition=Q(arm_mm__gt=0), name="arm_positive"),
            models.CheckConstraint(condition=Q(eye_height_mm__gt=0), name="eye_height_positive"),
            models.CheckConstraint(
                condition=Q(judgement_error__gte=0, judgement_error__lte=1),
                name="judgement_is_a_share",
            ),
            models.CheckConstraint(condition=~Q(units=""), name="owner_has_units"),
            models.CheckConstraint(
                condition=Q(lag_s__gte=0, lag_s__lte=LONGEST_LAG), name="lag_is_short"
            ),
        ]

    def __str__(self) -> str:
        if self.is_sample:
            return "the sample"
        return self.person.get_username() if self.person else f"guest {self.pk}"

    def judges(self, off: float) -> None:
        """Take over how far off they judge distances, a share, as tries tell it."""
        self.judgement_error = min(max(off, _JUDGED[0]), _JUDGED[1])
        self.save(update_fields=["judgement_error"])

    def takes_lag(self, seconds: float) -> None:
        """Take over how late their finger is, s, as tries tell it."""
        self.lag_s = min(max(seconds, 0.0), LONGEST_LAG)
        self.save(update_fields=["lag_s"])

    @property
    def measures(self) -> Measures:
        """Their own pace, arm and eye height, for reading distances."""
        return Measures(self.pace_mm, self.arm_mm, self.eye_height_mm)


class Owned(models.Model):
    """Something that belongs to an owner.

    ``copied_from``: the key of the sample's thing this is a copy of, so that a link to the sample's
    leads a guest to their own.
    """

    owner = models.ForeignKey(Owner, on_delete=models.CASCADE, related_name="%(class)ss")
    copied_from = models.BigIntegerField(null=True, blank=True, editable=False)

    class Meta:
        abstract = True
