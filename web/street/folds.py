"""The folded parts of Street: what each is called, drawn with, and works out when it is wanted."""

from __future__ import annotations

from typing import Any

from web.hand.asker import Asker
from web.planner.folds import Fold, nothing
from web.street import exposing, judging, marks, pictures, schools
from web.street.usecases import Answer

type_context = dict[str, Any]


def _ring(answer: Answer, who: Asker) -> type_context:
    return {"ring_picture": pictures.tiled_ring(answer), "clock": pictures.clock(answer)}


def _schools(answer: Answer, who: Asker) -> type_context:
    found = schools.schools(answer)
    return {"schools": found, "school_lines": pictures.school_lines(answer, found)}


def _marks(answer: Answer, who: Asker) -> type_context:
    return {"marks": marks.marks(answer)}


def _trade(answer: Answer, who: Asker) -> type_context:
    return {"trade": schools.trade(answer)}


def _judging(answer: Answer, who: Asker) -> type_context:
    return {"sighted": judging.sighted(answer, who.own()[0])}


def _light(answer: Answer, who: Asker) -> type_context:
    return {"exposing": exposing.exposing(answer)}


def _autofocus(answer: Answer, who: Asker) -> type_context:
    return {"limiter": judging.limiter(answer)}


ALL = (
    Fold("fold-ring", "On the ring, by touch", "street/ring.html", _ring),
    Fold("fold-frame", "Judge distance by the frame", "street/judging.html", _judging),
    Fold("fold-trade", "Another aperture, another position", "street/trade.html", _trade),
    Fold("fold-marks", "The marks on the lens, the bar on the screen", "street/marks.html", _marks),
    Fold("fold-schools", "Ways of working, compared", "street/schools.html", _schools),
    Fold("fold-light", "Expose for it", "street/light.html", _light),
    Fold("fold-autofocus", "With autofocus", "street/autofocus.html", _autofocus),
    Fold("fold-why", "Why, with the working", "street/why.html", nothing),
    Fold("fold-care", "Care", "street/care.html", nothing),
)
"""Below the answer, drawn again with it."""
