"""Ways of focusing: how far each puts the focus beside the thing, and by how much it scatters."""

from __future__ import annotations

from dataclasses import dataclass

from drawing import readings_chart
from drawing.readings_chart import ReadingsChart
from imaging import shift
from imaging.errors import PictureError
from optics.base import units
from optics.lens.focusing import Way
from optics.lens.found import Found
from optics.lens.readings import LEAST, settled
from web.bag import findings
from web.bench.frames import missing, seen_of
from web.bench.kinds import made_up
from web.bench.kinds.base import Job, Kind, finding_of
from web.bench.kinds.base import Result as Any_
from web.bench.kinds.sheet_steps import BRING, PRINT
from web.bench.models import Frame, Test
from web.planner.steps import Branch, Routine, Step
from web.ui.templatetags.format import f_number, focus_way

_FINEST = 0.0005
"""mm behind the lens: a frame of the sheet tells no finer."""
_HIDDEN, _JUST = 0.5, 1.0


@dataclass(frozen=True, slots=True)
class Line:
    """A way of focusing: how far in front of the thing it puts the focus, mm behind the lens, below
    0 behind it; its standard error; by how much one time differs from the next; the blur that a
    hurried day makes, in circles of the standard at the aperture focused at."""

    way: str
    bias: float
    error: float
    scatter: float
    circles: float
    count: int
    clear: bool

    @property
    def size(self) -> float:
        """Of the bias, mm, whichever way."""
        return abs(self.bias)

    @property
    def in_front(self) -> bool:
        """Whether it focuses in front of the thing."""
        return self.bias > 0

    @property
    def shown(self) -> str:
        """Whether it holds wide open: the word of the shape."""
        if self.circles <= _HIDDEN:
            return "holds"
        return "just" if self.circles <= _JUST else "soft"


@dataclass(frozen=True, slots=True, kw_only=True)
class Result(Any_):
    """Ways of focusing, the surest first. ``waits``: those with too few frames yet, and how many
    more; ``wide``: the aperture that they were tried at."""

    lines: tuple[Line, ...] = ()
    waits: tuple[tuple[str, int], ...] = ()
    wide: float = 0.0
    distance: float = 0.0
    focal_length: float = 0.0
    chart: ReadingsChart | None = None
    odd_frames: tuple[str, ...] = ()

    @property
    def ready(self) -> bool:
        """Whether there is something to keep."""
        return bool(self.lines)

    def found(self, job: Job) -> list[findings.Finding]:
        """Each way by itself."""
        kept = []
        for line in self.lines:
            row = findings.Row(self.wide, Found(line.bias, line.error))
            more = {"way": line.way, "scatter": line.scatter}
            kept.append(
                finding_of(job, findings.WAY, (row,), self.focal_length, self.distance, **more)
            )
        return kept


def _find(job: Job) -> Result:
    good, test = job.good, job.test
    if any(missing(frame, test) for frame in good):
        return Result(lacks=True)
    if not good:
        return Result()
    try:
        seen = seen_of(test, good)
        series = shift.compared(seen)
    except PictureError as error:
        return Result(wrong=error.sentence, at=error.place)
    wide = seen[0].taken.f_number
    other = next((one.taken for one in seen if one.taken.f_number != wide), None)
    if other is not None:
        return Result(
            wrong=f"It was taken at {f_number(other.f_number)}, the first at {f_number(wide)}: "
            "ways of focusing are compared at one aperture, the widest.",
            at=other.name,
        )
    by_way: dict[str, list[tuple[Frame, float]]] = {}
    for frame, best in zip(good, series.best, strict=True):
        by_way.setdefault(frame.way, []).append((frame, best.off))
    lines, rows, odd = [], {}, []
    for way, those in by_way.items():
        if len(those) < LEAST or not way:
            continue
        offs = tuple(off for _, off in those)
        told = settled(offs, _FINEST)
        if told.odd is not None:
            odd.append(those[told.odd][0].name)
        bias = units.significant(told.found.value, 2)
        unsure = units.significant(told.found.error, 2)
        scatter = units.significant(told.scatter, 2)
        circles = units.significant((abs(bias) + 2.0 * scatter) / wide / job.kit.coc, 2)
        clear = abs(bias) > 3.0 * unsure
        lines.append(Line(way, bias, unsure, scatter, circles, len(those), clear))
        allowed = wide * job.kit.coc
        rows[way] = readings_chart.Readings(offs, bias, unsure, (-allowed, allowed), focus_way(way))
    lines.sort(key=lambda line: line.circles)
    waits = tuple((w, LEAST - len(those)) for w, those in by_way.items() if len(those) < LEAST)
    return Result(
        lines=tuple(lines), waits=waits, wide=wide, odd_frames=tuple(odd),
        distance=units.significant(series.distance, 3), focal_length=seen[0].taken.focal_length,
        chart=readings_chart.drawn([rows[line.way] for line in lines]) if lines else None,
    )  # fmt: skip


def _next(test: Test) -> str | None:
    coming = made_up.next_way(test)
    return None if coming is None else f"a frame focused {focus_way(coming[0])}"


CHOICES = (Way.LIGHT, Way.SPOT, Way.MAGNIFIED, Way.SCALE, Way.EYE)

WAYS = Kind(
    key="ways",
    name="Ways of focusing",
    asks="How well do confirmation light, autofocus, magnified view and scale do, in your hands?",
    needs="The printed target, a tripod, three frames or more for each way: twenty minutes.",
    waits="Choose a way of focusing, bring at least three frames that were focused by it, each "
    "anew; then the next way.",
    more="",
    routine=Routine(
        key="ways",
        name="Ways of focusing",
        when="how far each way of focusing is off, and how much it scatters",
        steps=(
            PRINT,
            Step(
                "Lean it back by some 45°, its rings at the far end, the camera on a tripod.",
                "Some thirteen focal lengths away, as for a test of focus shift: all six round "
                "marks in the frame.",
            ),
            Step(
                "Open the aperture all the way, and aim at the middle of the sheet.",
                "Between the two small triangles is what everything is focused on. Lay a coin or a "
                "printed word there if autofocus finds nothing to hold on to.",
            ),
            Step(
                "Focus by one way, take a frame, turn the ring away, and once more.",
                "Four times or more with each way: the confirmation light, the spot, the magnified "
                "view, the scale set to the taped distance.",
                key="focus",
                branches=(Branch("The next way", ("The same from here.",), back="focus"),),
            ),
            BRING,
        ),
    ),
    find=_find,
    made_up=made_up.take_way,
    next=_next,
    ways=True,
    target=True,
)
"""Ways of focusing."""
