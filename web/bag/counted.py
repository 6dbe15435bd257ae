"""What findings of a lens come to: laid together by their errors, and as a planner counts them."""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from itertools import combinations, pairwise

from optics.lens.focusing import Tried, travel_per_degree
from optics.lens.found import CLEAR, Found, odd_one_out, together
from optics.lens.kit import Fault
from optics.lens.ring import Ring
from web.bag.findings import BLUR, RING, SHIFT, STOP, WAY, Finding, Row

_LENGTHS_ALIKE = 0.05
"""A zoom tested at a focal length is known there, and within that share of it."""


def of_kind(
    found: Iterable[Finding], kind: str, focal_length: float | None, adapter: str | None = ""
) -> list[Finding]:
    """Findings of a kind that hold at a focal length, mm; at any, where none is said. ``adapter``:
    behind the lens, empty for none; None for whatever there is."""

    def holds(one: Finding) -> bool:
        if one.kind != kind or adapter not in (None, one.adapter):
            return False
        return focal_length is None or abs(one.focal_length / focal_length - 1) <= _LENGTHS_ALIKE

    return [one for one in found if holds(one)]


def alike(found: Iterable[Finding]) -> list[list[Finding]]:
    """Findings of one thing each: of one kind, behind nothing or the same, of one way of focusing,
    at one focal length."""
    groups: list[list[Finding]] = []
    for one in found:
        for group in groups:
            first = group[0]
            same = (one.kind, one.adapter, one.way) == (first.kind, first.adapter, first.way)
            if same and of_kind([one], one.kind, first.focal_length, one.adapter):
                group.append(one)
                break
        else:
            groups.append([one])
    return groups


def combined(found: Sequence[Finding]) -> tuple[Row, ...]:
    """Several findings of one kind, aperture by aperture, by their errors."""
    apertures = sorted({row.f_number for one in found for row in one.rows})
    rows = []
    for f_number in apertures:
        those = [row.found for one in found for row in one.rows if row.f_number == f_number]
        rows.append(Row(f_number, together(those)))
    return tuple(rows)


def value_of(found: Sequence[Finding]) -> Found:
    """Several findings of one thing that does not go by aperture, by their errors."""
    return together([one.value for one in found])


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


def faults(
    found: Sequence[Finding], focal_length: float | None, adapter: str = ""
) -> tuple[Fault, ...]:
    """What a lens gets wrong by its tests that are used, at a focal length, mm: for a ``Kit``.
    Empty where nothing was found, or nothing that is more than chance. A ring that is off counts as
    a shift at every aperture. ``adapter``: behind the lens; its tests were made with it."""
    used = [one for one in found if one.used]
    shifts = combined(of_kind(used, SHIFT, focal_length, adapter))
    blurs = combined(of_kind(used, BLUR, focal_length, adapter))
    off = ring_off(used, focal_length, adapter)
    if not any(row.found.clear for row in shifts):
        shifts = ()
    apertures = sorted({row.f_number for row in (*shifts, *blurs)})
    if not apertures and off:
        apertures = [ANY_APERTURE]
    return tuple(
        Fault(
            f_number,
            lens_disc=max(_between(blurs, f_number), 0.0),
            focus_shift=_between(shifts, f_number) - off,
        )
        for f_number in apertures
    )


ANY_APERTURE = 1.0


def ring_off(found: Iterable[Finding], focal_length: float | None, adapter: str = "") -> float:
    """How much more a lens stands out than its ring reads, by its tests that are used, mm; 0 where
    that is no more than chance."""
    used = (one for one in found if one.used)
    rings = [one.value for one in of_kind(used, RING, focal_length, adapter)]
    if not rings:
        return 0.0
    off = together(rings)
    return off.value if off.clear else 0.0


@dataclass(frozen=True, slots=True)
class Infinity:
    """Where the ring stands for infinity by tests: degrees past its mark, below 0 short of it, and
    before its stop; None where no test says."""

    past_mark: float | None
    before_stop: float | None


def infinity_of(
    found: Sequence[Finding], ring: Ring, focal_length: float, adapter: str, factor: float
) -> Infinity:
    """True infinity on a ring. ``focal_length``: with what is behind the lens, mm, whose name and
    ``factor`` those are."""
    per = travel_per_degree(ring, focal_length / factor) * factor**2
    off = ring_off(found, focal_length, adapter)
    used = (one for one in found if one.used)
    stops = [one.value for one in of_kind(used, STOP, focal_length, adapter)]
    return Infinity(off / per if off else None, together(stops).value / per if stops else None)


def ways_of(found: Iterable[Finding], body: str) -> dict[str, Tried]:
    """How well each way of focusing did in tests that are used, on a body: its name."""
    groups = alike(one for one in found if one.used and one.kind == WAY and one.body == body)
    return {
        group[0].way: Tried(
            together([one.value for one in group]).value, max(one.scatter for one in group)
        )
        for group in groups
    }


def _between(rows: Sequence[Row], f_number: float) -> float:
    """A value between apertures, in proportion to stops; beyond the last as there; 0 of none."""
    if not rows:
        return 0.0
    if f_number <= rows[0].f_number:
        return rows[0].found.value
    for low, high in pairwise(rows):
        if f_number == high.f_number:
            return high.found.value
        if f_number < high.f_number:
            share = math.log(f_number / low.f_number) / math.log(high.f_number / low.f_number)
            return low.found.value + share * (high.found.value - low.found.value)
    return rows[-1].found.value
