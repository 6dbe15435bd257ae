"""Choices that several screens share."""

from __future__ import annotations

from django.db import models

from optics.base.units import FEET, METRES


class Units(models.TextChoices):
    """The units a scene is read in."""

    METRES = METRES, "metres"
    FEET = FEET, "feet"
