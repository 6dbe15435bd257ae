"""Pages read as a user reads them: elements, their words, and the distances printed in them."""

from __future__ import annotations

import math
import re
from dataclasses import dataclass, field
from html.parser import HTMLParser

from optics.base import units

_VOID = {"input", "meta", "link", "br", "img", "hr"}
_INLINE = {"b", "small", "span", "output", "a", "label", "button", "i"}


@dataclass
class Node:
    """An element. ``parts``: texts and elements, in order."""

    tag: str
    attrs: dict[str, str]
    parts: list[str | Node] = field(default_factory=list)
    _within: list[Node] = field(default_factory=list, repr=False, compare=False)

    @property
    def words(self) -> str:
        """Its text, with single spaces."""
        return " ".join("".join(self._texts([])).split())

    def _texts(self, found: list[str]) -> list[str]:
        for part in self.parts:
            if isinstance(part, str):
                found.append(part)
            elif "popover" in part.attrs:
                continue  # a word of the glossary, until it is asked for
            elif "visually-hidden" not in part.attrs.get("class", ""):
                apart = "" if part.tag in _INLINE and part.tag != "small" else " "
                found.append(apart)
                part._texts(found)
                found.append(apart)
        return found

    def walk(self) -> list[Node]:
        """All elements in it, in order; looked for once."""
        if not self._within:
            for part in self.parts:
                if isinstance(part, Node):
                    self._within += [part, *part.walk()]
        return self._within

    def all(self, tag: str = "", **attrs: str) -> list[Node]:
        """Elements in it of a tag, with an ``id`` or a ``cls`` among their classes."""
        found = [one for one in self.walk() if not tag or one.tag == tag]
        for name, value in attrs.items():
            if name == "cls":
                found = [one for one in found if value in one.attrs.get("class", "").split()]
            else:
                key = name.replace("_", "-")
                found = [one for one in found if one.attrs.get(key) == value]
        return found

    def one(self, tag: str = "", **attrs: str) -> Node | None:
        """The first of them."""
        return next(iter(self.all(tag, **attrs)), None)

    def rows(self) -> list[list[str]]:
        """The cells of the rows of its tables' bodies."""
        return [
            [cell.words for cell in row.parts if isinstance(cell, Node)]
            for body in self.all("tbody")
            for row in body.all("tr")
        ]


class _Reader(HTMLParser):
    def __init__(self) -> None:
        super().__init__(convert_charrefs=True)
        self.root = Node("page", {})
        self.open = [self.root]

    def handle_starttag(self, tag: str, attrs: list[tuple[str, str | None]]) -> None:
        node = Node(tag, {name: value or "" for name, value in attrs})
        self.open[-1].parts.append(node)
        if tag not in _VOID:
            self.open.append(node)

    def handle_startendtag(self, tag: str, attrs: list[tuple[str, str | None]]) -> None:
        self.open[-1].parts.append(Node(tag, {name: value or "" for name, value in attrs}))

    def handle_endtag(self, tag: str) -> None:
        if any(one.tag == tag for one in self.open[1:]):
            while self.open.pop().tag != tag:
                pass

    def handle_data(self, data: str) -> None:
        self.open[-1].parts.append(data)


def read(html: str) -> Node:
    """A page as elements."""
    reader = _Reader()
    reader.feed(html)
    reader.close()
    return reader.root


def length(text: str, system: str) -> float:
    """A printed distance, mm."""
    return units.parse(text.strip().replace(" ", " "), system)


BARE = r"[\d.]+[¼½¾]?"
LENGTH = r"(?:∞|\d+′(?: [\d.]*½?″)?|[\d.]+[¼½¾]? ?(?:mm|cm|km|m|ft|in)\b)"
"""A distance as it is printed."""
STRETCH = rf"(?:from |at )?((?:{LENGTH}|{BARE}) to {LENGTH}|{LENGTH} ± {LENGTH})"
"""A stretch of distance as it is printed, with its preposition."""
_NARROW = re.compile(rf"^({LENGTH}) ± ({LENGTH})$")
_STRETCH = re.compile(rf"^({LENGTH}|{BARE})(?: to |–)({LENGTH})$")


def stretch(text: str, system: str) -> tuple[float, float]:
    """A printed stretch: 2.2 to 3.2 m, 0.72–1.1 m, 4 m ± 5 mm. mm."""
    text = " ".join(text.split())
    if narrow := _NARROW.match(text):
        middle, reach = length(narrow[1], system), length(narrow[2], system)
        return middle - reach, middle + reach
    found = _STRETCH.match(text)
    if found is None:
        raise AssertionError(f"No stretch: {text!r}")
    start, end = found[1], found[2]
    if re.fullmatch(BARE, start):
        start = f"{start} {re.sub(r'^[0-9.]+[¼½¾]? ?', '', end)}"
    return length(start, system), length(end, system)


def lengths(text: str, system: str) -> list[float]:
    """All distances printed in a text, mm."""
    return [length(found, system) for found in re.findall(LENGTH, text)]


def number(text: str) -> float:
    """The first number of a text; inf where it says ∞."""
    if "∞" in text:
        return math.inf
    found = re.search(r"[\d.]+", text)
    if found is None:
        raise AssertionError(f"No number: {text!r}")
    return float(found[0].rstrip("."))


DIAL = [
    *(f"1/{n}" for n in (
        32000, 25600, 20000, 16000, 12800, 10000, 8000, 6400, 5000, 4000, 3200, 2500, 2000,
        1600, 1250, 1000, 800, 640, 500, 400, 320, 250,
        200, 160, 125, 100, 80, 60, 50, 40, 30, 25, 20, 15, 13, 10, 8, 6, 5, 4,
    )),
    *("0.3", "0.4", "0.5", "0.6", "0.8", "1", "1.3", "1.6", "2", "2.5", "3.2", "4", "5", "6", "8",
      "10", "13", "15", "20", "25", "30"),
]  # fmt: skip
"""Times on a shutter dial, in thirds of a stop."""
TIME = r"(?:\d+:\d\d:\d\d|\d+:\d\d|(?:1/)?\d[\d.]* (?:s|min))\b"


def on_a_dial(text: str) -> bool:
    """Whether a printed time is one of a dial, or of the bulb: 1/125 s, 1.3 s, 2:06."""
    if re.fullmatch(r"(\d+:)?\d+:[0-5]\d", text):
        return True
    return text.removesuffix(" s") in DIAL


def seconds(text: str) -> float:
    """A printed time, s."""
    text = text.removesuffix(" s")
    if ":" in text:
        total = 0
        for part in text.split(":"):
            total = 60 * total + int(part)
        return float(total)
    if text.endswith("min"):
        return 60 * float(text[:-3])
    return 1 / float(text[2:]) if text.startswith("1/") else float(text)
