"""What is typed on a planner beside what is in hand: read one text after the other, and lengths
back to text."""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from typing import Any

from django.core.exceptions import ValidationError

from optics.base import settable, units
from optics.base.errors import OpticsError
from web.hand.asker import Asker
from web.ui.fields import read_length
from web.ui.wording import sentence_of


@dataclass(slots=True)
class Typed:
    """Reads one text after the other, keeping what was wrong by field name. ``before``: the texts
    of when all was right, if they are known."""

    texts: Mapping[str, str]
    system: str
    who: Asker
    errors: dict[str, str] = field(default_factory=dict)
    before: Mapping[str, Any] | None = None

    def get(self, name: str, read: Callable[[str], Any], usual: Any = None) -> Any:
        """The value; ``usual`` for an empty text, and for one that cannot be used."""
        text = self.texts[name]
        if not text:
            return usual
        try:
            return read(text)
        except (ValidationError, OpticsError) as error:
            self.errors[name] = sentence_of(error, self.system)
        return usual

    def last(self, name: str, read: Callable[[str], Any], usual: Any = None, unit: str = "") -> Any:
        """As ``get``; for a text that cannot be used the last that could be, and its message says
        so."""
        value = self.get(name, read, usual)
        if name not in self.errors or self.before is None:
            return value
        earlier = str(self.before.get(name, ""))
        try:
            found = read(earlier) if earlier else usual
        except (ValidationError, OpticsError):
            return usual
        with_ = f"with {earlier} {unit}".rstrip() if earlier else "as it was"
        self.errors[name] += f" Shown {with_} meanwhile."
        return found

    def length(self, text: str) -> float:
        """A length in any unit, mm; in one's own measures too. Raises ValidationError."""
        own = units.in_own_measures(text)
        return read_length(text, self.system, self.who.own()[0] if own else units.USUAL)

    def ring(self, text: str, closest: float, lens_reaches: float) -> float:
        """A ring setting, mm. ``closest``: the nearest that what is in hand focuses;
        ``lens_reaches``: that any lens of its focal length could. Raises ValidationError."""
        ring = self.length(text)
        if ring < lens_reaches:
            nearest = self.nearest(lens_reaches)
            raise ValidationError(
                f"Too near: this focal length cannot focus under {nearest}, four focal lengths."
            )
        if ring < closest * (1 - 1e-9):
            raise ValidationError(f"Too near: this lens focuses from {self.nearest(closest)}.")
        return ring

    def nearest(self, length: float) -> str:
        """A distance that something reaches, in words that can be typed and are reached."""
        return settable.written(settable.up(length, self.system), self.system)


def ring_text(focus: float, system: str) -> str:
    """A ring setting as the form and the link say it, with marks that a keyboard has."""
    if math.isinf(focus):
        return "inf"
    return settable.written(focus, system).replace("′", "'").replace("″", '"')


def with_unit(text: str, system: str) -> str:
    """A length as typed, with the unit it was typed in."""
    return text if not text or units.has_unit(text) else f"{text} {system}"
