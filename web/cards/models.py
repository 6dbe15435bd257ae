"""Packs: cards chosen to be printed together, in an order."""

from __future__ import annotations

from django.db import models
from django.db.models import Q
from django.utils import timezone

from web.people.models import Owned

NAME_LIMIT = 80
MOST_CARDS = 200


class Size(models.TextChoices):
    """How large a card is cut."""

    CREDIT = "credit", "credit card, 86 × 54 mm"
    A7 = "a7", "A7, 74 × 105 mm"
    A6 = "a6", "A6, 105 × 148 mm"
    A5 = "a5", "A5, 148 × 210 mm"


class Paper(models.TextChoices):
    """What they are printed on: each side a page of its own, or several on a sheet."""

    OWN = "own", "pages of their own size"
    A4 = "a4", "A4, with marks to cut at"
    LETTER = "letter", "Letter, with marks to cut at"


class NotDeleted(models.Manager["Pack"]):
    """What has not been deleted."""

    def get_queryset(self) -> models.QuerySet[Pack]:
        return super().get_queryset().filter(deleted=None)


class Pack(Owned):
    """Cards under a name, and how they are printed. ``deleted``: set while that can be undone."""

    name = models.CharField(max_length=NAME_LIMIT)
    size = models.CharField(max_length=10, choices=Size.choices, default=Size.A6)
    paper = models.CharField(max_length=10, choices=Paper.choices, default=Paper.A4)
    queue = models.JSONField(default=list, blank=True, editable=False)
    """The keys of the cards that are still to be printed, of those that printing began with."""
    changed = models.DateTimeField(default=timezone.now, editable=False)
    deleted = models.DateTimeField(null=True, blank=True, editable=False)

    objects = NotDeleted()
    with_deleted = models.Manager["Pack"]()

    class Meta:
        ordering = ["-changed", "-pk"]
        default_manager_name = "with_deleted"
        constraints = [
            models.CheckConstraint(condition=~Q(name=""), name="pack_has_a_name"),
            models.CheckConstraint(condition=Q(size__in=Size.values), name="pack_size_is_known"),
            models.CheckConstraint(condition=Q(paper__in=Paper.values), name="pack_paper_is_known"),
        ]

    def __str__(self) -> str:
        return self.name


class Of(models.TextChoices):
    """What a card is of: something kept, a lens of the bag, or all of it."""

    KEPT = "kept", "kept"
    LENS = "lens", "lens"
    BAG = "bag", "bag"


class Card(models.Model):
    """One card of a pack.

    ``at``     its place in the order. ``thing``: the key of what it is of. ``face``: which card of
               that. ``query``: what else was chosen for it, as its page's address says it.
    ``says``   the words and figures it was last printed with, a line each; empty before that.
    """

    pack = models.ForeignKey(Pack, on_delete=models.CASCADE, related_name="cards")
    at = models.PositiveIntegerField()
    of = models.CharField(max_length=10, choices=Of.choices)
    thing = models.BigIntegerField()
    face = models.CharField(max_length=10)
    query = models.CharField(max_length=500, blank=True)
    says = models.TextField(blank=True)
    printed = models.DateTimeField(null=True, blank=True)

    class Meta:
        ordering = ["at", "pk"]
        constraints = [
            models.CheckConstraint(condition=Q(of__in=Of.values), name="card_is_of_something"),
        ]

    def __str__(self) -> str:
        return f"{self.face} of {self.of} {self.thing}"


class Piece(models.Model):
    """Some of a pack as it is being printed: sides as PDF, kept until all are there.

    ``cards``  how many are in it. ``pages``: for each, how many its front and its back took.
    """

    pack = models.ForeignKey(Pack, on_delete=models.CASCADE, related_name="pieces")
    cards = models.PositiveIntegerField()
    pages = models.JSONField(default=list)
    data = models.BinaryField()
    made = models.DateTimeField(default=timezone.now)

    class Meta:
        ordering = ["pk"]

    def __str__(self) -> str:
        return f"{self.cards} of {self.pack}"
