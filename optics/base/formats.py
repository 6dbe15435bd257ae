"""Sensor and film formats: the picture area, mm. Source: [formats] in docs/references.md."""

from __future__ import annotations

import math
import re
from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Format:
    """A picture area. ``width`` × ``height`` in mm as held for a level, wide picture."""

    key: str
    name: str
    width: float
    height: float

    @property
    def diagonal(self) -> float:
        """mm."""
        return math.hypot(self.width, self.height)

    def pixels_across(self, megapixels: float) -> int:
        """Of square pixels, so many million of them."""
        return round(math.sqrt(megapixels * 1e6 * self.width / self.height))

    def pixel_pitch(self, pixels_across: int) -> float:
        """The side of a square pixel, mm, for so many across the width."""
        return self.width / pixels_across


FORMATS = (
    Format("full-frame", "35 mm full frame", 36.0, 24.0),
    Format("aps-c", "APS-C, 23.5 × 15.6", 23.5, 15.6),
    Format("aps-c-small", "APS-C, 22.3 × 14.9", 22.3, 14.9),
    Format("four-thirds", "Four Thirds", 17.3, 13.0),
    Format("one-inch", "1-inch", 13.2, 8.8),
    Format("medium-digital", "Medium format, 44 × 33", 43.8, 32.9),
    Format("645", "645 film", 56.0, 41.5),
    Format("6x6", "6 × 6 film", 56.0, 56.0),
    Format("6x7", "6 × 7 film", 69.5, 56.0),
    Format("6x9", "6 × 9 film", 84.0, 56.0),
    Format("4x5", "4 × 5 inch film", 120.0, 95.0),
)

BY_KEY = {format_.key: format_ for format_ in FORMATS}

_OWN = re.compile(r"(\d{1,3}(?:\.\d{1,3})?)x(\d{1,3}(?:\.\d{1,3})?)")


def own(width: float, height: float) -> Format:
    """A format of one's own, mm, its key ``60x45``: the long side first, held level and wide."""
    long, short = max(width, height), min(width, height)
    return Format(f"{long:g}x{short:g}", f"{long:g} × {short:g} mm", long, short)


def by_key(key: str) -> Format | None:
    """The format of a key: a known one's, or of one's own as ``own`` makes it; None if neither."""
    if key in BY_KEY:
        return BY_KEY[key]
    sides = _OWN.fullmatch(key)
    if sides is None or float(sides[1]) < 1 or float(sides[2]) < 1:
        return None
    return own(float(sides[1]), float(sides[2]))
