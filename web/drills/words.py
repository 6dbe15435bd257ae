"""What drills ask and what they say, in words: each drill's own, in one record."""

from __future__ import annotations

from dataclasses import dataclass

from drills.tasks import Task
from web.drills import words_night, words_street
from web.drills.wording import Words

WORDS: dict[str, Words] = {one.key: one for one in (*words_street.WORDS, *words_night.WORDS)}
"""By the key of a drill."""


@dataclass(frozen=True, slots=True)
class Said:
    """A task in words. ``labels`` of what can be answered; ``says`` of each, once it was answered;
    ``after``: what is said of it whatever was answered."""

    asks: str
    hint: str
    labels: tuple[str, ...]
    says: tuple[str, ...]
    after: str


def said(task: Task, system: str) -> Said:
    """A task in words, with lengths in a system of units."""
    words = WORDS[task.drill]
    return Said(
        words.asks(task, system),
        words.hint(task, system),
        tuple(words.label(task, at, system) for at in range(len(task.stops))),
        tuple(words.says(task, outcome, at, system) for at, outcome in enumerate(task.outcomes)),
        words.after(task, system),
    )
