"""Lengths as people write them, and back: text ↔ millimetres.

Understood: ``1.3``, ``1,3 m``, ``1 m 30``, ``130 cm``, ``4ft``, ``4' 3"``, ``4 ft 3 1/2 in``,
``2 yd``, ``5 km``, ``6 paces``, ``1½ arms``, ``about 3 m``, ``~3 m``, ``inf``, ``∞``. A bare number
is in the unit the user has chosen. Paces and arms are as long as the user's own (``Measures``), and
``eye``, ``chest``, ``waist`` and ``knee`` as high as theirs.
"""

from __future__ import annotations

import math
import re
from dataclasses import dataclass
from fractions import Fraction
from functools import lru_cache

from optics.base import systems
from optics.base.errors import NotANumber, NotUnderstood, require_positive
from optics.base.systems import MM_PER_FOOT, MM_PER_INCH, digits, significant

__all__ = ["MM_PER_FOOT", "MM_PER_INCH", "significant"]

MM_PER_YARD, MM_PER_MILE = 3 * MM_PER_FOOT, 5280 * MM_PER_FOOT

METRES, FEET = systems.METRES.key, systems.FEET.key
SYSTEMS = tuple(systems.BY_KEY)
"""The units a screen speaks in: grids of distances to set, and axes, are made for these."""
CENTIMETRES, MILLIMETRES, INCHES, YARDS = "cm", "mm", "in", "yd"
KILOMETRES, MILES = "km", "mi"
PACES, ARMS = "pace", "arm"


@dataclass(frozen=True, slots=True)
class Unit:
    """A unit that can be typed and written: all that is known of it, so that none is half known.

    ``mm``: how long it is; of a person's own measures, how long it usually is. ``spellings``: what
    is typed for it, lower case. ``own``: the field of ``Measures`` that it is as long as, if any.
    """

    mm: float
    spellings: tuple[str, ...]
    own: str = ""


TABLE = {
    METRES: Unit(1000.0, ("m", "metre", "metres", "meter", "meters")),
    CENTIMETRES: Unit(10.0, ("cm", "centimetre", "centimetres", "centimeter", "centimeters")),
    MILLIMETRES: Unit(1.0, ("mm", "millimetre", "millimetres", "millimeter", "millimeters")),
    KILOMETRES: Unit(1e6, ("km", "kilometre", "kilometres", "kilometer", "kilometers")),
    FEET: Unit(MM_PER_FOOT, ("ft", "foot", "feet", "'")),
    INCHES: Unit(MM_PER_INCH, ("in", "inch", "inches", '"', "''")),
    YARDS: Unit(MM_PER_YARD, ("yd", "yds", "yard", "yards")),
    MILES: Unit(MM_PER_MILE, ("mi", "mile", "miles")),
    PACES: Unit(750.0, ("pace", "paces", "step", "steps"), own="pace"),
    ARMS: Unit(650.0, ("arm", "arms"), own="arm"),
}
"""Every unit. To add one, write its record."""
UNITS = tuple(TABLE)
"""Every unit that can be written and typed."""


@dataclass(frozen=True, slots=True)
class Measures:
    """A person's own measures, mm, above 0. Raises NotANumber, OutOfRange.

    ``pace``: one step of a steady walk. ``arm``: from the eye to the thumb of a stretched arm.
    ``eye``: how high above the ground they see from, standing.
    """

    pace: float = TABLE[PACES].mm
    arm: float = TABLE[ARMS].mm
    eye: float = 1600.0

    def __post_init__(self) -> None:
        require_positive("pace", self.pace, "length of a pace")
        require_positive("arm", self.arm, "length of an arm")
        require_positive("eye", self.eye, "height of the eyes")

    def mm_per(self, unit: str) -> float:
        """The length of a unit of ``UNITS``, mm."""
        known = TABLE[unit]
        return float(getattr(self, known.own)) if known.own else known.mm


USUAL = Measures()

