"""What a photographer carries: bodies, lenses, what goes between them, and ideas of sharp.

What is not known stays empty in the database; what is assumed in its place is said by the
``…_or_assumed`` properties, and marked wherever it is used.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Any

from django.db import models
from django.db.models import F, Q
from django.utils import timezone

from optics import standards
from optics.aperture import FULL, HALVES, THIRDS, Series
from optics.formats import BY_KEY, FORMATS, Format, own
from optics.hands import ANTICLOCKWISE, CLOCKWISE
from optics.lens import NEAREST_FOCUS_IN_FOCAL_LENGTHS
from optics.ring import Ring
from optics.standards import CLASSIC_EYE, FILLED, FITTED, KEEN_EYE
from web.people.models import Owned

OWN_FORMAT = "own"
ASSUMED_SMALLEST = 22.0
ASSUMED_THROW = 90.0
"""Degrees from infinity to closest focus: usual for rings turned by hand."""
ASSUMED_CLOSEST_IN_FOCAL_LENGTHS = 10.0


class Kept(models.Manager[Any]):
    """Things that have not been taken out."""

    def get_queryset(self) -> models.QuerySet[Any]:
        return super().get_queryset().filter(deleted_at=None)


class Thing(Owned):
    """Something in the bag: named, its owner's, and put back if taken out by mistake."""

    name = models.CharField(max_length=60)
    created_at = models.DateTimeField(default=timezone.now, editable=False)
    updated_at = models.DateTimeField(auto_now=True)
    deleted_at = models.DateTimeField(null=True, blank=True, editable=False)
    once = models.UUIDField(null=True, blank=True, editable=False)
    """The form that made it, so that the same form sent twice makes it once."""

    objects = Kept()
    with_deleted = models.Manager[Any]()

    class Meta:
        abstract = True
        ordering = ["created_at", "pk"]
        default_manager_name = "with_deleted"

    def __str__(self) -> str:
        return self.name

    @classmethod
    def told(cls) -> list[models.Field[Any, Any]]:
        """The fields that a person fills in."""
        own = {field.name for field in (*Owned._meta.fields, *Thing._meta.fields)} - {"name"}
        return [f for f in cls._meta.fields if f.name not in own and not f.primary_key]

    def said(self) -> dict[str, Any]:
        """What a person has said of it, by field; another thing by its name."""
        values = {field.name: getattr(self, field.name) for field in self.told()}
        return {k: v.name if isinstance(v, Thing) else v for k, v in values.items()}


def _constraints(kind: str, *more: models.BaseConstraint) -> list[models.BaseConstraint]:
    return [
        models.CheckConstraint(condition=~Q(name=""), name=f"{kind}_has_a_name"),
        models.UniqueConstraint(
            fields=["owner", "name"], condition=Q(deleted_at=None), name=f"{kind}_name_once"
        ),
        models.UniqueConstraint(fields=["owner", "once"], name=f"{kind}_made_once"),
        *more,
    ]


def _given(*names: str) -> Q:
    """All of these there and above zero: of a null SQL says neither yes nor no, and lets it in."""
    return Q(**{f"{name}__isnull": False for name in names}, **{f"{name}__gt": 0 for name in names})


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

    class Meta(Thing.Meta):
        constraints = _constraints(
            "body",
            models.CheckConstraint(
                condition=~Q(format=OWN_FORMAT) | _given("own_width_mm", "own_height_mm"),
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

    pupil_ratio = models.FloatField(null=True, blank=True)
    hiatus_mm = models.FloatField(null=True, blank=True)

    class Meta(Thing.Meta):
        constraints = _constraints(
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
            return Ring(
                (math.inf if mm is None else float(mm), math.radians(degrees))
                for mm, degrees in self.marks
            )
        throw = math.radians(self.throw_or_assumed.value)
        return Ring.unit_focusing(self.shortest_mm, throw, self.closest_or_assumed.value)

    @property
    def ring_is_assumed(self) -> bool:
        """Whether its ring is drawn from assumptions."""
        return len(self.marks) < 2 and (self.throw_deg is None or self.closest_mm is None)


class Attachment(Thing):
    """An adapter, converter or focal reducer: what it does to a lens in front of it."""

    factor = models.FloatField(default=1.0)
    """Of the focal length: 1.4 for a converter, 0.71 for a reducer, 1 for a plain adapter."""
    keeps_infinity = models.BooleanField(default=True)

    class Meta(Thing.Meta):
        constraints = _constraints(
            "attachment",
            models.CheckConstraint(condition=Q(factor__gt=0), name="attachment_factor_positive"),
        )

    @property
    def stops(self) -> float:
        """How much darker it makes the lens: 2·log₂ of the factor; below 0 brighter."""
        return 2.0 * math.log2(self.factor)


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
        constraints = _constraints(
            "standard",
            models.CheckConstraint(
                condition=Q(way__in=Way.values), name="standard_way_is_a_known_one"
            ),
            models.CheckConstraint(
                condition=~Q(way=Way.GIVEN) | _given("circle_mm"), name="standard_circle_positive"
            ),
        )

    def circle(self, body: Body, depth: int = 0) -> float | None:
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


class InHand(models.Model):
    """The last choice from the bag: what every planner opens with."""

    owner = models.OneToOneField("people.Owner", on_delete=models.CASCADE, related_name="in_hand")
    body = models.ForeignKey(Body, null=True, on_delete=models.SET_NULL)
    lens = models.ForeignKey(Lens, null=True, on_delete=models.SET_NULL)
    attachment = models.ForeignKey(Attachment, null=True, on_delete=models.SET_NULL)
    standard = models.ForeignKey(Standard, null=True, on_delete=models.SET_NULL)
    focal_length_mm = models.FloatField(null=True, blank=True)
    f_number = models.FloatField(null=True, blank=True)

    def __str__(self) -> str:
        return f"{self.body}, {self.lens}, {self.standard}"
