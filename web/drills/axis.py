"""The axes that answers are given on, as plain data."""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import Any

from drawing.judged_axis import judged_axis
from optics.base.systems import BY_KEY

WIDTH = 640.0


def axis(stops: Sequence[float], system: str) -> dict[str, Any]:
    """Of distances, mm: the sightline."""
    drawn = judged_axis(WIDTH, stops, system)
    return {
        "width": drawn.width,
        "places": drawn.places,
        "ticks": [(tick.x, tick.label) for tick in drawn.ticks],
        "unit": BY_KEY[system].key,
        "few": [(tick.x, tick.label) for tick in drawn.few],
        "numbers": [_number(stop, system) for stop in stops],
    }


def _number(stop: float, system: str) -> float | None:
    """A distance as the bare number that somebody would type; None for infinity."""
    return None if math.isinf(stop) else float(f"{stop / BY_KEY[system].mm:.4g}")


def row_axis(rows: Sequence[float]) -> list[float]:
    """Of rows of a picture: shares from its upper edge."""
    return [float(f"{1.0 - row:.4f}") for row in rows]
