"""Plain numbers and arrays of them: what broadcasting functions take and give back."""

from __future__ import annotations

from typing import TYPE_CHECKING

import numpy as np
import numpy.typing as npt

Array = npt.NDArray[np.float64]
Numbers = float | Array
"""A plain number, or an array of them."""

if TYPE_CHECKING:
    from typing import Generic

    from typing_extensions import TypeVar

    Number = TypeVar("Number", float, "float | Array", default=float)
    """What a core type holds: plain numbers, unless ``Numbers`` are said."""

    class OfNumbers(Generic[Number]):
        """A core type whose fields may be arrays."""

else:
    Number = float

    class OfNumbers:
        """A core type whose fields may be arrays: to a type checker, ``Setup`` holds plain numbers
        and ``Setup[Numbers]`` may hold arrays; when it runs they are the same."""

        __slots__ = ()

        def __class_getitem__(cls, held: object) -> type:
            return cls


def plain(value: npt.ArrayLike) -> Array | float:
    """A float for what is a single number, the array itself otherwise."""
    if type(value) is float:
        return value
    array = np.asarray(value, dtype=np.float64)
    return float(array) if array.ndim == 0 else array
