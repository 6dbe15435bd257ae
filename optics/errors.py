"""Errors of the core: a small tree, each with the values and one sentence a user could read."""

from __future__ import annotations

import math
from typing import Any

import numpy as np
import numpy.typing as npt

type_index = tuple[int, ...]


class OpticsError(ValueError):
    """Something given to the core cannot be computed with.

    ``name`` is the argument at fault, ``value`` the offending number (of an array, the first
    offending element), ``index`` where it stands in the array or None for a plain number, and
    ``sentence`` what a user can read.
    """

    def __init__(
        self, name: str, value: Any, sentence: str, index: type_index | None = None
    ) -> None:
        self.name = name
        self.value = value
        self.index = index
        self.sentence = sentence
        where = "" if index is None else f" (element {', '.join(map(str, index))})"
        super().__init__(f"{name}{where} = {value!r}: {sentence}")


class NotANumber(OpticsError):
    """An argument is nan."""


class OutOfRange(OpticsError):
    """A quantity that must be positive, or finite, or both, is not."""


class FocusTooNear(OpticsError):
    """A ring setting nearer than any lens of that focal length can be focused."""


class SubjectTooNear(OpticsError):
    """A subject at or behind the lens's entrance pupil."""


class WrongOrder(OpticsError):
    """A near end beyond its far end."""


class NotUnderstood(OpticsError):
    """Text that is not a length; ``value`` is the text."""


def require(
    allowed: npt.ArrayLike,
    error: type[OpticsError],
    name: str,
    value: npt.ArrayLike,
    sentence: str,
) -> None:
    """Raise ``error`` for the first element of ``value`` that is not ``allowed``."""
    mask = np.asarray(allowed)
    if mask.all():
        return
    values = np.broadcast_to(np.asarray(value, dtype=float), mask.shape)
    index = tuple(int(i) for i in np.argwhere(~mask)[0])
    raise error(name, float(values[index]), sentence, index or None)


def require_positive(name: str, value: npt.ArrayLike, noun: str, *, finite: bool = True) -> None:
    """Raise unless every element of ``value`` is a number above zero (and finite, if asked)."""
    if isinstance(value, (int, float)) and 0 < value < math.inf:
        return
    array = np.asarray(value, dtype=float)
    require(~np.isnan(array), NotANumber, name, array, f"The {noun} is not a number.")
    require(array > 0, OutOfRange, name, array, f"The {noun} must be more than zero.")
    if finite:
        require(np.isfinite(array), OutOfRange, name, array, f"The {noun} must be finite.")
