"""The lens equation, with the sensor as the origin of distances.

A lens focused at u from its front principal plane forms the image v behind its rear one, with
1/u + 1/v = 1/f. The ring is engraved with the distance from the sensor, D = u + hiatus + v.
Every ring setting is also a magnification, m = v/u = f/(u − f), and in m the bookkeeping is
short: u = f(1 + 1/m), v = f(1 + m), so

    D = f(2 + m + 1/m) + hiatus          (1)

m = 0 is infinity, m = 1 the nearest any lens can focus, 4f + hiatus; m below 0 is the ring
turned past infinity. All of ``depth`` and ``placement`` is written in m, because unlike v or u
it loses no figures at either end. Source: [gauss] in docs/references.md.
"""

from __future__ import annotations

import math
from typing import Any, overload

import numpy as np
import numpy.typing as npt

from optics.base.errors import FocusTooNear, require, require_number
from optics.base.numbers import Array, plain
from optics.lens.setup import Setup

NEAREST_FOCUS_IN_FOCAL_LENGTHS = 4.0
"""No lens forms an image nearer to its object than four focal lengths (plus the hiatus)."""


_ROUNDING = 1e-12
"""What adding a hiatus and taking it away again may cost, in focal lengths."""


@overload
def nearest_focus(setup: Setup) -> float: ...
@overload
def nearest_focus(setup: Setup[Any]) -> Array | float: ...
def nearest_focus(setup: Setup[Any]) -> Array | float:
    """The nearest distance from the sensor at which this lens can form an image, mm."""
    return plain(NEAREST_FOCUS_IN_FOCAL_LENGTHS * np.asarray(setup.focal_length) + setup.hiatus)


@overload
def magnification(setup: Setup, focus: float) -> float: ...
@overload
def magnification(setup: Setup[Any], focus: npt.ArrayLike) -> Array | float: ...
def magnification(setup: Setup[Any], focus: npt.ArrayLike) -> Array | float:
    """The magnification m of the plane the ring is set to: equation (1), solved for m.

    ``focus``: mm from the sensor, from 4f + hiatus to inf. Broadcasts.
    Raises NotANumber, FocusTooNear.
    """
    if isinstance(focus, (int, float)) and isinstance(setup.focal_length, (int, float)):
        total = (focus - setup.hiatus) / setup.focal_length - 2.0
        if isinstance(total, float) and total >= 2.0:
            return 2.0 / (total + math.sqrt((total - 2.0) * (total + 2.0)))
    distance = np.asarray(focus, dtype=np.float64)
    total = np.asarray((distance - setup.hiatus) / setup.focal_length)  # m + 1/m + 2
    if total.size and not total.min() >= 4.0:
        reachable = total >= 4.0 - _ROUNDING
        if not reachable.all():
            require_number("focus", distance, "focus")
            sentence = "No lens focuses nearer than four focal lengths from the sensor."
            require(reachable, FocusTooNear, "focus", distance, sentence)
        total = np.maximum(total, 4.0)
    root = total - 4.0
    root *= total
    root = np.sqrt(root)
    root += total
    root -= 2.0
    return plain(2.0 / root)


def breathing(setup: Setup, focus: float, other: float) -> float:
    """How many times larger things are drawn with the ring at ``focus`` than at ``other``: focus
    breathing, for a lens that moves as a whole.

    A direction falls f (1 + m/p) tan θ from the picture's middle, for a pupil ratio p. Both mm from
    the sensor, as ``magnification``. Plain numbers only. Raises NotANumber, FocusTooNear.
    """
    here, there = magnification(setup, focus), magnification(setup, other)
    return (1.0 + here / setup.pupil_ratio) / (1.0 + there / setup.pupil_ratio)


@overload
def focus_of(setup: Setup, magnification: float) -> float: ...
@overload
def focus_of(setup: Setup[Any], magnification: npt.ArrayLike) -> Array | float: ...
def focus_of(setup: Setup[Any], magnification: npt.ArrayLike) -> Array | float:
    """The ring setting of a magnification: equation (1). At or past infinity (m ≤ 0), inf.

    ``magnification``: at most 1. Returns mm from the sensor. Broadcasts.
    """
    single = isinstance(magnification, float) and isinstance(setup.focal_length, (int, float))
    if single and magnification > 0:  # type: ignore[operator]
        reached = setup.focal_length * (2.0 + magnification + 1.0 / magnification)  # type: ignore[operator]
        return plain(reached + setup.hiatus)
    m = np.asarray(magnification, dtype=np.float64)
    if m.size and m.min() > 0:
        return plain(_reading(setup, m, np.asarray(1.0 / m)))
    finite = m > 0
    inverse = np.divide(1.0, m, out=np.full(m.shape, np.inf), where=finite)
    distance = _reading(setup, m, inverse)
    return plain(np.where(finite, distance, np.where(np.isnan(m), np.nan, np.inf)))


def _reading(setup: Setup, m: Array, inverse: Array) -> Array:
    """Equation (1). ``inverse``: 1/m, which is used up."""
    inverse += m
    inverse += 2.0
    distance = np.asarray(setup.focal_length * inverse)
    return np.asarray(distance + setup.hiatus) if np.any(setup.hiatus) else distance
