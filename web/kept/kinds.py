"""The registry of kinds: what a planner says of what it keeps, in one small record.

Whoever prints, compares, corrects or asks for what a planner answered goes by this, and never by a
planner's insides. A planner registers its kind in its own ``kind.py``, which is found at start.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any, Protocol

from django.http import QueryDict
from django.template.loader import render_to_string
from django.urls import reverse
from django.utils.safestring import SafeString

from optics.lens.meant import Meant
from optics.lens.shot import Shot
from web.people.owners import OwnedRequest


class KeptReading(Protocol):
    """What was read of a link, as far as keeping it needs."""

    @property
    def texts(self) -> dict[str, str]:
        """As typed, by field name."""

    @property
    def valid(self) -> bool:
        """Whether everything typed could be used."""

    def query(self) -> str:
        """The link that reproduces it."""


@dataclass(frozen=True, slots=True)
class Kind:
    """A kind of thing that planners keep.

    ``key``      in the database. ``noun``, ``plural``: what people call one, and several;
                 ``short``: several, where there is little room.
    ``app``      where it lives: its addresses are ``app:page`` and ``app:kept``.
    ``asks``     from a request to who asks. ``read``: a link and who asks, to a reading.
    ``answer``   from a reading to the answer; ``shots``: from that to the frames to take.
    ``drawn``    the template of it drawn small: is given ``answer``, ``reading`` and ``system``.
    ``at_place``  the name of the page that one opens to on a phone; empty for the planner's.
    ``outdoors``  its pages for out there, each what it is called and its name among addresses:
                 those of its app, or of another with that before it.
    ``meant``    from an answer to what must be sharp. ``sets_up``: to what is set up at the place,
                 a sentence each, in the words of the body in hand.
    """

    key: str
    noun: str
    plural: str
    short: str
    app: str
    asks: Callable[[OwnedRequest], Any]
    read: Callable[[QueryDict, Any], Any]
    answer: Callable[[Any], Any]
    shots: Callable[[Any], tuple[Shot, ...]]
    drawn: str
    at_place: str = ""
    outdoors: tuple[tuple[str, str], ...] = ()
    meant: Callable[[Any], tuple[Meant, ...]] = lambda _: ()
    sets_up: Callable[[Any], tuple[str, ...]] = lambda _: ()

    def outside(self, key: int) -> list[tuple[str, str]]:
        """Its pages for out there: what each is called, and where it is."""
        return [
            (label, reverse(page if ":" in page else f"{self.app}:{page}", args=[key]))
            for label, page in self.outdoors
        ]

    def opens(self, key: int) -> str:
        """Where one is opened."""
        return reverse(f"{self.app}:kept", args=[key])

    def opens_on_a_phone(self, key: int) -> str:
        """Where one is opened on a phone."""
        return (
            reverse(f"{self.app}:{self.at_place}", args=[key]) if self.at_place else self.opens(key)
        )

    def small(self, reading: Any) -> SafeString:
        """It drawn small, for lists and cards."""
        context = {
            "reading": reading,
            "answer": self.answer(reading),
            "system": reading.system,
        }
        return render_to_string(self.drawn, context)


_KINDS: dict[str, Kind] = {}


def register(kind: Kind) -> Kind:
    """Make a kind known. Raises ValueError for a key that is taken."""
    if kind.key in _KINDS:
        raise ValueError(f"There is a kind {kind.key} already.")
    _KINDS[kind.key] = kind
    return kind


def kinds() -> tuple[Kind, ...]:
    """All of them, in the order of their apps."""
    return tuple(_KINDS.values())


def known(key: str) -> Kind | None:
    """The kind of a key; None for none."""
    return _KINDS.get(key)


class OfAKind(Protocol):
    """Something kept."""

    kind: Any


def kind_of(kept: OfAKind) -> Kind:
    """The kind of something kept. Raises KeyError for one whose planner is not there."""
    return _KINDS[kept.kind]
