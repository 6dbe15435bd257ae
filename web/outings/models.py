"""Outings: what is taken out, what was logged there, and the frames that came home."""

from __future__ import annotations

from datetime import datetime, timedelta

from django.db import models
from django.db.models import Q
from django.utils import timezone

from web.people.models import Owned

NAME_LIMIT = 80
PLACE_LIMIT = 80
WORDS_LIMIT = 500
MOST_ITEMS = 60
MOST_ENTRIES = 5000
"""Of one outing: a week of logging by two."""


class NotDeleted(models.Manager["Outing"]):
    """What has not been deleted."""

    def get_queryset(self) -> models.QuerySet[Outing]:
        return super().get_queryset().filter(deleted=None)


class Outing(Owned):
    """A time out with a camera: before, there, and after.

    ``place``    where, in words; ``grounds``: the keys of what it is like there (``web.ui.care``).
    ``waits_for``, ``better``  what one waits for, and what is to be better than last time.
    ``after``    the outing that this one returns to the place of.
    ``again_minutes``, ``again_frames``, ``again_waves``  after how many to check again; 0: never.
    ``clock_off_s``  what is added to the camera's clock to have what the device's showed, s; None
                 where nobody said. ``zone_minutes``: how far that was ahead of UTC.
    ``begun``    when it was first logged in, or had its first frame: what is taken out changes no
                 more.
    """

    name = models.CharField(max_length=NAME_LIMIT)
    place = models.CharField(max_length=PLACE_LIMIT, blank=True)
    grounds = models.JSONField(default=list, blank=True)
    on = models.DateField(null=True, blank=True)
    waits_for = models.CharField(max_length=WORDS_LIMIT, blank=True)
    better = models.TextField(max_length=WORDS_LIMIT, blank=True)
    after = models.ForeignKey("self", on_delete=models.SET_NULL, null=True, blank=True)
    packs = models.JSONField(default=list, blank=True)
    """The keys of packs of cards that go along."""
    again_minutes = models.PositiveSmallIntegerField(default=15)
    again_frames = models.PositiveSmallIntegerField(default=10)
    again_waves = models.PositiveSmallIntegerField(default=0)
    clock_off_s = models.FloatField(null=True, blank=True)
    zone_minutes = models.SmallIntegerField(default=0)
    begun = models.DateTimeField(null=True, blank=True)
    created = models.DateTimeField(default=timezone.now, editable=False)
    changed = models.DateTimeField(default=timezone.now, editable=False)
    deleted = models.DateTimeField(null=True, blank=True, editable=False)

    objects = NotDeleted()
    with_deleted = models.Manager["Outing"]()

    class Meta:
        ordering = ["-changed", "-pk"]
        default_manager_name = "with_deleted"
        indexes = [models.Index(fields=["owner", "deleted", "-changed"], name="outing_recent")]
        constraints = [models.CheckConstraint(condition=~Q(name=""), name="outing_has_a_name")]

    def __str__(self) -> str:
        return self.name

    @property
    def clock_off(self) -> timedelta:
        """What is added to a camera's time to have it in UTC: where nobody said otherwise, the
        camera shows the time that the device shows."""
        return timedelta(seconds=self.clock_off_s or 0.0) - timedelta(minutes=self.zone_minutes)


class Item(models.Model):
    """A plan, set or night that was taken out. ``kept``: the key it has among what is kept, None
    where it is of no more; ``kind``, ``name``, ``link``, ``lens``, ``note``: as it was taken.
    ``says``: what was to be set, a line for each frame. ``taken``: when it was as it is here."""

    outing = models.ForeignKey(Outing, on_delete=models.CASCADE, related_name="items")
    at = models.PositiveIntegerField(default=0)
    kept = models.BigIntegerField(null=True, blank=True)
    kind = models.CharField(max_length=20)
    name = models.CharField(max_length=NAME_LIMIT)
    link = models.TextField(blank=True)
    lens = models.CharField(max_length=80, blank=True)
    note = models.TextField(blank=True)
    says = models.JSONField(default=list, blank=True)
    taken = models.DateTimeField(default=timezone.now)
    copied_from = models.BigIntegerField(null=True, blank=True, editable=False)

    class Meta:
        ordering = ["at", "pk"]

    def __str__(self) -> str:
        return self.name

    @property
    def number(self) -> int:
        """By what devices know it: the same before and after somebody has a copy of their own."""
        return self.pk if self.copied_from is None else self.copied_from


class What(models.TextChoices):
    """What is logged."""

    TAKEN = "taken", "frame taken"
    CHECKED = "checked", "checked magnified"
    WAVE = "wave", "wave"
    WIPED = "wiped", "front wiped"
    KNOCKED = "knocked", "knocked"
    WIND = "wind", "wind"
    MOVED = "moved", "camera moved"
    NOTE = "note", "note"
    JUDGED = "judged", "distance judged"
    CLOCK = "clock", "clock photographed"
    DONE = "done", "done with it"
    SETTLED = "settled", "settled"
    UNDONE = "undone", "taken back"


