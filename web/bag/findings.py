"""What tests found of a lens: kept with it, and read with the care of anything typed.

A finding is a plain object of JSON: ``key`` (of its own, 8 letters), ``kind``, ``on`` (a date),
``focal_length_mm``, ``distance_mm`` (of what was photographed, from the pupil; null for infinity),
``body`` (its name, or empty), ``used`` and ``rows``: [f-number, value, standard error], mm.
"""

from __future__ import annotations

import datetime
import json
import math
import re
import secrets
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace
from itertools import combinations, pairwise
from typing import Any

from optics.lens.found import CLEAR, Found, odd_one_out, together
from optics.lens.kit import Fault

SHIFT, BLUR = "shift", "blur"
KINDS = {SHIFT: 2.0, BLUR: 1.0}
"""The kinds of findings by aperture, and the largest value that one can have, mm."""
MOST, MOST_ROWS = 60, 40
LONGEST = 60_000
"""Letters of all findings of a lens, as they are sent."""
_LENGTHS_ALIKE = 0.05
"""A zoom tested at a focal length is known there, and within that share of it."""


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

    @property
    def plain(self) -> dict[str, Any]:
        """As it is kept."""
        return {
            "key": self.key,
            "kind": self.kind,
            "on": self.on.isoformat(),
            "focal_length_mm": self.focal_length,
            "distance_mm": self.distance if math.isfinite(self.distance) else None,
            "body": self.body,
            "used": self.used,
            "rows": [[row.f_number, row.found.value, row.found.error] for row in self.rows],
        }


def new_key() -> str:
    """A key that no other finding has."""
    return secrets.token_hex(4)


_KEYS = ("key", "kind", "on", "focal_length_mm", "distance_mm", "body", "used", "rows")


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
    if not isinstance(one, dict) or set(one) != set(_KEYS):
        raise NotAFinding("A finding has a key, kind, date, lengths, body, rows, and no more.")
    if not isinstance(one["key"], str) or not re.fullmatch("[0-9a-f]{8}", one["key"]):
        raise NotAFinding("A finding's key is eight letters from 0 to f.")
    if one["kind"] not in KINDS:
        raise NotAFinding("A finding of that kind is not known.")
    try:
        on = datetime.date.fromisoformat(one["on"])
    except (TypeError, ValueError):
        raise NotAFinding("A finding's date is a year, a month and a day.") from None
    body = one["body"]
    if not isinstance(body, str) or len(body) > 60 or not body.isprintable():
        raise NotAFinding("A finding's body is a name of up to 60 letters.")
    if not isinstance(one["used"], bool):
        raise NotAFinding("A finding is used, or not.")
    distance = one["distance_mm"]
    return Finding(
        one["key"],
        one["kind"],
        on,
        _number(one["focal_length_mm"], 1, 3000),
        math.inf if distance is None else _number(distance, 1, 1e8),
        body,
        one["used"],
        _rows(one["rows"], KINDS[one["kind"]]),
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


def of_kind(found: Iterable[Finding], kind: str, focal_length: float | None) -> list[Finding]:
    """Findings of a kind that hold at a focal length, mm; at any, where none is said."""

    def holds(one: Finding) -> bool:
        return focal_length is None or abs(one.focal_length / focal_length - 1) <= _LENGTHS_ALIKE

    return [one for one in found if one.kind == kind and holds(one)]


def combined(found: Sequence[Finding]) -> tuple[Row, ...]:
    """Several findings of one kind, aperture by aperture, by their errors."""
    apertures = sorted({row.f_number for one in found for row in one.rows})
    rows = []
    for f_number in apertures:
        those = [row.found for one in found for row in one.rows if row.f_number == f_number]
        rows.append(Row(f_number, together(those)))
    return tuple(rows)


def odd(found: Sequence[Finding]) -> Finding | None:
    """The one of several findings of one kind that does not agree with the others."""
    for f_number in sorted({row.f_number for one in found for row in one.rows}):
        those = [(one, row.found) for one in found for row in one.rows if row.f_number == f_number]
        if (at := odd_one_out([value for _, value in those])) is not None:
            return those[at][0]
    return None


_FAR_APART = 1.8
"""Distances that differ by that factor are near and far."""


@dataclass(frozen=True, slots=True)
class Disagreement:
    """Two tests of one lens, near and far, that found different shifts at an aperture: the
    correction holds about the distance that each was made at, mm, and nowhere surely between."""

    f_number: float
    near: Finding
    far: Finding


def near_and_far(found: Sequence[Finding]) -> Disagreement | None:
    """Where tests of one kind, near and far, disagree by more than their errors; None where none
    does."""
    ordered = sorted(found, key=lambda one: one.distance)
    for near, far in combinations(ordered, 2):
        if far.distance < _FAR_APART * near.distance:
            continue
        theirs = {row.f_number: row.found for row in far.rows}
        for row in near.rows:
            other = theirs.get(row.f_number)
            if other is None:
                continue
            apart = abs(row.found.value - other.value)
            if apart > CLEAR * math.hypot(row.found.error, other.error):
                return Disagreement(row.f_number, near, far)
    return None


def faults(found: Sequence[Finding], focal_length: float | None) -> tuple[Fault, ...]:
    """What a lens gets wrong by its tests that are used, at a focal length, mm: for a ``Kit``.
    Empty where nothing was found, or nothing that is more than chance."""
    used = [one for one in found if one.used]
    shifts = combined(of_kind(used, SHIFT, focal_length))
    blurs = combined(of_kind(used, BLUR, focal_length))
    if not any(row.found.clear for row in shifts):
        shifts = ()
    by_aperture: dict[float, Fault] = {}
    for f_number in sorted({row.f_number for row in (*shifts, *blurs)}):
        by_aperture[f_number] = Fault(
            f_number,
            lens_disc=max(_between(blurs, f_number), 0.0),
            focus_shift=_between(shifts, f_number),
        )
    return tuple(by_aperture.values())


def _between(rows: Sequence[Row], f_number: float) -> float:
    """A value between apertures, in proportion to stops; beyond the last as there; 0 of none."""
    if not rows:
        return 0.0
    if f_number <= rows[0].f_number:
        return rows[0].found.value
    for low, high in pairwise(rows):
        if f_number <= high.f_number:
            share = math.log(f_number / low.f_number) / math.log(high.f_number / low.f_number)
            return low.found.value + share * (high.found.value - low.found.value)
    return rows[-1].found.value


def switched(found: Iterable[Finding], key: str, used: bool) -> list[dict[str, Any]]:
    """Findings as kept, one of them now used, or not."""
    return [(replace(one, used=used) if one.key == key else one).plain for one in found]
