"""What a form or a link said on Sky: the text as typed, what it gives, and back."""

from __future__ import annotations

from dataclasses import dataclass, replace
from urllib.parse import urlencode

from optics import Setup, units
from optics.formats import Format
from web.bag.gear import Said, told_texts, with_unit
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
        near, text = self.sky.foreground, self.texts["foreground"]
        own = units.in_own_measures(text) and near is not None
        return {"foreground": units.write(near, units.METRES, 4)} if own and near else {}

    @property
    def gear_query(self) -> str:
        """The link to the same gear under any sky."""
        return replace(self, texts={**self.texts, **NIGHT}).query()

    def in_units(self, system: str) -> Reading:
        """The same read in other units: a bare length gets the unit it was typed in."""
        if system == self.texts["units"]:
            return self
        near = with_unit(self.texts["foreground"], self.sky.system)
        return replace(self, texts={**self.texts, "foreground": near, "units": system})
