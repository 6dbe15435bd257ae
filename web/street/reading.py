"""What a form or a link said on Street: the text as typed, what it gives, and back."""

from __future__ import annotations

from dataclasses import dataclass, replace
from urllib.parse import urlencode

from optics import Setup
from optics.base import settable, units
from optics.base.formats import Format
from web.bag.gear import Said, told_texts, with_unit
from web.bag.in_use import InUse
from web.street.sample import GEAR
from web.street.streets import Street

_SAID_EMPTY = ("lens", "pixels_across")
"""Fields that mean something when empty, and so stand in a link even then."""
_ONE_LENGTH = ("like", "near", "far", "home")


@dataclass(frozen=True, slots=True)
class Reading(Said):
    """``texts``, ``errors``, ``assumed`` are by field name; ``assumed`` names fields the link did
    not have."""

    street: Street
    texts: dict[str, str]
    errors: dict[str, str]
    assumed: frozenset[str]
    in_use: InUse
    measures: units.Measures

    @property
    def frame(self) -> Format:
        """The format in hand."""
        return self.street.format

    @property
    def pixels_across(self) -> int | None:
        """Of the body in hand."""
        return self.street.pixels_across

    @property
    def valid(self) -> bool:
        """Whether everything typed could be used."""
        return not self.errors

    def query(self) -> str:
        """The link that reproduces this. One's own paces and arms stand in it in metres."""
        texts = self.linked
        pairs = [(name, texts[name]) for name in GEAR if texts[name] or name in _SAID_EMPTY]
        return urlencode(pairs, safe="/'")

    @property
    def linked(self) -> dict[str, str]:
        """Every text as a link says it."""
        return {**self.texts, **self._in_metres, **told_texts(self.in_use)}

    @property
    def _in_metres(self) -> dict[str, str]:
        said = {}
        for name in _ONE_LENGTH:
            text, value = self.texts[name], getattr(self.street, name)
            if units.in_own_measures(text) and value is not None and name not in self.errors:
                said[name] = units.write(value, units.METRES, 4)
        if units.in_own_measures(self.texts["locked"]) and "locked" not in self.errors:
            said["locked"] = listed(self.street.locked, units.METRES)
        return said

    @property
    def fixed(self) -> dict[str, str]:
        """What stays where it is, each written in one way, however it was typed."""
        street = self.street
        home = "" if street.home is None else said(street.home, street.system)
        return {"home": home, "locked": listed(street.locked, street.system)}

    @property
    def gear_query(self) -> str:
        """The link to the same gear with nothing else said."""
        plain = {**self.texts, "home": "", "locked": "", "near": "", "far": ""}
        return replace(self, texts=plain).query()

    @property
    def setup(self) -> Setup:
        """The lens at its aperture, and the standard."""
        return self.street.setup

    def with_position(self, before: float, focus: float, home: float | None) -> Reading:
        """The same with one position moved by hand, and so locked. ``home``: the one in force."""
        street = self.street
        texts = dict(self.texts)
        errors = {k: v for k, v in self.errors.items() if k not in ("home", "locked", "count")}
        if home is not None and before == home:
            texts["home"] = said(focus, street.system)
            moved = replace(street, home=focus)
        else:
            locked = tuple(sorted({*(d for d in street.locked if d != before), focus}))
            texts["locked"] = listed(locked, street.system)
            moved = replace(street, locked=locked)
        return replace(self, street=moved, texts=texts, errors=errors)

    def in_units(self, system: str) -> Reading:
        """The same read in other units: bare numbers get the unit they were typed in."""
        if system == self.texts["units"]:
            return self
        old = self.street.system
        texts = {name: with_unit(self.texts[name], old) for name in _ONE_LENGTH}
        texts["speed"] = with_unit(self.texts["speed"], f"{old}/s")
        if self.texts["locked"] and "locked" not in self.errors:
            texts["locked"] = listed(self.street.locked, old)
        return replace(self, texts={**self.texts, **texts, "units": system})


def said(focus: float, system: str) -> str:
    """A ring position as somebody would type it."""
    if focus == float("inf"):
        return "inf"
    coarse = abs(settable.nearest(focus, system) - focus) <= 1e-6 * focus
    text = units.write(focus, system, settable.COARSE if coarse else settable.FINE)
    return text.replace("′", "'").replace("″", '"')


def listed(focuses: tuple[float, ...], system: str) -> str:
    """Several of them."""
    return "; ".join(said(focus, system) for focus in focuses)
