"""Who asks a planner: their own measures, and what of their bag its texts speak of."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import NamedTuple

from optics.base import units
from web.hand.in_use import InUse, in_use
from web.people.models import USUAL_JUDGEMENT, USUAL_LAG
from web.people.owners import OwnedRequest, sample, whose


class Own(NamedTuple):
    """Somebody's own measures; how far off they judge by eye, a share; how late they press, s."""

    measures: units.Measures = units.USUAL
    judging: float = USUAL_JUDGEMENT
    lag: float = USUAL_LAG


@dataclass(frozen=True, slots=True)
class Asker:
    """Who typed it: their own measures, and what they have in hand for a planner's texts.

    ``own``: their own measures; asked for only where they matter.
    """

    own: Callable[[], Own] = Own
    in_use: Callable[[Mapping[str, str]], InUse] = lambda texts: InUse()


ANYBODY = Asker()


def asker(request: OwnedRequest) -> Asker:
    """Who asks, with their own measures and what they have in hand."""
    mine = whose(request)

    def own() -> Own:
        owner = request.owner
        return Own(owner.measures, owner.judgement_error, owner.lag_s)

    def found(texts: Mapping[str, str]) -> InUse:
        hand = in_use(mine, texts)
        if hand.lens is None and texts["lens"] and "owner__is_sample" in mine:
            sample()  # the very first request of all: made only now
            hand = in_use(mine, texts)
        return hand

    return Asker(own, found)
