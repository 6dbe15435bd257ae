"""Whose tries are whose: those of the sample are nobody's; a guest's go with them; told."""

from __future__ import annotations

from typing import Any

from web.drills.models import Try
from web.people.models import Owner
from web.people.owners import moves, tells


@moves
def hand_over(guest: Owner, owner: Owner) -> None:
    """Give a guest's tries to an owner; what both have is one."""
    there = set(Try.objects.filter(owner=owner).values_list("key", flat=True))
    Try.objects.filter(owner=guest).exclude(key__in=there).update(owner=owner)


@tells
def told(owner: Owner) -> dict[str, Any]:
    """Every try of an owner."""
    rows = Try.objects.filter(owner=owner).order_by("at", "pk")
    return {
        "tries": [
            {
                "at": one.at.isoformat(), "drill": one.drill, "part": one.part, "level": one.level,
                "right": one.right, "off": one.off, "ms": one.ms, "said_mm": one.said_mm,
                "was_mm": one.was_mm, "way": one.way,
            }
            for one in rows.iterator(2000)
        ]
    }  # fmt: skip
