"""What the sample world's photographer did in six weeks of drills: a learner who is made up, and
better at the end than at the beginning."""

from __future__ import annotations

import math
import random
from datetime import UTC, datetime, timedelta
from functools import cache
from typing import Any

from drills.distance import RIGHT, band_of
from drills.every import DRILLS
from drills.moment import SEEN
from web.drills.models import Try
from web.people.models import Owner

_FIRST = datetime(2026, 2, 9, 7, 30, tzinfo=UTC)
_DAYS = (0, 1, 3, 4, 7, 9, 10, 14, 15, 18, 21, 22, 24, 28, 30, 35, 36, 38)
"""Days on which some minutes were found."""
_SKILL = {
    "distance": (0.35, 0.75), "ring": (0.45, 0.9), "positions": (0.3, 0.7), "moment": (0.5, 0.8),
    "focus": (0.5, 0.85), "blur": (0.4, 0.85), "star": (0.35, 0.6), "back": (0.2, 0.55),
}  # fmt: skip
"""How often each was right, in the first week and in the last."""
_EACH = 2


@cache
def _tries() -> tuple[dict[str, Any], ...]:
    luck = random.Random(19)
    found: list[dict[str, Any]] = []
    for day in _DAYS:
        at = _FIRST + timedelta(days=day)
        along = day / _DAYS[-1]
        for drill in DRILLS:
            low, high = _SKILL[drill.key]
            for _ in range(_EACH):
                at += timedelta(seconds=luck.randint(7, 40))
                part = luck.choice(drill.parts)
                right = luck.random() < low + (high - low) * along
                said = {"drill": drill.key, "part": part, "level": 1 if along < 0.6 else 2,
                        "at": at, "ms": luck.randint(1800, 9000), "right": right,
                        "off": 0.0 if right else luck.choice((-1, 1)) * 0.4}  # fmt: skip
                if drill.key == "distance":
                    said |= _judged(luck, along)
                if part == SEEN:
                    late = max(luck.gauss(0.29 - 0.04 * along, 0.04), 0.12)
                    said |= {"off": late, "right": late <= 0.35, "ms": int(late * 1000)}
                found.append({"key": f"d1111000-{len(found):04d}", **said})
    return tuple(found)


def _judged(luck: random.Random, along: float) -> dict[str, Any]:
    """A distance by eye: too far by a fifth at first, and less so later."""
    was = math.exp(luck.uniform(math.log(1400.0), math.log(11_000.0)))
    off = luck.gauss(0.2 - 0.12 * along, 0.2 - 0.07 * along)
    return {"part": band_of(was), "said_mm": was * math.exp(off), "was_mm": was, "off": off,
            "right": abs(off) <= RIGHT}  # fmt: skip


def practise(owner: Owner) -> None:
    """Give an owner the sample's tries."""
    Try.objects.bulk_create(Try(owner=owner, **said) for said in _tries())
