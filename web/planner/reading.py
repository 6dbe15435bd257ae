"""What a form or a link said to a planner: texts as typed, what was wrong, and the link of it."""

from __future__ import annotations

from abc import ABC, abstractmethod
from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import Any, ClassVar, Self
from urllib.parse import urlencode

from django.http import QueryDict

from optics import Setup
from optics.base import units
from web.hand.fields import TEXT_LIMIT, ZOOM, told_texts
from web.hand.in_use import InUse
from web.hand.reader import Hand
from web.hand.typed import with_unit


@dataclass(frozen=True, slots=True)
class Message:
    """A sentence beside the field ``name``; ``wrong`` if it must be mended."""

    name: str
    text: str
    wrong: bool


@dataclass(frozen=True, slots=True)
class Reading(ABC):
    """What every planner's reading has.

    ``texts``, ``errors``, ``assumed`` are by field name; ``assumed`` names fields the link did not
    have. A planner says of itself: ``GEAR``, every text of its link with what it opens with;
    ``SAID_EMPTY``, those that mean something when empty, and so stand in a link even then;
    ``UNSAID``, what a link need not say; ``LENGTHS`` and ``SPEEDS``, which texts are such.
    """

    hand: Hand
    texts: dict[str, str]
    errors: dict[str, str]
    assumed: frozenset[str]

    GEAR: ClassVar[Mapping[str, str]]
    SAID_EMPTY: ClassVar[tuple[str, ...]] = ("lens", "pixels_across")
    UNSAID: ClassVar[Mapping[str, str]] = {}
    LENGTHS: ClassVar[tuple[str, ...]] = ()
    SPEEDS: ClassVar[tuple[str, ...]] = ()

    @abstractmethod
    def length_of(self, name: str) -> float | None:
        """What one of ``LENGTHS`` came to, mm, below 0 too; None where nothing was said."""

    @property
    @abstractmethod
    def gear_query(self) -> str:
        """The link to the same gear and nothing else."""

    @property
    def in_use(self) -> InUse:
        """What of the bag is in hand."""
        return self.hand.in_use

    @property
    def setup(self) -> Setup:
        """The lens at its aperture, and the standard in hand."""
        return self.hand.kit.at(self.hand.f_number)

    @property
    def system(self) -> str:
        """The units it is read in."""
        return self.hand.system

    @property
    def valid(self) -> bool:
        """Whether everything typed could be used."""
        return not self.errors

    @property
    def quiet(self) -> list[str]:
        """The fields that say nothing when empty: they need not be sent then."""
        return [
            name for name, usual in self.GEAR.items() if not usual and name not in self.SAID_EMPTY
        ]

    @property
    def linked(self) -> dict[str, str]:
        """Every text as a link says it: one's own paces and arms in metres, which are the same to
        everybody; a lens by its numbers, for other bags than this."""
        return {**self.texts, **self._in_metres, **told_texts(self.in_use)}

    @property
    def _in_metres(self) -> dict[str, str]:
        found = {}
        for name in self.LENGTHS:
            if units.in_own_measures(self.texts[name]) and name not in self.errors:
                length = self.length_of(name)
                if length is not None:
                    found[name] = in_metres(length)
        return found

    def query(self) -> str:
        """The link that reproduces this."""
        return urlencode(self.pairs(), safe="/'")

    def pairs(self) -> list[tuple[str, str]]:
        """What stands in that link, in its order."""
        texts = self.linked
        return [
            (name, texts[name])
            for name in self.GEAR
            if name in self.SAID_EMPTY
            or name in self.errors
            or (texts[name] and texts[name] != self.UNSAID.get(name))
        ]

    def in_units(self, system: str) -> Self:
        """The same read in other units: bare numbers get the unit they were typed in."""
        old = self.texts["units"]
        if system == old:
            return self
        said = {name: with_unit(self.texts[name], old) for name in self.LENGTHS}
        said |= {name: with_unit(self.texts[name], f"{old}/s") for name in self.SPEEDS}
        return replace(self, texts={**self.texts, **said, "units": system})

    def with_texts_of(self, data: QueryDict, wrong: str) -> Self:
        """This under what is typed, which is ``wrong`` in one sentence."""
        said = {name: str(data[name])[:_LONGEST] for name in self.GEAR if name in data}
        return replace(self, texts={**self.texts, **said}, errors={"focal_length_mm": wrong})

    def saying(self, texts: Mapping[str, str], **more: Any) -> Self:
        """The same with some texts another, which are right."""
        errors = {name: text for name, text in self.errors.items() if name not in texts}
        return replace(self, texts={**self.texts, **texts}, errors=errors, **more)

    @property
    def messages(self) -> list[Message]:
        """What there is to say, beside which field."""
        cautious = cautions(self.hand, self.errors)
        found = [Message(name, text, wrong=True) for name, text in self.errors.items()]
        return found + [Message(name, text, wrong=False) for name, text in cautious.items()]

    @property
    def notes(self) -> dict[str, str]:
        """What is assumed, by field name."""
        assumed = dict.fromkeys(self.assumed, "Not in the link: assumed.")
        return assumed | cautions(self.hand, self.errors)


def in_metres(length: float) -> str:
    """A length as a link says it, whose it may be: forward, with a minus before it, below 0."""
    sign = "-" if length < 0 else ""
    return sign + units.write(abs(length), units.METRES, 4)


def cautions(hand: Hand, errors: Mapping[str, str]) -> dict[str, str]:
    """What to say beside a field that is well typed: an aperture or a focal length that the lens
    in hand has not got."""
    in_use, f_number, focal_length = hand.in_use, hand.f_number, hand.kit.focal_length
    found = {}
    if hand.rescaled and "circle_mm" not in errors:
        found["circle_mm"] = f"The same standard on this format: {hand.frame.name}."
    if "focal_length_mm" not in errors and (zoom := ZOOM.fullmatch(hand.texts["focal_length_mm"])):
        ends = f"{zoom[1]}-{zoom[2]}"
        text = f"Worked out at {focal_length:g} mm. For another, write {ends} at {zoom[2]}."
        found["focal_length_mm"] = text
    lens = in_use.lens
    if lens is not None and "focal_length_mm" not in errors:
        short, long = (end * in_use.factor for end in (lens.shortest_mm, lens.longest_mm))
        if not short * (1 - _SAME_LENGTH) <= focal_length <= long * (1 + _SAME_LENGTH):
            has_it = f"{short:.4g}" if short == long else f"{short:.4g} to {long:.4g}"
            text = f"This lens has {has_it} mm: worked out as if it had {focal_length:g}."
            found["focal_length_mm"] = text
    if in_use.tells.pupils is not None and in_use.pupils_at(focal_length) is None:
        text = "What is told of its pupils is not of such a lens: worked out without."
        found.setdefault("focal_length_mm", text)
    known = lens is not None or in_use.tells.apertures is not None
    if known and "f_number" not in errors:
        has = in_use.ends(focal_length)
        if not has[0] * 0.97 <= f_number <= has[1] * 1.03:
            numbers = (f"f/{units.significant(end, 2):g}" for end in has)
            found["f_number"] = f"This lens goes from {' to '.join(numbers)}."
    return found


_LONGEST = 2 * TEXT_LIMIT
"""Letters of a text that are shown again."""
_SAME_LENGTH = 0.02
"""A focal length that close to one of a lens is that: names are rounded."""
