"""When the database takes nothing: what is said of it, beside what was typed or on a page."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager

from django.db import DatabaseError, DataError, IntegrityError, ProgrammingError

_SENTENCES = (
    ("disk is full", "There is no room left where this is kept."),
    ("readonly", "The place where this is kept cannot be written to."),
    ("read-only", "The place where this is kept cannot be written to."),
    ("locked", "Others are writing, and this waited too long."),
    ("malformed", "The place where this is kept is damaged."),
    ("not a database", "The place where this is kept is damaged."),
    ("unable to open", "The place where this is kept cannot be reached."),
)
_OTHERWISE = "The place where this is kept does not answer."


class NotStored(Exception):
    """Nothing was kept. ``sentence``: why, and that what is typed is still there."""

    def __init__(self, sentence: str) -> None:
        self.sentence = sentence
        super().__init__(sentence)


def why(error: BaseException) -> str:
    """What happened, in a sentence."""
    told = str(error).lower()
    return next((sentence for part, sentence in _SENTENCES if part in told), _OTHERWISE)


def is_outage(error: BaseException | None) -> bool:
    """Whether an error is the database's own, and no fault of what was asked of it."""
    ours = (IntegrityError, DataError, ProgrammingError)
    return isinstance(error, DatabaseError) and not isinstance(error, ours)


@contextmanager
def storing() -> Iterator[None]:
    """Something is kept in here. Raises NotStored where the database takes nothing."""
    try:
        yield
    except DatabaseError as error:
        if not is_outage(error):
            raise
        kept = "What you typed is still here: try again in a while."
        raise NotStored(f"Not kept. {why(error)} {kept}") from error
