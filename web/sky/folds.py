"""The folded parts of Sky: what each is called, drawn with, and works out when it is wanted."""

from __future__ import annotations

from typing import Any

from web.bag.gear import Asker
from web.bag.models import Lens
from web.people.models import Owner
from web.sky import pictures
from web.sky.foreground import foreground
from web.sky.routines import routines
from web.sky.usecases import Answer, gatherers
from web.ui.folds import Fold, nothing


def _bag(answer: Answer, who: Asker, owner: Owner) -> dict[str, Any]:
    return {"gatherers": gatherers(answer.sky, list(Lens.objects.filter(owner=owner)))}


def _routines(answer: Answer, who: Asker, owner: Owner) -> dict[str, Any]:
    return {"routines": routines(answer, answer.sky.in_use.body, who.own()[0])}


def _foreground(answer: Answer, who: Asker, owner: Owner) -> dict[str, Any]:
    sky = answer.sky
    if sky.foreground is None:
        return {"fore": None}
    found = foreground(answer, sky.foreground, sky.ground)
    wide, narrow = pictures.frames_compared(found, sky.system)
    return {
        "fore": found,
        "ground_coc": float(sky.ground.coc),
        "fore_bands": wide,
        "fore_bands_narrow": narrow,
    }


ALL = (
    Fold("fold-routine", "Ways to get there, step by step", "sky/routines.html", _routines),
    Fold("fold-foreground", "With a foreground", "sky/foreground.html", _foreground),
    Fold("fold-margin", "What a margin buys and costs", "sky/margins.html", nothing),
    Fold("fold-rules", "What rules of number ÷ focal length allow", "sky/rules.html", nothing),
    Fold("fold-bag", "Which of my lenses gathers most", "sky/bag.html", _bag),
    Fold("fold-why", "Why, with the working", "sky/why.html", nothing),
    Fold("fold-care", "Care", "sky/care.html", nothing),
)
"""Below the answer, drawn again with it."""
