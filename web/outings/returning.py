"""The same place again: what was to be set then and now, what was to be better, what changed."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from web.kept.models import Kept
from web.outings.models import Frame, Outing, State
from web.outings.taken_out import TakenOut


@dataclass(frozen=True, slots=True)
class Difference:
    """Something taken out: what was set for it then, and what would be now. ``why``: empty where
    the plan is another; else what of the bag, or of what was learnt, makes the difference."""

    name: str
    then: tuple[str, ...]
    now: tuple[str, ...]
    edited: bool


def differences(there: Sequence[TakenOut]) -> list[Difference]:
    """What has changed since it was taken out: a plan that was edited, or one whose gear gives
    another answer by now, as lenses were tested or bodies changed."""
    found = []
    for one in there:
        then, now = tuple(one.item.says), tuple(one.says)
        edited = one.changed
        if edited and one.now is not None:
            now = tuple(_as_kept(one, one.now))
        if then and then != now:
            found.append(Difference(one.name, then, now, edited))
    return found


def _as_kept(one: TakenOut, now: Kept) -> list[str]:
    fresh = TakenOut(one.item, one.kind, one.who, now, begun=False)
    return fresh.says


def best_of(outing: Outing, most: int = 3) -> list[Frame]:
    """Frames of it to remember the place by: the best rated, then those that held."""
    frames = outing.frames.exclude(state=State.BROKEN)
    rated = list(frames.filter(rating__gte=1).order_by("-rating", "order")[:most])
    if len(rated) < most:
        keys = [frame.pk for frame in rated]
        rated += list(frames.exclude(pk__in=keys).order_by("order")[: most - len(rated)])
    return rated
