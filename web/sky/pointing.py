"""Where a lens points under the sky, as people write it, and back in plain words."""

from __future__ import annotations

import re

from django.core.exceptions import ValidationError

from web.ui.fields import NumberField

_LATITUDE = NumberField(
    low=-90, high=90, sentence="A latitude is from −90 to 90°, south negative, such as 47."
)
_HEIGHT = NumberField(
    low=-10, high=90, sentence="How high above the horizon you aim: −10 to 90°, such as 30."
)
_POINTS = (
    "n", "nne", "ne", "ene", "e", "ese", "se", "sse",
    "s", "ssw", "sw", "wsw", "w", "wnw", "nw", "nnw",
)  # fmt: skip
_NAMED = {"n": "north", "e": "east", "s": "south", "w": "west"}
_COMPASS = {
    spelled: 22.5 * at
    for at, name in enumerate(_POINTS)
    for spelled in (name, "".join(_NAMED[letter] for letter in name))
}
_DEGREES = re.compile(
    r"(?P<whole>[-−+]?[\d.,]+(?:e[-+]?\d+)?) ?(?:°|deg(?:rees?)?)?"
    r"(?: ?(?P<minutes>\d{1,2}(?:[.,]\d+)?) ?(?:'|′|min(?:utes?)?))?"
)
"""47.5, 47.5°, 47 deg, 47° 30'."""
_SIDE = re.compile(
    r"(?:(?P<before>[ns]|north|south) ?)?(?P<degrees>[^a-z].*?)(?: ?(?P<after>[ns]|north|south))?"
)
"""47.5 N, south 33."""


def _degrees(text: str, wanted: str) -> float:
    """Degrees as people write them, with minutes if they like. Raises ValidationError."""
    found = _DEGREES.fullmatch(text.strip().lower())
    try:
        assert found is not None
        whole = found["whole"].replace(",", ".").replace("−", "-")
        minutes = float((found["minutes"] or "0").replace(",", ".")) / 60
        degrees = float(whole)
    except (AssertionError, ValueError):
        raise ValidationError(wanted) from None
    return degrees - minutes if whole.startswith("-") else degrees + minutes


def latitude(text: str) -> float:
    """47, -33, 47.5 N, S 33° 30'."""
    found = _SIDE.fullmatch(text.strip().lower())
    if found is None or (found["before"] and found["after"]):
        raise ValidationError(_LATITUDE.sentence)
    degrees = _degrees(found["degrees"], _LATITUDE.sentence)
    side = found["before"] or found["after"] or ""
    if side and degrees < 0:
        raise ValidationError("North or south, or a minus, not both.")
    return float(_LATITUDE.clean(f"{-degrees if side.startswith('s') else degrees:.10g}"))


def height(text: str) -> float:
    return float(_HEIGHT.clean(f"{_degrees(text, _HEIGHT.sentence):.10g}"))


def direction(text: str) -> float:
    """NNE, north-east, north north east, 160, 160°, 160 deg."""
    letters = re.sub(r"[\s-]+", "", text.lower())
    if letters in _COMPASS:
        return _COMPASS[letters]
    degrees = _degrees(text, "Write a direction as SSE, south-east or 160 (degrees).")
    if not 0 <= degrees <= 360:
        raise ValidationError("A direction is from 0° (north) through 90° (east) to 360°.")
    return degrees


def words(azimuth: float, altitude: float) -> str:
    """Where a lens points, in plain words: degrees from north through east, and of height."""
    where = _POINTS[round(azimuth / 45.0) * 2 % 16]
    name = "-".join(_NAMED[letter] for letter in where)
    if altitude >= 80:
        return "overhead"
    high = next(said for most, said in _HEIGHTS if altitude < most)
    return f"{name}, {high}"


_HEIGHTS = (
    (5.0, "along the horizon"),
    (22.0, "low"),
    (37.0, "a third of the way up"),
    (53.0, "halfway up"),
    (80.0, "high up"),
)
"""Degrees of height, up to where each is said."""
