"""How what planners keep is put on paper: a registry beside that of kinds.

A planner says in its own ``card.py``, which is found at start, what stands on its paper; whoever
prints it, alone or in a set, knows no planner.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Any, Generic, Protocol, TypeVar

from django.urls import reverse

from web.kept.keeper import query_of
from web.kept.kinds import Kind
from web.kept.models import Kept
from web.people.owners import OwnedRequest

Said = TypeVar("Said")

CARD, SHEET = "card", "sheet"
"""A card has two sides of A6; a sheet is one page of A4 or Letter."""
SIDES = ("front", "back")


@dataclass(frozen=True, slots=True)
class Opened(Generic[Said]):
    """What a page beside the planner is about, with its name (or none) and its note; ``who``: the
    asker."""

    reading: Said
    name: str
    note: str
    who: Any


@dataclass(frozen=True, slots=True)
class Head:
    """What stands at the top of every card: its name, the gear, what is called sharp, units."""

    name: str
    gear: Sequence[str]
    sharp: str
    system: str


class Pages(Protocol):
    """The pages of a planner, as far as paper is concerned."""

    def opened(self, request: OwnedRequest, key: int | None) -> Opened[Any]:
        """What a request is about."""

    def back(self, request: OwnedRequest, key: int | None, query: str) -> str:
        """Where it leads back to."""


@dataclass(frozen=True, slots=True)
class Face:
    """One way of putting it on paper.

    ``key``      ``CARD`` or ``SHEET``. ``name``: what people call it.
    ``template`` given ``context``, ``sides`` (what of a card is shown) or ``density`` (of a sheet).
    ``context``  from what is opened and the way wanted (of those it offers, by key; or empty).
                 At least ``name``, ``head``, ``system`` and, of a card, ``answered``, which is
                 what its kind answers; ``ways``, each its key and name, and
                 ``way``, where what is on the back can be chosen; ``again``: what of the context
                 to replace where even the closest setting is too long.
    ``styles``   beside those of every printed page; ``screen``: the key of the screen that has
                 them; ``page_class``: of the page around it.
    ``loosest``  the density that front and back begin at, by their numbers.
    """

    key: str
    name: str
    template: str
    context: Callable[[Opened[Any], str], dict[str, Any]]
    styles: tuple[str, ...] = ("ui/card.css",)
    screen: str = "card"
    page_class: str = "pocket-card-page"
    loosest: tuple[int, int] = (0, 0)


@dataclass(frozen=True, slots=True)
class Printed:
    """What a kind has on paper: its pages, and its faces, the usual one first."""

    kind: Kind
    pages: Pages
    faces: tuple[Face, ...]

    def face(self, key: str) -> Face | None:
        """One of them; None where it has it not."""
        return next((one for one in self.faces if one.key == key), None)

    def opened(self, kept: Kept, who: Any) -> Opened[Any]:
        """Something kept, as it is kept."""
        return Opened(self.kind.read(query_of(kept), who), kept.name, kept.note, who)


_PRINTED: dict[str, Printed] = {}


def register(printed: Printed) -> Printed:
    """Make known how a kind is printed. Raises ValueError for one that has been said."""
    if printed.kind.key in _PRINTED:
        raise ValueError(f"How a {printed.kind.noun} is printed was said already.")
    _PRINTED[printed.kind.key] = printed
    return printed


def printed(key: str) -> Printed | None:
    """How things of a kind are printed; None where they are not."""
    return _PRINTED.get(key)


def address(kind: str, face: str = CARD, key: int | None = None, ending: str = "") -> str:
    """Where one is printed: something kept, by its key; else a link. ``ending``: of a file."""
    name = f"cards:{'kept' if key is not None else 'loose'}{f'_{ending}' if ending else ''}"
    return reverse(name, args=[kind, face] if key is None else [key, face])
