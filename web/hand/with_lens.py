"""A lens of the bag, taken in hand as a planner would: with a body, a standard, a focal length."""

from __future__ import annotations

from dataclasses import dataclass

from django.http import QueryDict

from web.bag.models import Body, InHand, Lens, Standard
from web.bag.soundness import sound
from web.hand import panel
from web.hand.asker import asker
from web.hand.fields import USUAL, opening_in
from web.hand.reader import Hand, read_hand
from web.people.owners import OwnedRequest

_GEAR = {**USUAL, "upright": ""}
_STEPS = (8, 10, 12, 14, 15, 16, 18, 20, 24, 28, 35, 40, 50, 70, 85, 105, 135, 180, 200, 300, 400,
          500, 600, 800)  # fmt: skip
"""Focal lengths that are engraved on zooms, mm."""


@dataclass(frozen=True, slots=True)
class WithLens:
    """What is in hand with it, and the focal lengths that it is asked for at, mm."""

    hand: Hand
    focal_lengths: tuple[float, ...]


def in_hand(request: OwnedRequest) -> Lens | None:
    """The lens in hand, else the first of the bag; None for an empty bag."""
    held = InHand.objects.filter(owner=request.owner).first()
    if held is not None and held.lens is not None and held.lens.deleted_at is None:
        return held.lens
    return next(iter(sound(Lens.objects.filter(owner=request.owner))), None)


def with_lens(
    request: OwnedRequest,
    lens: Lens,
    body: Body | None = None,
    standard: Standard | None = None,
    at: str = "",
) -> WithLens:
    """``body``, ``standard``: None for those that were last taken. ``at``: the focal length that is
    asked for, one of the lens's; else where it was left, else its shortest."""
    chosen = panel.gear_of(request.owner, _GEAR)
    texts = panel.taken(opening_in(request.owner.units, chosen), body, lens, standard, None, 1.0)
    steps = (float(f) for f in _STEPS if lens.shortest_mm < f < lens.longest_mm)
    lengths = tuple(sorted({float(lens.shortest_mm), float(lens.longest_mm), *steps}))
    texts_of = {f"{one:g}" for one in lengths}
    wanted = (text for text in (at, texts["focal_length_mm"]) if text in texts_of)
    texts["focal_length_mm"] = next(wanted, f"{lengths[0]:g}")
    link = QueryDict(mutable=True)
    link.update(texts)
    return WithLens(read_hand(link, _GEAR, who=asker(request)), lengths)
