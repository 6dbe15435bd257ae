"""What a form or a link said on Street: the text as typed, what it gives, and back."""

from __future__ import annotations

import re
from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import ClassVar

from optics.base import units
from web.hand.typed import ring_text, with_unit
from web.planner.reading import Reading as PlannerReading
from web.street.sample import GEAR
from web.street.streets import Street


@dataclass(frozen=True, slots=True)
class Reading(PlannerReading):
    """What a form or a link said."""

    street: Street

    GEAR: ClassVar[Mapping[str, str]] = GEAR
    LENGTHS: ClassVar[tuple[str, ...]] = ("like", "near", "far", "home")
    SPEEDS: ClassVar[tuple[str, ...]] = ("speed",)

    def length_of(self, name: str) -> float | None:
        found: float | None = getattr(self.street, name)
        return found

    @property
    def linked(self) -> dict[str, str]:
        texts = super(Reading, self).linked
        if units.in_own_measures(self.texts["locked"]) and "locked" not in self.errors:
            texts["locked"] = listed(self.street.locked, units.METRES)
        return texts

    @property
    def fixed(self) -> dict[str, str]:
        """What stays where it is, each written in one way, however it was typed."""
        street = self.street
        home = "" if street.home is None else said(street.home, street.system)
        return {"home": home, "locked": listed(street.locked, street.system)}

    @property
    def gear_query(self) -> str:
        plain = {**self.texts, "home": "", "locked": "", "near": "", "far": "", "set_for": ""}
        return replace(self, texts=plain).query()

    def with_position(self, before: float, focus: float, home: float | None) -> Reading:
        """The same with one position moved by hand, and so locked. ``home``: the one in force."""
        street = self.street
        if home is not None and before == home:
            texts, moved = {"home": said(focus, street.system)}, replace(street, home=focus)
        else:
            locked = tuple(sorted({*(d for d in street.locked if d != before), focus}))
            texts, moved = {"locked": listed(locked, street.system)}, replace(street, locked=locked)
        right = {name: self.texts[name] for name in ("home", "locked", "count")}
        return self.saying(right | texts, street=moved)

    def in_units(self, system: str) -> Reading:
        read = super(Reading, self).in_units(system)
        if read is self or not self.texts["locked"] or "locked" in self.errors:
            return read
        each = (with_unit(part, self.system) for part in parted(self.texts["locked"]))
        return replace(read, texts={**read.texts, "locked": "; ".join(each)})


def said(focus: float, system: str) -> str:
    """A ring position as somebody would type it."""
    return ring_text(focus, system)


def parted(text: str) -> list[str]:
    """Positions typed in a row, each by itself."""
    return [part for part in re.split(r"\s*;\s*|,\s+|\s+and\s+", text.strip()) if part]


def listed(focuses: tuple[float, ...], system: str) -> str:
    """Several of them."""
    return "; ".join(said(focus, system) for focus in focuses)
