"""Marks that an answer leaves out: which, why, and what would have them counted."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from contextlib import contextmanager
from dataclasses import dataclass

from django.core.exceptions import ValidationError

from optics.base.errors import OpticsError
from web.view.choices import How, Role
from web.view.typed import Row


class Wrong(Exception):
    """What is typed of a mark cannot be used. ``column``: which of its texts, ``sentence``: why."""

    def __init__(self, column: str, sentence: str) -> None:
        super().__init__(sentence)
        self.column, self.sentence = column, sentence


@contextmanager
def column(name: str) -> Iterator[None]:
    """What is wrong in here is what is typed in that column. Raises Wrong."""
    try:
        yield
    except ValidationError as error:
        raise Wrong(name, " ".join(error.messages)) from error
    except OpticsError as error:
        raise Wrong(name, error.sentence) from error


@dataclass(frozen=True, slots=True)
class Cure:
    """One tap that mends a mark: a text of a column of its row, or of a field of the whole scene
    (``everywhere``); None for the hand to write it there."""

    says: str
    column: str
    text: str | None = None
    everywhere: bool = False


@dataclass(frozen=True, slots=True)
class Uncounted:
    """A mark that is left out, and its cures, the likeliest first."""

    row: Row
    cures: tuple[Cure, ...]

    @property
    def must(self) -> bool:
        """Whether it must be sharp."""
        return self.row.role == Role.MUST

    @property
    def called(self) -> str:
        """Its letter, and its name if it has one."""
        return f"{self.row.letter} {self.row.name}".rstrip()


_SHOWN = 3


@dataclass(frozen=True, slots=True)
class LeftOut:
    """All that an answer leaves out, what must be sharp first: the first few, and how many more."""

    shown: tuple[Uncounted, ...]
    more: int


def left_out(rows: Iterable[Row]) -> LeftOut:
    """Those of some rows that are not counted."""
    found = [Uncounted(row, _cures(row)) for row in rows if row.error_says]
    found.sort(key=lambda one: not one.must)
    return LeftOut(tuple(found[:_SHOWN]), max(len(found) - _SHOWN, 0))


_MEND = {
    "name": "Shorten its name",
    "distance": "Write how far it is",
    "share": "Say how much of the frame it fills",
    "stands": "Say how high it stands",
    "error": "Say how far off that may be",
    "speed": "Write how fast it moves",
}


def _cures(row: Row) -> tuple[Cure, ...]:
    if row.wrong == "moved":
        return (Cure("Put the camera back", "moved", "", everywhere=True),)
    if row.wrong not in _MEND:
        return ()
    tall = row.how == How.SIZE and row.wrong == "distance"
    cures: tuple[Cure, ...] = (
        Cure("Write how tall it is" if tall else _MEND[row.wrong], row.wrong),
    )
    if row.wrong == "stands" and row.how == How.STRAIGHT:
        cures += (Cure("Take it as a depth", "how", How.RING.value),)
    if row.wrong == "stands" and row.how in (How.STRAIGHT, How.FRONT):
        cures += (Cure("The camera is lower", "camera_height", everywhere=True),)
    if row.wrong == "share":
        cures += (Cure("It is the distance itself", "how", How.EYE.value),)
    if row.wrong in ("error", "speed"):
        cures += (Cure("Leave that out", row.wrong, ""),)
    return cures
