"""Focus shift: how the plane of sharpness moves as the aperture closes, and what to do about it."""

from __future__ import annotations

import math
from dataclasses import dataclass

from drawing.shift_chart import ShiftChart, drawn
from imaging.errors import PictureError
from imaging.looked import Looked, same_kind
from imaging.shift import Series, compared
from optics import Kit
from optics.base import settable, units
from optics.base.errors import OpticsError
from optics.lens.conjugates import focus_of, magnification
from optics.lens.found import Found
from web.bag import findings
from web.bench.frames import looked, missing
from web.bench.kinds import made_up
from web.bench.kinds.base import Job, Kind, finding_of
from web.bench.kinds.base import Result as Any_
from web.bench.kinds.sheet_steps import BRING, PRINT, Branch, Step
from web.planner.steps import Routine
from web.ui.templatetags.format import f_number

_LEAST_ERROR = 1e-6
HIDDEN, JUST = 0.5, 1.0
"""Blur by the shift, in circles: up to the first nobody sees it, from the second on everybody."""


@dataclass(frozen=True, slots=True)
class Line:
    """An aperture: the shift there and its error, mm in image space; how far beyond the sheet that
    was, mm; the blur it makes, in circles of the standard in hand; and, focused wide open on a
    distance, where to turn the ring to, mm; nan where it does not go there."""

    f_number: float
    shift: float
    error: float
    beyond: float
    circles: float
    turn_to: float
    clear: bool
    frames: tuple[str, ...]

    @property
    def shown(self) -> str:
        """Whether a picture taken so, focused wide open, holds: the word of the shape."""
        if not self.clear or self.circles <= HIDDEN:
            return "holds"
        return "just" if self.circles <= JUST else "soft"


@dataclass(frozen=True, slots=True, kw_only=True)
class Result(Any_):
    """A test's result. ``lines``: the widest aperture first."""

    series: Series | None = None
    lines: tuple[Line, ...] = ()
    circle: float = math.nan
    focal_length: float = math.nan

    @property
    def ready(self) -> bool:
        """Whether there is something to keep."""
        return self.series is not None

    @property
    def chart(self) -> ShiftChart:
        """It drawn."""
        rows = [(line.f_number, line.shift, line.error) for line in self.lines]
        return drawn(rows, self.circle)

    def found(self, job: Job) -> list[findings.Finding]:
        """Its shifts, as they were shown."""
        if self.series is None:
            return []
        rows = tuple(
            findings.Row(line.f_number, Found(line.shift, max(line.error, _LEAST_ERROR)))
            for line in self.lines
        )
        distance = units.significant(self.series.distance, 3)
        return [finding_of(job, findings.SHIFT, rows, self.focal_length, distance)]

    @property
    def keeps(self) -> bool:
        """Whether the lens keeps its focus, as far as these frames tell."""
        return self.series is not None and self.series.keeps

    @property
    def hidden(self) -> tuple[str, ...]:
        """The apertures at which the standard hides it."""
        return tuple(f_number(line.f_number) for line in self.lines[1:] if line.shown == "holds")

    @property
    def worst(self) -> Line | None:
        """The aperture at which it shows most."""
        return max(self.lines, key=lambda line: line.circles, default=None)

    @property
    def reference(self) -> float:
        """The aperture that shifts are told against."""
        return self.lines[0].f_number if self.lines else math.nan


def _find(job: Job) -> Result:
    good, test = job.good, job.test
    if any(missing(frame, test) for frame in good):
        return Result(lacks=True)
    if len(good) < 2:
        return Result()
    try:
        seen = [looked(frame, test) for frame in good]
        same_kind([(one.taken, one.size, f.lens_named) for one, f in zip(seen, good, strict=True)])
        series = compared(seen)
    except PictureError as error:
        return Result(wrong=error.sentence, at=error.place)
    lines = tuple(_lines(series, seen, job.kit, job.distance, job.system))
    length = seen[0].taken.focal_length
    return Result(series=series, lines=lines, circle=job.kit.coc, focal_length=length)


def _lines(
    series: Series, seen: list[Looked], kit: Kit, distance: float, system: str
) -> list[Line]:
    focal_length = seen[0].taken.focal_length
    lines = []
    for one in series.shifts:
        shift, error = units.significant(one.shift, 3), units.significant(one.error, 2)
        lines.append(
            Line(
                one.f_number,
                shift,
                error,
                one.beyond,
                units.significant(abs(shift) / one.f_number / kit.coc, 2),
                _turned(kit, focal_length, distance, shift, system),
                one.clear,
                one.frames,
            )
        )
    return lines


def _turned(kit: Kit, focal_length: float, distance: float, shift: float, system: str) -> float:
    """Where to turn the ring to from a distance focused on wide open, so that at the aperture with
    that shift the same is sharp: the ring's magnification grows by shift ÷ focal length."""
    try:
        setup = kit.at(kit.apertures[0])
        ring = float(magnification(setup, distance)) + shift / focal_length
        turned = math.inf if ring <= 0 else float(focus_of(setup, ring))
    except OpticsError:
        return math.nan
    return settable.nearest(turned, system, settable.FINE)


SHIFT = Kind(
    key="shift",
    name="Focus shift",
    asks="Does the plane of sharpness move as you close the aperture?",
    needs="The printed target, a tripod, a frame at each aperture: ten minutes.",
    waits="Bring a frame of the target wide open, and one at each smaller aperture, all focused "
    "once.",
    more="One frame is in. Bring others, stopped down.",
    routine=Routine(
        key="shift",
        name="Focus shift",
        when="what the focus of a lens does as its aperture closes",
        steps=(
            PRINT,
            Step(
                "Lean it back by some 45°, its rings at the far end.",
                "Against a box or a wall, in even light. The camera looks at it level or a little "
                "from above, straight along its middle.",
            ),
            Step(
                "Camera on a tripod, some thirteen focal lengths away.",
                "For 50 mm that is 65 cm: all six round marks are in the frame, and the sheet "
                "nearly fills it. Timer or cable; stabiliser off; lowest ISO; sharpening in the "
                "camera off.",
            ),
            Step(
                "Open the aperture all the way, and focus on the middle of the sheet.",
                "Between the two small triangles, by the magnified view. Then touch the ring no "
                "more: autofocus off, tape on the ring if it turns easily.",
                key="focus",
            ),
            Step(
                "Take a frame at each aperture, from the widest on.",
                "Change the time as you close, so that the paper stays light and is not blown out. "
                "Two frames at each do better than one.",
                branches=(
                    Branch("I touched the ring", ("Begin again from the widest.",), back="focus"),
                ),
            ),
            BRING,
        ),
    ),
    find=_find,
    made_up=made_up.takes(made_up.shift_frame, made_up.shift_stops),
    next=made_up.next_of(made_up.shift_stops),
    target=True,
    distance=True,
)
"""Focus shift."""
