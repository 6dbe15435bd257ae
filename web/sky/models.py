"""What Sky keeps: nights, as what was typed for them."""

from __future__ import annotations

from django.db import models
from django.db.models import Q

from web.bag.kept import KeptTexts, NotDeleted
from web.ui.choices import Units


class Night(KeptTexts):
    """A named night: a lens, a standard for stars, where it points, a foreground."""

    objects = NotDeleted["Night"]()
    with_deleted = models.Manager["Night"]()

    class Meta:
        ordering = ["-updated_at", "-pk"]
        default_manager_name = "with_deleted"
        indexes = [models.Index(fields=["owner", "-updated_at"], name="sky_night_owner_recent")]
        constraints = [
            models.CheckConstraint(condition=~Q(name=""), name="night_has_a_name"),
            models.CheckConstraint(condition=Q(focal_length_mm__gt=0), name="night_focal_positive"),
            models.CheckConstraint(condition=Q(f_number__gt=0), name="night_f_number_positive"),
            models.CheckConstraint(condition=Q(circle_mm__gt=0), name="night_circle_positive"),
            models.CheckConstraint(
                condition=Q(units__in=Units.values), name="night_units_are_known_ones"
            ),
        ]
