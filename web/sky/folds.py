"""The folded parts of Sky: what each is called, drawn with, and works out when it is wanted."""

from __future__ import annotations

from dataclasses import fields
from typing import Any

from optics.base import units
from optics.light.night import REFLECTED, magnitude_of
from web.bag.models import Lens
from web.bag.soundness import sound
from web.hand.asker import Asker
from web.hand.typed import ring_text
from web.people.models import Owner
from web.planner.folds import Fold, nothing
from web.sky import nights, pictures
from web.sky.bag import gatherers
from web.sky.foreground import foreground
from web.sky.reading import Reading
from web.sky.routines import routines
from web.sky.tries import tries
from web.sky.usecases import Answer


def _bag(answer: Answer, reading: Reading, who: Asker, owner: Owner) -> dict[str, Any]:
    found = gatherers(answer.sky, sound(Lens.objects.filter(owner=owner)))
    return {
        "gatherers": [
            {
                **{field.name: getattr(one, field.name) for field in fields(one)},
                "query": reading.query_with_lens(one.name, one.focal_length, one.f_number),
            }
            for one in found
        ],
        "best_sky": max(found, key=lambda one: one.of_sky, default=None),
        "best_aurora": max(found, key=lambda one: one.of_aurora, default=None),
    }


def _routines(answer: Answer, reading: Reading, who: Asker, owner: Owner) -> dict[str, Any]:
    return {"routines": routines(answer, answer.sky.in_use.body, who.own()[0])}


def _foreground(answer: Answer, reading: Reading, who: Asker, owner: Owner) -> dict[str, Any]:
    sky = answer.sky
    if sky.foreground is None:
        return {"fore": None}
    found = foreground(answer, sky.foreground)
    return {
        "fore": found,
        "ground_coc": sky.ground.coc,
        "one_ring": ring_text(found.one.focus, sky.system) if found.one else "",
        "scene": pictures.same_scene(answer, found),
        "fore_bands": pictures.frames_compared(found, sky.system),
    }


def _margins(answer: Answer, reading: Reading, who: Asker, owner: Owner) -> dict[str, Any]:
    wide, narrow = pictures.margins_compared(answer, answer.sky.unit_length, answer.sky.unit)
    return {"margin_bands": wide, "margin_bands_narrow": narrow}


def _tries(answer: Answer, reading: Reading, who: Asker, owner: Owner) -> dict[str, Any]:
    return {"tries": tries(answer)}


def _why(answer: Answer, reading: Reading, who: Asker, owner: Owner) -> dict[str, Any]:
    sky = answer.sky
    return {
        "night_magnitude": f"{units.significant(magnitude_of(sky.night.luminance), 3):g}",
        "ground_darker": sky.night.ground_darker(sky.underfoot),
        "night_source": nights.source(reading.texts, sky.night.moon),
        "reflected": REFLECTED[sky.underfoot],
    }


ALL = (
    Fold("fold-routine", "Ways to get there, step by step", "sky/routines.html", _routines),
    Fold("fold-foreground", "With a foreground", "sky/foreground.html", _foreground),
    Fold("fold-margin", "What a margin buys and costs", "sky/margins.html", _margins),
    Fold("fold-tries", "Settings to try", "sky/tries.html", _tries),
    Fold("fold-bag", "Which of my lenses gathers most", "sky/bag.html", _bag),
    Fold("fold-why", "Why, with the working", "sky/why.html", _why),
    Fold("fold-care", "Care", "sky/care.html", nothing),
)
"""Below the answer, drawn again with it."""
