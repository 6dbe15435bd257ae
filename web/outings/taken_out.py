"""What is taken out on an outing: plans, sets and nights as they are now, or as they were taken."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import Any

from django.http import QueryDict
from django.urls import reverse

from optics.lens.meant import Meant
from optics.lens.shot import Shot
from web.kept.escaped import ESCAPED
from web.kept.kinds import Kind, known
from web.kept.models import Kept
from web.kept.printed import CARD, address
from web.outings.models import Item, Outing
from web.people.owners import OwnedRequest
from web.ui.templatetags import format


@dataclass
class TakenOut:
    """An item of an outing, read. ``now``: what it is of, as it is kept now; None where that is
    gone. ``begun``: whether the outing has begun, and it stays as it was taken."""

    item: Item
    kind: Kind
    who: Any
    now: Kept | None
    begun: bool

    @property
    def _follows(self) -> bool:
        return self.now is not None and not self.begun

    @property
    def link(self) -> str:
        """Its link."""
        return self.now.link if self.now is not None and self._follows else self.item.link

    @property
    def name(self) -> str:
        """What it is called."""
        return self.now.name if self.now is not None and self._follows else self.item.name

    @property
    def note(self) -> str:
        """What was noted with it."""
        return self.now.note if self.now is not None and self._follows else self.item.note

    @property
    def changed(self) -> bool:
        """Whether what it is of is another by now."""
        return self.begun and self.now is not None and self.now.link != self.item.link

    @cached_property
    def reading(self) -> Any:
        """What its link says."""
        return self.kind.read(QueryDict(self.link), self.who)

    @cached_property
    def answer(self) -> Any:
        """Its answer; None where it cannot be worked out."""
        try:
            return self.kind.answer(self.reading)
        except ESCAPED:
            return None

    @cached_property
    def shots(self) -> tuple[Shot, ...]:
        """The frames to take."""
        return () if self.answer is None else self.kind.shots(self.answer)

    @cached_property
    def meant(self) -> tuple[Meant, ...]:
        """What must be sharp."""
        return () if self.answer is None else self.kind.meant(self.answer)

    @property
    def sets_up(self) -> tuple[str, ...]:
        """What is set up at the place."""
        return () if self.answer is None else self.kind.sets_up(self.answer)

    @property
    def says(self) -> list[str]:
        """What is to be set, a line for each frame."""
        return [said(shot, self.reading.system) for shot in self.shots]

    @property
    def page(self) -> str:
        """Its page for out there; of what is kept no more, its planner."""
        if self.now is None:
            return f"{reverse(f'{self.kind.app}:page')}?{self.link}"
        return self.pages[0][1]

    @property
    def pages(self) -> list[tuple[str, str]]:
        """Its pages for out there, each what it is called and where it is."""
        if self.now is None:
            return []
        return [
            *self.kind.outside(self.now.pk),
            ("Card", address(self.kind.key, CARD, self.now.pk)),
        ]


def said(shot: Shot, system: str) -> str:
    """What is to be set for a frame."""
    parts = [format.reading(shot, system)]
    if shot.f_number == shot.f_number:
        parts.append(format.f_number(shot.f_number))
    if shot.seconds is not None:
        parts.append(format.shutter(shot.seconds))
    if shot.name:
        parts[0] = f"{shot.name}: {parts[0]}"
    return ", ".join(parts)


def taken_out(request: OwnedRequest, outing: Outing) -> list[TakenOut]:
    """All that is taken out, in its order; what is of no known kind is passed over."""
    items = list(outing.items.all())
    keys = [item.kept for item in items if item.kept is not None]
    own = Kept.objects.filter(owner=outing.owner, pk__in=keys)
    there = {kept.pk: kept for kept in own}
    asked: dict[str, Any] = {}
    found = []
    for item in items:
        kind = known(item.kind)
        if kind is None:
            continue
        if kind.key not in asked:
            asked[kind.key] = kind.asks(request)
        now = there.get(item.kept) if item.kept is not None else None
        found.append(TakenOut(item, kind, asked[kind.key], now, outing.begun is not None))
    return found


def freeze(outing: Outing, there: Sequence[TakenOut]) -> None:
    """Let what is taken out stay as it is now."""
    for one in there:
        item = one.item
        item.link, item.name, item.note, item.says = one.link, one.name, one.note, one.says
        item.lens = one.now.lens if one.now is not None else item.lens
    Item.objects.bulk_update([one.item for one in there], ["link", "name", "note", "says", "lens"])