_UNIT_OF = {spelling: key for key, unit in TABLE.items() for spelling in unit.spellings}
_INFINITY = {"inf", "infinity", "∞", "oo"}
_BODY = {"eye": 1.0, "chin": 0.93, "chest": 0.8, "waist": 0.64, "hip": 0.56, "knee": 0.3}
"""Heights on a standing person, in that of their eyes: those of most people to a twentieth."""
_BODY_HEIGHT = re.compile(rf"({'|'.join(_BODY)})s?(?: height| level| high)?")
_QUOTES = str.maketrans({"′": "'", "’": "'", "‘": "'", "″": '"', "”": '"', "“": '"', "\xa0": " "})
_FRACTIONS = {"½": " 1/2", "¼": " 1/4", "¾": " 3/4"}
_LONGEST_TEXT = 40

_NUMBER = r"(\d+(?:[.,]\d*)?|[.,]\d+)"
_FRACTION = r"(?:(\d+)\s*/\s*(\d+))"
_ABOUT = re.compile(r"^(?:~|≈|about|roughly|some|ca?\.?)(?=[\s\d.,½¼¾])\s*")
_PART = re.compile(rf"\s*(?:{_FRACTION}|{_NUMBER}(?:\s+{_FRACTION})?)\s*([a-z]+|''|['\"])?\s*")

_COUNTED = tuple(key for key, unit in TABLE.items() if unit.own)
"""Units that are words: one pace, two paces."""

EXAMPLES = "Write it as 1.3, 130 cm, 4ft, 4' 3\" or inf."


@lru_cache(maxsize=4096)
def parse(text: str, system: str = METRES, measures: Measures = USUAL) -> float:
    """The length that ``text`` means, mm; ``math.inf`` for infinity. Never negative.

    ``system``: the unit of a bare number, one of ``UNITS``. ``measures``: the user's own.
    Raises NotUnderstood with the text and a sentence saying what was not understood.
    """
    cleaned = _ABOUT.sub("", text.translate(_QUOTES).strip().lower())
    for sign, spelled in _FRACTIONS.items():
        cleaned = cleaned.replace(sign, spelled)
    if not cleaned:
        raise NotUnderstood("text", text, f"A distance is missing. {EXAMPLES}")
    if cleaned in _INFINITY:
        return math.inf
    if height := _BODY_HEIGHT.fullmatch(cleaned):
        return measures.eye * _BODY[height[1]]
    if len(cleaned) > _LONGEST_TEXT:
        raise NotUnderstood("text", text, f"That is too long for a distance. {EXAMPLES}")
    if cleaned.startswith(("-", "−")):
        raise NotUnderstood("text", text, "A distance cannot be negative.")
    parts = _parts(text, cleaned, system)
    if len(parts) == 1:
        value, unit = parts[0]
        return value * measures.mm_per(unit)
    (feet, feet_unit), (inches, inch_unit) = parts
    if (feet_unit, inch_unit) == (METRES, CENTIMETRES):
        return _metres_and_centimetres(text, feet, inches)
    if feet_unit != "ft" or inch_unit != "in":
        sentence = f"Only feet and inches, or metres and centimetres, go together. {EXAMPLES}"
        raise NotUnderstood("text", text, sentence)
    if inches >= 12:
        raise NotUnderstood("text", text, f"{inches:g} inches are a foot or more: carry them over.")
    if feet != int(feet):
        raise NotUnderstood("text", text, "With inches given, the feet must be whole.")
    return feet * MM_PER_FOOT + inches * MM_PER_INCH


def _metres_and_centimetres(text: str, metres: float, centimetres: float) -> float:
    if centimetres >= 100:
        sentence = f"{centimetres:g} centimetres are a metre or more: carry them over."
        raise NotUnderstood("text", text, sentence)
    if metres != int(metres):
        raise NotUnderstood("text", text, "With centimetres given, the metres must be whole.")
    return metres * 1000.0 + centimetres * 10.0


_SMALLER = {FEET: INCHES, METRES: CENTIMETRES}
"""What a second number without a unit means: 4' 3 and 1 m 30."""


