"""Which lens a card is of, on which body, by which standard, at what: read from its address."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field, replace
from typing import TypeVar

from django.core.exceptions import ValidationError
from django.http import Http404, QueryDict

from optics import Kit, Setup
from optics.base.formats import Format
from web.bag import counted
from web.bag.models import Body, Lens, Standard, Thing
from web.bag.soundness import faults, sound
from web.hand import paper, with_lens
from web.kept.printed import Head
from web.people.owners import OwnedRequest, find
from web.ui.fields import NumberField

Kind = TypeVar("Kind", bound=Thing)


GIVE = 1.5
"""By how much farther a short card may let the near limit come than the exact setting, unless
said."""
GIVES = (1.25, GIVE, 2.0, 3.0)


@dataclass(frozen=True, slots=True)
class Asked:
    """What the cards of a lens are made for.

    ``kit``       the lens at the focal length in hand, with its standard; ``f_number``: the
                  aperture in hand. ``body``, ``standard``: None where the bag has none.
    ``bodies``, ``standards``  to choose from: each its key and its name.
    ``barrel``    how wide it is across the ring, mm; ``barrel_text``: as typed, and
                  ``barrel_wrong``: why that could not be used. ``texts``: as a planner's link
                  says what is in hand.
    ``give``      what a short card may cost, of ``GIVES``. ``several``: whether the zoom card has
                  the short card of every whole stop.
    """

    lens: Lens
    body: Body | None
    standard: Standard | None
    kit: Kit
    f_number: float
    format: Format
    system: str
    bodies: tuple[tuple[int, str], ...]
    standards: tuple[tuple[int, str], ...]
    focal_lengths: tuple[float, ...]
    barrel: float
    barrel_text: str
    barrel_wrong: str
    texts: Mapping[str, str] = field(default_factory=dict)
    give: float = GIVE
    several: bool = False

    @property
    def link(self) -> str:
        """A planner's link to the lens in hand, which needs no bag."""
        said = QueryDict(mutable=True)
        said.update(self.texts)
        said["f_number"] = f"{self.f_number:g}"
        return said.urlencode()

    @property
    def setup(self) -> Setup:
        """The lens at the aperture in hand."""
        return self.kit.at(self.f_number)

    @property
    def head(self) -> Head:
        """What its cards begin with."""
        things: tuple[str, ...] = (self.body.name,) if self.body else ()
        if counted.faults(self.lens.found, self.kit.focal_length):
            things += (paper.TESTED,)
        words = paper.sharp(self.standard, self.setup.coc, self.system)
        return Head(self.lens.name, things, words, self.system)

    @property
    def setup_of(self) -> Callable[[float], Setup]:
        """The lens at any focal length, mm, at the aperture in hand or the widest it has there."""

        def at(focal_length: float) -> Setup:
            widest = float(self.lens.widest_at(focal_length))
            kit = replace(self.kit, focal_length=focal_length, closest=0.0)
            if self.lens.findings:  # a zoom is known where it was tested, and nowhere else
                found = counted.faults(self.lens.found, focal_length)
                kit = kit.with_faults(found).with_ring_off(self.lens.ring_off_mm or 0.0)
            return kit.at(max(self.f_number, widest))

        return at

    def query(self, **more: str) -> str:
        """The link to the same."""
        link = QueryDict(mutable=True)
        if self.body is not None:
            link["body"] = str(self.body.pk)
        if self.standard is not None:
            link["standard"] = str(self.standard.pk)
        link["f_number"] = f"{self.f_number:g}"
        link["focal_length"] = f"{self.kit.focal_length:g}"
        if self.give != GIVE:
            link["give"] = f"{self.give:g}"
        if self.several:
            link["several"] = "1"
        if self.barrel_text:
            link["barrel"] = self.barrel_text
        link.update(more)
        return link.urlencode()


_MISSING = "There is no such lens in your bag."


def asked(request: OwnedRequest, key: int, said: QueryDict | None = None) -> Asked:
    """What a request is for. ``said``: instead of what its address says. Raises Http404 for no lens
    of theirs; what cannot be used of the rest is as if it were not said."""
    owner = request.owner
    said = request.GET if said is None else said
    of_theirs = find(Lens, owner, key, _MISSING)
    lens = next(iter(sound(Lens.objects.filter(pk=of_theirs.pk))), None)
    if lens is None:
        raise Http404(_MISSING)
    bodies = sound(Body.objects.filter(owner=owner))
    standards = sound(Standard.objects.filter(owner=owner))
    body = _chosen(bodies, said.get("body", ""))
    standard = _chosen(standards, said.get("standard", ""))
    taken = with_lens.with_lens(request, lens, body, standard, said.get("focal_length", ""))
    hand = taken.hand
    wanted = _number(said.get("f_number", ""), tuple(hand.kit.apertures))
    return Asked(
        lens,
        body or hand.in_use.body,
        standard or hand.in_use.standard,
        hand.kit,
        wanted or _near(hand.f_number, tuple(hand.kit.apertures)),
        hand.frame,
        hand.system,
        tuple((one.pk, one.name) for one in bodies if not faults(one)),
        tuple((one.pk, one.name) for one in standards if not faults(one)),
        taken.focal_lengths,
        *_barrel(said.get("barrel", "")),
        {name: text for name, text in hand.texts.items() if text},
        _number(said.get("give", ""), GIVES) or GIVE,
        said.get("several") == "1",
    )


_BARREL = NumberField(
    low=20, high=200, sentence="A barrel is 20 to 200 mm across, such as 65: measure over the ring."
)
_USUAL_BARREL = 65.0


def _barrel(text: str) -> tuple[float, str, str]:
    text = text[:20]
    try:
        return _BARREL.to_python(text) or _USUAL_BARREL, text, ""
    except ValidationError as error:
        return _USUAL_BARREL, text, f"{error.message} Shown for {_USUAL_BARREL:g} mm meanwhile."


def _chosen(things: list[Kind], text: str) -> Kind | None:
    return next((one for one in things if str(one.pk) == text), None)


def _number(text: str, offered: tuple[float, ...]) -> float | None:
    """That of what is offered which a text says; None where it says none of it."""
    return next((one for one in offered if f"{one:g}" == text), None)


def _near(value: float, offered: tuple[float, ...]) -> float:
    return min(offered, key=lambda one: abs(one - value))
