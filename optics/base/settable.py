"""Distances a hand can set: 2.6 m, not 2.558 m. Rounding that keeps the picture sharp.

A *grid* is what can be read and set at so many figures, in a system of units (``systems``).
"""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass
from functools import lru_cache

from optics.base import systems
from optics.base.errors import require_number, require_order
from optics.base.systems import BY_KEY
from optics.base.units import METRES, write, write_parts

COARSE, FINE = systems.COARSE, systems.FINE
"""Figures to set a ring to: without thinking, and with a magnified view."""
MOST_FIGURES = 8
"""What is judged is written, whatever it takes; finer than this is no distance."""

_HAIR = 1e-9  # relative: what is on the grid but for rounding counts as on it


@dataclass(frozen=True, slots=True)
class Setting:
    """A ring setting in mm, on a grid, so that what is judged is what ``written`` writes. ``held``
    if it is in its window, and no finer than a hand can set."""

    focus: float
    held: bool


def grid_step(distance: float, system: str = METRES, figures: int = COARSE) -> float:
    """The spacing of the grid around a finite ``distance`` above 0, mm."""
    return BY_KEY[system].step(distance, figures)


def _round(steps: float) -> int:
    return max(round(steps), 1)


def _ceil(steps: float) -> int:
    return math.ceil(steps * (1 - _HAIR))


def _floor(steps: float) -> int:
    return math.floor(steps * (1 + _HAIR))


def nearest(distance: float, system: str = METRES, figures: int = COARSE) -> float:
    """The grid distance closest to ``distance``; inf as it is. Raises NotANumber."""
    return _snapped(distance, system, figures, _round)


def up(distance: float, system: str = METRES, figures: int = COARSE) -> float:
    """The nearest grid distance not nearer than ``distance``: safe for a near limit.

    inf as it is. Raises NotANumber.
    """
    return _snapped(distance, system, figures, _ceil)


def down(distance: float, system: str = METRES, figures: int = COARSE) -> float:
    """The farthest grid distance not beyond ``distance``: safe for a far limit.

    inf as it is. Raises NotANumber.
    """
    return _snapped(distance, system, figures, _floor)


def _snapped(distance: float, system: str, figures: int, snap: Callable[[float], int]) -> float:
    require_number("distance", distance, "distance")
    if math.isinf(distance) or distance <= 0:
        return distance
    step_at = BY_KEY[system].step
    step = step_at(distance, figures)
    while True:  # a distance that crosses to another grid is put on that one
        snapped = snap(distance / step) * step
        if snapped <= 0 or (other := step_at(snapped, figures)) == step:
            return snapped
        distance, step = snapped, other
        if abs(snap(distance / step) * step - distance) <= _HAIR * distance:
            return distance


def _is_fine(distance: float, system: str) -> bool:
    """Whether a distance can be read as it is, with a magnified view."""
    return (
        math.isinf(distance) or abs(nearest(distance, system, FINE) - distance) <= _HAIR * distance
    )


@lru_cache(maxsize=4096)  # a page writes the same few distances many times
def figures_of(distance: float, system: str = METRES) -> int:
    """The fewest figures, two or more, that write a distance on the grid as it is; for what is on
    no grid, ``MOST_FIGURES``. Raises NotANumber."""
    for figures in range(COARSE, MOST_FIGURES):
        if abs(nearest(distance, system, figures) - distance) <= _HAIR * distance:
            return figures
        if math.isinf(distance):
            return COARSE
    return MOST_FIGURES


def written(distance: float, system: str = METRES) -> str:
    """A distance on the grid as text, with the figures it takes and no more: the only way in which
    what was judged is written. Raises NotANumber."""
    return write(distance, system, figures_of(distance, system))


def written_parts(distance: float, system: str = METRES) -> tuple[str, str]:
    """The number and the unit of ``written`` apart."""
    return write_parts(distance, system, figures_of(distance, system))


