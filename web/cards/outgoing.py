"""The table of a lens as CSV and JSON, in plain numbers: docs/cards.md."""

from __future__ import annotations

import csv
import io
import math
from typing import Any

from web.cards.asked import Asked
from web.cards.usecases import table

COLUMNS = ("focal_length_mm", "f_number", "ring_m", "sharp_from_m", "sharp_to_m")
INFINITY = "inf"


def rows(asked: Asked) -> list[dict[str, float | str | None]]:
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


def csv_of(found: list[dict[str, float | str | None]]) -> str:
    """With a head line; empty where nothing is sharp, ``inf`` for infinity."""
    out = io.StringIO()
    writer = csv.DictWriter(out, COLUMNS, lineterminator="\r\n")
    writer.writeheader()
    writer.writerows(found)
    return out.getvalue()


def document(asked: Asked, found: list[dict[str, float | str | None]]) -> dict[str, Any]:
    """The same with what it is of."""
    return {
        "lens": asked.lens.name,
        "body": None if asked.body is None else asked.body.name,
        "standard": None if asked.standard is None else asked.standard.name,
        "circle_mm": asked.setup.coc,
        "rows": found,
    }


def _metres(length: float) -> float | str:
    return INFINITY if math.isinf(length) else round(length / 1000.0, 6)
