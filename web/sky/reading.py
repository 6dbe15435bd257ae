"""What a form or a link said on Sky: the text as typed, what it gives, and back."""

from __future__ import annotations

from dataclasses import dataclass, replace
from urllib.parse import urlencode

from optics import Setup
from web.bag.gear import Said, told_texts
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
        """The lens at its aperture, and the standard."""
        return self.sky.setup

    @property
    def valid(self) -> bool:
        """Whether everything typed could be used."""
        return not self.errors

    def query(self) -> str:
        """The link that reproduces this."""
        texts = {**self.texts, **told_texts(self.in_use)}
        pairs = [(name, texts[name]) for name in GEAR if texts[name] or name in _SAID_EMPTY]
        return urlencode(pairs, safe="/'")

    @property
    def gear_query(self) -> str:
        """The link to the same gear under any sky."""
        return replace(self, texts={**self.texts, **NIGHT}).query()

    def in_units(self, system: str) -> Reading:
        """The same read in other units: no length is typed here."""
        return replace(self, texts={**self.texts, "units": system})
