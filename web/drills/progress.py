"""Progress over the weeks, as a page shows it."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import date, timedelta

from django.utils import timezone

from drills.progress import Standing, weakest_first
from web.drills.models import Try
from web.drills.tried import standings
from web.drills.words import WORDS
from web.people.models import Owner

WEEKS = 12
_TO_TELL = 3
"""Tries to a part before one of them is called the weakest."""


@dataclass(frozen=True, slots=True)
class Week:
    """The week that begins on a day: how many tries, and how many of them were right."""

    on: date
    count: int
    right: int

    @property
    def share(self) -> float:
        """Right ones, 0 to 1."""
        return self.right / self.count if self.count else 0.0


@dataclass(frozen=True, slots=True)
class Row:
    """A drill: its words, how it stands, its weeks; ``weak``: what of it goes worst, empty while
    that cannot be told."""

    key: str
    name: str
    does: str
    standing: Standing
    weeks: tuple[Week, ...]
    weak: str


@dataclass(frozen=True, slots=True)
class Progress:
    """All drills, the weakest first; ``weeks``: the days that they begin on; ``count`` of tries."""

    rows: tuple[Row, ...]
    weeks: tuple[date, ...]
    count: int


def progress(owner: Owner) -> Progress:
    """An owner's."""
    there = standings(owner)
    mondays = _mondays(owner)
    by_week = _by_week(owner, mondays[0]) if mondays else {}
    rows = []
    for standing in weakest_first(there.values()):
        key = standing.drill.key
        words = WORDS[key]
        weeks = tuple(Week(on, *by_week.get((key, on), (0, 0))) for on in mondays)
        known = standing.count >= _TO_TELL * len(standing.drill.parts)
        weak = words.parts[standing.parts[0][0]] if known else ""
        rows.append(Row(key, words.name, words.does, standing, weeks, weak))
    return Progress(tuple(rows), mondays, sum(one.count for one in there.values()))


def _mondays(owner: Owner) -> tuple[date, ...]:
    """The last weeks, as far back as there is something; empty where there is nothing."""
    first = Try.objects.filter(owner=owner).order_by("at").values_list("at", flat=True).first()
    last = Try.objects.filter(owner=owner).order_by("-at").values_list("at", flat=True).first()
    if first is None or last is None:
        return ()
    end = _monday(timezone.localtime(last).date())
    start = max(_monday(timezone.localtime(first).date()), end - timedelta(weeks=WEEKS - 1))
    count = (end - start).days // 7 + 1
    return tuple(start + timedelta(weeks=at) for at in range(count))


def _monday(day: date) -> date:
    return day - timedelta(days=day.weekday())


def _by_week(owner: Owner, since: date) -> Mapping[tuple[str, date], tuple[int, int]]:
    found: dict[tuple[str, date], tuple[int, int]] = {}
    rows = Try.objects.filter(owner=owner, way="", at__date__gte=since)
    for drill, at, right in rows.values_list("drill", "at", "right").iterator(2000):
        key = (drill, _monday(timezone.localtime(at).date()))
        count, good = found.get(key, (0, 0))
        found[key] = (count + 1, good + right)
    return found
