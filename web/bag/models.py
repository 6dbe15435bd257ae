"""What a photographer carries: bodies, lenses, what goes between them, and ideas of sharp.

What is not known stays empty in the database; what is assumed in its place is said by the
``…_or_assumed`` properties, and marked wherever it is used.
"""

from __future__ import annotations

from django.db import models

from web.bag.bodies import OWN_FORMAT, Attachment, Body, Start, Steps
from web.bag.lenses import Closing, Draws, Lens, RingKind, Turn
from web.bag.standards import Standard, Way
from web.bag.thing import Thing

__all__ = [
    "OWN_FORMAT",
    "Attachment",
    "Body",
    "Closing",
    "Draws",
    "InHand",
    "Lens",
    "RingKind",
    "Standard",
    "Start",
    "Steps",
    "Thing",
    "Turn",
    "Way",
]


class InHand(models.Model):
    """The last choice from the bag: what every planner opens with."""

    owner = models.OneToOneField("people.Owner", on_delete=models.CASCADE, related_name="in_hand")
    body = models.ForeignKey(Body, null=True, on_delete=models.SET_NULL)
    lens = models.ForeignKey(Lens, null=True, on_delete=models.SET_NULL)
    attachment = models.ForeignKey(Attachment, null=True, on_delete=models.SET_NULL)
    standard = models.ForeignKey(Standard, null=True, on_delete=models.SET_NULL)
    focal_length_mm = models.FloatField(null=True, blank=True)
    f_number = models.FloatField(null=True, blank=True)
    uses = models.JSONField(default=dict, blank=True)
    """Where planners left lenses: focal length and f-number by planner and lens."""

    def __str__(self) -> str:
        return f"{self.body}, {self.lens}, {self.standard}"
