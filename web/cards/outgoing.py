"""The table of a lens, and the frames on a card, as CSV and JSON: docs/cards.md."""

from __future__ import annotations

import csv
import io
import json
import math
from collections.abc import Iterable, Sequence
from typing import Any

from django.http import HttpResponse

from optics.lens.shot import Shot
from web.cards.asked import Asked
from web.cards.usecases import table
from web.kept.printed import Head
from web.ui.downloads import named

COLUMNS = ("focal_length_mm", "f_number", "ring_m", "sharp_from_m", "sharp_to_m")
FRAME_COLUMNS = (
    "name", "ring_m", "f_number", "sharp_from_m", "sharp_to_m", "seconds", "iso", "touch",
)  # fmt: skip
INFINITY = "inf"
_TYPES = {"csv": "text/csv; charset=utf-8", "json": "application/json; charset=utf-8"}

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


def csv_of(found: Rows, columns: Sequence[str] = COLUMNS) -> str:
    """With a head line; empty where nothing is sharp, ``inf`` for infinity."""
    out = io.StringIO()
    writer = csv.DictWriter(out, columns, lineterminator="\r\n")
    writer.writeheader()
    writer.writerows(found)
    return out.getvalue()


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


def json_of(found: dict[str, Any]) -> str:
    """As it is sent."""
    return json.dumps(found, ensure_ascii=False, indent=1)


def sent(body: str, name: str, ending: str) -> HttpResponse:
    """A file to be kept. ``ending``: csv or json."""
    response = HttpResponse(body, content_type=_TYPES[ending])
    response["Content-Disposition"] = named(f"{name}.{ending}", "attachment")
    return response


def _metres(length: float) -> float | str:
    return INFINITY if math.isinf(length) else round(length / 1000.0, 6)
