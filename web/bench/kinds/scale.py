"""Scale and throw: what the ring says against a tape, and how far it turns."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from drawing import readings_chart
from drawing.readings_chart import ReadingsChart
from optics.base import settable, units
from optics.lens.conjugates import focus_of, magnification
from optics.lens.focusing import travel_per_degree
from optics.lens.found import Found
from optics.lens.readings import LEAST, settled
from optics.lens.ring_found import MarkRead, ring_law, ring_off
from optics.lens.ring_found import marks_read as worth
from optics.lens.setup import Setup
from simulator.lens import Lens as MadeUp
from web.bag import findings
from web.bag.models import Lens
from web.bench.forms import ScaleForm
from web.bench.kinds import made_up
from web.bench.kinds.base import Job, Kind, finding_of
from web.bench.kinds.base import Result as Any_
from web.bench.kinds.scale_steps import ROUTINE
from web.bench.models import Reading
from web.ui.templatetags.format import fine, number

_READ_TO_DEGREES = 0.5
_READ_TO = 0.03
"""Of a distance: a scale is read no finer."""
_CLEAR = 3.0


@dataclass(frozen=True, slots=True)
class Line:
    """A reading: the taped distance, mm; what the ring said, and how much more the lens stood out
    than that, mm, nan where only its turn was read; its turn, degrees, nan where it was not, and by
    how much it is off the law; and where the thing is sharp with the ring on its own distance."""

    key: int
    distance: float
    says: float
    off: float
    turned: float
    off_law: float
    stands_at: float


@dataclass(frozen=True, slots=True)
class Scale:
    """What the engraved distances are worth. ``off``: how much more the lens stands out than its
    ring says, mm, and its error; ``band`` by how much a reading differs from that. ``sure``:
    whether the readings would show what the standard does, wide open."""

    off: float
    error: float
    band: float
    clear: bool
    sure: bool

    @property
    def stands_out(self) -> bool:
        """Whether the lens stands out more than its ring says: sharp is nearer than it says."""
        return self.off > 0

    @property
    def size(self) -> float:
        """Whichever way, mm."""
        return abs(self.off)


@dataclass(frozen=True, slots=True)
class Turned:
    """How the ring turns, degrees: from infinity to its closest focus, and where infinity is from
    the mark; standard errors; and by how much a reading differs from the law."""

    throw: float
    throw_error: float
    infinity: float
    infinity_error: float
    band: float
    travel: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Result(Any_):
    """What is found of scale and throw. ``marks``: what each engraved depth-of-field mark is worth
    by the standard in hand; ``read_marks`` pairs to be the ring's, mm and degrees."""

    lines: tuple[Line, ...] = ()
    scale: Scale | None = None
    turned: Turned | None = None
    marks: tuple[MarkRead, ...] = ()
    engraved: float = math.nan
    wanted: float = math.nan
    read_marks: tuple[tuple[float, float], ...] = ()
    chart: ReadingsChart | None = None
    needs: int = LEAST

    @property
    def ready(self) -> bool:
        """Whether there is something to keep."""
        return self.scale is not None or self.turned is not None

    @property
    def trusted(self) -> bool:
        """Whether every mark may be read as it stands."""
        return all(mark.trusted for mark in self.marks)

    def found(self, job: Job) -> list[findings.Finding]:
        """How far the ring is off what is engraved on it."""
        if self.scale is None:
            return []
        found = Found(self.scale.off, self.scale.error)
        length = float(job.lens.shortest_mm)
        distance = float(
            np.exp(np.mean([math.log(min(line.distance, 1e6)) for line in self.lines]))
        )
        row = findings.Row(float(job.lens.widest), found)
        return [finding_of(job, findings.RING, (row,), length, units.significant(distance, 3))]

    def into(self, lens: Lens) -> None:
        """The ring's marks as they were measured, and its throw."""
        if self.scale is not None:
            lens.ring_off_mm = None
        if self.turned is not None:
            lens.throw_deg = abs(self.turned.throw)
            lens.marks = [
                [None if math.isinf(distance) else distance, turned]
                for distance, turned in self.read_marks
            ]


def _find(job: Job) -> Result:
    if len(job.readings) < LEAST:
        return Result(
            lines=tuple(_line(one, job, {}) for one in job.readings),
            needs=LEAST - len(job.readings),
        )
    said = [one for one in job.readings if "says_mm" in one.read]
    turned = [one for one in job.readings if "turned_deg" in one.read]
    scale, odd = _scale(said, job) if len(said) >= LEAST else (None, frozenset[int]())
    law, left = _law(turned, job)
    lines = tuple(_line(one, job, left) for one in job.readings)
    offs = [line.off for line in lines if line.off == line.off]
    chart = None
    if scale is not None:
        allowed = job.kit.coc * float(job.lens.widest)
        row = readings_chart.Readings(tuple(offs), scale.off, scale.error, (-allowed, allowed))
        chart = readings_chart.drawn([row])
    marks: tuple[MarkRead, ...] = ()
    circle = job.lens.depth_marks_circle_mm
    if scale is not None and job.lens.depth_marks and circle:
        numbers = [float(number) for number in job.lens.depth_marks]
        marks = worth(numbers, circle, job.kit.coc, abs(scale.off) + 2.0 * scale.band)
    return Result(
        lines=lines, scale=scale, turned=law, marks=marks, wanted=job.kit.coc, chart=chart, needs=0,
        engraved=circle or math.nan, read_marks=_marks(turned) if law is not None else (), odd=odd,
    )  # fmt: skip


