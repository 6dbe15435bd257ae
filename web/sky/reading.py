"""What a form or a link said on Sky: the text as typed, what it gives, and back."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import ClassVar

from optics.base import units
from web.hand.in_use import InUse
from web.hand.typed import ring_text
from web.planner.reading import Reading as PlannerReading
from web.sky.sample import GEAR, NIGHT
from web.sky.skies import USUAL_ISO, Sky


@dataclass(frozen=True, slots=True)
class Reading(PlannerReading):
    """What a form or a link said. ``setup`` is what the ground is held to."""

    sky: Sky

    GEAR: ClassVar[Mapping[str, str]] = GEAR
    SAID_EMPTY: ClassVar[tuple[str, ...]] = (*PlannerReading.SAID_EMPTY, "star_px")
    LENGTHS: ClassVar[tuple[str, ...]] = ("foreground", "ring")

    @property
    def linked(self) -> dict[str, str]:
        """With the ISO that the body in hand is used to, and how the lens draws, which others' bags
        do not know."""
        linked = super(Reading, self).linked
        if not linked["iso_most"] and self.sky.iso_usable != USUAL_ISO:
            linked["iso_most"] = f"{self.sky.iso_usable:g}"
        if not linked["projection"] and not self.sky.straight:
            linked["projection"] = str(self.sky.projection)
        return linked

    def length_of(self, name: str) -> float | None:
        found: float | None = getattr(self.sky, name)
        return found

    @property
    def gear_query(self) -> str:
        return replace(self, texts={**self.texts, **NIGHT}).query()

    def query_with_lens(self, name: str, focal_length: float, f_number: float) -> str:
        """The link to the same night with another lens."""
        lens = {
            "lens": name,
            "focal_length_mm": f"{focal_length:g}",
            "f_number": f"{units.significant(f_number, 2):g}",
        }
        hand = replace(self.hand, in_use=InUse())
        return replace(self, texts={**self.texts, **lens}, hand=hand).query()

    def with_ring(self, focus: float) -> Reading:
        """The same night with the ring set by hand, mm."""
        text = ring_text(focus, self.system)
        return self.saying({"ring": text}, sky=replace(self.sky, ring=focus))
