"""What a form or a link said on Sky: the text as typed, what it gives, and back."""

from __future__ import annotations

from dataclasses import dataclass, replace
from urllib.parse import urlencode

from optics import Setup
from optics.base import units
from optics.base.formats import Format
from web.bag.gear import Said, ring_text, told_texts, with_unit
from web.bag.in_use import InUse
from web.sky.sample import GEAR, NIGHT
from web.sky.skies import Sky

_SAID_EMPTY = ("lens", "pixels_across", "star_px")
"""Fields that mean something when empty, and so stand in a link even then."""


@dataclass(frozen=True, slots=True)
class Reading(Said):
    """``texts``, ``errors``, ``assumed`` are by field name; ``assumed`` names fields the link did
    not have."""

    sky: Sky
    texts: dict[str, str]
    errors: dict[str, str]
    assumed: frozenset[str]
    in_use: InUse

    @property
    def setup(self) -> Setup:
        """The lens at its aperture, and the standard in hand: what the ground is held to."""
        return self.sky.ground

    @property
    def valid(self) -> bool:
        """Whether everything typed could be used."""
        return not self.errors

    @property
    def frame(self) -> Format:
        """The format in hand."""
        return self.sky.format

    @property
    def pixels_across(self) -> int | None:
        """Of the body in hand."""
        return self.sky.pixels_across

    @property
    def linked(self) -> dict[str, str]:
        """Every text as a link says it."""
        return {**self.texts, **self._in_metres, **told_texts(self.in_use)}

    def query(self) -> str:
        """The link that reproduces this."""
        texts = self.linked
        pairs = [(name, texts[name]) for name in GEAR if texts[name] or name in _SAID_EMPTY]
        return urlencode(pairs, safe="/'")

    @property
    def _in_metres(self) -> dict[str, str]:
        lengths = {"foreground": self.sky.foreground, "ring": self.sky.ring}
        return {
            name: units.write(length, units.METRES, 4)
            for name, length in lengths.items()
            if length is not None and units.in_own_measures(self.texts[name])
        }

    @property
    def gear_query(self) -> str:
        """The link to the same gear under any sky."""
        return replace(self, texts={**self.texts, **NIGHT}).query()

    def query_with_lens(self, name: str, focal_length: float, f_number: float) -> str:
        """The link to the same night with another lens."""
        lens = {
            "lens": name,
            "focal_length_mm": f"{focal_length:g}",
            "f_number": f"{units.significant(f_number, 2):g}",
        }
        return replace(self, texts={**self.texts, **lens}, in_use=InUse()).query()

    def in_units(self, system: str) -> Reading:
        """The same read in other units: a bare length gets the unit it was typed in."""
        if system == self.texts["units"]:
            return self
        lengths = {
            name: with_unit(self.texts[name], self.sky.system) for name in ("foreground", "ring")
        }
        return replace(self, texts={**self.texts, **lengths, "units": system})

    def with_ring(self, focus: float, figures: int) -> Reading:
        """The same night with the ring set by hand."""
        errors = {name: message for name, message in self.errors.items() if name != "ring"}
        texts = {**self.texts, "ring": ring_text(focus, self.sky.system, figures)}
        return replace(self, sky=replace(self.sky, ring=focus), texts=texts, errors=errors)
