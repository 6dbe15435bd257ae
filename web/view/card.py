"""The card of a plan: the answer on one side, what to check there on the other; and its sheet."""

from __future__ import annotations

from typing import Any

from drawing import bands
from web.kept.printed import CARD, SHEET, Face, Opened, Printed, register
from web.planner import paper
from web.ui.templatetags import format
from web.view import sheet
from web.view.kind import KIND, Planned
from web.view.reading import Reading
from web.view.views import pages

_MOST_MARKS = 8
_SHORT_NOTE = 300


def context(opened: Opened[Reading], way: str) -> dict[str, Any]:
    """What the card's template needs: what the sheet does, the marks that a card has room for, and
    the frames on the one axis."""
    found = sheet.context(opened, way)
    answer, system = found["answer"], found["system"]
    rows = [
        bands.Stretch(
            f"Frame {at}" if answer.more_frames else "",
            format.reading(one, system),
            one.held,
            one.focus,
        )
        for at, one in enumerate(answer.shots, start=1)
    ]
    marks = [item for column in found["mark_columns"] for item in column]
    first = sorted(marks, key=lambda item: not item["verdict"].mark.must)[:_MOST_MARKS]
    return found | {
        "answered": Planned(opened.reading, answer),
        "bands": paper.line(rows, system),
        "shown_marks": [item for item in marks if item in first],
        "unshown_marks": len(answer.verdicts) - len(first),
        "note": sheet.shortened(opened.note, sheet.SHORT_LINES, _SHORT_NOTE),
    }


PRINTED = register(
    Printed(
        KIND,
        pages,
        (
            Face(
                SHEET,
                "Sheet",
                "view/sheet.html",
                sheet.context,
                styles=("view/sheet.css",),
                screen="sheet",
                page_class="plan-sheet-page",
            ),
            Face(CARD, "Card", "view/card.html", context, loosest=(1, 0)),
        ),
    )
)
