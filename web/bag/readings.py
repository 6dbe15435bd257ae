"""What was read off a lens, as people write it: marks and their angles, a tab on the clock."""

from __future__ import annotations

import math
import re
from dataclasses import dataclass

from django.core.exceptions import ValidationError

from web.ui.fields import read_length, shortened

_ANGLE = re.compile(
    r"^\s*(?P<distance>.+?)\s*(?:[:;=@→\t]|\s{2,}|\s(?=\S+$))\s*(?P<angle>-?[\d.,]+)\s*°?\s*$"
)


def read_marks(text: str, system: str) -> list[list[float | None]]:
    """Engraved distances and angles, a pair a line: ``0.7 m: 108``. Raises ValidationError."""
    pairs: list[list[float | None]] = []
    for line in text.splitlines():
        if not line.strip():
            continue
        match = _ANGLE.match(line)
        if match is None:
            raise ValidationError(
                f"“{shortened(line.strip())}” is not understood. Write a distance, a colon and "
                "degrees, such as 0.7 m: 108."
            )
        distance = read_length(match["distance"], system)
        try:
            degrees = float(match["angle"].replace(",", "."))
        except ValueError:
            raise ValidationError(f"“{shortened(match['angle'])}” is not an angle.") from None
        pairs.append([None if math.isinf(distance) else distance, degrees])
    return pairs


@dataclass(frozen=True, slots=True)
class Tab:
    """A tab seen on the clock, hours 0 to 12, with the ring at a distance, mm, up to inf."""

    hours: float
    distance: float = math.inf


_TAB = re.compile(
    r"(?:(?P<down>straight down)|(?P<hours>\d{1,2})(?::(?P<minutes>[0-5]\d)|(?P<part>[.,]\d+))?)"
    r"\s*(?:o[’']?clock)?\s*(?:\bat\s+(?P<distance>.+))?",
    re.IGNORECASE,
)


def read_tab(text: str, system: str) -> Tab:
    """Where a tab stands: ``4:30``, ``4.5``, ``straight down at 1.2 m``. Raises ValidationError."""
    found = _TAB.fullmatch(text)
    if found is None:
        raise ValidationError(
            "Write a place on the clock, such as 4:30, or straight down at 1.2 m."
        )
    hours = 6.0
    if not found["down"]:
        part = float((found["part"] or "0").replace(",", "."))
        hours = int(found["hours"]) + int(found["minutes"] or 0) / 60 + part
    if hours > 12:
        raise ValidationError("Give hours on a clock, 0 to 12, or none.")
    if not found["distance"]:
        return Tab(hours)
    return Tab(hours, read_length(found["distance"], system))


def clock_text(hours: float) -> str:
    """Hours as a clock shows them, to the minute: 4:08."""
    minutes = round(hours * 60) % 720
    return f"{minutes // 60 or 12}:{minutes % 60:02d}"


def read_apertures(text: str) -> list[float]:
    """Engraved f-numbers, in order: ``8 11 16``, ``f/8, f/11``. Raises ValidationError."""
    numbers: list[float] = []
    for word in re.split(r"[\s,;]+", text.strip()):
        bare = word.lower().removeprefix("f/")
        try:
            number = float(bare) if bare else None
        except ValueError:
            number = math.nan
        if number is not None and not 0.5 <= number <= 256:
            raise ValidationError(f"“{shortened(word)}” is not an aperture. Write 8 11 16 22.")
        if number is not None:
            numbers.append(number)
    return sorted(set(numbers))
