"""How sharp a copy of a lens is at each aperture, in the middle and in the corners."""

from __future__ import annotations

import math
from dataclasses import dataclass

from drawing import sharpness_chart
from drawing.sharpness_chart import SharpnessChart
from imaging import sharpness
from imaging.errors import PictureError
from imaging.sharpness import Copy, Place
from optics.base import units
from optics.lens.found import Found
from web.bag import findings
from web.bench.frames import missing, seen_of
from web.bench.kinds import made_up
from web.bench.kinds.base import Job, Kind, finding_of
from web.bench.kinds.base import Result as Any_
from web.bench.kinds.sheet_steps import BRING, PRINT
from web.planner.steps import Branch, Routine, Step

_LEAST_ERROR = 1e-6


@dataclass(frozen=True, slots=True)
class Line:
    """An aperture. Blur ``seen`` and the lens's ``own`` of it, in the middle and in the corners
    (nan where it is not known), by diffraction alone, mm; and whether the standard holds."""

    f_number: float
    centre: float
    centre_error: float
    own: float
    own_error: float
    corner: float
    corner_error: float
    corner_own: float
    corner_own_error: float
    ideal: float
    frame: str
    shown: str
    corner_shown: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Result(Any_):
    """A copy's sharpness. ``best``, ``best_corner``: the apertures at which it is sharpest;
    ``out``: how far out its corners were looked at, a share of the way to them."""

    copy: Copy | None = None
    lines: tuple[Line, ...] = ()
    circle: float = math.nan
    focal_length: float = math.nan
    out: float = math.nan

    @property
    def ready(self) -> bool:
        """Whether there is something to keep."""
        return self.copy is not None

    @property
    def best(self) -> Line | None:
        """The sharpest in the middle."""
        return min(self.lines, key=lambda line: line.centre, default=None)

    @property
    def best_corner(self) -> Line | None:
        """The sharpest in the corners."""
        known = [line for line in self.lines if line.corner == line.corner]
        return min(known, key=lambda line: line.corner, default=None)

    @property
    def chart(self) -> SharpnessChart:
        """It drawn."""
        rows = [
            sharpness_chart.Blur(
                line.f_number, line.centre, line.centre_error, line.corner, line.corner_error,
                line.ideal,
            )
            for line in self.lines
        ]  # fmt: skip
        return sharpness_chart.drawn(rows, self.circle)

    def found(self, job: Job) -> list[findings.Finding]:
        """The lens's own blur, in the middle and in the corners."""
        if self.copy is None:
            return []
        distance = units.significant(self.copy.distance, 3)
        rows = tuple(_row(line.f_number, line.own, line.own_error) for line in self.lines)
        kept = [finding_of(job, findings.BLUR, rows, self.focal_length, distance)]
        corners = tuple(
            _row(line.f_number, line.corner_own, line.corner_own_error)
            for line in self.lines if line.corner == line.corner
        )  # fmt: skip
        if corners:
            kept.append(finding_of(job, findings.CORNER, corners, self.focal_length, distance))
        return kept


def _row(f_number: float, blur: float, error: float) -> findings.Row:
    return findings.Row(f_number, Found(blur, max(error, _LEAST_ERROR)))


def _find(job: Job) -> Result:
    good, test = job.good, job.test
    if any(missing(frame, test) for frame in good):
        return Result(lacks=True)
    if not good:
        return Result()
    try:
        seen = seen_of(test, good)
        copy = sharpness.sharpness(seen)
    except PictureError as error:
        return Result(wrong=error.sentence, at=error.place)
    circle = job.kit.coc
    lines = tuple(_line(at, circle) for at in copy.at)
    outs = [at.corner.out for at in copy.at if at.corner is not None]
    return Result(
        copy=copy, lines=lines, circle=circle, focal_length=seen[0].taken.focal_length,
        out=min(outs, default=math.nan),
    )  # fmt: skip


def _line(at: sharpness.Sharpness, circle: float) -> Line:
    centre = _told(at.centre)
    corner = (math.nan,) * 4 if at.corner is None else _told(at.corner)
    ideal = units.significant(at.ideal, 2)
    return Line(
        at.f_number, *centre, *corner, ideal, at.frame, _shown(centre[0], circle),
        _shown(corner[0], circle),
    )  # fmt: skip


def _told(place: Place) -> tuple[float, float, float, float]:
    seen, own = place.seen, place.own
    return (
        units.significant(seen.value, 3),
        units.significant(seen.error, 2),
        units.significant(own.value, 3),
        units.significant(own.error, 2),
    )


def _shown(blur: float, circle: float) -> str:
    """Whether a blur holds by the standard: the word of the shape; empty where it is not known."""
    if blur != blur:
        return ""
    return "holds" if blur <= circle else "soft"


SHARPNESS = Kind(
    key="sharpness",
    name="How sharp at each aperture",
    asks="At which aperture is your copy sharpest, in the middle and towards the corners?",
    needs="The printed target held flat, a tripod, a frame at each aperture: ten minutes.",
    waits="Bring a frame of the flat target at each aperture, focused anew for each.",
    more="",
    routine=Routine(
        key="sharpness",
        name="How sharp at each aperture",
        when="where a lens is sharpest, and what it blurs by itself",
        steps=(
            PRINT,
            Step(
                "Fix it upright and flat, its long side along the picture’s.",
                "On a wall or a board, in even light. Turn the sheet sideways, so that it fills "
                "the frame towards the corners.",
            ),
            Step(
                "Face it squarely, so near that it fills the frame.",
                "For 50 mm on full frame some 45 cm. A small mirror held flat on the sheet shows "
                "the lens in the middle of the view when you stand square. Tripod, timer, lowest "
                "ISO, sharpening in the camera off.",
            ),
            Step(
                "At each aperture: focus on the middle by the magnified view, and take the frame.",
                "At that aperture, not wide open: else a shift of focus counts as blur. Two or "
                "three frames at each, focused anew: the sharpest counts.",
                branches=(
                    Branch(
                        "It is too dark to focus stopped down",
                        ("Take more light, or focus wide open and bring three frames at each.",),
                    ),
                ),
            ),
            BRING,
        ),
    ),
    find=_find,
    made_up=made_up.takes(made_up.sharpness_frame, made_up.sharpness_stops),
    next=made_up.next_of(made_up.sharpness_stops),
    target=True,
)
"""How sharp at each aperture."""
