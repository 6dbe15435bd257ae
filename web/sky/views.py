"""Form → use case → template."""

from __future__ import annotations

import math
from collections.abc import Callable
from typing import Any

from django.http import QueryDict

from web.hand.asker import Asker
from web.kept.models import Kept
from web.people.models import Owner
from web.planner.axis import Axis, Step
from web.planner.folds import context as folded
from web.planner.pages import Asked, Pages
from web.sky import folds, kinds, nights, pictures, usecases
from web.sky.finding import WALK
from web.sky.forms import PARTS_TO_COUNT, read_sky
from web.sky.kind import KIND
from web.sky.order import ORDERS
from web.sky.reading import Reading
from web.sky.ring import turned
from web.sky.routines import with_foreground
from web.sky.sample import GEAR, NAME
from web.sky.templatetags.night import degrees
from web.ui.templatetags import format


class SkyPages(Pages[Reading]):
    """Sky, from the link, a night, or the sample."""

    kind, gear, sample, folds = KIND, GEAR, NAME, folds.ALL

    def read(self, data: QueryDict, before: Callable[[], QueryDict | None], who: Asker) -> Reading:
        return read_sky(data, before, who)

    def turned(
        self, reading: Reading, step: Step, axis: Axis, at: str
    ) -> tuple[Reading, float | None]:
        focus = turned(reading.sky, step, axis)
        return reading.with_ring(focus), focus

    def answered(self, asked: Asked[Reading]) -> dict[str, Any]:
        answer = usecases.answer(asked.reading.sky)
        sky, here = answer.sky, answer.here
        found = with_foreground(answer)
        paces = None
        if here.focus <= WALK:
            paces = math.ceil(here.focus / asked.who.own()[0].pace)
        return {
            "answer": answer,
            "sky": sky,
            "ground": () if found is None else found.ground,
            "system": sky.system,
            "sightlines": pictures.sightlines(answer, asked.shown.sizes, asked.axis),
            "streaks": pictures.streak_patches(answer),
            "under_sky": pictures.frame_under_sky(answer),
            "kept_frame": pictures.kept(answer),
            "five_hundred": answer.longer_rule,
            "on_print": _on_print(asked.reading, answer),
            "off_pole": degrees(sky.off_pole or 0.0),
            "unit": sky.unit,
            "per": sky.unit_length,
            "paces": paces,
            "query": asked.reading.query(),
            "ring_text": format.reading(here, sky.system),
            "aperture_text": format.f_number(sky.setup.f_number),
            **folded(
                self.folds, asked.shown.unfolded, answer, asked.reading, asked.who, asked.owner
            ),
        }

    def beside(self, kept: Kept | None) -> dict[str, Any]:
        key = None if kept is None else kept.pk
        return {"walk_path": self.address("walk", key)}

    def around(self, reading: Reading, owner: Owner) -> dict[str, Any]:
        return {
            "screen_name": "Sky",
            "placeholder": "Name this night",
            "film": reading.sky.film,
            "subjects": kinds.SUBJECTS,
            "mounts": kinds.MOUNTS,
            "projections": kinds.projections(reading.in_use, reading.texts["projection"]),
            "classes": nights.CLASSES,
            "moons": nights.MOONS,
            "grounds": nights.GROUNDS,
            "orders": ORDERS,
            "parts_to_count": PARTS_TO_COUNT,
            "usual_iso": format.iso(reading.sky.iso_usable),
        }


def _on_print(reading: Reading, answer: usecases.Answer) -> tuple[float, float] | None:
    """How long the drift allowed is on the print that the standard in hand is for, and how wide
    that is, mm; a usual one where it is for no print. None on film: there the circle says it."""
    standard, sky = reading.in_use.standard, answer.sky
    if sky.pitch is None:
        return None
    width = (standard and standard.print_width_mm) or _USUAL_PRINT
    return sky.trail * width / sky.format.width, width


_USUAL_PRINT = 600.0
pages = SkyPages()
