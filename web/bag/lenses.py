"""Lenses, what their rings can do, and what is assumed where it is not known."""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import lru_cache

from django.db import models
from django.db.models import F, Q

from optics.base import settable, units
from optics.lens.aperture import Series
from optics.lens.conjugates import NEAREST_FOCUS_IN_FOCAL_LENGTHS
from optics.lens.ring import Ring
from optics.lens.standards import engraved_mark
from optics.lens.touch import ANTICLOCKWISE, CLOCKWISE, Hands
from web.bag.counted import combined, of_kind
from web.bag.findings import SHIFT, Finding, read
from web.bag.thing import Thing, constraints

ASSUMED_SMALLEST = 22.0
ASSUMED_THROW = 90.0
"""Degrees from infinity to closest focus: usual for rings turned by hand."""
ASSUMED_CLOSEST_IN_FOCAL_LENGTHS = 10.0


@dataclass(frozen=True, slots=True)
class Assumed:
    """A value to compute with, and whether it was assumed because it is not known."""

    value: float
    assumed: bool


def _known(value: float | None, else_: float) -> Assumed:
    return Assumed(else_ if value is None else float(value), value is None)


class RingKind(models.TextChoices):
    """What a focus ring does at its ends."""

    STOPS = "stops", "stops at both ends"
    ENDLESS = "endless", "turns for ever"
    FORGETS = "forgets", "turns for ever and forgets its place when switched off"


class Turn(models.IntegerChoices):
    """A sense of turning, seen from behind the camera."""

    CLOCKWISE = CLOCKWISE, "clockwise"
    ANTICLOCKWISE = ANTICLOCKWISE, "anticlockwise"


class Closing(models.TextChoices):
    """What the focus of a lens does when its aperture is closed."""

    UNKNOWN = "unknown", "not known"
    KEEPS = "keeps", "stays where it was"
    SHIFTS = "shifts", "shifts"


class Draws(models.TextChoices):
    """How a lens draws directions on the sensor; the values are those of ``optics.sky``."""

    RECTILINEAR = "rectilinear", "straight lines straight"
    EQUIDISTANT = "equidistant", "fisheye, equidistant"
    EQUISOLID = "equisolid", "fisheye, equisolid"


@lru_cache(maxsize=256)
def _ring_with(marks: tuple[tuple[float | None, float], ...]) -> Ring:
    """The ring with those marks, mm and degrees. Kept: fitting one takes as long as a page."""
    return Ring((math.inf if mm is None else float(mm), math.radians(turn)) for mm, turn in marks)


MOST_OFF = 2.0
"""mm: a ring that is farther off is none."""


