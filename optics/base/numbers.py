"""Plain numbers and arrays of them: what broadcasting functions take and give back."""

from __future__ import annotations

import numpy as np
import numpy.typing as npt

Array = npt.NDArray[np.float64]


def plain(value: npt.ArrayLike) -> Array | float:
    """A float for what is a single number, the array itself otherwise."""
    if type(value) is float:
        return value
    array = np.asarray(value, dtype=np.float64)
    return float(array) if array.ndim == 0 else array
