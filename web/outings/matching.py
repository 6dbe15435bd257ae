"""Which plan a frame is of: by the log's times, the focal length and the aperture.

A frame's own clock is the camera's; what is added to it to have the device's is the outing's
``clock_off_s``. The log says at what time which plan was in hand. What speaks for a plan is added
up, and what speaks against it taken away; a frame is one plan's beyond doubt if that is clearly
ahead of all others.
"""

from __future__ import annotations

import math
from bisect import bisect_left
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta

from web.outings.log import standing
from web.outings.models import Entry, Frame, Outing, State, What
from web.outings.taken_out import TakenOut

_SAME_LENGTH = 0.04
_SAME_STOPS = 0.17
"""Stops: half a third, which is as near as files say apertures."""
_ALMOST_STOPS = 1.1
_AT_ONCE, _SOON = 75.0, 20 * 60.0
"""s between the log's *frame taken* and a frame that surely is that one; and one that may be."""
_CLEARLY, _AT_LEAST, _LEAST = 1.0, 1.5, 0.9
_WRONG_LENGTH = -4.0


@dataclass(frozen=True, slots=True)
class Wanted:
    """What a plan asks for: focal length, mm; the apertures of its frames."""

    key: int
    name: str
    focal_length: float
    f_numbers: tuple[float, ...]


@dataclass(frozen=True, slots=True)
class Match:
    """What a frame is of: the key of the item, None for none; whether beyond doubt; and why."""

    item: int | None
    sure: bool
    why: str


def wanted(there: Iterable[TakenOut]) -> list[Wanted]:
    """What all that is taken out asks for."""
    found = []
    for one in there:
        if one.answer is None:
            continue
        setup = one.reading.setup
        numbers = {shot.f_number for shot in one.shots if shot.f_number == shot.f_number}
        found.append(
            Wanted(one.item.pk, one.name, setup.focal_length, tuple(numbers or {setup.f_number}))
        )
    return found


def times_of(entries: Iterable[Entry]) -> list[tuple[datetime, int, str]]:
    """When the log had which plan in hand: the time, the item's key, and what was logged."""
    return [(one.at, one.item_id, one.what) for one in standing(entries) if one.item_id is not None]


def match(
    frame: Frame, plans: Sequence[Wanted], times: Sequence[tuple[datetime, int, str]]
) -> Match:
    """What a frame is most likely of."""
    if not plans:
        return Match(None, False, "Nothing was taken out.")
    scored = sorted(
        ((*_score(frame, plan, times), plan) for plan in plans), key=lambda row: -row[0]
    )
    best, why, plan = scored[0]
    if best < 0:
        return Match(None, False, "No plan has this focal length.")
    if best < _LEAST:
        return Match(None, False, "Neither time, focal length nor aperture tell.")
    ahead = best - scored[1][0] if len(scored) > 1 else math.inf
    if ahead < _CLEARLY:
        return Match(plan.key, False, f"{plan.name} or {scored[1][2].name}: both would do.")
    if best < _AT_LEAST:
        return Match(plan.key, False, f"{why} The rest is not known.")
    return Match(plan.key, True, why)


def _score(
    frame: Frame, plan: Wanted, times: Sequence[tuple[datetime, int, str]]
) -> tuple[float, str]:
    score, why = 0.0, []
    if frame.focal_length_mm is not None:
        off = abs(math.log(frame.focal_length_mm / plan.focal_length))
        if off > _SAME_LENGTH:
            return _WRONG_LENGTH, "another focal length"
        score += 1.0
        why.append("focal length")
    if frame.f_number is not None:
        stops = min(abs(2 * math.log2(frame.f_number / n)) for n in plan.f_numbers)
        if stops <= _SAME_STOPS:
            score += 1.0
            why.append("aperture")
        elif stops > _ALMOST_STOPS:
            score -= 1.0
    near = _time(frame, plan.key, times)
    score += near
    if near > 0:
        why.insert(0, "time")
    return score, f"By {', '.join(why)}." if why else ""


def _time(frame: Frame, key: int, times: Sequence[tuple[datetime, int, str]]) -> float:
    """What the log's times say for a plan."""
    when = frame.when
    if when is None or not times:
        return 0.0
    seconds = [(abs((at - when).total_seconds()), item, what) for at, item, what in times]
    taken = [(off, item) for off, item, what in seconds if what == What.TAKEN]
    if taken and min(taken)[0] <= _AT_ONCE:
        return 2.5 if min(taken)[1] == key else -1.0
    before = [(at, item) for at, item, _ in times if at <= when + timedelta(seconds=_AT_ONCE)]
    if before and (when - max(before)[0]).total_seconds() <= _SOON:
        return 1.5 if max(before)[1] == key else 0.0
    return 0.5 if min(seconds)[0] <= _SOON and min(seconds)[1] == key else 0.0


def match_all(outing: Outing, there: Sequence[TakenOut], frames: Sequence[Frame] = ()) -> None:
    """Find what frames are of, all of an outing's if none are given; what somebody said stays."""
    plans, times = wanted(there), times_of(outing.entries.all())
    asked = frames or outing.frames.filter(told=False).exclude(state=State.BROKEN)
    changed = []
    for frame in asked:
        if frame.told or frame.wrong:
            continue
        frame.outing = outing
        found = match(frame, plans, times)
        if (frame.item_id, frame.sure, frame.why) != (found.item, found.sure, found.why):
            if frame.item_id != found.item:
                frame.found = None
            frame.item_id, frame.sure, frame.why = found.item, found.sure, found.why
            frame.settle()
            changed.append(frame)
    fields = ["item", "sure", "why", "found", "state"]
    Frame.objects.bulk_update(changed, fields, batch_size=200)


@dataclass(frozen=True, slots=True)
class Zone:
    """A camera's clock that seems to be whole half hours off: ``off_s`` that is to be added to what
    is now, and how many of the log's frames have one of the camera's then."""

    off_s: float
    fits: int
    of_all: int


def zone_of(outing: Outing) -> Zone | None:
    """Whether the camera's clock is of another zone: where frames as logged have none of the
    camera's beside them, but would with half hours added. None where it is right, or cannot be
    told."""
    logged = [
        one.at.timestamp() for one in standing(outing.entries.all()) if one.what == What.TAKEN
    ]
    frames = outing.frames.exclude(at=None).values_list("at", flat=True)[:2000]
    there = sorted((at + outing.clock_off).timestamp() for at in frames if at is not None)
    if len(logged) < 2 or not there or outing.clock_off_s is not None:
        return None
    fits = {step: _fit(logged, there, step * 1800.0) for step in range(-28, 29)}
    best = max(fits, key=lambda step: (fits[step], -abs(step)))
    if best == 0 or fits[best] < 2 or fits[best] <= fits[0] or fits[best] < 0.5 * len(logged):
        return None
    return Zone(best * 1800.0, fits[best], len(logged))


def _fit(logged: Sequence[float], there: Sequence[float], off: float) -> int:
    """How many of those that are logged have one beside them; ``there``: rising."""
    count = 0
    for at in logged:
        place = bisect_left(there, at - off - _AT_ONCE)
        count += place < len(there) and there[place] <= at - off + _AT_ONCE
    return count
