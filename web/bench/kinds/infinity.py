"""True infinity: where the ring stands for stars, against its mark or its stop."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from drawing import readings_chart
from drawing.readings_chart import ReadingsChart
from optics.base import units
from optics.lens.focusing import travel_per_degree
from optics.lens.found import Found
from optics.lens.readings import LEAST, settled
from optics.lens.ring_found import ring_off
from simulator.lens import Lens as MadeUp
from web.bag import findings
from web.bag.models import Lens
from web.bench.forms import InfinityForm
from web.bench.kinds import made_up
from web.bench.kinds.base import Job, Kind, finding_of
from web.bench.kinds.base import Result as Any_
from web.bench.models import Reading
from web.planner.steps import Branch, Routine, Step
from web.ui.templatetags.format import figures2, fine

_READ_TO = 0.5
"""Degrees to either side that a ring can be read to."""
_HIDDEN, _JUST = 0.5, 1.0
_MARK, _STOP = "mark", "stop"


@dataclass(frozen=True, slots=True)
class Line:
    """True infinity at a focal length, mm. ``degrees``: past the mark, or before the stop, and
    their standard error; ``off`` the same behind the lens, mm; ``circles``: the blur of stars with
    the ring on the mark, wide open, in circles of the standard. ``sure``: whether
    the readings would show what the standard does."""

    focal_length: float
    against: str
    degrees: float
    error: float
    off: float
    off_error: float
    circles: float
    count: int
    clear: bool
    sure: bool
    f_number: float

    @property
    def past(self) -> bool:
        """Whether it lies past the mark."""
        return self.degrees > 0

    @property
    def size(self) -> float:
        """Degrees, whichever way."""
        return abs(self.degrees)

    @property
    def shown(self) -> str:
        """Whether stars hold with the ring on the mark, or at the stop: the word of the shape."""
        if not self.clear or self.circles <= _HIDDEN:
            return "holds"
        return "just" if self.circles <= _JUST else "soft"


@dataclass(frozen=True, slots=True, kw_only=True)
class Result(Any_):
    """True infinity by focal length. ``waits``: focal lengths with too few readings yet."""

    lines: tuple[Line, ...] = ()
    waits: tuple[tuple[float, int], ...] = ()
    chart: ReadingsChart | None = None
    throw_assumed: bool = False

    @property
    def ready(self) -> bool:
        """Whether there is something to keep."""
        return bool(self.lines)

    def found(self, job: Job) -> list[findings.Finding]:
        """A finding for each focal length."""
        kept = []
        for line in self.lines:
            kind = findings.RING if line.against == _MARK else findings.STOP
            row = findings.Row(line.f_number, Found(line.off, line.off_error))
            kept.append(finding_of(job, kind, (row,), line.focal_length, math.inf))
        return kept

    def into(self, lens: Lens) -> None:
        """What a trial frame said of the ring is in the readings now."""
        if any(line.against == _MARK for line in self.lines):
            lens.ring_off_mm = None


def _find(job: Job) -> Result:
    groups: dict[tuple[float, str], list[Reading]] = {}
    for reading in job.readings:
        length = float(reading.read.get("focal_length_mm") or job.lens.shortest_mm)
        groups.setdefault((length, str(reading.read["against"])), []).append(reading)
    lines, waits, rows, odd = [], [], [], set()
    for (length, against), those in sorted(groups.items()):
        if len(those) < LEAST:
            waits.append((length, LEAST - len(those)))
            continue
        per = _per_degree(job.lens, length)
        degrees = [_degrees(reading, length, per) for reading in those]
        told = settled(degrees, _READ_TO)
        if told.odd is not None:
            odd.add(those[told.odd].pk)
        line = _line(job, length, against, per, told.found, len(those))
        lines.append(line)
        allowed = _JUST * line.f_number * job.kit.coc / per
        way = -1.0 if against == _STOP else 1.0
        middle = way * told.found.value
        rows.append(
            readings_chart.Readings(
                tuple(way * turned for turned in degrees), middle, told.found.error,
                (middle - allowed, middle + allowed),
                f"{line.focal_length:g} mm" if job.lens.is_zoom else "",
            )
        )  # fmt: skip
    return Result(
        lines=tuple(lines),
        waits=tuple(waits),
        chart=readings_chart.drawn(rows) if rows else None,
        throw_assumed=job.lens.ring_is_assumed,
        odd=frozenset(odd),
    )


def _per_degree(lens: Lens, length: float) -> float:
    return float(travel_per_degree(lens.ring, length))


def _degrees(reading: Reading, length: float, per: float) -> float:
    """Past the mark, or before the stop."""
    read = reading.read
    if "says_mm" in read:
        return ring_off(length, float(read["says_mm"])) / per
    turned = float(read["turned_deg"])
    return -turned if read["against"] == _STOP else turned


def _line(job: Job, length: float, against: str, per: float, found: Found, count: int) -> Line:
    degrees, error = units.significant(found.value, 2), units.significant(found.error, 2)
    factor = 1.0 if job.behind is None else job.behind.factor
    off = units.significant(degrees * per * factor**2, 3)
    f_number = units.significant(job.lens.widest_at(length) * factor, 3)
    return Line(
        length * factor,
        against,
        degrees,
        error,
        off,
        max(units.significant(error * per * factor**2, 2), 1e-6),
        units.significant(abs(off) / f_number / job.kit.coc, 2),
        count,
        abs(degrees) > 3.0 * error,
        2.0 * error * per * factor**2 <= f_number * job.kit.coc,
        f_number,
    )


def _told(reading: Reading, system: str) -> str:
    """A reading in words."""
    read = reading.read
    at = f"{read['focal_length_mm']:g} mm: " if "focal_length_mm" in read else ""
    if "says_mm" in read:
        return f"{at}{fine(read['says_mm'], system)} on the ring"
    turned = float(read["turned_deg"])
    what = "stop" if read["against"] == _STOP else "mark"
    if not turned:
        return f"{at}at the {what}"
    return f"{at}{figures2(abs(turned))}° {'past' if turned > 0 else 'short of'} the {what}"


def _made_up(lens: Lens, luck: np.random.Generator, done: int, made: MadeUp) -> dict[str, object]:
    ends = (lens.shortest_mm, lens.longest_mm) if lens.is_zoom else (lens.shortest_mm,)
    length = float(ends[done % len(ends)])
    off = made.faults.infinity / _per_degree(lens, length)
    turned = round(2.0 * (off + float(luck.normal(0.0, 0.6)))) / 2.0
    zoomed = {"focal_length_mm": length} if lens.is_zoom else {}
    return {**zoomed, "turned_deg": turned, "against": _MARK}


_take, _next = made_up.readings(_made_up, 8)

INFINITY = Kind(
    key="infinity",
    name="True infinity",
    asks="Where does the ring stand for the stars: on its mark, past it, or short of it?",
    needs="A clear night, or lights a kilometre away; the magnified view; ten minutes.",
    waits="Focus on a star or a far light, read where the ring stands, write it down; turn the "
    "ring away, and once more. Three readings tell something, five tell it well.",
    more="Go on: three readings at a focal length tell something.",
    routine=Routine(
        key="infinity",
        name="True infinity",
        when="where the ring stands for the stars",
        steps=(
            Step(
                "Camera on a tripod, the lens as you use it.",
                "With the adapter, if you use one. A lens out of a warm car needs half an hour in "
                "the cold first: glass and metal shrink. Hood on, heater as for the night.",
            ),
            Step(
                "Point at a bright star, or at lights more than a kilometre away.",
                "Never at the sun. By day a ridge or a mast on the horizon does, for lenses up to "
                "200 mm.",
            ),
            Step(
                "Open the aperture all the way, magnify the view, and focus.",
                "Turn through the sharpest place and back until the star is smallest.",
                key="focus",
            ),
            Step(
                "Read where the ring stands, and write it down.",
                "Against the infinity mark: 2° past it, or 1.5° short; a lens of 60 mm across "
                "turns 2° in one millimetre. Or the distance that it says. A lens without marks: "
                "how far it is from its stop.",
                branches=(
                    Branch(
                        "I cannot tell degrees",
                        (
                            "Stick a strip of tape round the barrel and mark it at every focus.",
                            "Millimetres × 115 ÷ the barrel’s diameter in millimetres are degrees.",
                        ),
                    ),
                ),
            ),
            Step(
                "Turn the ring far away, and do it again.",
                "Three times at least, five are better: what they scatter by is what the answer is "
                "unsure by. A zoom: the same at both of its ends and in the middle.",
                branches=(Branch("Once more", ("Begin from the focus.",), back="focus"),),
            ),
        ),
    ),
    find=_find,
    made_up=_take,
    next=_next,
    reading=InfinityForm,
    told=_told,
)
"""True infinity."""