class Lens(Thing):
    """A lens, prime or zoom, and what its ring can do. Lengths mm, angles degrees."""

    shortest_mm = models.FloatField()
    longest_mm = models.FloatField()
    """The same as the shortest for a prime."""
    widest = models.FloatField()
    widest_at_long_end = models.FloatField(null=True, blank=True)
    smallest = models.FloatField(null=True, blank=True)
    closest_mm = models.FloatField(null=True, blank=True)

    has_scale = models.BooleanField(default=True)
    ring_kind = models.CharField(max_length=8, choices=RingKind.choices, default=RingKind.STOPS)
    to_infinity = models.SmallIntegerField(choices=Turn.choices, default=Turn.CLOCKWISE)
    throw_deg = models.FloatField(null=True, blank=True)
    tab_at_infinity_hours = models.FloatField(null=True, blank=True)
    """Where on the clock a tab stands with the ring at infinity; None without a tab."""
    marks = models.JSONField(default=list, blank=True)
    """Engraved distances and their angles as measured: [[mm or null for infinity, degrees], …]."""

    depth_marks = models.JSONField(default=list, blank=True)
    """The f-numbers of its engraved depth-of-field marks."""
    depth_marks_circle_mm = models.FloatField(null=True, blank=True)

    as_it_closes = models.CharField(
        max_length=8, choices=Closing.choices, default=Closing.UNKNOWN, blank=True
    )
    """Whether its plane of best focus moves between the widest aperture and a smaller one."""
    projection = models.CharField(
        max_length=12, choices=Draws.choices, default=Draws.RECTILINEAR, blank=True
    )

    pupil_ratio = models.FloatField(null=True, blank=True)
    hiatus_mm = models.FloatField(null=True, blank=True)
    front_mm = models.FloatField(null=True, blank=True)
    """From the sensor mark to the front of the lens: for those who measure from there."""
    ring_off_mm = models.FloatField(null=True, blank=True)
    """How much more the lens stands out than its ring reads, found by trial; below 0 less."""

    findings = models.JSONField(default=list, blank=True)
    """What tests found of it: ``web.bag.findings``."""

    @property
    def found(self) -> tuple[Finding, ...]:
        """What tests found of it."""
        return read(self.findings)

    @property
    def closes(self) -> str:
        """What its focus does as it closes: by its tests, or as somebody said."""
        shifts = of_kind((one for one in self.found if one.used), SHIFT, None)
        if not shifts:
            return self.as_it_closes
        clear = any(row.found.clear for row in combined(shifts))
        return Closing.SHIFTS if clear else Closing.KEEPS

    def ring_is_off_by(self, more: str) -> None:
        """Take note that its ring is off by ``more``, mm as text, than was known; empty, or what is
        no such length: that nothing is known of it."""
        try:
            off = units.significant((self.ring_off_mm or 0.0) + float(more), 3)
        except ValueError:
            off = math.nan
        self.ring_off_mm = off if abs(off) <= MOST_OFF else None

    def mark_to_read(self, f_number: float, circle: float) -> float | None:
        """Which of its engraved depth-of-field marks to read at an aperture for a circle, mm; as
        ``engraved_mark``, and None where nothing is known of them."""
        if not self.depth_marks or not self.depth_marks_circle_mm:
            return None
        series = Series(1, tuple(float(number) for number in self.depth_marks))
        return engraved_mark(f_number, self.depth_marks_circle_mm, circle, series)

    class Meta(Thing.Meta):
        constraints = constraints(
            "lens",
            models.CheckConstraint(
                condition=Q(shortest_mm__gt=0, longest_mm__gte=F("shortest_mm")),
                name="lens_focal_lengths_in_order",
            ),
            models.CheckConstraint(condition=Q(widest__gt=0), name="lens_widest_positive"),
            models.CheckConstraint(
                condition=Q(smallest=None) | Q(smallest__gte=F("widest")),
                name="lens_smallest_is_smaller",
            ),
            models.CheckConstraint(
                condition=Q(closest_mm=None)
                | Q(closest_mm__gte=F("shortest_mm") * NEAREST_FOCUS_IN_FOCAL_LENGTHS * 0.999),
                name="lens_closest_can_be_imaged",
            ),
            models.CheckConstraint(
                condition=Q(pupil_ratio=None) | Q(pupil_ratio__gt=0), name="lens_pupil_positive"
            ),
            models.CheckConstraint(
                condition=Q(depth_marks_circle_mm=None) | Q(depth_marks_circle_mm__gt=0),
                name="lens_circle_positive",
            ),
        )

    @property
    def is_zoom(self) -> bool:
        """Whether its focal length changes."""
        return self.longest_mm > self.shortest_mm

    @property
    def smallest_or_assumed(self) -> Assumed:
        """Its smallest aperture."""
        return _known(self.smallest, max(ASSUMED_SMALLEST, self.widest))

    @property
    def closest_or_assumed(self) -> Assumed:
        """Its closest focus from the sensor, mm."""
        return _known(self.closest_mm, ASSUMED_CLOSEST_IN_FOCAL_LENGTHS * self.longest_mm)

    @property
    def throw_or_assumed(self) -> Assumed:
        """Degrees from infinity to closest focus."""
        return _known(self.throw_deg, ASSUMED_THROW)

    def widest_at(self, focal_length: float) -> float:
        """The widest aperture at a focal length: between the two ends, in stops by ln f."""
        long_end = self.widest_at_long_end or self.widest
        if not self.is_zoom:
            return self.widest
        share = math.log(focal_length / self.shortest_mm) / math.log(
            self.longest_mm / self.shortest_mm
        )
        return float(self.widest * (long_end / self.widest) ** min(max(share, 0.0), 1.0))

    @property
    def ring(self) -> Ring:
        """Its ring: from measured marks, else from throw and closest focus. Angles grow nearer."""
        if len(self.marks) >= 2:
            return _ring_with(tuple((mm, degrees) for mm, degrees in self.marks))
        throw = math.radians(self.throw_or_assumed.value)
        return Ring.unit_focusing(self.shortest_mm, throw, self.closest_or_assumed.value)

    @property
    def measured(self) -> tuple[float, ...]:
        """The distances of its measured marks, mm, as they were given."""
        return tuple(math.inf if mm is None else float(mm) for mm, _ in self.marks)

    def engraved(self, system: str) -> tuple[float, ...]:
        """What is engraved on it, mm: its measured marks, if those can be read in a system of
        units; empty where only what rings usually carry can be drawn."""
        finite = [mark for mark in self.measured if math.isfinite(mark)]
        read = all(settable.figures_of(mark, system) <= settable.FINE for mark in finite)
        return self.measured if read and len(self.marks) >= 2 else ()

    @property
    def hands(self) -> Hands:
        """Its ring as hands turn it; without a tab, as if one stood underneath at infinity."""
        hours = self.tab_at_infinity_hours
        return Hands(
            self.ring,
            tab_at=math.pi if hours is None else hours * math.pi / 6,
            tab_focus=math.inf,
            sense=-self.to_infinity,  # the marks' angles grow towards near
        )

    @property
    def ring_is_assumed(self) -> bool:
        """Whether its ring is drawn from assumptions."""
        return len(self.marks) < 2 and (self.throw_deg is None or self.closest_mm is None)
