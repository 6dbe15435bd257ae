"""What Street keeps: sets of ring positions, as what was typed to get them."""

from __future__ import annotations

from django.db import models
from django.db.models import Q

from web.bag.kept import KeptTexts, NotDeleted
from web.ui.choices import Units


class PositionSet(KeptTexts):
    """A named set of positions for one lens at one aperture."""

    objects = NotDeleted["PositionSet"]()
    with_deleted = models.Manager["PositionSet"]()

    class Meta:
        ordering = ["-updated_at", "-pk"]
        default_manager_name = "with_deleted"
        indexes = [models.Index(fields=["owner", "-updated_at"], name="street_set_owner_recent")]
        constraints = [
            models.CheckConstraint(condition=~Q(name=""), name="set_has_a_name"),
            models.CheckConstraint(condition=Q(focal_length_mm__gt=0), name="set_focal_positive"),
            models.CheckConstraint(condition=Q(f_number__gt=0), name="set_f_number_positive"),
            models.CheckConstraint(condition=Q(circle_mm__gt=0), name="set_circle_positive"),
            models.CheckConstraint(
                condition=Q(units__in=Units.values), name="set_units_are_known_ones"
            ),
        ]
