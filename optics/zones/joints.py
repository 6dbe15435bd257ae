"""Positions as they are written beside each other: where one meets the next in one figure.

A joint is written with as many figures as it takes for both to hold it, so that *no gap* reads as
no gap; an end that is no joint is rounded inwards.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise

from optics.base.settable import (
    COARSE,
    FINE,
    MOST_FIGURES,
    Span,
    around,
    down,
    inside,
    nearest,
    up,
)
from optics.base.units import METRES
from optics.zones.stretches import Tile

_HAIR = 1e-9
_MEET = 1e-6
"""Relative: stretches whose ends lie as close as that meet."""


@dataclass(frozen=True, slots=True)
class Stretches:
    """Of one position, rounded inwards to be written. ``used``: what it is used for, None for
    nothing; ``held``: what it holds, all of that too; None where nothing is sharp."""

    used: Span | None
    held: Span | None


def written(tiles: Sequence[Tile], system: str = METRES) -> tuple[Stretches, ...]:
    """What to write of positions in use, nearest first."""
    used = [tile for tile in tiles if tile.used]
    ends = [_ends(one, other, system) for one, other in pairwise(used)]
    found: list[Stretches] = []
    before: float | None = None
    for tile in tiles:
        if not tile.used:
            found.append(_stretches(tile, None, system))
            continue
        after, next_before = ends.pop(0) if ends else (None, None)
        found.append(_stretches(tile, _used(tile, before, after, system), system))
        before = next_before
    return tuple(found)


_WIDER = 1.5
"""A gap is not written wider than that, in 1/distance, where a figure more prevents it."""


def _ends(nearer: Tile, farther: Tile, system: str) -> tuple[float | None, float | None]:
    """Where one neighbour ends and the next begins, as written: the joint, or the ends of the gap
    if that is narrow; None each where the ends need not heed each other."""
    joint_at = _joint(nearer, farther, system)
    if joint_at is not None:
        return joint_at, joint_at
    gap = 1 / nearer.end - 1 / farther.start
    one, other = (inside(tile.start, tile.end, system) for tile in (nearer, farther))
    for figures in (COARSE, FINE):  # and never with fewer than each end would have by itself
        end = max(down(nearer.end, system, figures), one.far)
        start = min(up(farther.start, system, figures), other.near)
        heeds = end > nearer.start and start < farther.end
        if heeds and 1 / end - 1 / start <= _WIDER * gap:
            return end, start
    return None, None


def _joint(nearer: Tile, farther: Tile, system: str) -> float | None:
    """Where two neighbours meet, as it is written: both hold it. None where there is a gap."""
    if farther.start > nearer.end * (1 + _MEET):
        return None
    low, high = max(farther.near, nearer.start), min(nearer.far, farther.end)
    return joint(low, high, nearer.end, system)


def joint(low: float, high: float, meets: float, system: str = METRES) -> float:
    """The figure to write where two positions meet at ``meets`` that both hold ``low``…``high``,
    mm: near that, and with no more figures than it takes."""
    for figures in range(COARSE, MOST_FIGURES + 1):
        tried = (round_it(meets, system, figures) for round_it in (nearest, up, down))
        held = [d for d in tried if low * (1 + _HAIR) < d < high * (1 - _HAIR)]
        if held:
            return min(held, key=lambda d: abs(1 / d - 1 / meets))
    return meets


def _used(tile: Tile, before: float | None, after: float | None, system: str) -> Span | None:
    alone = inside(tile.start, tile.end, system)
    start = alone.near if before is None else before
    end = alone.far if after is None else after
    if before is None and after is None:
        return alone
    for figures in range(COARSE, MOST_FIGURES + 1):
        if start < end:
            break
        start = up(tile.start, system, figures) if before is None else before
        end = down(tile.end, system, figures) if after is None else after
    return Span(start, end)


def _stretches(tile: Tile, used: Span | None, system: str) -> Stretches:
    if math.isnan(tile.near):
        return Stretches(None, None)
    if used is None or used.reach:
        return Stretches(used, inside(tile.near, tile.far, system))
    return Stretches(used, around(used.near, used.far, tile.near, tile.far, system))
