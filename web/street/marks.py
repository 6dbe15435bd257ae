"""Marks engraved on the lens in hand, or a bar on its body's screen: which to trust."""

from __future__ import annotations

import math
import re
from collections.abc import Callable
from dataclasses import dataclass, replace

from django.core.exceptions import ValidationError

from optics.base import settable
from optics.base.systems import BY_KEY
from optics.base.units import METRES
from optics.lens.depth import limits
from optics.lens.standards import from_limits, stops_tighter
from web.street.usecases import Answer


@dataclass(frozen=True, slots=True)
class Promise:
    """What a scale would promise for a position, and what holds: as they are written; None where
    nothing is."""

    name: str
    promised: settable.Span | None
    held: settable.Span | None


@dataclass(frozen=True, slots=True)
class Scale:
    """A scale made for a circle, mm. ``tighter``: how many stops stricter one's standard is than
    it; below 0 looser. ``promises``: by position, nearest first."""

    circle: float
    tighter: float
    promises: tuple[Promise, ...]

    @property
    def strict(self) -> float:
        """How many stops that is, either way."""
        return abs(self.tighter)


@dataclass(frozen=True, slots=True)
class Bar:
    """A bar on a screen. ``pixels``: its circle in pixels of the sensor, None on film."""

    scale: Scale
    pixels: float | None

    @property
    def by_the_pixel(self) -> bool:
        """Whether it is as strict as the sensor rather than as a print."""
        return self.pixels is not None and self.pixels < _A_FEW_PIXELS


_A_FEW_PIXELS = 2.5


@dataclass(frozen=True, slots=True)
class Marks:
    """``trust``: the engraved mark to read at the aperture in use; None where the lens has none, or
    even its widest promise too much. ``engraved``, ``bar``: None
    where nothing is known of them."""

    engraved: Scale | None
    trust: float | None
    bar: Bar | None


def marks(answer: Answer) -> Marks:
    """What engraved marks and a bar promise at the aperture in use."""
    street = answer.street
    lens, circle = street.in_use.lens, street.setup.coc
    engraved, trust = None, None
    if lens is not None and lens.depth_marks and lens.depth_marks_circle_mm:
        engraved = _scale(answer, lens.depth_marks_circle_mm)
        mark = lens.mark_to_read(street.f_number, circle)
        trust = mark if mark in lens.depth_marks else None
    bar = None
    if street.bar is not None:
        across = street.pixels_across
        pitch = None if across is None else street.format.width / across
        bar = Bar(_scale(answer, street.bar), None if pitch is None else street.bar / pitch)
    return Marks(engraved, trust, bar)


def _scale(answer: Answer, circle: float) -> Scale:
    street = answer.street
    setup = replace(street.setup, coc=circle, diffraction=False)
    promises = []
    for one in answer.positions:
        said = limits(setup, one.focus)
        near, far = float(said.near), float(said.far)
        span = None if math.isnan(near) else settable.inside(near, far, street.system)
        promises.append(Promise(one.name, span, one.held))
    return Scale(circle, stops_tighter(circle, street.setup.coc), tuple(promises))


_READING = re.compile(
    r"""f?\s*/?\s*(?P<n>[\d.,]+)\s*(?:,|\bat\b|@)?\s+(?P<focus>.+?)\s*(?::|;|\bfrom\b)\s*
        (?P<near>.+?)\s*(?:\bto\b|–|-)\s*(?P<far>.+)""",
    re.VERBOSE | re.IGNORECASE,
)


def bar_circle(
    text: str, focal_length: float, length: Callable[[str], float], system: str = METRES
) -> float:
    """The circle of a bar, mm, from one reading of it: *f/8 at 2 m: 1.3 to 4 m*. ``length`` reads
    a distance. Raises ValidationError, OpticsError."""
    found = _READING.fullmatch(text.strip())
    wanted = f"Write one reading like this: {BY_KEY[system].reads}."
    if found is None:
        raise ValidationError(wanted)
    try:
        f_number = float(found["n"].replace(",", "."))
    except ValueError:
        raise ValidationError(wanted) from None
    if not 0.5 <= f_number <= 128:
        raise ValidationError("Give an aperture from 0.5 to 128.")
    near = found["near"]
    if re.fullmatch(r"[\d.,]+", near):  # the unit stands behind the second
        unit = re.search(r"[a-z′″'\"]+\s*$", found["far"].strip(), re.IGNORECASE)
        infinite = found["far"].strip().lower() in ("inf", "infinity")
        near += "" if unit is None or infinite else f" {unit[0]}"
    circle = from_limits(
        focal_length, f_number, length(found["focus"]), length(near), length(found["far"])
    )
    if not 1e-4 <= circle <= 1:
        raise ValidationError("No circle explains that reading: look at its numbers again.")
    return circle
