"""Nights: what is kept of them, and their list."""

from __future__ import annotations

from typing import Any

from web.bag.keeping import Keeper
from web.bag.kept import hand_over
from web.people.models import Owner
from web.people.owners import copies, moves
from web.sky import usecases
from web.sky.forms import read_sky
from web.sky.models import Night
from web.sky.sample import NIGHT


def _listed(kept: Night) -> dict[str, Any]:
    reading = read_sky(keeper.query_of(kept))
    return {"answer": usecases.answer(reading.sky), "system": reading.sky.system}


keeper = Keeper(Night, "sky", "night", tuple(NIGHT), _listed, card=True)


@copies
def copy(source: Owner, target: Owner) -> None:
    """Copy every night of one owner to another, with their dates."""
    keeper.copy(source, target)


@moves
def move(guest: Owner, owner: Owner) -> None:
    """Hand over the nights a guest made or changed."""
    hand_over(Night, guest, owner)
