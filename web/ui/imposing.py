"""Sides of cards laid onto sheets, backs behind their fronts; or each made the size it is cut to.

Works on finished PDF pages: each becomes a drawing of its own that is placed, turned and scaled, so
that nothing is set twice. Knows no Django. Lengths are mm.
"""

from __future__ import annotations

import io
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

import pikepdf
from pikepdf import Dictionary

POINTS = 72 / 25.4
"""Points to a mm."""
_TICK, _GAP = 4.0, 1.0
"""How long a mark to cut at is, and how far from the cards."""
_INSIDE = 3.0
"""How long where there is no room beside the cards, and it stands on their margins."""

Pair = tuple[int, int | None]
"""The front and the back of a card, by their pages; a back that is left empty is None."""


@dataclass(frozen=True, slots=True)
class Grid:
    """How cards lie on a sheet: so many across and down, ``turned`` by a quarter or not.

    ``left``, ``bottom``  of them all. ``cell``: width and height of one as it lies.
    """

    columns: int
    rows: int
    turned: bool
    left: float
    bottom: float
    cell: tuple[float, float]

    @property
    def each(self) -> int:
        """How many a sheet has."""
        return self.columns * self.rows

    def place(self, at: int, *, behind: bool) -> tuple[float, float]:
        """The lower left corner of one, counted along the rows from the top; ``behind``: on the
        sheet's other side, as it lies when the sheet is turned about its long edge."""
        row, column = divmod(at, self.columns)
        column = self.columns - 1 - column if behind else column
        width, height = self.cell
        return self.left + column * width, self.bottom + (self.rows - 1 - row) * height


