"""The circle that a camera's depth-of-field bar, or a lens's engraved marks, were made for."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from drawing import readings_chart
from drawing.readings_chart import ReadingsChart
from optics.base import units
from optics.base.errors import OpticsError
from optics.lens.depth import limits
from optics.lens.found import Found
from optics.lens.readings import LEAST, settled
from optics.lens.setup import Setup
from optics.lens.standards import circles_from_limits, stops_tighter
from simulator.lens import Lens as MadeUp
from web.bag import findings
from web.bag.models import Lens
from web.bench.forms import CircleForm
from web.bench.kinds import made_up
from web.bench.kinds.base import Job, Kind, finding_of
from web.bench.kinds.base import Result as Any_
from web.bench.models import Reading
from web.planner.steps import Branch, Routine, Step
from web.ui.templatetags.format import f_number, fine

_FINEST = 0.02
"""Of a circle: bars and marks are drawn no finer."""


@dataclass(frozen=True, slots=True)
class Line:
    """What one reading says. ``near``, ``far``: the circles its limits speak of, mm; nan where the
    far one is infinity."""

    key: int
    words: str
    near: float
    far: float
    circle: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Result(Any_):
    """The circle, mm, and its standard error; how many stops tighter the standard in hand is than
    it; and whether near and far limits speak of clearly different circles."""

    lines: tuple[Line, ...] = ()
    circle: float = math.nan
    error: float = math.nan
    wanted: float = math.nan
    stops: float = math.nan
    uneven: bool = False
    chart: ReadingsChart | None = None
    needs: int = LEAST

    @property
    def ready(self) -> bool:
        """Whether there is something to keep."""
        return not math.isnan(self.circle)

    @property
    def tighter(self) -> bool:
        """Whether the standard in hand is the stricter one."""
        return self.stops > 0

    @property
    def stops_apart(self) -> float:
        """Stops, whichever way."""
        return abs(self.stops)

    @property
    def alike(self) -> bool:
        """Whether both are the same as far as the readings tell."""
        return abs(self.circle - self.wanted) <= 2.0 * self.error

    def found(self, job: Job) -> list[findings.Finding]:
        """The circle."""
        row = findings.Row(float(job.lens.widest), Found(self.circle, self.error))
        length = float(job.test.focal_length_mm or job.lens.shortest_mm)
        return [finding_of(job, findings.CIRCLE, (row,), length, math.inf)]

    def standard(self, job: Job) -> tuple[str, float]:
        """The circle of a bar, as a standard."""
        return f"The bar of the {job.test.body or 'camera'}"[:60], self.circle

    def into(self, lens: Lens) -> None:
        """The circle of its engraved marks."""
        lens.depth_marks_circle_mm = self.circle


def _find(job: Job) -> Result:
    lines, odd = [], frozenset[int]()
    for reading in job.readings:
        try:
            lines.append(_line(reading, job))
        except OpticsError as error:
            return Result(wrong=error.sentence, at=_told(reading, job.system))
    if len(lines) < LEAST:
        return Result(lines=tuple(lines), needs=LEAST - len(lines))
    circles = [line.circle for line in lines]
    told = settled(circles, _FINEST * float(np.median(circles)))
    if told.odd is not None:
        odd = frozenset({lines[told.odd].key})
    circle = units.significant(told.found.value, 3)
    unsure = units.significant(told.found.error, 2)
    both = [line.far / line.near for line in lines if line.far == line.far]
    uneven = bool(both) and abs(math.log(float(np.median(both)))) > math.log(1.25)
    chart = readings_chart.drawn([readings_chart.Readings(tuple(circles), circle, unsure)], False)
    return Result(
        lines=tuple(lines), circle=circle, error=unsure, wanted=job.kit.coc, uneven=uneven,
        stops=units.significant(stops_tighter(circle, job.kit.coc), 2), chart=chart, needs=0,
        odd=odd,
    )  # fmt: skip


def _line(reading: Reading, job: Job) -> Line:
    read = reading.read
    length = float(read.get("focal_length_mm") or job.lens.shortest_mm)
    said = circles_from_limits(
        length, float(read["f_number"]), float(read["focus_mm"]), float(read["near_mm"]),
        float(read["far_mm"]),
    )  # fmt: skip
    far = math.nan if said.far is None else units.significant(said.far, 3)
    near, circle = units.significant(said.near, 3), units.significant(said.circle, 3)
    return Line(reading.pk, _told(reading, job.system), near, far, circle)


def _told(reading: Reading, system: str) -> str:
    """A reading in words."""
    read = reading.read
    at = f"{read['focal_length_mm']:g} mm, " if "focal_length_mm" in read else ""
    focus, near, far = (fine(read[name], system) for name in ("focus_mm", "near_mm", "far_mm"))
    return f"{at}{f_number(read['f_number'])} on {focus}: {near} to {far}"


_STRICTEST, _LOOSEST = 0.018, 0.038


def _made_up(lens: Lens, luck: np.random.Generator, done: int, made: MadeUp) -> dict[str, object]:
    hidden = _STRICTEST + (_LOOSEST - _STRICTEST) * (0.5 + 4.0 * made.faults.infinity)
    length = float(lens.shortest_mm)
    focus = length * (40.0, 60.0, 90.0, 50.0, 70.0)[done]
    stop = (5.6, 8.0, 8.0, 11.0, 5.6)[done]
    shown = limits(Setup(length, stop, hidden), focus)

    def coarse(limit: float) -> float:
        return limit if math.isinf(limit) else units.significant(limit, 2)

    zoomed = {"focal_length_mm": length} if lens.is_zoom else {}
    ends = min(coarse(float(shown.near)), 0.99 * focus), max(coarse(float(shown.far)), 1.01 * focus)
    return {**zoomed, "f_number": stop, "focus_mm": focus, "near_mm": ends[0], "far_mm": ends[1]}


_take, _next = made_up.readings(_made_up, 5)

CIRCLE = Kind(
    key="circle",
    name="The circle of a bar or of engraved marks",
    asks="How strict is your camera’s depth-of-field bar, or the marks on your lens?",
    needs="The camera or the lens in your hand; three readings; two minutes.",
    waits="Set an aperture and a distance, read the two limits that the bar or the marks show, and "
    "write them down. Three readings tell something.",
    more="Go on: three readings tell something.",
    routine=Routine(
        key="circle",
        name="The circle of a bar or of engraved marks",
        when="what sharpness a bar on the screen, or marks on a lens, were made for",
        steps=(
            Step(
                "Set an aperture of some f/8, and a distance of some 50 focal lengths.",
                "For 50 mm that is 2.5 m. Far limits that are not infinity say more.",
            ),
            Step(
                "Read the near and the far limit.",
                "On the screen’s bar, or under the pair of marks for that aperture. As finely as "
                "you can: half way between two numbers is a reading too.",
                branches=(
                    Branch(
                        "The bar has no numbers",
                        ("Then it tells nothing: use the marks on the lens.",),
                    ),
                ),
            ),
            Step(
                "Do it at two other apertures or distances.",
                "What they differ by is what the answer is unsure by.",
            ),
        ),
    ),
    find=_find,
    made_up=_take,
    next=_next,
    reading=CircleForm,
    told=_told,
)
"""The circle of a bar or of engraved marks."""