class Entry(models.Model):
    """Something that was logged.

    ``key``     made on the device: the same entry, sent twice, is one. ``device``: which it was.
    ``at``      by the device's clock. ``item``: what it is of; None for all of it.
    ``subject`` what can only be one way at a time, such as a check of one end of one plan; empty
                for what merely happened. ``follows``: the key of the entry of that subject that the
                device knew last: two that follow the same one contradict each other.
    ``says``    what else was said.
    """

    outing = models.ForeignKey(Outing, on_delete=models.CASCADE, related_name="entries")
    key = models.CharField(max_length=36)
    device = models.CharField(max_length=24, blank=True)
    at = models.DateTimeField()
    what = models.CharField(max_length=12, choices=What.choices)
    item = models.ForeignKey(Item, on_delete=models.SET_NULL, null=True, blank=True)
    subject = models.CharField(max_length=60, blank=True)
    follows = models.CharField(max_length=36, blank=True)
    says = models.JSONField(default=dict, blank=True)
    heard = models.DateTimeField(default=timezone.now, editable=False)

    class Meta:
        ordering = ["at", "pk"]
        constraints = [
            models.UniqueConstraint(fields=["outing", "key"], name="entry_once"),
            models.CheckConstraint(condition=Q(what__in=What.values), name="entry_is_known"),
        ]

    def __str__(self) -> str:
        return f"{self.what} at {self.at:%H:%M}"


class Look(models.Model):
    """What was seen in a file, whoever brought it: all that is kept of it.

    ``digest``  of the file. ``small``: a small picture of it, as JPEG. ``whole``: what was
    measured (``imaging.whole``), as plain data; None where nothing could be.
    """

    digest = models.CharField(max_length=64, unique=True)
    small = models.BinaryField(null=True)
    whole = models.JSONField(null=True, blank=True)

    def __str__(self) -> str:
        return self.digest[:8]


class State(models.TextChoices):
    """How far one is with a frame."""

    ASKED = "asked", "of what is it?"
    OTHER = "other", "of no plan"
    UNTOLD = "untold", "not looked into yet"
    HELD = "held", "held"
    SOFT = "soft", "went soft"
    UNSURE = "unsure", "cannot be told"
    BROKEN = "broken", "cannot be read"


class Frame(models.Model):
    """A frame that came home.

    ``at``       when it was taken, by the camera's clock, as if that were UTC; None where the file
                 does not say. ``order``: what frames are ordered by.
    ``wrong``    why nothing is known of it, with the cure; empty where something is. ``doubts``:
                 what its file says that cannot be.
    ``item``     what it is a frame of; ``sure``: whether that is beyond doubt; ``told``: whether
                 somebody said so. ``why``: what speaks for it, or against.
    ``rating``   0 to 5, −1 for thrown out; None: not rated. ``keywords``: words.
    ``marks``    where things of the plan stand in it, by letter: shares from the left and above.
    ``found``    what is said of it (``web.outings.found``), as plain data; None: not worked out.
    ``state``    what comes of all that: kept beside it, so that a long list need not look.
    """

    outing = models.ForeignKey(Outing, on_delete=models.CASCADE, related_name="frames")
    look = models.ForeignKey(Look, on_delete=models.PROTECT, null=True, blank=True)
    name = models.CharField(max_length=120)
    bytes = models.PositiveBigIntegerField(default=0)
    order = models.BigIntegerField(default=0)
    at = models.DateTimeField(null=True, blank=True)
    f_number = models.FloatField(null=True, blank=True)
    focal_length_mm = models.FloatField(null=True, blank=True)
    exposure_s = models.FloatField(null=True, blank=True)
    iso = models.FloatField(null=True, blank=True)
    body = models.CharField(max_length=80, blank=True)
    lens = models.CharField(max_length=80, blank=True)
    focus_mm = models.FloatField(null=True, blank=True)
    pitch_mm = models.FloatField(null=True, blank=True)
    width = models.PositiveIntegerField(default=0)
    height = models.PositiveIntegerField(default=0)
    wrong = models.CharField(max_length=400, blank=True)
    doubts = models.JSONField(default=list, blank=True)
    item = models.ForeignKey(Item, on_delete=models.SET_NULL, null=True, blank=True)
    sure = models.BooleanField(default=False)
    told = models.BooleanField(default=False)
    why = models.CharField(max_length=200, blank=True)
    rating = models.SmallIntegerField(null=True, blank=True)
    keywords = models.JSONField(default=list, blank=True)
    marks = models.JSONField(default=dict, blank=True)
    found = models.JSONField(null=True, blank=True)
    state = models.CharField(max_length=8, choices=State.choices, default=State.ASKED)

    class Meta:
        ordering = ["order", "pk"]
        indexes = [
            models.Index(fields=["outing", "order", "id"], name="frame_in_order"),
            models.Index(fields=["outing", "state", "order", "id"], name="frame_by_state"),
        ]
        constraints = [
            models.UniqueConstraint(fields=["outing", "name", "bytes"], name="frame_read_once"),
            models.CheckConstraint(
                condition=Q(rating=None) | Q(rating__gte=-1, rating__lte=5), name="frame_rating"
            ),
        ]

    def __str__(self) -> str:
        return self.name

    def settle(self) -> None:
        """Say in ``state`` how far one is with it: before each time that it is kept."""
        if self.wrong or self.look_id is None:
            self.state = State.BROKEN
        elif not self.sure or self.item_id is None:
            self.state = State.OTHER if self.told else State.ASKED
        elif self.found is None:
            self.state = State.UNTOLD
        else:
            held = self.found.get("held")
            self.state = State.UNSURE if held is None else State.HELD if held else State.SOFT

    @property
    def when(self) -> datetime | None:
        """When it was taken by the clock of the device; None where that is not known."""
        return None if self.at is None else self.at + self.outing.clock_off