def within(focus: float, closest: float, farthest: float, system: str = METRES) -> Setting:
    """The grid distance near ``focus`` that lies in the window closest…farthest, mm.

    Coarse if the window has room for it, fine if not, and with as many figures as it takes, not
    ``held``, if no hand could set it. inf may be given for any of the three. Raises NotANumber,
    WrongOrder.
    """
    require_order(closest, farthest)
    if math.isinf(focus):
        return Setting(focus, held=math.isinf(farthest))
    for figures in range(COARSE, MOST_FIGURES + 1):
        candidates = {nearest(focus, system, figures), up(focus, system, figures)}
        candidates.add(down(focus, system, figures))
        inside = [c for c in candidates if closest * (1 - _HAIR) <= c <= farthest * (1 + _HAIR)]
        if inside:
            best = min(inside, key=lambda c: abs(1 / c - 1 / focus))
            return Setting(best, held=figures <= FINE)
    return Setting(nearest(focus, system, MOST_FIGURES), held=False)


_TYPED = 5
"""Figures that a hand may type, and have read back."""


def typed(focus: float, system: str = METRES, least: float = 0.0) -> float:
    """A setting made by hand, mm, as it is judged and written: as it was typed if that can be, else
    on the fine grid. ``least``: the nearest the ring reaches, mm. Raises NotANumber."""
    if figures_of(focus, system) <= _TYPED:
        return focus
    rounded = nearest(focus, system, FINE)
    return rounded if rounded >= least else up(least, system, FINE)


def reached(focus: float, system: str = METRES, least: float = 0.0) -> float:
    """``focus`` if the ring reaches it, else the nearest that it does on a grid, mm."""
    return focus if focus >= least else typed(least, system, least)


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
    return reached(moved, system, least)


@dataclass(frozen=True, slots=True)
class Span:
    """A stretch of distance rounded inwards, mm, so that what is written of it is true.

    ``reach``: of a stretch too narrow for that, how far it goes to either side of its middle, mm;
    else 0, and both ends are on the grid.
    """

    near: float
    far: float
    reach: float = 0.0

    @property
    def middle(self) -> float:
        """Halfway, mm."""
        return 0.5 * (self.near + self.far)


ENDLESS = 1e15
"""mm: no blur tells that from infinity."""
_LEAST_KEPT = 0.75


def inside(near: float, far: float, system: str = METRES) -> Span:
    """``near``…``far`` (mm, far may be inf) rounded inwards, so that all of it is true as written.

    Coarse if that keeps most of the stretch in 1/distance, else fine, and an end that can be read
    as it is stays; a stretch too narrow even for that is a middle and how far it reaches to either
    side. Raises NotANumber, WrongOrder.
    """
    require_order(near, far)
    far = math.inf if far > ENDLESS else far
    if math.isinf(near):
        return Span(near, far)
    whole = 1 / near - 1 / far
    near_is_plain, far_is_plain = (_is_fine(end, system) for end in (near, far))
    for figures in (COARSE, FINE):
        rounded_near = near if near_is_plain else up(near, system, figures)
        rounded_far = far if far_is_plain else down(far, system, figures)
        if rounded_far > 0 and 1 / rounded_near - 1 / rounded_far > _LEAST_KEPT * whole:
            return Span(rounded_near, rounded_far)
    if math.isinf(far):
        return Span(up(near, system, MOST_FIGURES), far)
    for figures in range(FINE, MOST_FIGURES + 1):
        middle = nearest(0.5 * (near + far), system, figures)
        reach = floored(min(middle - near, far - middle))
        if 2 * reach > _LEAST_KEPT * (far - near):
            return Span(middle - reach, middle + reach, reach)
    return Span(up(near, system, MOST_FIGURES), down(far, system, MOST_FIGURES))


def around(start: float, end: float, near: float, far: float, system: str = METRES) -> Span:
    """``near``…``far`` rounded inwards as ``inside``, but so that it still has ``start``…``end``,
    which lies in it and is written beside it. mm. As ``inside``."""
    span = inside(near, far, system)
    if span.reach or math.isinf(span.near):
        span = Span(up(near, system), down(far, system))
    low, high = span.near, span.far
    for figures in range(FINE, MOST_FIGURES + 1):
        if low > start * (1 + _HAIR):
            low = up(near, system, figures)
        if high < end * (1 - _HAIR):
            high = down(far, system, figures)
    return Span(low, high)


def floored(length: float) -> float:
    """To two figures, never longer; 0 for what is none."""
    return systems.floored(length, COARSE)


RING_METRES = systems.METRES.ring


def ring_at_least(distance: float, ring: tuple[float, ...] = RING_METRES) -> float:
    """The nearest engraved mark not nearer than ``distance``, mm: safe for the far end. inf past
    the last mark."""
    return next((mark for mark in ring if mark >= distance * (1 - _HAIR)), math.inf)
