"""Rows of marks as typed, to marks at a depth."""

from __future__ import annotations

from dataclasses import replace

from django.http import QueryDict

from optics.base import amounts
from optics.scene.marks import Mark, Wish
from web.hand.fields import TEXT_LIMIT
from web.ui.text import cleaned
from web.ui.wording import told_in
from web.view.choices import How, Look, Role
from web.view.distances import Reader, measured
from web.view.typed import SAID_OF_A_MARK, Row
from web.view.uncounted import Wrong, column

ROLES, HOWS = frozenset(Role.values), frozenset(How.values)
LETTERS = "ABCDEFGHIJKLMNOPQRSTUVWXYZ"
MOST_MARKS = 60
LONGEST_NAME = 60


def read_rows(data: QueryDict, reader: Reader) -> tuple[Row, ...]:
    """Every row of a form or link, and a blank one."""
    rows: list[Row] = []
    subject = -1
    for index, row in enumerate(typed_rows(data)[:-1]):
        if row.blank:
            rows.append(row)
            continue
        row = replace(row, how=row.how or How.RING)
        if row.role not in ROLES:
            row = replace(row, role=Role.MUST)
            row = replace(row, note="That role is not known; taken as must be sharp.")
        if row.how not in HOWS:
            row = replace(row, how=How.RING)
            row = replace(row, note="That way of measuring is not known; taken off the ring.")
        named = reader.subject in ("", row.letter)
        if subject < 0 and row.role == Role.MUST and named:
            subject = index
        rows.append(_read(row, reader, is_subject=index == subject))
    while rows and rows[-1].blank:
        rows.pop()
    rows = _same_places(rows)
    return (*rows, Row(len(rows), letter(len(rows))))


def typed_rows(data: QueryDict) -> tuple[Row, ...]:
    """Every row as it was typed, no more, and a blank one."""
    lists = {name: data.getlist(f"mark_{name}") for name in _COLUMNS}

    def cell(name: str, at: int) -> str:
        return _clean(lists[name][at]) if at < len(lists[name]) else ""

    found = []
    for at in range(max(len(lists["name"]), len(lists["distance"]))):
        row = _typed(at, [cell(name, at) for name in _COLUMNS])
        found.append(Row(at, letter(at)) if row.blank else row)
    return (*found, Row(len(found), letter(len(found))))


def _typed(index: int, cells: list[str]) -> Row:
    name, distance, role, how, error, share, stands, at, speed = cells
    role = role or Role.MUST
    return Row(index, letter(index), name, distance, role, how, error, share, stands, at, speed)


_COLUMNS = ("name", "distance", "role", *SAID_OF_A_MARK)


def letter(index: int) -> str:
    """The letter of the mark in that place of the list: A to Z, then AA, AB and so on."""
    first, last = divmod(index, len(LETTERS))
    return (letter(first - 1) if first else "") + LETTERS[last]


def _clean(text: str) -> str:
    return cleaned(text).strip()[: TEXT_LIMIT * 2]


def _same_places(rows: list[Row]) -> list[Row]:
    places: dict[float, str] = {}
    found = []
    for row in rows:
        mark, said = row.mark, row
        if mark is not None:
            if mark.depth in places and not row.note:
                said = replace(row, note=f"The same distance as {places[mark.depth]}.")
            places.setdefault(mark.depth, mark.name)
        found.append(said)
    return found


def _read(row: Row, reader: Reader, *, is_subject: bool) -> Row:
    try:
        return _placed(row, reader, is_subject)
    except Wrong as wrong:
        return replace(row, error_says=told_in(wrong.sentence, reader.system), wrong=wrong.column)


def _placed(row: Row, reader: Reader, is_subject: bool) -> Row:
    if row.index >= MOST_MARKS:
        raise Wrong("", f"Only {MOST_MARKS} marks are used; this one is left out.")
    if len(row.name) > LONGEST_NAME:
        raise Wrong("name", f"That name is longer than {LONGEST_NAME} letters.")
    found = measured(row, reader)
    with column("speed"):
        speed = amounts.parse_speed(row.speed, reader.system) if row.speed else None
    mark = Mark(
        depth=found.depth,
        uncertainty=found.error,
        wish=_wish(row.role, reader.look, is_subject),
        name=row.name or f"Mark {row.letter}",
        letter=row.letter,
        rise=found.rise,
        at=found.at,
        speed=speed,
    )
    return replace(row, mark=mark, note=row.note or found.says, measured=found.distance)


def _wish(role: str, look: str, is_subject: bool) -> Wish:
    if role == Role.MUST and look == Look.SUBJECT and not is_subject:
        return Wish.FALLS
    return Wish(role)