def _scale(said: list[Reading], job: Job) -> tuple[Scale, frozenset[int]]:
    length = float(job.lens.shortest_mm)
    offs = [_off(one, length) for one in said]
    setup = Setup(length, 1.0, 1.0)
    finest = float(
        np.median(
            [_READ_TO * length * magnification(setup, one.read["distance_mm"]) for one in said]
        )
    )
    told = settled(offs, max(finest, 1e-5))
    off, error = units.significant(told.found.value, 2), units.significant(told.found.error, 2)
    odd = frozenset() if told.odd is None else frozenset({said[told.odd].pk})
    sure = 2.0 * error <= job.kit.coc * float(job.lens.widest)
    scale = Scale(off, error, units.significant(told.scatter, 2), abs(off) > _CLEAR * error, sure)
    return scale, odd


def _off(reading: Reading, length: float) -> float:
    read = reading.read
    return ring_off(length, float(read["says_mm"]), float(read["distance_mm"]))


def _law(turned: list[Reading], job: Job) -> tuple[Turned | None, dict[int, float]]:
    """The law of a ring, where enough turns were read at different distances."""
    pairs = [(one.read["distance_mm"], math.radians(one.read["turned_deg"])) for one in turned]
    if len(pairs) < LEAST or len({distance for distance, _ in pairs}) < 2:
        return None, {}
    length = float(job.lens.shortest_mm)
    closest = float(job.lens.closest_or_assumed.value)
    law = ring_law(length, pairs, closest, math.radians(_READ_TO_DEGREES))
    left = {one.pk: math.degrees(off) for one, off in zip(turned, law.left, strict=True)}
    found = Turned(
        units.significant(math.degrees(law.throw.value), 3),
        units.significant(math.degrees(law.throw.error), 2),
        units.significant(math.degrees(law.infinity.value), 2),
        units.significant(math.degrees(law.infinity.error), 2),
        units.significant(math.degrees(law.band), 2),
        units.significant(law.travel * math.pi / 180, 2),
    )
    return found, left


def _marks(turned: list[Reading]) -> tuple[tuple[float, float], ...]:
    """Each distance once, with the mean of its turns; empty where they do not go one way, as no
    ring's marks do."""
    by: dict[float, list[float]] = {}
    for one in turned:
        by.setdefault(float(one.read["distance_mm"]), []).append(float(one.read["turned_deg"]))
    pairs = [(d, units.significant(float(np.mean(turns)), 3)) for d, turns in sorted(by.items())]
    steps = np.diff([turn for _, turn in pairs])
    return tuple(pairs) if bool(np.all(steps > 0) or np.all(steps < 0)) else ()


def _line(reading: Reading, job: Job, left: dict[int, float]) -> Line:
    read, length = reading.read, float(job.lens.shortest_mm)
    distance, says = float(read["distance_mm"]), float(read.get("says_mm", math.nan))
    off = stands = math.nan
    if says == says:
        off = units.significant(ring_off(length, says, distance), 2)
        stands = _stands_at(length, distance, off, job.system)
    turned = float(read.get("turned_deg", math.nan))
    rest = units.significant(left[reading.pk], 2) if reading.pk in left else math.nan
    return Line(reading.pk, distance, says, off, turned, rest, stands)


def _stands_at(length: float, distance: float, off: float, system: str) -> float:
    """Where things are sharp with the ring on a distance, if it is off there by as much, mm."""
    setup = Setup(length, 1.0, 1.0)
    ring = float(magnification(setup, distance)) + off / length
    sharp = math.inf if ring <= 0 else float(focus_of(setup, min(ring, 1.0)))
    return settable.nearest(sharp, system, settable.FINE)


def _told(reading: Reading, system: str) -> str:
    """A reading in words."""
    read = reading.read
    parts = []
    if "says_mm" in read:
        parts.append(f"the ring says {fine(read['says_mm'], system)}")
    if "turned_deg" in read:
        parts.append(f"turned by {number(read['turned_deg'])}°")
    return f"At {fine(read['distance_mm'], system)}: {', '.join(parts)}"


def _made_up(lens: Lens, luck: np.random.Generator, done: int, made: MadeUp) -> dict[str, object]:
    distance = max(made.focal_length * (24.0, 36.0, 60.0, 100.0, 160.0, 300.0)[done], 300.0)
    distance = units.significant(distance, 2)
    ring = made.stands_for(distance) + float(luck.normal(0.0, 0.012)) / made.focal_length
    says = made.reads(ring)
    per = float(travel_per_degree(lens.ring, made.focal_length))
    turned = (ring * made.focal_length - made.faults.infinity) / per + float(luck.normal(0.0, 0.4))
    read = says if math.isinf(says) else units.significant(says, 2)
    nearest = max(read, 4.0 * lens.longest_mm)
    return {"distance_mm": distance, "says_mm": nearest, "turned_deg": round(2.0 * turned) / 2.0}


_take, _next = made_up.readings(_made_up, 6)

SCALE = Kind(
    key="scale",
    name="Scale and throw",
    asks="Do the distances on your ring hold, and how far does it turn?",
    needs="A tape, something with fine print, the magnified view; a quarter of an hour.",
    waits="Put something with fine print at a taped distance, focus on it by the magnified view, "
    "and write down what the ring says, or by how much it is turned. Three readings tell "
    "something.",
    more="Go on: three readings tell something, at distances from near to far.",
    routine=ROUTINE,
    find=_find,
    made_up=_take,
    next=_next,
    reading=ScaleForm,
    told=_told,
)
"""Scale and throw."""
