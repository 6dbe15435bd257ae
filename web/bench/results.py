"""What a test found: its shifts, what they mean for pictures, and what to do about it."""

from __future__ import annotations

import math
from dataclasses import dataclass

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
from web.bench.models import Frame, Test
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


@dataclass(frozen=True, slots=True)
class Result:
    """A test's result. ``lines``: the widest aperture first. ``wrong``: why there is none, with the
    cure, and ``at`` which frame; empty where there is one. ``least``: frames it still needs."""

    series: Series | None = None
    lines: tuple[Line, ...] = ()
    wrong: str = ""
    at: str = ""
    lacks: bool = False

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


def of(test: Test, frames: list[Frame], kit: Kit, distance: float, system: str) -> Result:
    """What a test found. ``kit``: the lens with the standard in hand; ``distance``: that somebody
    would focus on, mm."""
    good = [frame for frame in frames if frame.seen is not None]
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
    return Result(series, tuple(_lines(series, seen, kit, distance, system)))


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


def finding(test: Test, result: Result, focal_length: float, key: str) -> findings.Finding:
    """What a test found, as it was shown, to be kept with the lens."""
    assert result.series is not None
    rows = tuple(
        findings.Row(line.f_number, Found(line.shift, max(line.error, _LEAST_ERROR)))
        for line in result.lines
    )
    distance = units.significant(result.series.distance, 3)
    on = test.begun.date()
    return findings.Finding(key, findings.SHIFT, on, focal_length, distance, test.body, True, rows)
