"""Shares, errors, speeds and times as people write them: text → plain numbers.

Understood: ``10 %``, ``10`` (per cent), ``1/3``; ``20 cm`` for an error; ``1.2 m/s``, ``5 km/h``,
``3 mph``, ``1.2`` (the user's own unit a second); ``1/125``, ``0.5 s``, ``4``, ``2 min``, ``2:06``;
``15``, ``15°``, ``1 in 10``, ``10 %`` for a slope.
"""

from __future__ import annotations

import math
import re

from optics.base.errors import NotUnderstood
from optics.base.systems import BY_KEY
from optics.base.units import METRES, MM_PER_FOOT, MM_PER_MILE, USUAL, Measures, parse

_NUMBER = r"(\d+(?:[.,]\d*)?|[.,]\d+)"
_SHARE = re.compile(rf"^{_NUMBER}\s*(?:%|per ?cent)?$")
_FRACTION = re.compile(r"^(\d+)\s*/\s*(\d+)$")
_SPEED = re.compile(rf"^{_NUMBER}\s*(m/s|mps|km/h|kmh|kph|mph|ft/s|fps|cm/s|mm/s)?$")
_TIME = re.compile(rf"^(?:1\s*/\s*{_NUMBER}|{_NUMBER})\s*(s|sec|secs|seconds?|min|minutes?|m|\")?$")
_HELD_OPEN = re.compile(r"^(?:\d{1,3}:)?\d{1,3}:[0-5]\d$")
_SLOPE = re.compile(rf"^(?:{_NUMBER}\s*(?:in|:)\s*{_NUMBER}|{_NUMBER}\s*(%)|{_NUMBER}\s*°?)$")
_SECONDS_PER_HOUR = 3600.0
_MM_PER_SECOND = {
    "m/s": 1000.0, "mps": 1000.0, "cm/s": 10.0, "mm/s": 1.0,
    "km/h": 1e6 / _SECONDS_PER_HOUR, "kmh": 1e6 / _SECONDS_PER_HOUR,
    "kph": 1e6 / _SECONDS_PER_HOUR, "mph": MM_PER_MILE / _SECONDS_PER_HOUR,
    "ft/s": MM_PER_FOOT, "fps": MM_PER_FOOT,
}  # fmt: skip


def _number(text: str) -> float:
    return float(text.replace(",", "."))


def parse_share(text: str) -> float:
    """A share: 0.1 for ``10 %`` and for ``10``; 0.333 for ``1/3``. Raises NotUnderstood."""
    cleaned = text.strip().lower()
    if (fraction := _FRACTION.match(cleaned)) and int(fraction[2]):
        return int(fraction[1]) / int(fraction[2])
    if found := _SHARE.match(cleaned):
        return _number(found[1]) / 100.0
    raise NotUnderstood("text", text, "Write a share as 50 %, 50 or 1/2.")


def parse_error(
    text: str, distance: float, system: str = METRES, measures: Measures = USUAL
) -> float:
    """How far off a ``distance`` may be, mm to either side: a share of it, or a length.

    A bare number is per cent. 0 at infinity. Raises NotUnderstood; so it does for an error as
    large as the distance itself, which says nothing.
    """
    cleaned = text.strip().lower()
    if _SHARE.match(cleaned):
        share = parse_share(cleaned)
        error = share * distance if math.isfinite(distance) else 0.0
    else:
        try:
            error = parse(cleaned, system, measures)
        except NotUnderstood as wrong:
            sentence = "Write how far off it may be as 10 % or 20 cm."
            raise NotUnderstood("text", text, sentence) from wrong
        share = error / distance
    if share >= 1.0:
        sentence = "An error of 100 % or more says nothing about the distance: give less."
        raise NotUnderstood("text", text, sentence)
    return error if math.isfinite(distance) else 0.0


def parse_speed(text: str, system: str = METRES) -> float:
    """A speed, mm/s, 0 or more. ``system``: of a bare number, a second.

    Raises NotUnderstood.
    """
    found = _SPEED.match(text.strip().lower())
    if found is None:
        raise NotUnderstood("text", text, "Write a speed as 1.2 m/s, 5 km/h or 3 mph.")
    per_second = _MM_PER_SECOND[found[2]] if found[2] else BY_KEY[system].mm
    return _number(found[1]) * per_second


def parse_degrees(text: str) -> float:
    """A tilt or a slope, degrees: ``15``, ``15°``; ``1 in 10`` and ``10 %``, up for along. Below 0
    with a minus before it; ``level`` is 0. Raises NotUnderstood.
    """
    cleaned = text.strip().lower()
    if cleaned in ("level", "flat"):
        return 0.0
    sign = -1.0 if cleaned[:1] in ("-", "−", "–") else 1.0
    found = _SLOPE.match(cleaned.lstrip("+-−–").strip())
    if found is not None:
        up, along, per_cent, _, degrees = found.groups()
        if degrees:
            return sign * _number(degrees)
        rise, run = (_number(up), _number(along)) if up else (_number(per_cent), 100.0)
        if run > 0:
            return sign * math.degrees(math.atan2(rise, run))
    raise NotUnderstood("text", text, "Write it as 15, 15°, 1 in 10 or 10 %.")


def parse_seconds(text: str) -> float:
    """An exposure time, s, above 0: ``1/125``, ``0.5``, ``2 min``, ``2:06``.

    Raises NotUnderstood.
    """
    cleaned = text.strip().lower()
    sentence = "Write a time as 1/125, 0.5 s, 4, 2 min or 2:06."
    if held := _HELD_OPEN.match(cleaned):
        total = 0.0
        for part in held.group().split(":"):
            total = 60.0 * total + float(part)
        if total > 0:
            return total
    found = _TIME.match(cleaned)
    if found is None:
        raise NotUnderstood("text", text, sentence)
    part, whole, unit = found.groups()
    value = _number(part or whole)
    if value <= 0 or not math.isfinite(value):
        raise NotUnderstood("text", text, sentence)
    seconds = 1.0 / value if part else value
    return seconds * 60.0 if unit and unit.startswith("m") else seconds
