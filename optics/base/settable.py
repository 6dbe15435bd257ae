"""Distances a hand can set: 2.6 m, not 2.558 m. Rounding that keeps the picture sharp.

A *grid* is what can be read and set at so many figures, in a system of units (``systems``).
"""

from __future__ import annotations

import math
from dataclasses import dataclass

from optics.base import systems
from optics.base.errors import require_number, require_order
from optics.base.systems import BY_KEY
from optics.base.units import METRES

COARSE, FINE = systems.COARSE, systems.FINE
"""Figures to set a ring to: without thinking, and with a magnified view."""

_HAIR = 1e-9  # relative: what is on the grid but for rounding counts as on it


@dataclass(frozen=True, slots=True)
class Setting:
    """A ring setting in mm, and the figures to write it with. ``held`` if it is in its window."""

    focus: float
    figures: int
    held: bool


def grid_step(distance: float, system: str = METRES, figures: int = COARSE) -> float:
    """The spacing of the grid around a finite ``distance`` above 0, mm."""
    return BY_KEY[system].step(distance, figures)


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


RING_METRES = systems.METRES.ring


def ring_at_least(distance: float, ring: tuple[float, ...] = RING_METRES) -> float:
    """The nearest engraved mark not nearer than ``distance``, mm: safe for the far end. inf past
    the last mark."""
    return next((mark for mark in ring if mark >= distance * (1 - _HAIR)), math.inf)
