"""Bodies, how they keep focus put, and what goes between them and a lens."""

from __future__ import annotations

import math
import re

from django.db import models
from django.db.models import Q

from optics.base.formats import BY_KEY, FORMATS, Format, own
from optics.lens.aperture import FULL, HALVES, THIRDS, Series
from web.bag.thing import Thing, constraints, given

OWN_FORMAT = "own"


MEGAPIXELS = re.compile(r"(\d{1,4}(?:[.,]\d{1,2})?)\s*(?:mp|mpx|mpix|megapixels?)")
"""How people say them, in small letters."""


class Steps(models.TextChoices):
    """How finely an aperture ring, or a wheel, is stepped."""

    THIRDS = "thirds", "thirds of a stop"
    HALVES = "halves", "half stops"
    FULL = "full", "full stops"


SERIES: dict[str, Series] = {Steps.THIRDS: THIRDS, Steps.HALVES: HALVES, Steps.FULL: FULL}


class Start(models.TextChoices):
    """What starts autofocus."""

    HALF_PRESS = "half_press", "the shutter button, half pressed"
    REAR = "rear", "a button at the back"
    BOTH = "both", "either of them"
    NOTHING = "nothing", "nothing: it has no autofocus"


class Body(Thing):
    """A camera body, or a back: what the picture falls on, and how it keeps focus put."""

    format = models.CharField(
        max_length=20,
        choices=[*((f.key, f.name) for f in FORMATS), (OWN_FORMAT, "own millimetres")],
    )
    own_width_mm = models.FloatField(null=True, blank=True)
    own_height_mm = models.FloatField(null=True, blank=True)
    pixels_across = models.PositiveIntegerField(null=True, blank=True)
    steps = models.CharField(max_length=10, choices=Steps.choices, default=Steps.THIRDS)

    starts_focus = models.CharField(max_length=12, choices=Start.choices, default=Start.HALF_PRESS)
    button = models.CharField(max_length=40, blank=True)
    """What the button at the back is called on this body."""
    hold_or_toggle = models.CharField(
        max_length=8,
        choices=[("hold", "hold it down"), ("toggle", "press once, once more to stop")],
        default="hold",
    )
    shutter_refocuses = models.BooleanField(default=True)
    magnify = models.CharField(max_length=60, blank=True)
    release = models.CharField(max_length=60, blank=True)
    focuses_at = models.CharField(
        max_length=8,
        choices=[("full", "full aperture"), ("taking", "the taking aperture")],
        default="full",
    )
    limiter = models.CharField(max_length=60, blank=True)
    iso_usable = models.PositiveIntegerField(null=True, blank=True)
    """The highest that its owner uses; None where nobody said."""
    iso_highest = models.PositiveIntegerField(null=True, blank=True)
    """The highest that it has."""

    class Meta(Thing.Meta):
        constraints = constraints(
            "body",
            models.CheckConstraint(
                condition=~Q(format=OWN_FORMAT) | given("own_width_mm", "own_height_mm"),
                name="own_format_has_sides",
            ),
            models.CheckConstraint(
                condition=Q(pixels_across=None) | Q(pixels_across__gt=0), name="pixels_positive"
            ),
        )

    @property
    def frame(self) -> Format:
        """The picture area, held level and wide."""
        if self.format != OWN_FORMAT:
            return BY_KEY[self.format]
        return own(float(self.own_width_mm or 1), float(self.own_height_mm or 1))

    @property
    def crop_factor(self) -> float:
        """Full frame's diagonal over this one's."""
        return BY_KEY["full-frame"].diagonal / self.frame.diagonal

    @property
    def pitch(self) -> float | None:
        """The side of a pixel, mm; None for film."""
        return self.frame.pixel_pitch(self.pixels_across) if self.pixels_across else None

    @property
    def series(self) -> Series:
        """The f-numbers its aperture is stepped in."""
        return SERIES[self.steps]


class Attachment(Thing):
    """An adapter, converter or focal reducer: what it does to a lens in front of it."""

    factor = models.FloatField(default=1.0)
    """Of the focal length: 1.4 for a converter, 0.71 for a reducer, 1 for a plain adapter."""
    keeps_infinity = models.BooleanField(default=True)

    class Meta(Thing.Meta):
        constraints = constraints(
            "attachment",
            models.CheckConstraint(condition=Q(factor__gt=0), name="attachment_factor_positive"),
        )

    @property
    def stops(self) -> float:
        """How much darker it makes the lens: 2·log₂ of the factor; below 0 brighter."""
        return 2.0 * math.log2(self.factor)
