"""Distances a hand can set: 2.6 m, not 2.558 m. Rounding that keeps the picture sharp.

A *grid* is what can be read and set at so many figures. In metres it is plain significant
figures (2.6 m, 2.56 m). In feet it is what rings and tapes carry: coarse, half inches below
3 ft, inches below 10 ft, then two figures of feet; fine, tenths of an inch, then three figures.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

from optics.base.errors import require_number, require_order
from optics.base.units import FEET, METRES, MM_PER_FOOT, MM_PER_INCH

COARSE = 2
"""Figures that a hand sets on a ring without thinking."""
FINE = 3
"""Figures for a setting that needs a magnified view; more would be a pretence."""

_HAIR = 1e-9  # relative: what is on the grid but for rounding counts as on it


@dataclass(frozen=True, slots=True)
class Setting:
    """A ring setting in mm, and the figures to write it with. ``held`` if it is in its window."""

    focus: float
    figures: int
    held: bool


def grid_step(distance: float, system: str = METRES, figures: int = COARSE) -> float:
    """The spacing of the grid around a finite ``distance`` above 0, mm."""
    if system == FEET:
        if distance < 10 * MM_PER_FOOT * (1 - _HAIR):
            if figures > COARSE:
                return MM_PER_INCH / 10
            return MM_PER_INCH / (2 if distance < 3 * MM_PER_FOOT * (1 - _HAIR) else 1)
        return MM_PER_FOOT * _decade_step(distance / MM_PER_FOOT, figures)
    return _decade_step(distance, figures)


def _decade_step(value: float, figures: int) -> float:
    return float(10.0 ** (math.floor(math.log10(value * (1 + _HAIR))) - (figures - 1)))


def nearest(distance: float, system: str = METRES, figures: int = COARSE) -> float:
    """The grid distance closest to ``distance``; inf as it is. Raises NotANumber."""
    require_number("distance", distance, "distance")
    if math.isinf(distance):
        return distance
    step = grid_step(distance, system, figures)
    return max(round(distance / step), 1) * step


def up(distance: float, system: str = METRES, figures: int = COARSE) -> float:
    """The nearest grid distance not nearer than ``distance``: safe for a near limit.

    inf as it is. Raises NotANumber.
    """
    require_number("distance", distance, "distance")
    if math.isinf(distance):
        return distance
    step = grid_step(distance, system, figures)
    return math.ceil(distance / step * (1 - _HAIR)) * step


def down(distance: float, system: str = METRES, figures: int = COARSE) -> float:
    """The farthest grid distance not beyond ``distance``: safe for a far limit.

    inf as it is. Raises NotANumber.
    """
    require_number("distance", distance, "distance")
    if math.isinf(distance):
        return distance
    step = grid_step(distance, system, figures)
    return math.floor(distance / step * (1 + _HAIR)) * step


def within(focus: float, closest: float, farthest: float, system: str = METRES) -> Setting:
    """The grid distance near ``focus`` that lies in the window closest…farthest, mm.

    Coarse if the window has room for it, fine if not, and ``focus`` itself, not ``held``, if no
    hand could set it. inf may be given for any of the three. Raises NotANumber, WrongOrder.
    """
    require_order(closest, farthest)
    if math.isinf(focus):
        return Setting(focus, COARSE, held=math.isinf(farthest))
    for figures in (COARSE, FINE):
        candidates = {nearest(focus, system, figures), up(focus, system, figures)}
        candidates.add(down(focus, system, figures))
        inside = [c for c in candidates if closest * (1 - _HAIR) <= c <= farthest * (1 + _HAIR)]
        if inside:
            best = min(inside, key=lambda c: abs(1 / c - 1 / focus))
            return Setting(best, figures, held=True)
    return Setting(focus, FINE, held=False)


def shift(
    focus: float, inverse: float, system: str = METRES, figures: int = COARSE, least: float = 0.0
) -> float:
    """The ring turned by ``inverse`` (1/mm, above 0 towards near) and set on the grid again.

    Moves by one step of the grid at least; turned far enough the other way it stands at inf.
    ``least``: the nearest distance the ring reaches, mm.
    """
    target = 1 / focus + inverse
    if target <= 0:
        return math.inf
    moved = nearest(1 / target, system, figures)
    if moved == focus or (math.isfinite(focus) and (moved < focus) != (inverse > 0)):
        step = grid_step(focus, system, figures)
        moved = (
            down(focus - step, system, figures)
            if inverse > 0
            else up(focus + step, system, figures)
        )
    return max(moved, up(least, system, FINE) if least > 0 else 0.0)


@dataclass(frozen=True, slots=True)
class Span:
    """A stretch of distance rounded inwards, mm, and the figures to write its ends with."""

    near: float
    far: float
    figures: int


_LEAST_KEPT = 0.75


def inside(near: float, far: float, system: str = METRES) -> Span:
    """``near``…``far`` (mm, far may be inf) rounded inwards, so that all of it is true.

    Coarse if that keeps most of the stretch in 1/distance, else fine; a stretch too narrow even
    for that keeps its own ends. Raises NotANumber, WrongOrder.
    """
    require_order(near, far)
    if math.isinf(near):
        return Span(near, far, COARSE)
    whole = 1 / near - 1 / far
    for figures in (COARSE, FINE):
        rounded_near, rounded_far = up(near, system, figures), down(far, system, figures)
        if 1 / rounded_near - 1 / rounded_far > _LEAST_KEPT * whole:
            return Span(rounded_near, rounded_far, figures)
    return Span(near, far, FINE)


RING_METRES = tuple(
    1000.0 * d
    for d in (
        0.2, 0.25, 0.3, 0.35, 0.4, 0.45, 0.5, 0.6, 0.7, 0.8, 0.9, 1, 1.2, 1.5, 2, 2.5, 3, 4, 5, 7,
        10, 15, 20, 30, 50, 100,
    )
)  # fmt: skip
RING_FEET = tuple(
    MM_PER_FOOT * d
    for d in (
        0.75, 1, 1.25, 1.5, 1.75, 2, 2.5, 3, 3.5, 4, 5, 6, 7, 8, 10, 12, 15, 20, 25, 30, 50, 100,
        200,
    )
)  # fmt: skip
"""Distances as rings carry them, mm: what a hand sets without reading between marks. Infinity is on
every ring, and not in the lists. Source: [rings] in docs/references.md."""

RINGS = {METRES: RING_METRES, FEET: RING_FEET}


def ring_at_least(distance: float, ring: tuple[float, ...] = RING_METRES) -> float:
    """The nearest engraved mark not nearer than ``distance``, mm: safe for the far end. inf past
    the last mark."""
    return next((mark for mark in ring if mark >= distance * (1 - _HAIR)), math.inf)
