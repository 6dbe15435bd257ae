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

from typing import overload

import numpy as np
import numpy.typing as npt

from optics.errors import FocusTooNear, NotANumber, require
from optics.setup import Setup

Array = npt.NDArray[np.float64]

NEAREST_FOCUS_IN_FOCAL_LENGTHS = 4.0
"""No lens forms an image nearer to its object than four focal lengths (plus the hiatus)."""


_ROUNDING = 1e-12
"""What adding a hiatus and taking it away again may cost, in focal lengths."""


def plain(value: npt.ArrayLike) -> Array | float:
    """A float for what is a single number, the array itself otherwise."""
    array = np.asarray(value, dtype=np.float64)
    return float(array) if array.ndim == 0 else array


def nearest_focus(setup: Setup) -> Array | float:
    """The nearest distance from the sensor at which this lens can form an image, mm."""
    return plain(NEAREST_FOCUS_IN_FOCAL_LENGTHS * np.asarray(setup.focal_length) + setup.hiatus)


@overload
def magnification(setup: Setup, focus: float) -> float: ...
@overload
def magnification(setup: Setup, focus: npt.ArrayLike) -> Array | float: ...
def magnification(setup: Setup, focus: npt.ArrayLike) -> Array | float:
    """The magnification m of the plane the ring is set to: equation (1), solved for m.

    ``focus``: mm from the sensor, from 4f + hiatus to inf. Broadcasts.
    Raises NotANumber, FocusTooNear.
    """
    distance = np.asarray(focus, dtype=np.float64)
    focal_length = np.asarray(setup.focal_length)
    require(~np.isnan(distance), NotANumber, "focus", distance, "The focus is not a number.")
    sum_of_m_and_inverse = (distance - setup.hiatus) / focal_length - 2.0
    require(
        sum_of_m_and_inverse >= 2.0 - _ROUNDING,
        FocusTooNear,
        "focus",
        distance,
        "No lens focuses nearer than four focal lengths from the sensor.",
    )
    sum_of_m_and_inverse = np.maximum(sum_of_m_and_inverse, 2.0)
    root = np.sqrt((sum_of_m_and_inverse - 2.0) * (sum_of_m_and_inverse + 2.0))
    return plain(2.0 / (sum_of_m_and_inverse + root))


def focus_of(setup: Setup, magnification: npt.ArrayLike) -> Array | float:
    """The ring setting of a magnification: equation (1). At or past infinity (m ≤ 0), inf.

    ``magnification``: at most 1. Returns mm from the sensor. Broadcasts.
    """
    m = np.asarray(magnification, dtype=np.float64)
    finite = m > 0
    inverse = np.divide(1.0, m, out=np.full(m.shape, np.inf), where=finite)
    distance = np.asarray(setup.focal_length) * (2.0 + m + inverse) + setup.hiatus
    return plain(np.where(finite, distance, np.where(np.isnan(m), np.nan, np.inf)))
