"""Named ideas of sharp: what is typed about them, and the circle that follows on a body."""

from __future__ import annotations

from typing import NamedTuple

from django.db import models
from django.db.models import Q

from optics.base import units
from optics.base.formats import Format
from optics.lens import standards
from optics.lens.standards import CLASSIC_EYE, FILLED, FITTED, KEEN_EYE
from web.bag.bodies import Body
from web.bag.thing import Thing, constraints, given


class Sensor(NamedTuple):
    """What a standard asks of a body: its picture area, and its pixels; None for film."""

    frame: Format
    pixels_across: int | None


class Way(models.TextChoices):
    """How an idea of sharp is described."""

    PRINT = "print", "a print"
    SCREEN = "screen", "a screen"
    PIXELS = "pixels", "the sensor's own pixels"
    DIAGONAL = "diagonal", "a part of the diagonal"
    GIVEN = "given", "a circle, given"
    TIGHTER = "tighter", "stops tighter than another"


class Standard(Thing):
    """A named idea of sharp. Nothing about it changes a lens: only what is called sharp."""

    way = models.CharField(max_length=10, choices=Way.choices, default=Way.PRINT)
    print_width_mm = models.FloatField(null=True, blank=True)
    print_height_mm = models.FloatField(null=True, blank=True)
    fills = models.BooleanField(default=False)
    viewing_mm = models.FloatField(null=True, blank=True)
    keen = models.BooleanField(default=False)
    screen_pixels = models.PositiveIntegerField(null=True, blank=True)
    pixels = models.FloatField(null=True, blank=True)
    parts = models.FloatField(null=True, blank=True)
    circle_mm = models.FloatField(null=True, blank=True)
    than = models.ForeignKey("self", null=True, blank=True, on_delete=models.SET_NULL)
    stops = models.FloatField(null=True, blank=True)
    counts_diffraction = models.BooleanField(default=False)

    class Meta(Thing.Meta):
        constraints = constraints(
            "standard",
            models.CheckConstraint(
                condition=Q(way__in=Way.values), name="standard_way_is_a_known_one"
            ),
            models.CheckConstraint(
                condition=~Q(way=Way.GIVEN) | given("circle_mm"), name="standard_circle_positive"
            ),
        )

    def circle(self, body: Body | Sensor, depth: int = 0) -> float | None:
        """The circle it asks for on a body, mm; None where it has none (pixels of film)."""
        frame = body.frame
        if self.way == Way.GIVEN and self.circle_mm:
            return self.circle_mm
        if self.way == Way.PRINT and self.print_width_mm:
            return standards.from_print(self._print(frame), frame)
        if self.way == Way.SCREEN and self.screen_pixels:
            return standards.from_screen(frame, self.screen_pixels)
        if self.way == Way.PIXELS and self.pixels and body.pixels_across:
            return standards.from_pixels(frame, body.pixels_across, self.pixels)
        if self.way == Way.DIAGONAL and self.parts:
            return standards.from_diagonal(frame, self.parts)
        if self.way == Way.TIGHTER and self.than is not None and depth < len(Way):
            other = self.than.circle(body, depth + 1)
            return None if other is None else standards.tighten(other, self.stops or 0.0)
        return None

    def in_words(self, system: str) -> str:
        """In its own terms: a print 57 cm wide, seen from 50 cm. Empty for a circle as given."""
        if self.way == Way.PRINT and self.print_width_mm:
            seen = self.viewing_mm or standards.CLASSIC_VIEWING_DISTANCE
            how = ", looked at keenly" if self.keen else ""
            width, away = (units.write_size(d, system, 3) for d in (self.print_width_mm, seen))
            return f"a print {width} wide, seen from {away}{how}"
        if self.way == Way.SCREEN and self.screen_pixels:
            return f"a screen {self.screen_pixels} pixels wide"
        if self.way == Way.PIXELS and self.pixels:
            return f"{self.pixels:g} pixel{'' if self.pixels <= 1 else 's'} of the sensor"
        if self.way == Way.DIAGONAL and self.parts:
            return f"a {self.parts:g}th of the picture’s diagonal"
        if self.way == Way.TIGHTER and self.than is not None:
            return f"{self.stops or 0:g} stops tighter than “{self.than.name}”"
        return ""

    def _print(self, frame: Format) -> standards.Print:
        width = float(self.print_width_mm or 0)
        height = self.print_height_mm or width * frame.height / frame.width
        return standards.Print(
            width,
            height,
            self.viewing_mm or standards.CLASSIC_VIEWING_DISTANCE,
            KEEN_EYE if self.keen else CLASSIC_EYE,
            FILLED if self.fills else FITTED,
        )
