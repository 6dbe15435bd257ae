"""A card of a pack, made: its sides as they are printed, and the words and figures on them."""

from __future__ import annotations

import html
import re
from collections.abc import Callable
from dataclasses import dataclass
from functools import partial
from typing import Any

from django.http import Http404, QueryDict
from django.template.loader import render_to_string
from django.urls import reverse
from django.utils.safestring import SafeString

from web.bag.models import Lens
from web.cards import code, of_bag, of_lens
from web.cards.asked import asked
from web.cards.models import Card, Of, Size
from web.kept import keeper
from web.kept.escaped import ESCAPED, sentence_of
from web.kept.kinds import kind_of
from web.kept.printed import SIDES, address, printed
from web.people.owners import OwnedRequest
from web.ui import printing


@dataclass(frozen=True, slots=True)
class Made:
    """A card that can be printed.

    ``name``, ``noun``  what it is of, and what it is. ``link``: where it is looked at.
    ``sides``           front and, if it has one, back.
    ``says``            what stands on it, a line each, without the date.
    ``shown``           it as on a screen.
    """

    name: str
    noun: str
    link: str
    sides: tuple[printing.Side, ...]
    says: tuple[str, ...]
    shown: Callable[[], SafeString]


@dataclass(frozen=True, slots=True)
class Gone:
    """One that cannot: what was there, and why."""

    name: str
    why: str


def made(card: Card, request: OwnedRequest, size: str = Size.A6) -> Made | Gone:
    """A card of a pack as it comes out now."""
    try:
        return _MAKERS[Of(card.of)](card, request, size)
    except Http404:
        return Gone(_called(card), "It is not there any more: deleted, or taken out of the bag.")
    except ESCAPED as error:
        return Gone(_called(card), sentence_of(error))


def _called(card: Card) -> str:
    """What something that is gone was called, by its last printing."""
    first = card.says.split("\n", 1)[0]
    return first or ("Something kept" if card.of == Of.KEPT else "A lens")


def _of_kept(card: Card, request: OwnedRequest, size: str) -> Made:
    kept = keeper.of(request.owner, card.thing)
    how = printed(kept.kind)
    face = None if how is None else how.face(card.face)
    if how is None or face is None:
        raise Http404
    kind = kind_of(kept)
    way = QueryDict(card.query).get("way", "")
    opened = how.opened(kept, kind.asks(request))
    context = face.context(opened, way)
    context["code"] = code.of_context(request, how, opened, context)
    context |= {"ours": printing.OURS, "printed": True, "paper": "card", "face": face}
    context["size"] = size

    def side(which: str, density: str) -> str:
        sides = {which: density}
        return render_to_string("cards/kept_print.html", {**context, "sides": sides})

    sides = tuple(
        printing.side(partial(side, which), loosest)
        for which, loosest in zip(SIDES, face.loosest, strict=True)
    )
    said = tuple(line for one in sides for line in lines(one.html))
    link = address(kept.kind, card.face, kept.pk)

    def shown() -> SafeString:
        on_screen = {**context, "printed": False, "sides": dict.fromkeys(SIDES, "")}
        return render_to_string(face.template, on_screen)

    return Made(kept.name, kind.noun, _with(link, card.query), sides, said, shown)


def _of_lens(card: Card, request: OwnedRequest, size: str) -> Made:
    found = asked(request, card.thing, QueryDict(card.query))
    kind = of_lens.kind(found, card.face)
    context = of_lens.context(found, kind.key, request)
    context |= {"ours": printing.OURS, "printed": True, "size": size}
    context |= {"card": kind.template, "sheet": "card", "title": kind.name, "small": True}

    def side(density: str) -> str:
        return render_to_string("cards/print.html", {**context, "density": density})

    def shown() -> SafeString:
        return render_to_string(kind.template, {**context, "printed": False, "density": ""})

    link = reverse("cards:lens", args=[found.lens.pk])
    noun = kind.name.lower()
    return Made(
        found.lens.name,
        noun,
        _with(link, card.query),
        (printing.side(side, kind.loosest),),
        lines(shown()),
        shown,
    )


def _of_bag(card: Card, request: OwnedRequest, size: str) -> Made:
    context = of_bag.context(request, card.query) | {"ours": printing.OURS, "printed": True}
    context |= {"card": of_bag.TEMPLATE, "sheet": "card", "title": of_bag.NAME, "size": size}

    def side(density: str) -> str:
        return render_to_string("cards/print.html", {**context, "density": density})

    def shown() -> SafeString:
        return render_to_string(of_bag.TEMPLATE, {**context, "printed": False, "density": ""})

    sides = (printing.side(side, 1),)
    link = _with(reverse("cards:bag"), card.query)
    return Made(of_bag.NAME, "all its lenses", link, sides, lines(shown()), shown)


_MAKERS = {Of.KEPT: _of_kept, Of.LENS: _of_lens, Of.BAG: _of_bag}


def _with(link: str, query: str) -> str:
    return f"{link}?{query}" if query else link


_DATE = re.compile(r"<time>.*?</time>", re.S)
_STYLE = re.compile(r"<style>.*?</style>", re.S)
_BREAK = re.compile(r"</(?:h1|h2|p|li|tr|caption|text)>")
_TAG = re.compile(r"<[^>]*>")


def lines(page: str) -> tuple[str, ...]:
    """What stands on a card: its words and figures, a line for each thing said; not the date."""
    bare = _BREAK.sub("\n", _STYLE.sub("", _DATE.sub("", page)).replace("\n", " "))
    bare = html.unescape(_TAG.sub(" ", bare))
    found = (" ".join(line.split()) for line in bare.split("\n"))
    return tuple(line for line in found if line)


def offered(request: OwnedRequest) -> dict[str, list[dict[str, Any]]]:
    """What can be put into a pack, by what it is: each its value, its name and what it is."""
    found: dict[str, list[dict[str, Any]]] = {}
    for kept in keeper.listed(request.owner, keeper.Wanted()):
        how = printed(kept.kind)
        face = None if how is None else how.face("card")
        if how is not None and face is not None:
            value = f"{Of.KEPT}:{kept.pk}:{face.key}"
            one = {"value": value, "name": kept.name, "noun": how.kind.noun}
            found.setdefault(how.kind.plural, []).append(one)
    for lens in Lens.objects.filter(owner=request.owner):
        for kind in of_lens.for_a_pack(lens):
            value = f"{Of.LENS}:{lens.pk}:{kind.key}"
            one = {"value": value, "name": lens.name, "noun": kind.name.lower()}
            found.setdefault("lenses", []).append(one)
    if "lenses" in found:
        whole = {"value": f"{Of.BAG}:1:card", "name": of_bag.NAME, "noun": "all its lenses"}
        found["lenses"].insert(0, whole)
    return found