def grid(card: tuple[float, float], sheet: tuple[float, float]) -> Grid:
    """As many cards as a sheet has room for, in its middle, all lying the same way. Raises
    ValueError where it has room for none."""
    found = []
    for turned in (False, True):
        width, height = card[::-1] if turned else card
        columns, rows = int(sheet[0] // width), int(sheet[1] // height)
        left, bottom = (sheet[0] - columns * width) / 2, (sheet[1] - rows * height) / 2
        found.append(Grid(columns, rows, turned, left, bottom, (width, height)))
    best = max(found, key=lambda one: one.each)
    if not best.each:
        raise ValueError("A card is larger than the sheet.")
    return best


def resized(data: bytes, size: tuple[float, float]) -> bytes:
    """Every page made so large, with all that is on it."""
    laid = _Laid(data)
    for at in range(laid.pages):
        laid.page(size, [(at, (0.0, 0.0), size, 0)])
    return laid.written()


def imposed(
    data: bytes, pairs: Sequence[Pair], card: tuple[float, float], sheet: tuple[float, float]
) -> bytes:
    """Cards on sheets, fronts on one side and their backs on the other, with marks to cut at. A
    side of a sheet on which nothing stands is there too, so that both sides stay together."""
    laid, lies = _Laid(data), grid(card, sheet)
    marks = lines(lies, sheet)
    backs = any(back is not None for _, back in pairs)
    for first in range(0, len(pairs), lies.each):
        on_it = pairs[first : first + lies.each]
        for behind in (False, True) if backs else (False,):
            turn = 0 if not lies.turned else -90 if behind else 90
            placed = []
            for at, pair in enumerate(on_it):
                side = pair[1] if behind else pair[0]
                if side is not None:
                    placed.append((side, lies.place(at, behind=behind), lies.cell, turn))
            laid.page(sheet, placed, marks)
    return laid.written()


def joined(parts: Sequence[bytes]) -> bytes:
    """Several documents one after another."""
    if len(parts) == 1:
        return parts[0]
    whole = pikepdf.new()
    for part in parts:
        whole.pages.extend(pikepdf.open(io.BytesIO(part)).pages)
    return _written(whole)


Placed = tuple[int, tuple[float, float], tuple[float, float], int]
"""A page as it lies on a sheet: which, the lower left corner of its cell, the cell's width and
height, and by how many degrees it is turned, a quarter either way or not."""
Line = tuple[float, float, float, float]
"""From x, y to x, y."""


class _Laid:
    """The pages of a document as drawings in another one, laid onto its pages."""

    def __init__(self, data: bytes) -> None:
        self._from, self._to = pikepdf.open(io.BytesIO(data)), pikepdf.new()
        self._drawings: dict[int, Any] = {}

    @property
    def pages(self) -> int:
        """How many there are to lay."""
        return len(self._from.pages)

    def page(
        self, size: tuple[float, float], placed: Sequence[Placed], marks: Sequence[Line] = ()
    ) -> None:
        """Another page, so large, with some drawings and lines on it."""
        names, said = Dictionary(), []
        for at, (which, corner, cell, turn) in enumerate(placed):
            drawing = self._drawing(which)
            names[f"/C{at}"] = drawing
            matrix = _matrix([float(end) for end in drawing.BBox[2:]], corner, cell, turn)
            said.append(f"q {' '.join(f'{value:.6f}' for value in matrix)} cm /C{at} Do Q")
        if marks:
            ends = ([end * POINTS for end in mark] for mark in marks)
            said.append("0.5 w 0.35 G")
            said += [f"{x0:.3f} {y0:.3f} m {x1:.3f} {y1:.3f} l S" for x0, y0, x1, y1 in ends]
        page = self._to.add_blank_page(page_size=(size[0] * POINTS, size[1] * POINTS))
        page.Resources = Dictionary(XObject=names)
        page.Contents = self._to.make_stream("\n".join(said).encode("ascii"))

    def _drawing(self, which: int) -> Any:
        if which not in self._drawings:
            form = self._from.pages[which].as_form_xobject()
            self._drawings[which] = self._to.copy_foreign(form)
        return self._drawings[which]

    def written(self) -> bytes:
        """It as a file."""
        return _written(self._to)


def _written(document: pikepdf.Pdf) -> bytes:
    sink = io.BytesIO()
    document.save(sink)
    return sink.getvalue()


def _matrix(
    page: Sequence[float], corner: tuple[float, float], cell: tuple[float, float], turn: int
) -> tuple[float, float, float, float, float, float]:
    """The matrix that puts a page, its size in points, into a cell, turned."""
    wide, high = page
    x, y = corner[0] * POINTS, corner[1] * POINTS
    width, height = cell[0] * POINTS, cell[1] * POINTS
    if turn == 0:
        return width / wide, 0.0, 0.0, height / high, x, y
    across, along = width / high, height / wide
    if turn > 0:  # its top to the left
        return 0.0, along, -across, 0.0, x + width, y
    return 0.0, -along, across, 0.0, x, y + height


def lines(lies: Grid, sheet: tuple[float, float]) -> list[Line]:
    """Where to cut, at every cut: beside the cards; where there is no room, on their margins."""
    width, height = lies.cell
    right, top = lies.left + lies.columns * width, lies.bottom + lies.rows * height
    found: list[Line] = []

    def line(x: float, y: float, dx: float, dy: float) -> None:
        found.append((x, y, x + dx, y + dy))

    for column in range(lies.columns + 1):
        x = lies.left + column * width
        if lies.bottom >= _TICK + _GAP:
            line(x, lies.bottom - _GAP, 0, -_TICK)
            line(x, top + _GAP, 0, _TICK)
        elif 0 < column < lies.columns:
            line(x, lies.bottom, 0, _INSIDE)
            line(x, top, 0, -_INSIDE)
    for row in range(lies.rows + 1):
        y = lies.bottom + row * height
        if lies.left >= _TICK + _GAP:
            line(lies.left - _GAP, y, -_TICK, 0)
            line(right + _GAP, y, _TICK, 0)
        elif 0 < row < lies.rows:
            line(lies.left, y, _INSIDE, 0)
            line(right, y, -_INSIDE, 0)
    return found
