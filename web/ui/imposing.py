"""Sides of cards laid onto sheets, backs behind their fronts; or each made the size it is cut to.

Works on finished PDF pages: each becomes a drawing of its own that is placed, turned and scaled, so
that nothing is set twice. Knows no Django. Lengths are mm.
"""

from __future__ import annotations

import io
from collections.abc import Sequence
from dataclasses import dataclass

from pypdf import PageObject, PdfReader, PdfWriter
from pypdf.generic import (
    ArrayObject,
    DecodedStreamObject,
    DictionaryObject,
    FloatObject,
    IndirectObject,
    NameObject,
)

POINTS = 72 / 25.4
"""Points to a mm."""
_TICK, _GAP = 4.0, 1.0
"""How long a mark to cut at is, and how far from the cards."""
_INSIDE = 3.0
"""How long where there is no room beside the cards, and it stands on their margins."""


@dataclass(frozen=True, slots=True)
class Drawing:
    """A page as a drawing in a document: where it is there, and its size in points."""

    reference: IndirectObject
    wide: float
    high: float


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
    writer, drawings = _drawings(data)
    for one in drawings:
        page = writer.add_blank_page(size[0] * POINTS, size[1] * POINTS)
        _fill(writer, page, [(one, _placed(one, (0.0, 0.0), size, 0))], "")
    return _written(writer)


def imposed(
    data: bytes, pairs: Sequence[Pair], card: tuple[float, float], sheet: tuple[float, float]
) -> bytes:
    """Cards on sheets, fronts on one side and their backs on the other, with marks to cut at. A
    side of a sheet on which nothing stands is there too, so that both sides stay together."""
    writer, drawings = _drawings(data)
    lies = grid(card, sheet)
    marks = _marks(lies, sheet)
    backs = any(back is not None for _, back in pairs)
    for first in range(0, len(pairs), lies.each):
        on_it = pairs[first : first + lies.each]
        for behind in (False, True) if backs else (False,):
            turn = 0 if not lies.turned else -90 if behind else 90
            placed = []
            for at, pair in enumerate(on_it):
                side = pair[1] if behind else pair[0]
                if side is not None:
                    corner = lies.place(at, behind=behind)
                    one = drawings[side]
                    placed.append((one, _placed(one, corner, lies.cell, turn)))
            page = writer.add_blank_page(sheet[0] * POINTS, sheet[1] * POINTS)
            _fill(writer, page, placed, marks)
    return _written(writer)


def joined(parts: Sequence[bytes]) -> bytes:
    """Several documents one after another."""
    if len(parts) == 1:
        return parts[0]
    writer = PdfWriter()
    for part in parts:
        writer.append(PdfReader(io.BytesIO(part)))
    return _written(writer)


def _drawings(data: bytes) -> tuple[PdfWriter, list[Drawing]]:
    """A writer, and the pages of a document as drawings in it."""
    writer = PdfWriter()
    found = []
    for page in PdfReader(io.BytesIO(data)).pages:
        content = page.get_contents()
        drawing = DecodedStreamObject()
        drawing.set_data(b"" if content is None else content.get_data())
        wide, high = float(page.mediabox.width), float(page.mediabox.height)
        box = [FloatObject(value) for value in (0, 0, wide, high)]
        drawing.update(
            {
                NameObject("/Type"): NameObject("/XObject"),
                NameObject("/Subtype"): NameObject("/Form"),
                NameObject("/BBox"): ArrayObject(box),
                NameObject("/Resources"): page["/Resources"].clone(writer),
            }
        )
        found.append(Drawing(writer._add_object(drawing.flate_encode()), wide, high))
    return writer, found


def _placed(
    drawing: Drawing, corner: tuple[float, float], cell: tuple[float, float], turn: int
) -> str:
    """The matrix that puts a drawing into a cell, turned by so many degrees."""
    wide, high = drawing.wide, drawing.high
    x, y = corner[0] * POINTS, corner[1] * POINTS
    width, height = cell[0] * POINTS, cell[1] * POINTS
    if turn == 0:
        return f"{width / wide:.6f} 0 0 {height / high:.6f} {x:.4f} {y:.4f}"
    across, along = width / high, height / wide
    if turn > 0:  # its top to the left
        return f"0 {along:.6f} {-across:.6f} 0 {x + width:.4f} {y:.4f}"
    return f"0 {-along:.6f} {across:.6f} 0 {x:.4f} {y + height:.4f}"


def _fill(
    writer: PdfWriter, page: PageObject, placed: Sequence[tuple[Drawing, str]], marks: str
) -> None:
    names = DictionaryObject()
    said = []
    for at, (drawing, matrix) in enumerate(placed):
        names[NameObject(f"/C{at}")] = drawing.reference
        said.append(f"q {matrix} cm /C{at} Do Q")
    content = DecodedStreamObject()
    content.set_data("\n".join([*said, marks]).encode("ascii"))
    resources = DictionaryObject({NameObject("/XObject"): names})
    page[NameObject("/Resources")] = resources
    page[NameObject("/Contents")] = writer._add_object(content.flate_encode())


def _marks(lies: Grid, sheet: tuple[float, float]) -> str:
    """Lines at every cut, beside the cards; where there is no room, on their margins."""
    width, height = lies.cell
    right, top = lies.left + lies.columns * width, lies.bottom + lies.rows * height
    said = ["0.5 w 0.35 G"]

    def line(x: float, y: float, dx: float, dy: float) -> None:
        x0, y0, x1, y1 = (v * POINTS for v in (x, y, x + dx, y + dy))
        said.append(f"{x0:.3f} {y0:.3f} m {x1:.3f} {y1:.3f} l S")

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
    return "\n".join(said)


def _written(writer: PdfWriter) -> bytes:
    sink = io.BytesIO()
    writer.write(sink)
    return sink.getvalue()
