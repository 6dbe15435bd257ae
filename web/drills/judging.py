"""What tries tell of one's own measures: how distances are judged, and how late the finger is.
It is told, and changes nothing by itself."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from drills.distance import FAR, MIDDLE, NEAR, band_of
from drills.moment import SEEN, lag
from optics.base import units
from optics.zones.judging import Judgement, judged
from web.drills.models import Try
from web.drills.tried import pairs
from web.people.models import Owner

LATEST = 120
"""Judgements that are counted: the latest, as one is now."""
ENOUGH = 8
"""With fewer, nothing is made of them."""


@dataclass(frozen=True, slots=True)
class Band:
    """Of one stretch of distance: its name, and how it is judged; None for never."""

    name: str
    of: Judgement | None


@dataclass(frozen=True, slots=True)
class Judged:
    """How distances are judged ``where``, on the screen or in the field: all of them, and close, in
    the middle and far."""

    where: str
    of: Judgement | None
    bands: tuple[Band, ...]

    @property
    def count(self) -> int:
        """Of distances."""
        return 0 if self.of is None else self.of.count

    @property
    def enough(self) -> bool:
        """Whether something can be made of them."""
        return self.count >= ENOUGH

    @property
    def off(self) -> float:
        """How far off one is by bias and scatter together, a share, as it is written."""
        return 0.0 if self.of is None else units.significant(self.of.off, 2)


def judgements(owner: Owner) -> tuple[Judged, ...]:
    """How an owner judges distances: on the screen, and in the field."""
    rows = Try.objects.filter(owner=owner, drill="distance").order_by("-at", "-pk")
    return (
        _judged("screen", list(rows.filter(way="")[:LATEST])),
        _judged("field", list(rows.exclude(way="")[:LATEST])),
    )


def _judged(where: str, tries: Sequence[Try]) -> Judged:
    found = pairs(tries)
    if not found:
        return Judged(where, None, ())
    bands = []
    for name in (NEAR, MIDDLE, FAR):
        here = [pair for pair in found if band_of(pair[1]) == name]
        bands.append(Band(name, judged(here) if len(here) > 1 else None))
    return Judged(where, judged(found), tuple(bands))


@dataclass(frozen=True, slots=True)
class Lag:
    """From seeing to the exposure: how many tries, and s as it is written; None for too few."""

    count: int
    seconds: float | None


def lag_of(owner: Owner) -> Lag:
    """How late an owner's finger is, and the shutter after it."""
    rows = Try.objects.filter(owner=owner, drill="moment", part=SEEN).order_by("-at", "-pk")
    late = list(rows.values_list("off", flat=True)[:LATEST])
    found = lag(late)
    return Lag(len(late), None if found is None else units.significant(found, 2))
