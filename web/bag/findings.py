"""What tests found of a lens: kept with it, and read with the care of anything typed.

A finding is a plain object of JSON: ``key`` (of its own, 8 letters), ``kind``, ``on`` (a date),
``focal_length_mm``, ``distance_mm`` (of what was photographed, from the pupil; null for infinity),
``body`` (its name, or empty), ``used`` and ``rows``: [f-number, value, standard error], mm. Where
it was made with something behind the lens, ``with`` is that thing's name; where it is of a way of
focusing, ``way`` says which, and ``scatter_mm`` by how much it is off from one time to the next.
"""

from __future__ import annotations

import datetime
import json
import math
import re
import secrets
from collections.abc import Iterable
from dataclasses import dataclass, replace
from typing import Any

from optics.lens.focusing import Way
from optics.lens.found import Found

SHIFT, BLUR, CORNER, RING, STOP, WAY, CIRCLE = (
    "shift", "blur", "corner", "ring", "stop", "way", "circle"
)  # fmt: skip
KINDS = {SHIFT: 2.0, BLUR: 1.0, CORNER: 1.0, RING: 2.0, STOP: 5.0, WAY: 2.0, CIRCLE: 1.0}
"""The kinds of findings, and the largest value that one can have, mm: shift of focus; blur of its
own in the middle and in the corners; how much more the lens stands out than its ring reads; how far
past infinity its stop is; how far in front a way of focusing puts the focus; and the circle that
its depth-of-field marks were engraved for."""
BY_APERTURE = (SHIFT, BLUR, CORNER)
WAYS = tuple(way.value for way in Way)
MOST, MOST_ROWS = 60, 40
LONGEST = 60_000
"""Letters of all findings of a lens, as they are sent."""


class NotAFinding(ValueError):
    """Something kept or sent as a finding that is none. ``sentence``: what is wrong."""

    def __init__(self, sentence: str) -> None:
        self.sentence = sentence
        super().__init__(sentence)


@dataclass(frozen=True, slots=True)
class Row:
    """What was found at an aperture: mm, and its standard error."""

    f_number: float
    found: Found


@dataclass(frozen=True, slots=True)
class Finding:
    """One test's result, as it is kept with a lens."""

    key: str
    kind: str
    on: datetime.date
    focal_length: float
    distance: float
    body: str
    used: bool
    rows: tuple[Row, ...]
    adapter: str = ""
    way: str = ""
    scatter: float = 0.0

    @property
    def plain(self) -> dict[str, Any]:
        """As it is kept."""
        more = {"with": self.adapter, "way": self.way, "scatter_mm": self.scatter}
        return {
            "key": self.key,
            "kind": self.kind,
            "on": self.on.isoformat(),
            "focal_length_mm": self.focal_length,
            "distance_mm": self.distance if math.isfinite(self.distance) else None,
            "body": self.body,
            "used": self.used,
            "rows": [[row.f_number, row.found.value, row.found.error] for row in self.rows],
            **{name: value for name, value in more.items() if value},
        }

    @property
    def far(self) -> bool:
        """Whether it was made on infinity."""
        return math.isinf(self.distance)

    @property
    def value(self) -> Found:
        """Its first row's: all there is of what does not go by aperture."""
        return self.rows[0].found


def new_key() -> str:
    """A key that no other finding has."""
    return secrets.token_hex(4)


_KEYS = {"key", "kind", "on", "focal_length_mm", "distance_mm", "body", "used", "rows"}
_MORE = {"with", "way", "scatter_mm"}


def read(kept: Any) -> tuple[Finding, ...]:
    """Findings as kept, or as sent. Raises NotAFinding."""
    if not isinstance(kept, list) or len(kept) > MOST:
        raise NotAFinding(f"What tests found should be a list of at most {MOST}.")
    found = tuple(_finding(one) for one in kept)
    if len({one.key for one in found}) < len(found):
        raise NotAFinding("One of the findings stands twice.")
    return found


def read_text(text: str) -> list[dict[str, Any]]:
    """Findings as a form sends them, checked, as they are kept. Raises NotAFinding."""
    if not text:
        return []
    if len(text) > LONGEST:
        raise NotAFinding("That is more than tests find of a lens.")
    try:
        kept = json.loads(text)
    except (ValueError, RecursionError):
        raise NotAFinding("What tests found is not readable.") from None
    return [one.plain for one in read(kept)]


def _finding(one: Any) -> Finding:
    if not isinstance(one, dict) or not _KEYS <= set(one) <= _KEYS | _MORE:
        raise NotAFinding("A finding has a key, kind, date, lengths, body, rows, and no more.")
    if not isinstance(one["key"], str) or not re.fullmatch("[0-9a-f]{8}", one["key"]):
        raise NotAFinding("A finding's key is eight letters from 0 to f.")
    if one["kind"] not in KINDS:
        raise NotAFinding("A finding of that kind is not known.")
    try:
        on = datetime.date.fromisoformat(one["on"])
    except (TypeError, ValueError):
        raise NotAFinding("A finding's date is a year, a month and a day.") from None
    for name in (one["body"], one.get("with", "")):
        if not isinstance(name, str) or len(name) > 60 or not name.isprintable():
            raise NotAFinding("A finding's body is a name of up to 60 letters.")
    way = one.get("way", "")
    if (one["kind"] == WAY) != (way in WAYS) or (way and one["kind"] != WAY):
        raise NotAFinding("A finding of a way of focusing says which one, and no other does.")
    if not isinstance(one["used"], bool):
        raise NotAFinding("A finding is used, or not.")
    distance = one["distance_mm"]
    return Finding(
        one["key"],
        one["kind"],
        on,
        _number(one["focal_length_mm"], 1, 3000),
        math.inf if distance is None else _number(distance, 1, 1e8),
        one["body"],
        one["used"],
        _rows(one["rows"], KINDS[one["kind"]]),
        one.get("with", ""),
        way,
        _number(one.get("scatter_mm", 0.0), 0, KINDS[WAY]),
    )


def _rows(rows: Any, most: float) -> tuple[Row, ...]:
    if not isinstance(rows, list) or not 1 <= len(rows) <= MOST_ROWS:
        raise NotAFinding(f"A finding has 1 to {MOST_ROWS} rows.")
    found = []
    for row in rows:
        if not isinstance(row, list) or len(row) != 3:
            raise NotAFinding("A row of a finding is an aperture, a value and its error.")
        value, error = _number(row[1], -most, most), _number(row[2], 1e-7, most)
        found.append(Row(_number(row[0], 0.5, 256), Found(value, error)))
    if len({row.f_number for row in found}) < len(found):
        raise NotAFinding("A finding has each aperture once.")
    return tuple(sorted(found, key=lambda row: row.f_number))


def _number(value: Any, low: float, high: float) -> float:
    if isinstance(value, bool) or not isinstance(value, (int, float)) or not low <= value <= high:
        raise NotAFinding(f"A number of a finding is not from {low:g} to {high:g}.")
    return float(value)


def switched(found: Iterable[Finding], key: str, used: bool) -> list[dict[str, Any]]:
    """Findings as kept, one of them now used, or not."""
    return [(replace(one, used=used) if one.key == key else one).plain for one in found]
