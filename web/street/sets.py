"""Sets of positions: what is kept of them, and their list."""

from __future__ import annotations

from typing import Any

from web.bag.keeping import Keeper
from web.bag.kept import hand_over
from web.people.models import Owner
from web.people.owners import copies, moves
from web.street import usecases
from web.street.forms import read_street
from web.street.models import PositionSet
from web.street.sample import STREET


def _listed(kept: PositionSet) -> dict[str, Any]:
    reading = read_street(keeper.query_of(kept))
    return {"answer": usecases.answer(reading.street), "system": reading.street.system}


keeper = Keeper(PositionSet, "street", "set", tuple(STREET), _listed)


@copies
def copy(source: Owner, target: Owner) -> None:
    """Copy every set of one owner to another, with their dates."""
    keeper.copy(source, target)


@moves
def move(guest: Owner, owner: Owner) -> None:
    """Hand over the sets a guest made or changed."""
    hand_over(PositionSet, guest, owner)
