"""Searches for one number, on the path of a live answer: a crossing, the bottom of a valley.

Both keep a bracket, so they end and cannot run away; the functions searched here are cheap, and
smooth but for kinks. No units: the caller knows them.
"""

from __future__ import annotations

import math
from collections.abc import Callable

_GOLDEN = 0.5 * (math.sqrt(5.0) - 1.0)
_EDGE = 1e-4
"""A guess nearer than this share to an end of the bracket is moved in, so that the other end moves
too."""


def crossing(
    excess: Callable[[float], float], lost: float, held: float, tolerance: float = 1e-13
) -> float:
    """Where ``excess`` turns from above 0, at ``lost``, to at most 0, at ``held``: the held side.

    The two may lie either way round. Regula falsi with the Illinois halving, and every fourth time
    plain halving, until they are closer than ``tolerance`` (relative). Infinite values are
    halved away. Where the function jumps, the jump is found. ``lost`` itself is given back if it
    is held already.
    """
    at_lost, at_held = excess(lost), excess(held)
    if at_lost <= 0:
        return lost
    moved, count = 0, 0
    while abs(held - lost) > tolerance * max(abs(held), abs(lost)):
        count += 1
        share = 0.5
        if count % 4 and math.isfinite(at_lost) and at_lost > at_held:
            share = min(max(at_lost / (at_lost - at_held), _EDGE), 1.0 - _EDGE)
        middle = lost + share * (held - lost)
        if middle in (lost, held):
            break
        value = excess(middle)
        if value <= 0:
            held, at_held = middle, value
            at_lost = 0.5 * at_lost if moved > 0 else at_lost
            moved = 1
        else:
            lost, at_lost = middle, value
            at_held = 0.5 * at_held if moved < 0 else at_held
            moved = -1
    return held


def least(function: Callable[[float], float], low: float, high: float, tolerance: float) -> float:
    """Where a function with one valley between ``low`` and ``high`` is least: golden section.

    ``tolerance``: absolute. A flat bottom gives any of its places.
    """
    left, right = high - _GOLDEN * (high - low), low + _GOLDEN * (high - low)
    at_left, at_right = function(left), function(right)
    while high - low > tolerance:
        if at_left <= at_right:
            high, right, at_right = right, left, at_left
            left = high - _GOLDEN * (high - low)
            at_left = function(left)
        else:
            low, left, at_left = left, right, at_right
            right = low + _GOLDEN * (high - low)
            at_right = function(right)
    return 0.5 * (low + high)
