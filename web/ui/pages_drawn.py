"""A printed page as a picture: as PNG at any resolution, and as SVG with its letters as outlines.

From the finished PDF, so that a picture is the printed page and nothing else. What is read of PDF
is what the press writes: paths, clips, plain colours, and letters by their numbers in faces.
Knows no Django. Runs in the press's own process, for the library that draws serves one at a time.
"""

from __future__ import annotations

import base64
import io
from collections.abc import Callable
from dataclasses import dataclass, field, replace
from typing import Any
from xml.sax.saxutils import escape

import pikepdf
from fontTools.pens.svgPathPen import SVGPathPen
from fontTools.ttLib import TTFont
from PIL import Image

from web.ui.matrices import SAME, Matrix, matrix_of, said_of, times

_POINTS = 72.0
_PAINTS = {
    b"f": (True, False, "nonzero"), b"f*": (True, False, "evenodd"), b"S": (False, True, ""),
    b"B": (True, True, "nonzero"), b"B*": (True, True, "evenodd"), b"n": (False, False, ""),
}  # fmt: skip


def png(data: bytes, page: int, dpi: float) -> bytes:
    """A page of a PDF as PNG, at so many pixels to an inch, which the file says."""
    import pypdfium2

    document = pypdfium2.PdfDocument(data)
    try:
        picture = document[page].render(scale=dpi / _POINTS).to_pil()
    finally:
        document.close()
    sink = io.BytesIO()
    picture.save(sink, "PNG", optimize=True, dpi=(dpi, dpi))
    return sink.getvalue()


def svg(data: bytes, page: int, title: str) -> bytes:
    """A page of a PDF as SVG at its true size, with everything in it."""
    document = pikepdf.open(io.BytesIO(data))
    return _Drawing(title).drawn(document.pages[page]).encode("utf-8")


@dataclass(frozen=True, slots=True)
class _State:
    """Where and how something is drawn now."""

    at: Matrix
    fill: str = "#000"
    line: str = "#000"
    width: float = 1.0
    dash: str = ""
    cap: int = 0
    join: int = 0
    clip: str = ""
    face: str = ""
    size: float = 1.0
    unseen: bool = False


@dataclass(slots=True)
class _Face:
    """A face as it is embedded: outlines and widths, by the numbers of its letters."""

    font: Any
    glyphs: Any
    order: list[str]
    per_em: float

    def outline(self, number: int) -> str:
        if number >= len(self.order):  # a letter that the face has not
            return ""
        pen = SVGPathPen(self.glyphs, ntos=lambda value: f"{value:.5g}")
        self.glyphs[self.order[number]].draw(pen)
        return str(pen.getCommands())

    def width(self, number: int) -> float:
        """In ems."""
        number = number if number < len(self.order) else 0
        return float(self.glyphs[self.order[number]].width) / self.per_em


