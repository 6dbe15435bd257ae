"""Form → use case → template."""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping
from typing import Any

from django.http import QueryDict
from django.urls import reverse
from django.views.decorators.http import require_GET, require_POST

from optics.base import units
from web.bag.gear import Asker
from web.bag.pages import Asked, Pages
from web.sky import folds, pictures, usecases
from web.sky.forms import NIGHTS, is_sky, read_sky
from web.sky.models import Night
from web.sky.nights import keeper
from web.sky.reading import Reading
from web.sky.routines import WALK
from web.sky.sample import GEAR, NAME
from web.ui.axis import Axis, Step
from web.ui.folds import context as folded
from web.ui.templatetags import format


class SkyPages(Pages[Night, Reading]):
    """Sky, from the link, a night, or the sample."""

    keeper, gear, sample, folds = keeper, GEAR, NAME, folds.ALL

    def is_said(self, data: Mapping[str, Any]) -> bool:
        return is_sky(data)

    def read(self, data: QueryDict, before: Callable[[], QueryDict | None], who: Asker) -> Reading:
        return read_sky(data, before, who)

    def turned(
        self, reading: Reading, step: Step, axis: Axis, at: str
    ) -> tuple[Reading, float | None]:
        focus, figures = usecases.turned(reading.sky, step, axis)
        return reading.with_ring(focus, figures), focus

    def answered(self, asked: Asked[Reading]) -> dict[str, Any]:
        answer = usecases.answer(asked.reading.sky)
        sky, here = answer.sky, answer.here
        paces = None
        if here.focus <= WALK:
            paces = math.ceil(here.focus / asked.who.own()[0].pace)
        return {
            "answer": answer,
            "sky": sky,
            "system": sky.system,
            "sightlines": pictures.sightlines(answer, asked.shown.sizes, asked.axis),
            "streaks": pictures.streak_patches(answer),
            "under_sky": pictures.frame_under_sky(answer),
            "unit": sky.unit,
            "per": sky.unit_length,
            "paces": paces,
            "query": asked.reading.query(),
            "ring_text": format.reading(here, sky.system),
            "aperture_text": format.f_number(float(sky.setup.f_number)),
            **folded(
                self.folds, asked.shown.unfolded, answer, asked.reading, asked.who, asked.owner
            ),
        }

    def beside(self, kept: Night | None) -> dict[str, Any]:
        if kept is None:
            return {"walk_path": reverse("sky:walk"), "sheet_path": reverse("sky:card")}
        return {
            "walk_path": reverse("sky:kept_walk", args=[kept.pk]),
            "sheet_path": reverse("sky:kept_card", args=[kept.pk]),
        }

    def around(self, reading: Reading) -> dict[str, Any]:
        return {
            "screen_name": "Sky",
            "placeholder": "Name this night to keep it",
            "list_name": "Nights",
            "nights": NIGHTS,
            "sheet_name": "Card",
            "engraved": [units.significant(n, 3) for n in reading.sky.apertures],
        }


_pages = SkyPages()
page = require_GET(_pages.page)
save = require_POST(_pages.save)
