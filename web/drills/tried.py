"""Tries come from devices, sooner or later, each of them once; and what is read of them."""

from __future__ import annotations

import math
from collections.abc import Iterable
from datetime import datetime
from typing import Any

from django.core.exceptions import ValidationError
from django.db import transaction

from drills.distance import RIGHT, band_of
from drills.every import BY_KEY, DRILLS
from drills.progress import Standing, Tried, standing
from web.drills.models import MOST_TRIES, Try
from web.people.models import Owner
from web.ui.fields import read_length
from web.ui.sent import KEY, MOST_AT_ONCE, Heard, time_of

_LONGEST_MS = 3_600_000
_LEAST_MM, _MOST_MM = 100.0, 1e6
WAYS = {"paced": "paced", "taped": "with a tape", "focused": "focused on it"}
"""How a distance in the field was found out."""


@transaction.atomic
def hear(owner: Owner, sent: object) -> Heard:
    """Take tries in that a device sends, a list of plain data; those that are there are heard
    again, and change nothing. One may take another back."""
    heard = Heard()
    if not isinstance(sent, list):
        return heard
    sent = sent[:MOST_AT_ONCE]
    keys = [str(one.get("key", ""))[:36] if isinstance(one, dict) else "" for one in sent]
    there = set(Try.objects.filter(owner=owner, key__in=keys).values_list("key", flat=True))
    fresh, back = [], []
    for one, key in zip(sent, keys, strict=True):
        if not KEY.fullmatch(key):
            heard.refused.append((key, "It has no key."))
            continue
        if isinstance(one.get("undo"), str):
            back.append(one["undo"][:36])
        elif key not in there:
            made = read(one, key, owner)
            if isinstance(made, str):
                heard.refused.append((key, made))
                continue
            fresh.append(made)
            there.add(key)
        heard.kept.append(key)
    Try.objects.bulk_create(fresh, ignore_conflicts=True)
    Try.objects.filter(owner=owner, key__in=back).delete()
    _make_room(owner)
    return heard


def _make_room(owner: Owner) -> None:
    over = Try.objects.filter(owner=owner).count() - MOST_TRIES
    if over > 0:
        oldest = Try.objects.filter(owner=owner).order_by("at", "pk").values_list("pk", flat=True)
        Try.objects.filter(pk__in=list(oldest[:over])).delete()


def read(one: dict[str, Any], key: str, owner: Owner) -> Try | str:
    """A try from plain data; or why it is none."""
    at = time_of(one.get("at"))
    if isinstance(at, str):
        return at
    if one.get("way"):
        return _in_the_field(one, key, at, owner)
    drill = BY_KEY.get(str(one.get("drill", "")))
    if drill is None or one.get("part") not in drill.parts:
        return "It is no drill that there is."
    level, off = one.get("level"), _number(one.get("off"))
    if level not in (1, 2, 3) or not isinstance(one.get("right"), bool) or off is None:
        return "It does not say how it went."
    ms = _number(one.get("ms"))
    said, was = (_number(one.get(name)) for name in ("said", "was"))
    if (said is None) != (was is None) or any(
        not _LEAST_MM <= length <= _MOST_MM for length in (said, was) if length is not None
    ):
        return "Its distances cannot be."
    return Try(
        owner=owner, key=key, drill=drill.key, part=one["part"], level=level, at=at,
        ms=None if ms is None else int(min(max(ms, 0), _LONGEST_MS)), right=one["right"],
        off=off, said_mm=said, was_mm=was,
    )  # fmt: skip


def _in_the_field(one: dict[str, Any], key: str, at: datetime, owner: Owner) -> Try | str:
    """A distance that was guessed out there, and then found out: as texts, in the units and with
    the paces of whoever typed it."""
    if one["way"] not in WAYS:
        return "It does not say how it was found out."
    try:
        said, was = (
            read_length(str(one.get(name, ""))[:40], owner.units, owner.measures)
            for name in ("said", "was")
        )
    except ValidationError as error:
        return str(error.message)
    if not all(_LEAST_MM <= length <= _MOST_MM for length in (said, was)):
        return "Distances from 0.1 m to 1 km can be judged."
    off = math.log(said / was)
    return Try(
        owner=owner, key=key, drill="distance", part=band_of(was), level=1, at=at,
        right=abs(off) <= RIGHT, off=off, said_mm=said, was_mm=was, way=one["way"],
    )  # fmt: skip


def _number(value: object) -> float | None:
    """A finite number; None for none."""
    if isinstance(value, bool) or not isinstance(value, (int, float)):
        return None
    try:
        number = float(value)
    except OverflowError:
        return None
    return number if math.isfinite(number) else None


LATEST = 400
"""Tries of a drill that its standing is told from."""


def standings(owner: Owner) -> dict[str, Standing]:
    """How every drill stands, by its key."""
    found = {}
    for drill in DRILLS:
        rows = Try.objects.filter(owner=owner, drill=drill.key, way="").order_by("-at", "-pk")
        latest = list(rows.values_list("part", "level", "right")[:LATEST])
        found[drill.key] = standing(drill, [Tried(*row) for row in reversed(latest)])
    return found


def afresh() -> dict[str, Standing]:
    """How every drill stands for somebody who begins."""
    return {drill.key: standing(drill, []) for drill in DRILLS}


def pairs(tries: Iterable[Try]) -> list[tuple[float, float]]:
    """Distances as judged and as they were, mm."""
    return [
        (one.said_mm, one.was_mm)
        for one in tries
        if one.said_mm is not None and one.was_mm is not None
    ]