def _parts(text: str, cleaned: str, system: str) -> list[tuple[float, str]]:
    parts: list[tuple[float, str]] = []
    position = 0
    while position < len(cleaned):
        match = _PART.match(cleaned, position)
        if match is None or len(parts) == 2:
            rest = cleaned[position:].strip()
            raise NotUnderstood("text", text, f"“{rest}” is not understood. {EXAMPLES}")
        top_alone, bottom_alone, whole, top, bottom, word = match.groups()
        value = float(whole.replace(",", ".")) if whole else 0.0
        top, bottom = top or top_alone, bottom or bottom_alone
        if top is not None:
            if int(bottom) == 0:
                raise NotUnderstood("text", text, "A fraction cannot be over zero.")
            value += float(Fraction(int(top), int(bottom)))
        if word is None:
            word = _SMALLER.get(parts[0][1], system) if parts else system
        elif word not in _UNIT_OF:
            raise NotUnderstood("text", text, f"The unit “{word}” is not known. {EXAMPLES}")
        parts.append((value, _UNIT_OF[word]))
        position = match.end()
        if match[6] is None and position < len(cleaned) and not match[0].endswith(" "):
            raise NotUnderstood("text", text, f"“{cleaned}” is not one number. {EXAMPLES}")
    return parts


def has_unit(text: str) -> bool:
    """Whether the text says its unit itself (or is infinity), so that no setting changes it."""
    cleaned = _ABOUT.sub("", text.translate(_QUOTES).strip().lower())
    return cleaned in _INFINITY or bool(re.search(r"[a-z'\"]", cleaned))


_OWN = re.compile(rf"(?<![a-z])(?:paces?|steps?|arms?|(?:{'|'.join(_BODY)})s?)(?![a-z])")


def in_own_measures(text: str) -> bool:
    """Whether the text is in someone's own measures: paces, arms, a height on their body."""
    return bool(_OWN.search(text.lower()))


def write(length: float, system: str = METRES, figures: int = 3, measures: Measures = USUAL) -> str:
    """A length as text with its unit, in a form ``parse`` reads back.

    ``length``: mm, 0 or more, inf as ``∞``. ``system``: one of ``UNITS``. ``figures``: significant
    figures, 1 to 17. In feet, below 10 ft, two figures mean quarters of a foot (half inches below
    3 ft), three mean half inches (tenths below 3 ft), each one more a tenth of that.
    Raises NotANumber.
    """
    number, unit = write_parts(length, system, figures, measures)
    return f"{number} {unit}" if unit else number


_SEEN = 0.05


def write_size(
    length: float, system: str = METRES, figures: int = 2, *, least: bool = False
) -> str:
    """A small size as text with its unit: of paper, of a blur at the subject, of a gap.

    ``length``: mm, 0 or more, inf as ``∞``. ``system``: one of ``SYSTEMS``. ``figures``:
    significant figures. ``least``: never larger than it is, else rounded. What no eye sees, less
    than 0.05 mm, is 0.
    """
    if math.isinf(length):
        return "∞"
    length = length if length >= _SEEN else 0.0
    cut = systems.floored if least else significant
    for name, mm, start in systems.BY_KEY[system].sizes:
        if cut(length, figures) / mm >= start:
            return f"{digits(cut(length / mm, figures), figures)} {name}"
    raise AssertionError("the smallest unit begins at nothing")


def write_parts(
    length: float, system: str = METRES, figures: int = 3, measures: Measures = USUAL
) -> tuple[str, str]:
    """The number and the unit of ``write`` apart, so that a page can set them in two sizes."""
    if math.isnan(length):
        raise NotANumber("length", length, "The distance is not a number.")
    if math.isinf(length):
        return "∞", ""
    if system in systems.BY_KEY:
        return systems.BY_KEY[system].write(length, figures)
    number = digits(length / measures.mm_per(system), figures)
    return number, system if system not in _COUNTED or number == "1" else f"{system}s"
