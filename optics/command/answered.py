"""An answer as plain data: what ``python -m optics aim`` prints. Described in docs/optics.md."""

from __future__ import annotations

import math
from contextlib import suppress
from dataclasses import dataclass
from typing import Any

from optics.base.errors import FocusTooNear
from optics.base.settable import Span
from optics.lens.aperture import ForEnds, for_ends
from optics.scene import schools
from optics.scene.answer import Answer, answer
from optics.scene.choosing import Chart, chart
from optics.scene.comparing import Compared, compare
from optics.scene.marks import Verdict
from optics.scene.scenes import Scene


@dataclass(frozen=True, slots=True)
class Answered:
    """A scene's answer, and what the command prints beside it.

    ``schools``     every school on it.
    ``apertures``   for what must be sharp, worked out for any lens at all; None where nothing must,
                    or no focus lies between. ``chart``: of the apertures of this one.
    """

    answer: Answer
    schools: tuple[Compared, ...]
    apertures: ForEnds | None
    chart: Chart | None

    @classmethod
    def of(cls, scene: Scene) -> Answered:
        """Answer a scene."""
        found = answer(scene)
        two = found.ends
        apertures = None
        if two is not None:
            with suppress(FocusTooNear):
                apertures = for_ends(found.scene.setup, two.near, two.far)
        charted = None if two is None else chart(found.scene)
        return cls(found, compare(found.scene), apertures, charted)


def answer_of(answered: Answered) -> dict[str, Any]:
    """An answer as plain data for JSON, in mm; infinity is the text ``inf``, nothing is null.

    What is rounded is what was judged; what would be there if a hand could set anything is said to
    be exact.
    """
    found, apertures = answered.answer, answered.apertures
    window, sharp = found.exact_window, found.exact
    widest = answered.chart and answered.chart.widest
    sharpest = answered.chart and answered.chart.sharpest
    return {
        "place": _place_of(found),
        "why_not": found.why_not or None,
        "ring_mm": _json(found.ring.focus),
        "settings_mm": [_json(shot.focus) for shot in found.shots],
        "f_number": found.scene.f_number,
        "window_mm": _ends(found.window),
        "exact_window_mm": None
        if window is None
        else [_json(window.nearest), _json(window.farthest)],
        "sharp_mm": _ends(found.sharp) or _NOTHING,
        "exact_sharp_mm": [_json(sharp.near), _json(sharp.far)],
        "diffraction_circles": found.diffraction_alone,
        "f_number_widest": widest and widest.f_number,
        "marks": [_verdict(verdict) for verdict in found.verdicts],
        "f_number_needed": apertures and apertures.widest_holding,
        "f_number_sharpest": sharpest and sharpest.f_number,
        "schools": [_school(school) for school in answered.schools],
    }


def _place_of(found: Answer) -> str:
    """With nothing that must be sharp, *between the ends* is the hyperfocal distance."""
    nothing = found.ends is None and found.scene.school == schools.BETWEEN.key
    return schools.HYPERFOCAL.key if nothing else found.scene.school


def _ends(span: Span | None) -> list[float | str | None] | None:
    return None if span is None else [_json(span.near), _json(span.far)]


_NOTHING = [None, None]


def _json(value: float) -> float | str | None:
    if math.isnan(value):
        return None
    return "inf" if math.isinf(value) else value


def _verdict(verdict: Verdict) -> dict[str, Any]:
    return {
        "name": verdict.mark.name,
        "depth_mm": _json(verdict.mark.depth),
        "word": verdict.word.value,
        "met": verdict.met,
        "blur_mm": verdict.blur,
        "circles": verdict.circles,
        "pixels": verdict.pixels,
        "at_subject_mm": _json(verdict.at_subject),
        "widest_print_mm": _json(verdict.print_width),
    }


def _school(compared: Compared) -> dict[str, Any]:
    cost, sharp = compared.cost, compared.limits
    return {
        "place": compared.school.key,
        "why_not": compared.why_not or None,
        "focus_mm": None if compared.focus is None else _json(compared.focus),
        "settings_mm": [_json(setting) for setting in compared.settings],
        "sharp_mm": None if sharp is None else [_json(sharp.near), _json(sharp.far)],
        "lost": None if cost is None else [compared.verdicts[at].mark.name for at in cost.lost],
        "worst_circles": None if cost is None else cost.worst,
        "stops": None if cost is None else cost.stops,
        "exposures": None if cost is None else cost.exposures,
    }
