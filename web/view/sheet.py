"""The plan sheet: one page for the pocket, with the answer, the frame, the marks and the checks."""

from __future__ import annotations

from functools import cache
from typing import Any

from django.http import Http404

from drawing import sightline
from optics.scene.answer import Answer
from optics.scene.answer import answer as answer_of
from web.hand.typed import with_unit
from web.kept.models import NOTE_LIMIT, NOTE_LINES
from web.kept.printed import Opened
from web.planner import paper
from web.view import checks, light, pictures, standin
from web.view.choices import How, Role
from web.view.reading import Reading
from web.view.shown import standard_words
from web.view.tolerance import tolerance
from web.view.uncounted import left_out

SIZE = sightline.WIDE


def context(opened: Opened[Reading], way: str) -> dict[str, Any]:
    """What the sheet's template needs. Raises Http404 for a link of which nothing can be used."""
    reading, note = opened.reading, opened.note
    if not reading.rows and not reading.valid:
        raise Http404("There is nothing to print.")
    answer = answer_of(reading.scene)
    found = tolerance(answer, reading.in_use, reading.panels.focus_by)
    stand_in = standin.stand_in(answer, reading.panels)
    head = paper.head(opened, "A plan without a name")
    return {
        "answer": answer,
        "standard_words": standard_words(reading),
        "fixed": True,
        "system": reading.scene.system,
        "reading": reading,
        "head": head,
        "name": head.name,
        "note": shortened(note, NOTE_LINES, NOTE_LIMIT),
        # A note that no setting has room for is cut short, and says so.
        "again": {"note": shortened(note, SHORT_LINES, SHORT_LETTERS)},
        "tolerance": found,
        "stand_in": stand_in,
        "autofocused": checks.autofocused(answer, reading.panels),
        # Of a card neither is shown: each is drawn where it is.
        "finder": cache(lambda: pictures.finder(answer, None)),
        "line": cache(lambda: pictures.sightlines(answer, (SIZE,))[0]),
        "lit": light.light(answer, reading.panels),
        "checks": checks.checks(answer, reading.in_use, found, reading.panels),
        "care": checks.care(reading.panels),
        "mark_columns": _columns(_marks(reading, answer)[:MOST_ON_PAPER]),
        "more_marks": max(len(answer.verdicts) - MOST_ON_PAPER, 0),
        "left_out": left_out(reading.rows),
    }


SHORT_LINES, SHORT_LETTERS = 10, 600


def shortened(note: str, lines: int, letters: int) -> str:
    """A note to its first so many lines and letters; what is left out is said."""
    kept = note.split("\n")[:lines]
    short = "\n".join(kept)[:letters].rstrip()
    if short == note.rstrip():
        return note
    left = len(note.split()) - len(short.split())
    return (
        f"{short} …\n({left} more word{'' if left == 1 else 's'} in the note of the plan itself.)"
    )


def _marks(reading: Reading, answer: Answer) -> list[dict[str, Any]]:
    """Each mark with what was typed, and what it is asked to be."""
    rows = {row.letter: row for row in reading.rows}
    found = []
    verdicts = answer.verdicts
    if len(verdicts) > MOST_ON_PAPER:
        verdicts = tuple(sorted(verdicts, key=lambda one: not one.mark.must))
    for verdict in verdicts:
        row = rows[verdict.mark.letter]
        how = "" if row.how == How.RING else How(row.how).label
        found.append(
            {
                "verdict": verdict,
                "row": row,
                "how": how,
                "role": Role(row.role).label,
                "measured": with_unit(row.distance, reading.system),
            }
        )
    return found


MOST_ON_PAPER = 24
"""Marks that a sheet has room for; those that must be sharp come first."""
_MOST_IN_ONE = 10


def _columns(marks: list[dict[str, Any]]) -> list[list[dict[str, Any]]]:
    """The marks in one table, or, if they are many, in two beside each other."""
    if len(marks) <= _MOST_IN_ONE:
        return [marks]
    half = (len(marks) + 1) // 2
    return [marks[:half], marks[half:]]
