"""What can be done with packs: put cards in, order them, print them, find which have changed."""

from __future__ import annotations

import difflib
from collections.abc import Iterable, Iterator, Sequence
from datetime import timedelta
from typing import Any

from django.db import transaction
from django.http import Http404
from django.utils import timezone

from web.bag.models import Lens
from web.cards.made import Gone, Made, made
from web.cards.models import MOST_CARDS, Card, Of, Pack, Piece, Size
from web.kept.keeper import UNDO_FOR
from web.kept.models import Kept
from web.people import quota
from web.people.models import Owner
from web.people.owners import OwnedRequest, copies, find, moves, tells
from web.ui import imposing, printing
from web.ui.imposing import Pair

MISSING = "There is no such pack. It may have been deleted; the list has what is kept."
FIRST = "My cards"
"""What a pack is called that was made by putting a card into it."""
MOST_AT_ONCE = 24
"""Cards printed in one go, so that each answer comes within two or three seconds."""
SIZES = {
    Size.CREDIT: (85.6, 54.0),
    Size.A7: (74.0, 105.0),
    Size.A6: (105.0, 148.0),
    Size.A5: (148.0, 210.0),
}
"""mm, as a card is held."""
SHEETS = {"a4": (210.0, 297.0), "letter": (215.9, 279.4)}
_BATCH = 2
"""Cards that one press sets in one go."""
KEPT_FOR = timedelta(days=1)
"""How long what was printed can be fetched again."""


def of(owner: Owner, key: int, *, deleted: bool = False) -> Pack:
    """One of an owner's, or their copy of the sample's. Raises Http404."""
    return find(Pack, owner, key, MISSING, "with_deleted" if deleted else "objects")


def listed(owner: Owner) -> list[Pack]:
    """An owner's packs, the last changed first."""
    return list(Pack.objects.filter(owner=owner))


def new(owner: Owner, name: str) -> Pack:
    """Make one. Raises quota.Full."""
    quota.check(owner, Pack.with_deleted.all(), "packs of cards")
    return Pack.objects.create(owner=owner, name=name)


@transaction.atomic
def put(pack: Pack, values: Iterable[str], query: str = "") -> int:
    """Put cards in at the end, each as ``made.offered`` calls it; those that are in it already, or
    are nothing, are passed over. How many. Raises quota.Full."""
    pack = Pack.objects.select_for_update().get(pk=pack.pk)
    there = list(pack.cards.all())
    known = {(card.of, card.thing, card.face, card.query) for card in there}
    at = 1 + max((card.at for card in there), default=-1)
    fresh: list[Card] = []
    for value in values:
        of_what, _, rest = value.partition(":")
        key, _, face = rest.partition(":")
        if of_what not in Of.values or not key.isdecimal() or len(key) > 18:
            continue
        one = (of_what, int(key), face[:10], query[:500])
        if one not in known:
            known.add(one)
            fresh.append(Card(pack=pack, at=at + len(fresh), of=one[0], thing=one[1],
                              face=one[2], query=one[3]))  # fmt: skip
    if len(there) + len(fresh) > MOST_CARDS:
        raise quota.Full(
            f"A pack has room for {MOST_CARDS} cards; this one would have "
            f"{len(there) + len(fresh)}. Choose fewer, or make another pack."
        )
    Card.objects.bulk_create(fresh)
    _touch(pack)
    return len(fresh)


@transaction.atomic
def move(pack: Pack, key: int, to: str) -> None:
    """Move a card: ``up``, ``down``, ``first`` or ``last``. Raises Http404 for none of its."""
    cards = list(pack.cards.select_for_update())
    at = next((at for at, card in enumerate(cards) if card.pk == key), None)
    if at is None:
        raise Http404(MISSING)
    there = {"up": at - 1, "down": at + 1, "first": 0, "last": len(cards) - 1}.get(to, at)
    cards.insert(min(max(there, 0), len(cards) - 1), cards.pop(at))
    for place, card in enumerate(cards):
        card.at = place
    Card.objects.bulk_update(cards, ["at"])
    _touch(pack)


def take_out(pack: Pack, key: int) -> Card | None:
    """Take one out; it, to be put back; None where it was not there."""
    card = pack.cards.filter(pk=key).first()
    if card is not None:
        card.delete()
        _touch(pack)
    return card


def delete(pack: Pack) -> None:
    """Take a pack off the list, with a way back. What was deleted long ago goes for good."""
    pack.deleted = timezone.now()
    pack.save(update_fields=["deleted"])
    pack.pieces.all().delete()
    Pack.with_deleted.filter(deleted__lt=timezone.now() - UNDO_FOR).delete()


def put_back(pack: Pack) -> None:
    """Undo that."""
    pack.deleted = None
    pack.save(update_fields=["deleted"])


def _touch(pack: Pack) -> None:
    pack.changed = timezone.now()
    pack.save(update_fields=["changed"])


# Printing -------------------------------------------------------------------------------


def begin(pack: Pack, cards: Sequence[Card]) -> None:
    """Begin to print some of a pack's cards; what was printed of it before goes."""
    Piece.objects.filter(made__lt=timezone.now() - KEPT_FOR).delete()
    pack.pieces.all().delete()
    pack.queue = [card.pk for card in cards]
    pack.save(update_fields=["queue"])


