"""The table of a lens, and the frames on a card, as CSV and JSON: docs/cards.md."""

from __future__ import annotations

import math
from collections.abc import Iterable
from typing import Any

from optics.lens.shot import Shot
from web.cards.asked import Asked
from web.cards.usecases import table
from web.kept.printed import Head

COLUMNS = ("focal_length_mm", "f_number", "ring_m", "sharp_from_m", "sharp_to_m")
FRAME_COLUMNS = (
    "name", "ring_m", "f_number", "sharp_from_m", "sharp_to_m", "seconds", "iso", "touch",
)  # fmt: skip
INFINITY = "inf"

Rows = list[dict[str, float | str | None]]


def rows(asked: Asked) -> Rows:
    """A row for each setting and aperture: metres from the sensor mark, as they are printed."""
    return [
        {
            "focal_length_mm": one.focal_length,
            "f_number": one.f_number,
            "ring_m": _metres(one.focus),
            "sharp_from_m": None if one.held is None else _metres(one.held.near),
            "sharp_to_m": None if one.held is None else _metres(one.held.far),
        }
        for cells in table(asked).rows
        for one in cells
    ]


def frames(shots: Iterable[Shot]) -> Rows:
    """A row for each frame to take, as it is printed."""
    return [
        {
            "name": shot.name,
            "ring_m": _metres(shot.focus),
            "f_number": None if math.isnan(shot.f_number) else shot.f_number,
            "sharp_from_m": None if shot.held is None else _metres(shot.held.near),
            "sharp_to_m": None if shot.held is None else _metres(shot.held.far),
            "seconds": shot.seconds,
            "iso": shot.iso,
            "touch": shot.touch,
        }
        for shot in shots
    ]


def document(asked: Asked, found: Rows) -> dict[str, Any]:
    """The same with what it is of."""
    return {
        "lens": asked.lens.name,
        "body": None if asked.body is None else asked.body.name,
        "standard": None if asked.standard is None else asked.standard.name,
        "circle_mm": asked.setup.coc,
        "rows": found,
    }


def card(head: Head, noun: str, link: str, found: Rows) -> dict[str, Any]:
    """The frames of a card with what stands at its top, and the planner's link to the same."""
    return {
        "card": noun,
        "name": head.name,
        "gear": list(head.gear),
        "sharp": head.sharp,
        "units": head.system,
        "link": link,
        "frames": found,
    }


def _metres(length: float) -> float | str:
    return INFINITY if math.isinf(length) else round(length / 1000.0, 6)
