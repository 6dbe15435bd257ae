"""Two frames of one thing beside each other: which way of focusing, or which try, was sharper."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

from web.outings.models import Frame, State

_CLEAR = 2.0
MOST = 40


@dataclass(frozen=True, slots=True)
class Row:
    """A mark in both: how wide it is blurred, pixels, and which one is sharper: ``this``,
    ``other``, or empty where that is no more than chance."""

    letter: str
    name: str
    this: float
    other: float
    sharper: str


@dataclass(frozen=True, slots=True)
class Beside:
    """Two frames. ``sharper``: which is so in more of the marks; empty for neither."""

    other: Frame
    rows: tuple[Row, ...]
    sharper: str


def candidates(frame: Frame) -> list[Frame]:
    """Frames of the same plan and size that something is known of, the nearest in time first."""
    if frame.item_id is None:
        return []
    rows = frame.outing.frames.filter(
        item=frame.item_id, width=frame.width, height=frame.height,
        state__in=(State.HELD, State.SOFT, State.UNSURE),
    ).exclude(pk=frame.pk).defer("keywords")  # fmt: skip
    return sorted(rows[:MOST], key=lambda one: abs(one.order - frame.order))


def beside(found: dict[str, Any], other: Frame) -> Beside:
    """A frame, by what was found in it, beside another of the same plan."""
    theirs = {mark["letter"]: mark for mark in (other.found or {}).get("marks", [])}
    rows = [
        _row(mark, theirs[mark["letter"]])
        for mark in found.get("marks", [])
        if mark["letter"] in theirs
    ]
    return Beside(other, tuple(rows), _more(rows))


def _row(mark: dict[str, Any], other: dict[str, Any]) -> Row:
    this, that = float(mark["pixels"]), float(other["pixels"])
    clear = abs(this - that) > _CLEAR * math.hypot(mark["error_px"], other["error_px"])
    sharper = "" if not clear else "this" if this < that else "other"
    return Row(mark["letter"], mark["name"], this, that, sharper)


def _more(rows: Sequence[Row]) -> str:
    counts = {name: sum(1 for row in rows if row.sharper == name) for name in ("this", "other")}
    if counts["this"] == counts["other"]:
        return ""
    return max(counts, key=lambda name: counts[name])