def step(pack: Pack, request: OwnedRequest) -> list[Gone]:
    """Print the next few; those that could not be made. Raises what the press raises: then none of
    them is printed, and they can be asked for again."""
    keys = list(pack.queue[:MOST_AT_ONCE])
    found = {card.pk: card for card in pack.cards.filter(pk__in=keys)}
    ready: list[tuple[Card, Made]] = []
    gone: list[Gone] = []

    def batches() -> Iterator[list[printing.Side]]:
        for at in range(0, len(keys), _BATCH):
            sides: list[printing.Side] = []
            for card in (found[key] for key in keys[at : at + _BATCH] if key in found):
                one = made(card, request, pack.size)
                if isinstance(one, Made):
                    ready.append((card, one))
                    sides += one.sides
                else:
                    gone.append(one)
            yield sides

    counts, data = printing.cards_of(batches())
    taken = iter(counts)
    pages = [[next(taken) for _ in one.sides] for _, one in ready]
    with transaction.atomic():
        here = Pack.objects.select_for_update().get(pk=pack.pk)
        if here.queue[: len(keys)] == keys:  # else another window printed them meanwhile
            here.queue = here.queue[len(keys) :]
            here.save(update_fields=["queue"])
            Piece.objects.create(pack=here, cards=len(keys), pages=pages, data=data)
            now = timezone.now()
            for card, one in ready:
                card.says, card.printed = "\n".join(one.says), now
            Card.objects.bulk_update([card for card, _ in ready], ["says", "printed"])
    pack.queue = here.queue
    return gone


def progress(pack: Pack) -> tuple[int, int]:
    """How many cards are printed, and of how many."""
    ready = sum(pack.pieces.values_list("cards", flat=True))
    return ready, ready + len(pack.queue)


def printed(pack: Pack) -> bytes:
    """What was printed, as one document. Raises Http404 for nothing."""
    pieces = [piece for piece in pack.pieces.all() if piece.pages]
    if not pieces:
        raise Http404("Nothing of this pack is printed yet: print it first.")
    data = imposing.joined([bytes(piece.data) for piece in pieces])
    size = SIZES[Size(pack.size)]
    pairs = pairs_of([pages for piece in pieces for pages in piece.pages])
    if pack.paper in SHEETS:
        return imposing.imposed(data, pairs, size, SHEETS[pack.paper])
    return imposing.resized(data, size)


def pairs_of(cards: Sequence[Sequence[int]]) -> list[Pair]:
    """Front and back of every card that is cut, by their pages. ``cards``: how many pages each
    took for its front, and for its back if it has one; what did not fit goes on to another card."""
    pairs: list[Pair] = []
    at = 0
    for pages in cards:
        fronts = list(range(at, at + pages[0]))
        at += pages[0]
        backs = list(range(at, at + sum(pages[1:])))
        at += len(backs)
        for which in range(max(len(fronts), len(backs))):
            back = backs[which] if which < len(backs) else None
            if which < len(fronts):
                pairs.append((fronts[which], back))
            elif back is not None:
                pairs.append((back, None))
    return pairs


# What has changed -----------------------------------------------------------------------


def changes(card: Card, now: Made) -> list[tuple[str, str]]:
    """What a card says now and did not when it was printed: what it said, and what it says."""
    before, after = card.says.split("\n"), list(now.says)
    found = []
    for tag, i0, i1, j0, j1 in difflib.SequenceMatcher(None, before, after, False).get_opcodes():
        if tag != "equal":
            found.append((" ".join(before[i0:i1]), " ".join(after[j0:j1])))
    return found


# Handing over -----------------------------------------------------------------------------


@copies
def copy_all(source: Owner, target: Owner) -> None:
    """Copy every pack of one owner to another."""
    for pack in Pack.objects.filter(owner=source).order_by("changed", "pk"):
        cards, was = list(pack.cards.all()), pack.pk
        pack.pk, pack.owner, pack.copied_from, pack.queue = None, target, was, []
        pack._state.adding = True
        pack.save()
        for card in cards:
            card.pk, card.pack = None, pack
            card._state.adding = True
        Card.objects.bulk_create(cards)


@moves
def hand_over(guest: Owner, owner: Owner) -> None:
    """Give a guest's packs to an owner. Things that stayed behind are untouched copies of the
    sample's, of which the owner has their own: the cards name those."""
    models: dict[str, Any] = {Of.KEPT: Kept, Of.LENS: Lens}
    for pack in Pack.with_deleted.filter(owner=guest, copied_from=None):
        for card in pack.cards.all():
            if card.of not in models:
                continue
            thing = models[card.of].with_deleted.filter(pk=card.thing, owner=guest).first()
            if thing is not None and thing.copied_from is not None:
                card.thing = thing.copied_from
                card.save(update_fields=["thing"])
        pack.owner = owner
        pack.save(update_fields=["owner"])


@tells
def told(owner: Owner) -> dict[str, Any]:
    """Every pack of an owner, with what it holds."""
    return {
        "packs": [
            {
                "name": pack.name,
                "size": pack.size,
                "paper": pack.paper,
                "cards": [
                    {"of": card.of, "thing": card.thing, "face": card.face, "with": card.query}
                    for card in pack.cards.all()
                ],
            }
            for pack in listed(owner)
        ]
    }
