"""The systems of units that a screen can speak in: one record for each.

A record says which unit bare numbers are in, which distances a hand can set and how they are
written, what rings carry, and how an axis is ticked. Everybody who reads, rounds, writes or draws a
distance goes by the record; to add a system, write another and put it into ``SYSTEMS``.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator
from dataclasses import dataclass

MM_PER_INCH = 25.4
"""Exact since 1959: the international inch. Source: [inch] in docs/references.md."""
MM_PER_FOOT = 12 * MM_PER_INCH

COARSE = 2
"""Figures that a hand sets on a ring without thinking."""
FINE = 3
"""Figures for a setting that needs a magnified view; more would be a pretence."""

_HAIR = 1e-9  # relative: what is on the grid but for rounding counts as on it


@dataclass(frozen=True, slots=True)
class UnitSystem:
    """A system of units. Lengths mm.

    ``key``      in links; also the unit of a bare number, one of ``units.UNITS``.
    ``name``, ``title``  what people call it: in a line of text, and by itself.
    ``mm``       how long its unit is. ``speed``: its unit of speed, that length a second.
    ``ring``     distances as rings carry them, rising, without infinity.
    ``closest``  where the grid of distances begins that somebody on a street may set.
    ``step``     the spacing of what a hand can set around a finite distance, at so many figures.
    ``write``    a finite length and significant figures, to the number and the unit as text.
    ``label``    a distance on an axis as text, with its unit or without.
    ``tick``     a round number of units to one that can be ticked.
    ``even``     the steps of an axis that is ticked evenly, coarse to fine: from its span and its
                 far end.
    ``stride``   how far a tripod is moved at a time, in its unit.
    ``example``  what somebody would lock on a street: nothing, a distance, infinity.
    ``reads``    what a depth-of-field bar might read.
    ``other``    the unit, beside its own, that somebody says most often.
    ``sizes``    units for small sizes, of paper say, largest first: name, mm, and from how many on.
    """

    key: str
    name: str
    title: str
    mm: float
    speed: str
    ring: tuple[float, ...]
    closest: float
    step: Callable[[float, int], float]
    write: Callable[[float, int], tuple[str, str]]
    label: Callable[[float, bool], str]
    tick: Callable[[float], float]
    even: Callable[[float, float], Iterator[float]]
    stride: float
    example: str
    reads: str
    other: str
    sizes: tuple[tuple[str, float, float], ...]


def significant(value: float, figures: int) -> float:
    """``value`` rounded to so many significant figures; 0 and inf as they are."""
    if value == 0 or math.isinf(value):
        return value
    return round(value, figures - 1 - math.floor(math.log10(abs(value))))


def floored(value: float, figures: int) -> float:
    """To so many significant figures, never more; 0 for what is none."""
    if value <= 0:
        return 0.0
    step = decade_step(value, figures)
    return math.floor(value / step * (1 + _HAIR)) * step


def digits(value: float, figures: int) -> str:
    """A number, 0 or more, as text of so many significant figures, without zeros at its end."""
    rounded = significant(value, figures)
    decimals = max(0, figures - 1 - math.floor(math.log10(rounded))) if rounded else 0
    text = f"{rounded:.{decimals}f}"
    return text.rstrip("0").rstrip(".") if "." in text else text


def decade_step(value: float, figures: int) -> float:
    """The spacing of numbers of so many significant figures around ``value``, above 0."""
    return float(10.0 ** (math.floor(math.log10(value * (1 + _HAIR))) - (figures - 1)))


def decimal_steps(unit: float, span: float) -> Iterator[float]:
    """Even steps of an axis as long as ``span``: 5, 2, 1 and powers of ten of a unit, mm."""
    power = 10.0 ** math.ceil(math.log10(span / unit))
    for _ in range(4):
        yield from (multiple * power * unit for multiple in (1.0, 0.5, 0.2))
        power /= 10.0


# Metres ---------------------------------------------------------------------------------------


_KILOMETRES_FROM = 9.95e6


def _write_metres(length: float, figures: int) -> tuple[str, str]:
    if length < 9.5 and figures <= 3:
        return digits(length, figures), "mm"
    if length >= _KILOMETRES_FROM:
        return digits(length / 1e6, figures), "km"
    return digits(length / 1000.0, figures), "m"


def _label_metres(distance: float, with_unit: bool) -> str:
    number = f"{round(distance / 1000.0, 9):.9g}"
    return f"{number} m" if with_unit else number


METRES = UnitSystem(
    key="m",
    name="metres",
    title="Metres",
    mm=1000.0,
    speed="m/s",
    ring=tuple(
        1000.0 * d
        for d in (
            0.2, 0.25, 0.3, 0.35, 0.4, 0.45, 0.5, 0.6, 0.7, 0.8, 0.9, 1, 1.2, 1.5, 2, 2.5, 3, 4, 5,
            7, 10, 15, 20, 30, 50, 100,
        )
    ),
    closest=100.0,
    step=decade_step,
    write=_write_metres,
    label=_label_metres,
    tick=lambda number: number,
    even=lambda span, far: decimal_steps(1.0, span),
    stride=0.1,
    example="none; 0.7 m; inf",
    reads="f/8 at 2 m: 1.3 to 4 m",
    other="km",
    sizes=(("m", 1000.0, 1.0), ("cm", 10.0, 1.0), ("mm", 1.0, 0.0)),
)  # fmt: skip


# Feet -----------------------------------------------------------------------------------------
# What rings and tapes carry: coarse, half inches below 3 ft, quarters of a foot below 10 ft, then
# two figures of feet; fine, tenths of an inch, half inches, then three figures.

_INCH_STEPS = (12.0, 6.0, 3.0, 1.0, 0.5, 0.1, 0.05, 0.01)
"""Even steps of an axis below ten feet, inches."""


_INCHES_TO = 9.96 * MM_PER_FOOT
"""From there on two figures are of feet."""
_INCHES_WITH = 7
"""Figures up to which what is nearer is in inches; with more it is no longer for a hand."""


def _in_inches(distance: float, figures: int) -> bool:
    return figures <= _INCHES_WITH and distance < _INCHES_TO * (1 - _HAIR)


def _inch_step(distance: float, figures: int) -> float:
    """Of a distance below ten feet, inches: each figure more is a finer one, for three feet and
    more a place later."""
    if distance >= 3 * MM_PER_FOOT * (1 - _HAIR):
        if figures <= COARSE:
            return 3.0
        figures -= 1
    return 0.5 if figures <= COARSE else 10.0 ** (COARSE - figures)


def _step_feet(distance: float, figures: int) -> float:
    if _in_inches(distance, figures):
        return MM_PER_INCH * _inch_step(distance, figures)
    return MM_PER_FOOT * decade_step(distance / MM_PER_FOOT, figures)


def _write_feet(length: float, figures: int) -> tuple[str, str]:
    if not _in_inches(length, figures):
        return digits(length / MM_PER_FOOT, figures), "ft"
    step = _inch_step(length, figures)
    count = round(length / MM_PER_INCH / step)
    if count == 0:
        return digits(length / MM_PER_INCH, figures), "in"
    feet, steps = divmod(count, round(12 / step))
    inches = round(steps * step, figures)
    text = f"{inches:.15g}"
    if step == 0.5 and inches % 1:
        text = text[:-2].removeprefix("0") + "½"
    if not feet:
        return text, "in"
    quarter = _QUARTERS.get(inches)
    return (f"{feet}′ {text}″", "") if quarter is None else (f"{feet}{quarter}", "ft")


_QUARTERS = {0.0: "", 3.0: "¼", 6.0: "½", 9.0: "¾"}
"""By inches, as rings carry them."""


def _label_feet(distance: float, with_unit: bool) -> str:
    inches = round(distance / MM_PER_INCH, 6)
    if distance >= 10 * MM_PER_FOOT or inches % 12 == 0:
        number = f"{round(distance / MM_PER_FOOT, 9):.9g}"
        return f"{number} ft" if with_unit else number
    feet, rest = divmod(inches, 12)
    if not feet:
        return f"{rest:.4g}″"
    if (quarter := _QUARTERS.get(rest)) is not None:
        return f"{feet:.0f}{quarter} ft" if with_unit else f"{feet:.0f}{quarter}"
    return f"{feet:.0f}′{rest:.4g}″"


def _tick_feet(feet: float) -> float:
    return round(feet * 12) / 12 if feet < 10 else feet


def _even_feet(span: float, far: float) -> Iterator[float]:
    if far < 10 * MM_PER_FOOT:
        return (inches * MM_PER_INCH for inches in _INCH_STEPS)
    return decimal_steps(MM_PER_FOOT, span)


FEET = UnitSystem(
    key="ft",
    name="feet",
    title="Feet and inches",
    mm=MM_PER_FOOT,
    speed="ft/s",
    ring=tuple(
        MM_PER_FOOT * d
        for d in (
            0.75, 1, 1.25, 1.5, 1.75, 2, 2.5, 3, 3.5, 4, 5, 6, 7, 8, 10, 12, 15, 20, 25, 30, 50,
            100, 200,
        )
    ),
    closest=4 * MM_PER_INCH,
    step=_step_feet,
    write=_write_feet,
    label=_label_feet,
    tick=_tick_feet,
    even=_even_feet,
    stride=0.5,
    example="none; 2 ft; inf",
    reads="f/8 at 6 ft: 4 to 12 ft",
    other="in",
    sizes=(("ft", MM_PER_FOOT, 3.0), ("in", MM_PER_INCH, 0.0)),
)  # fmt: skip

SYSTEMS = (METRES, FEET)
"""In the order they are offered. Of the rings: infinity is on every ring, and not in the lists.
Source: [rings] in docs/references.md."""
BY_KEY = {system.key: system for system in SYSTEMS}