@dataclass(slots=True)
class _Drawing:
    title: str
    defs: list[str] = field(default_factory=list)
    body: list[str] = field(default_factory=list)
    faces: dict[str, _Face] = field(default_factory=dict)
    known: set[str] = field(default_factory=set)
    clips: int = 0

    def drawn(self, page: Any) -> str:
        wide, high = (float(end) for end in page.mediabox[2:])
        start = _State(at=(1.0, 0.0, 0.0, -1.0, 0.0, high))
        self.run(page, page["/Resources"], start)
        mm = [f"{value * 25.4 / _POINTS:.3f}mm" for value in (wide, high)]
        return (
            f'<svg xmlns="http://www.w3.org/2000/svg" width="{mm[0]}" height="{mm[1]}" '
            f'viewBox="0 0 {said_of(wide)} {said_of(high)}"><title>{escape(self.title)}</title>'
            f"<defs>{''.join(self.defs)}</defs>"
            f'<rect width="{said_of(wide)}" height="{said_of(high)}" fill="#fff"/>'
            f"{''.join(self.body)}</svg>"
        )

    def run(self, content: Any, resources: Any, state: _State) -> None:
        """Draw what a page or a stream of it says."""
        stack: list[_State] = []
        path: list[str] = []
        clip = ""
        text: Matrix = SAME
        for one in pikepdf.parse_content_stream(content):
            values: Any = one.operands
            operator = str(one.operator).encode()
            if operator == b"q":
                stack.append(state)
            elif operator == b"Q":
                state = stack.pop()
            elif operator == b"cm":
                state = replace(state, at=times(matrix_of(values), state.at))
            elif operator in (b"rg", b"RG", b"g", b"G"):
                colour = _colour(values)
                if operator.isupper():
                    state = replace(state, line=colour)
                else:
                    state = replace(state, fill=colour)
            elif operator in _SETTINGS:
                state = _set(state, operator, values)
            elif operator in _STEPS:
                path.append(_STEPS[operator](*map(float, values)))
            elif operator in (b"W", b"W*"):
                clip = "nonzero" if operator == b"W" else "evenodd"
            elif operator in _PAINTS:
                self.paint(" ".join(path), _PAINTS[operator], state)
                if clip and path:
                    state = replace(state, clip=self.clipped(" ".join(path), clip, state))
                path, clip = [], ""
            elif operator == b"BT":
                text = SAME
            elif operator == b"Tm":
                text = matrix_of(values)
            elif operator == b"Tf":
                self.open(str(values[0]), resources)
                state = replace(state, face=str(values[0]), size=float(values[1]))
            elif operator in (b"TJ", b"Tj"):
                text = self.write(values[0] if operator == b"TJ" else [values[0]], text, state)
            elif operator == b"Do":
                self.inner(resources["/XObject"][values[0]], resources, state)

    def inner(self, one: Any, resources: Any, state: _State) -> None:
        if one["/Subtype"] == "/Form":
            moved = times(matrix_of(one.get("/Matrix", SAME)), state.at)
            inside = one.get("/Resources", resources)
            self.run(one, inside, replace(state, at=moved))
        elif one["/Subtype"] == "/Image":
            # A picture fills the unit square, its first row at the top.
            at = times((1.0, 0.0, 0.0, -1.0, 0.0, 1.0), state.at)
            self.put(
                f'<image width="1" height="1" preserveAspectRatio="none" '
                f'style="image-rendering:pixelated" transform="matrix({said_of(*at)})" '
                f'href="{_picture(one)}"/>',
                state,
            )

    def paint(self, path: str, how: tuple[bool, bool, str], state: _State) -> None:
        filled, lined, rule = how
        if not path or not (filled or lined):
            return
        said = [f'fill="{state.fill}"' if filled else 'fill="none"']
        if filled and rule == "evenodd":
            said.append('fill-rule="evenodd"')
        if lined:
            said.append(f'stroke="{state.line}" stroke-width="{said_of(state.width)}"')
            said.append(f'stroke-linecap="{("butt", "round", "square")[state.cap]}"')
            said.append(f'stroke-linejoin="{("miter", "round", "bevel")[state.join]}"')
            if state.dash:
                said.append(f'stroke-dasharray="{state.dash}"')
        shape = f'<path d="{path}" transform="matrix({said_of(*state.at)})" {" ".join(said)}/>'
        self.put(shape, state)

    def put(self, shape: str, state: _State) -> None:
        self.body.append(f'<g clip-path="url(#{state.clip})">{shape}</g>' if state.clip else shape)

    def clipped(self, path: str, rule: str, state: _State) -> str:
        self.clips += 1
        within = f' clip-path="url(#{state.clip})"' if state.clip else ""
        self.defs.append(
            f'<clipPath id="c{self.clips}"{within}><path d="{path}" clip-rule="{rule}" '
            f'transform="matrix({said_of(*state.at)})"/></clipPath>'
        )
        return f"c{self.clips}"

    def open(self, name: str, resources: Any) -> None:
        """Have a face ready."""
        if name in self.faces:
            return
        kept = resources["/Font"][name]["/DescendantFonts"][0]["/FontDescriptor"]
        stream = kept.get("/FontFile2") or kept.get("/FontFile3")
        face = TTFont(io.BytesIO(stream.read_bytes()))
        self.faces[name] = _Face(
            face, face.getGlyphSet(), face.getGlyphOrder(), float(face["head"].unitsPerEm)
        )

    def write(self, pieces: Any, text: Matrix, state: _State) -> Matrix:
        """Letters from where ``text`` stands; where it stands then."""
        face = self.faces[state.face]
        for piece in pieces:
            if not isinstance(piece, pikepdf.String):
                text = times((1.0, 0.0, 0.0, 1.0, -float(piece) / 1000 * state.size, 0.0), text)
                continue
            raw = bytes(piece)
            for number in (int.from_bytes(raw[at : at + 2], "big") for at in range(0, len(raw), 2)):
                self.letter(face, number, text, state)
                step = face.width(number) * state.size
                text = times((1.0, 0.0, 0.0, 1.0, step, 0.0), text)
        return text

    def letter(self, face: _Face, number: int, text: Matrix, state: _State) -> None:
        key = f"{state.face[1:]}-{number}"
        if key not in self.known:
            self.known.add(key)
            outline = face.outline(number)
            if outline:
                self.defs.append(f'<path id="{key}" d="{outline}"/>')
            else:
                self.known.add(f"{key} empty")
        if state.unseen or f"{key} empty" in self.known:
            return
        scale = state.size / face.per_em
        at = times(times((scale, 0.0, 0.0, scale, 0.0, 0.0), text), state.at)
        self.put(
            f'<use href="#{key}" transform="matrix({said_of(*at)})" fill="{state.fill}"/>', state
        )


def _picture(one: Any) -> str:
    """A picture of grey or of colours as data in an address."""
    mode = (
        "1"
        if one["/BitsPerComponent"] == 1
        else "L"
        if "Gray" in str(one["/ColorSpace"])
        else "RGB"
    )
    picture = Image.frombytes(mode, (int(one["/Width"]), int(one["/Height"])), one.read_bytes())
    sink = io.BytesIO()
    picture.save(sink, "PNG", optimize=True)
    return f"data:image/png;base64,{base64.b64encode(sink.getvalue()).decode('ascii')}"


def _colour(values: Any) -> str:
    parts = [float(value) for value in values]
    parts = parts * 3 if len(parts) == 1 else parts
    return "#" + "".join(f"{min(max(int(part * 255 + 0.5), 0), 255):02x}" for part in parts)


_SETTINGS = (b"w", b"J", b"j", b"d", b"Tr")


def _set(state: _State, operator: bytes, values: Any) -> _State:
    """With another width, ends, joins, dashes, or letters that are not seen."""
    if operator == b"w":
        return replace(state, width=float(values[0]))
    if operator == b"J":
        return replace(state, cap=int(values[0]))
    if operator == b"j":
        return replace(state, join=int(values[0]))
    if operator == b"d":
        return replace(state, dash=said_of(*map(float, values[0])))
    return replace(state, unseen=int(values[0]) in (3, 7))


_STEPS: dict[bytes, Callable[..., str]] = {
    b"m": lambda x, y: f"M{said_of(x, y)}",
    b"l": lambda x, y: f"L{said_of(x, y)}",
    b"c": lambda *six: f"C{said_of(*six)}",
    b"h": lambda: "Z",
    b"re": lambda x, y, w, h: f"M{said_of(x, y)}h{said_of(w)}v{said_of(h)}h{said_of(-w)}Z",
}
