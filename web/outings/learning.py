"""What frames teach: the share that held, by what was done; which way focus is missed; how far off
one judges by eye. It is told, and changes nothing by itself."""

from __future__ import annotations

import math
import statistics
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from typing import Any

from optics.base import units
from optics.base.units import Measures
from optics.zones.judging import Judgement, judged
from web.outings.found import length_of
from web.outings.models import Entry, Frame, State, What
from web.people.models import Owner
from web.ui.fields import read_length

MOST = 5000
"""The last so many frames are learnt from."""
_NOT_SAID = "not said"
ENOUGH = 4
"""Of frames, or of judged distances: with fewer, nothing is made of them."""
_NEAR, _MIDDLE = 2000.0, 10_000.0
_CLEAR = 2.0


@dataclass(frozen=True, slots=True)
class Share:
    """Of frames taken so: how many there are, and how many held."""

    name: str
    count: int
    held: int

    @property
    def share(self) -> float:
        """Of them, 0 to 1."""
        return self.held / self.count


@dataclass(frozen=True, slots=True)
class Table:
    """Shares by one thing."""

    title: str
    rows: tuple[Share, ...]

    @property
    def tells(self) -> bool:
        """Whether anything is said of any."""
        return any(row.name != _NOT_SAID for row in self.rows)


@dataclass(frozen=True, slots=True)
class Missed:
    """Where focus falls against where it was meant, at one stretch of distance: how many frames,
    how many too near and too far, and by how much on the whole, µm at the sensor, positive for too
    near; ``clear``: whether that is more than chance."""

    where: str
    count: int
    near: int
    far: int
    off_um: float
    clear: bool


@dataclass(frozen=True, slots=True)
class Judged:
    """How one judges distances, by eye; ``points``: each day, and how far off, a share. ``off``:
    how far off one is, by bias and scatter together, as it is written."""

    of: Judgement | None
    points: tuple[tuple[str, float], ...]

    @property
    def count(self) -> int:
        """How many were judged."""
        return 0 if self.of is None else self.of.count

    @property
    def enough(self) -> bool:
        """Whether something can be made of it."""
        return self.count >= ENOUGH

    @property
    def dots(self) -> list[tuple[float, float]]:
        """Where each stands in a drawing of 100 × 40: the first to the left, true in the middle,
        too far above it."""
        step = 96.0 / max(len(self.points) - 1, 1)
        highest = max((abs(off) for _, off in self.points), default=0.0)
        scale = 17.0 / max(highest, 0.1)
        return [(2.0 + at * step, 20.0 - off * scale) for at, (_, off) in enumerate(self.points)]

    @property
    def off(self) -> float:
        """As a share, as it is written."""
        return 0.0 if self.of is None else units.significant(self.of.off, 2)


@dataclass(frozen=True, slots=True)
class Month:
    """A month: how many frames, and the share that held."""

    name: str
    count: int
    share: float


@dataclass(frozen=True, slots=True)
class Learnt:
    """All of it."""

    count: int
    held: int
    tables: tuple[Table, ...]
    missed: tuple[Missed, ...]
    causes: tuple[tuple[str, int], ...]
    months: tuple[Month, ...]
    judged: Judged


def learnt(owner: Owner) -> Learnt:
    """What an owner's frames teach."""
    rows = Frame.objects.filter(
        outing__owner=owner, outing__deleted=None, state__in=(State.HELD, State.SOFT)
    ).order_by("-order")
    frames = list(rows.defer("marks", "keywords")[:MOST])
    held = sum(1 for frame in frames if _held(frame))
    return Learnt(
        len(frames),
        held,
        tuple(table for table in _tables(frames) if table.tells),
        _missed(frames),
        _causes(frames),
        _months(frames),
        judged_by(owner),
    )


def _held(frame: Frame) -> bool | None:
    return (frame.found or {}).get("held")


def _tables(frames: Sequence[Frame]) -> Iterable[Table]:
    def of(title: str, name: Any) -> Table:
        groups: dict[str, list[Frame]] = {}
        for frame in frames:
            groups.setdefault(name(frame.found) or _NOT_SAID, []).append(frame)
        rows = (
            Share(name, len(group), sum(1 for one in group if _held(one)))
            for name, group in groups.items()
        )
        return Table(title, tuple(sorted(rows, key=lambda row: -row.count)))

    yield of("by way of placing", lambda found: found["place"] or "infinity")
    yield of("by lens", lambda found: found["lens"])
    yield of("by aperture", lambda found: f"f/{units.significant(found['f_number'], 2):g}")
    yield of("by distance", lambda found: where_of(found["planned_mm"]))
    yield of("by way of focusing", lambda found: found["way"])


def where_of(length: float | str) -> str:
    """A stretch of distance, in words."""
    value = length_of(length)
    return "close" if value < _NEAR else "in the middle" if value < _MIDDLE else "far"


def _missed(frames: Sequence[Frame]) -> tuple[Missed, ...]:
    found = []
    for where in ("close", "in the middle", "far"):
        fell = [
            (frame.found or {})["fell"]
            for frame in frames
            if (frame.found or {}).get("fell")
            and where_of((frame.found or {})["planned_mm"]) == where
        ]
        offs = [one["off_um"] for one in fell if one["sure"]]
        if len(offs) < ENOUGH:
            continue
        middle = statistics.fmean(offs)
        error = statistics.stdev(offs) / math.sqrt(len(offs))
        near = sum(1 for one in fell if one["missed"] == "near")
        far = sum(1 for one in fell if one["missed"] == "far")
        found.append(Missed(where, len(offs), near, far, units.significant(middle, 2),
                            abs(middle) > _CLEAR * error))  # fmt: skip
    return tuple(found)


def _causes(frames: Sequence[Frame]) -> tuple[tuple[str, int], ...]:
    counts: dict[str, int] = {}
    for frame in frames:
        for mark in (frame.found or {}).get("marks", []):
            if mark["word"] == "soft" and mark["parts"]:
                name = mark["parts"][0][0]
                counts[name] = counts.get(name, 0) + 1
                break
    return tuple(sorted(counts.items(), key=lambda one: -one[1]))


def _months(frames: Sequence[Frame]) -> tuple[Month, ...]:
    groups: dict[str, list[Frame]] = {}
    for frame in frames:
        if frame.at is not None:
            groups.setdefault(f"{frame.at:%Y-%m}", []).append(frame)
    return tuple(
        Month(name, len(group), sum(1 for one in group if _held(one)) / len(group))
        for name, group in sorted(groups.items())
    )


def judged_by(owner: Owner) -> Judged:
    """How an owner judges distances by eye, by what they logged."""
    entries = Entry.objects.filter(
        outing__owner=owner, outing__deleted=None, what=What.JUDGED
    ).order_by("at")
    pairs, points = [], []
    for entry in entries:
        pair = said_and_was(entry.says, owner.units, owner.measures)
        if pair is not None:
            pairs.append(pair)
            points.append((f"{entry.at:%Y-%m-%d}", pair[0] / pair[1] - 1.0))
    return Judged(judged(pairs) if pairs else None, tuple(points))


def said_and_was(
    says: dict[str, str], system: str, measures: Measures
) -> tuple[float, float] | None:
    """A distance as it was judged and as it was, mm; None where either is none."""
    try:
        pair = [read_length(says.get(name, ""), system, measures) for name in ("judged", "was")]
    except Exception:  # whatever a device sent that is no length
        return None
    low, high = 100.0, 1e6
    return (pair[0], pair[1]) if all(low <= one <= high for one in pair) else None
