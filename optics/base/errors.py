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


class NoWidth(OpticsError):
    """A band whose two ends are the same distance."""


class AngleTooLarge(OpticsError):
    """An angle past where it means anything: a declination past the pole, a tilt past the feet."""


class TooShort(OpticsError):
    """A straight distance too short to reach the ground from where the camera stands."""


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


def require_number(name: str, value: npt.ArrayLike, noun: str) -> None:
    """Raise NotANumber for the first element of ``value`` that is nan."""
    if isinstance(value, (int, float)) and value == value:
        return
    array = np.asarray(value, dtype=float)
    require(~np.isnan(array), NotANumber, name, array, f"The {noun} is not a number.")


def require_finite(name: str, value: npt.ArrayLike, noun: str) -> None:
    """Raise unless every element of ``value`` is a finite number."""
    if isinstance(value, (int, float)) and -math.inf < value < math.inf:
        return
    array = np.asarray(value, dtype=float)
    require_number(name, array, noun)
    require(np.isfinite(array), OutOfRange, name, array, f"The {noun} must be finite.")


def require_positive(
    name: str, value: npt.ArrayLike, noun: str, *, finite: bool = True, zero: bool = False
) -> None:
    """Raise unless every element of ``value`` is a number above zero.

    ``finite``: infinity is refused. ``zero``: zero is allowed.
    """
    if isinstance(value, (int, float)) and (0 < value < math.inf or (zero and value == 0)):
        return
    array = np.asarray(value, dtype=float)
    enough = array >= 0 if zero else array > 0
    if enough.all() and (not finite or np.isfinite(array).all()):
        return
    require_number(name, array, noun)
    least = "cannot be negative" if zero else "must be more than zero"
    require(enough, OutOfRange, name, array, f"The {noun} {least}.")
    require(np.isfinite(array), OutOfRange, name, array, f"The {noun} must be finite.")


def require_order(near: npt.ArrayLike, far: npt.ArrayLike, *, width: bool = False) -> None:
    """Raise unless ``near`` ≤ ``far``, both numbers; with ``width``, near < far."""
    require_number("near", near, "near end")
    require_number("far", far, "far end")
    nears, fars = np.asarray(near, dtype=float), np.asarray(far, dtype=float)
    require(nears <= fars, WrongOrder, "near", nears, "The near end lies beyond the far end.")
    if width:
        require(nears < fars, NoWidth, "near", nears, "The band from near to far has no width.")


def require_angle(name: str, value: npt.ArrayLike, most: float, sentence: str) -> None:
    """Raise unless every element of ``value`` is an angle within ± ``most``, radians."""
    array = np.asarray(value, dtype=float)
    require_finite(name, array, "angle")
    require(np.abs(array) <= most * (1 + 1e-12), AngleTooLarge, name, array, sentence)


def require_count(name: str, value: int, noun: str, least: int = 1) -> None:
    """Raise unless ``value`` is a whole number of at least ``least``."""
    if isinstance(value, bool) or value != int(value) or value < least:
        raise OutOfRange(name, value, f"The number of {noun} must be {least} or more.")
