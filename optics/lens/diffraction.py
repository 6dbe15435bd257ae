"""Defocus and diffraction together, as an equivalent disc, fast enough for a live answer.

Everything goes through the one table of ``wave``: for the working f-number N and a geometric disc
b, the equivalent disc is N·D(b/N). Between nodes D is taken as straight, forwards and backwards
alike, so ``defocus_within`` undoes ``combine`` to rounding. Within 1e-6 of the integral.
"""

from __future__ import annotations

import math
from bisect import bisect_right
from functools import cache
from typing import overload

import numpy as np
import numpy.typing as npt

from optics.base.errors import require_positive
from optics.base.numbers import Array, plain
from optics.lens.wave import table

MOST_ALLOWED = 1.016
"""The widest geometric disc that may pass for a narrower equivalent one: light bends some of a
defocused disc back inwards, and at defocus 4 µm × N the transfer function's half comes 1.5 % later
than geometry has it. From the table; held by ``tests/optics/test_diffraction.py``."""

_HAIR = 1e-12


@overload
def disc(working_f_number: float) -> float: ...
@overload
def disc(working_f_number: npt.ArrayLike) -> Array | float: ...
def disc(working_f_number: npt.ArrayLike) -> Array | float:
    """The equivalent disc of diffraction alone, mm: the sharpest that light allows.

    ``working_f_number``: N(1 + m/p), above 0. Broadcasts. Raises NotANumber, OutOfRange.
    """
    require_positive("working_f_number", working_f_number, "working f-number")
    return plain(np.asarray(working_f_number) * table().disc[0])


@overload
def combine(defocus: float, working_f_number: float) -> float: ...
@overload
def combine(defocus: npt.ArrayLike, working_f_number: npt.ArrayLike) -> Array | float: ...
def combine(defocus: npt.ArrayLike, working_f_number: npt.ArrayLike) -> Array | float:
    """The equivalent disc of defocus and diffraction together, mm. Source: ``wave``, eq. (4).

    ``defocus``           diameter of the geometric blur disc, mm, 0 or more.
    ``working_f_number``  N(1 + m/p), above 0.
    Broadcasts. Raises NotANumber, OutOfRange.
    """
    require_positive("defocus", defocus, "defocus", zero=True)
    require_positive("working_f_number", working_f_number, "working f-number")
    if isinstance(defocus, float) and isinstance(working_f_number, float):
        return combine_plain(defocus, working_f_number)
    return plain(_combine(np.asarray(defocus), np.asarray(working_f_number)))


def _combine(defocus: Array, working: Array) -> Array:
    curve = table()
    return np.asarray(working * np.interp(defocus / working, curve.defocus, curve.disc))


@overload
def defocus_within(total: float, working_f_number: float) -> float: ...
@overload
def defocus_within(total: npt.ArrayLike, working_f_number: npt.ArrayLike) -> Array | float: ...
def defocus_within(total: npt.ArrayLike, working_f_number: npt.ArrayLike) -> Array | float:
    """The largest geometric disc whose ``combine`` is at most ``total``, mm; nan where
    diffraction alone is more.

    ``total``: equivalent disc, mm, 0 or more, or nan (which stays nan). Broadcasts.
    Raises NotANumber (of the f-number), OutOfRange.
    """
    require_positive("working_f_number", working_f_number, "working f-number")
    curve = table()
    working = np.asarray(working_f_number)
    wanted = np.asarray(total) / working * (1.0 + _HAIR)  # rounding must not make it too little
    return plain(working * np.interp(wanted, curve.disc, curve.defocus, left=np.nan))


@cache
def _rising() -> tuple[list[float], list[float]]:
    """The table's columns as lists: a single number is found in them without arrays."""
    curve = table()
    return curve.defocus.tolist(), curve.disc.tolist()


def _straight(at: float, places: list[float], values: list[float]) -> float:
    """``numpy.interp`` for one number: nan before the first place, the last value past the last."""
    stretch = bisect_right(places, at)
    if stretch == 0 or at != at:
        return math.nan
    if stretch == len(places):
        return values[-1]
    low, high = places[stretch - 1], places[stretch]
    start = values[stretch - 1]
    return start + (at - low) / (high - low) * (values[stretch] - start)


def combine_plain(defocus: float, working_f_number: float) -> float:
    """``combine`` for plain, checked numbers: planning asks for it many times over."""
    defocuses, discs = _rising()
    return working_f_number * _straight(defocus / working_f_number, defocuses, discs)


def defocus_within_plain(total: float, working_f_number: float) -> float:
    """``defocus_within`` for plain, checked numbers."""
    defocuses, discs = _rising()
    wanted = total / working_f_number * (1.0 + _HAIR)
    return working_f_number * _straight(wanted, discs, defocuses)
