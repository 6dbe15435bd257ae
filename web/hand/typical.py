"""Typical bodies and lenses, for those whose own are in no bag yet: by what they are, no names."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from optics.base import units
from optics.base.formats import BY_KEY
from web.hand.fields import TOLD

_FIRST = "typical-"


@dataclass(frozen=True, slots=True)
class Body:
    """``frame``: the key of its format. ``megapixels``: 0 for film."""

    label: str
    frame: str
    megapixels: float

    def said(self, texts: Mapping[str, str]) -> dict[str, str]:
        """What it means in a planner's texts."""
        across = BY_KEY[self.frame].pixels_across(self.megapixels) if self.megapixels else ""
        return {"format": self.frame, "pixels_across": str(across)}


@dataclass(frozen=True, slots=True)
class Lens:
    """``shortest``, ``longest``: mm. ``widest``: at each end. ``smallest``: f-number."""

    shortest: float
    longest: float
    widest: tuple[float, float]
    smallest: float = 22.0

    @property
    def label(self) -> str:
        """Its range and its widest apertures, as on its barrel."""
        lengths = dict.fromkeys((f"{self.shortest:g}", f"{self.longest:g}"))
        numbers = dict.fromkeys(f"{n:g}" for n in self.widest)
        return f"{'–'.join(lengths)} mm f/{'–'.join(numbers)}"

    def said(self, texts: Mapping[str, str]) -> dict[str, str]:
        """What it means in a planner's texts: a focal length and an aperture that it has stay."""
        at = _within(texts["focal_length_mm"], self.shortest, self.longest)
        widest = self.widest[0] if at <= self.shortest else max(self.widest)
        f_number = _within(texts["f_number"], widest, self.smallest)
        constant = self.widest[0] == self.widest[1]
        return {
            "lens": self.label,
            "focal_length_mm": f"{at:g}",
            "f_number": f"{units.significant(f_number, 3):g}",
            "lens_range": f"{self.widest[0]:g} {self.smallest:g}" if constant else "",
            **dict.fromkeys(TOLD[1:], ""),
        }


def _within(text: str, low: float, high: float) -> float:
    try:
        value = float(text.replace(",", "."))
    except ValueError:
        return low
    return min(max(value, low), high) if value == value else low


BODIES = (
    Body("Full frame, 24 MP", "full-frame", 24),
    Body("Full frame, 45 MP", "full-frame", 45),
    Body("APS-C, 24 MP", "aps-c", 24),
    Body("APS-C (1.6×), 24 MP", "aps-c-small", 24),
    Body("Four Thirds, 20 MP", "four-thirds", 20),
    Body("1-inch, 20 MP", "one-inch", 20),
    Body("Medium format, 50 MP", "medium-digital", 50),
    Body("35 mm film", "full-frame", 0),
)
LENSES = (
    Lens(10, 18, (4.5, 5.6)),
    Lens(16, 35, (4, 4)),
    Lens(18, 55, (3.5, 5.6)),
    Lens(24, 70, (2.8, 2.8)),
    Lens(24, 105, (4, 4)),
    Lens(70, 200, (4, 4), 32),
    Lens(24, 24, (2.8, 2.8)),
    Lens(35, 35, (2, 2), 16),
    Lens(50, 50, (1.8, 1.8), 16),
    Lens(85, 85, (1.8, 1.8), 16),
)


def key(at: int) -> str:
    """How a list of the panel says one of them, by its place."""
    return f"{_FIRST}{at}"


def picked(kinds: tuple[Body, ...] | tuple[Lens, ...], value: str) -> Body | Lens | None:
    """The one that a list of the panel says; None for a thing of the bag."""
    at = value.removeprefix(_FIRST)
    found = value.startswith(_FIRST) and at.isdecimal() and len(at) < 4 and int(at) < len(kinds)
    return kinds[int(at)] if found else None
