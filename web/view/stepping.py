"""A mark a step nearer or farther: by what a hand can set, in the unit that it was typed in."""

from __future__ import annotations

import math
import re
from collections.abc import Mapping
from dataclasses import replace

from optics.base import settable, units
from web.view.reading import Reading
from web.view.renumbering import typed_out
from web.view.typed import Row

FARTHEST = 1e6
"""mm: the last step before infinity."""
_LEAST = 10.0
"""mm: nothing is stepped nearer than that."""
_OWN = re.compile(r"^\s*(\d+(?:[.,]\d+)?)(.*)$")


def stepped(reading: Reading, asked: Mapping[str, str]) -> Row | None:
    """The row (``mark_step``) that is asked to be so many steps farther (``mark_by``; below 0,
    nearer), with its new distance; None if none is, or it has no distance to step from."""
    try:
        row, steps = reading.rows[abs(int(asked["mark_step"]))], int(asked["mark_by"])
    except (KeyError, ValueError, IndexError):
        return None
    if not math.isnan(row.measured) and steps:
        return replace(row, distance=_farther(row, reading.system, max(-50, min(steps, 50))))
    return None


def _farther(row: Row, system: str, steps: int) -> str:
    own = _OWN.match(row.distance)
    if own is not None and units.in_own_measures(row.distance):
        return f"{max(float(own[1].replace(',', '.')) + steps, 1):g}{own[2]}"
    distance, one = row.measured, 1 if steps > 0 else -1
    for _ in range(abs(steps)):
        distance = _step(distance, system, one)
    return typed_out(settable.written(distance, system)) if math.isfinite(distance) else "∞"


def _step(distance: float, system: str, way: int) -> float:
    if math.isinf(distance):
        return distance if way > 0 else settable.nearest(FARTHEST, system)
    if way > 0:
        farther = settable.up(distance * (1 + 1e-6), system)
        if farther <= distance * (1 + 1e-9):
            farther = distance + settable.grid_step(distance, system)
        return farther if farther <= FARTHEST * (1 + 1e-9) else math.inf
    nearer = settable.down(distance * (1 - 1e-6), system)
    return max(nearer, _LEAST)
