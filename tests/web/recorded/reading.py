"""What a planner's page says, read out of its HTML: fields, words, and a digest of each drawing."""

from __future__ import annotations

import hashlib
from html.parser import HTMLParser
from typing import Any

_VOID = {"input", "meta", "link", "br", "img", "hr"}
_DRAWN = (
    "d", "x", "y", "x1", "x2", "y1", "y2", "cx", "cy", "r", "width", "height", "points",
    "transform", "viewbox",
)  # fmt: skip


class Page(HTMLParser):
    """``fields``: of the planner's form, by name. ``said``: what stands in the answer, in the
    order of the page. ``drawings``: a digest of the shapes of each picture."""

    def __init__(self, html: str) -> None:
        super().__init__(convert_charrefs=True)
        self.fields: list[list[str]] = []
        self.said: list[str] = []
        self.drawings: list[str] = []
        self._open: list[tuple[str, bool]] = []
        self._shapes: list[str] = []
        self._select = ""
        self.feed(html)
        self.close()

    def handle_starttag(self, tag: str, attrs: list[tuple[str, str | None]]) -> None:
        given = {name: value or "" for name, value in attrs}
        inside = self._inside or given.get("id") in ("results", "main-sheet")
        inside = inside or any(
            name in given.get("class", "").split()
            for name in ("tool-says", "result", "message", "plan-sheet", "pocket-card")
        )
        if tag not in _VOID:
            self._open.append((tag, inside))
        if tag == "svg":
            self._shapes = []
        if any(name == "svg" for name, _ in self._open):
            self._shapes += [f"{name}={given[name]}" for name in _DRAWN if name in given]
        if inside:
            self.said += [
                f"{name}: {given[name]}"
                for name in ("aria-label", "aria-valuetext", "data-text", "data-back", "data-ring")
                if given.get(name)
            ]
        self._field(tag, given)

    def _field(self, tag: str, given: dict[str, str]) -> None:
        if tag == "input" and given.get("name"):
            ticked = given.get("type") not in ("checkbox", "radio") or "checked" in given
            if ticked and given["name"] not in ("csrfmiddlewaretoken", "state", "next"):
                self.fields.append([given["name"], given.get("value", "")])
        elif tag == "select":
            self._select = given.get("name", "")
        elif tag == "option" and "selected" in given and self._select:
            self.fields.append([self._select, given.get("value", "")])

    def handle_endtag(self, tag: str) -> None:
        while self._open:
            name, inside = self._open.pop()
            if name == "svg" and inside:
                digest = hashlib.sha256("|".join(self._shapes).encode()).hexdigest()
                self.drawings.append(digest[:12])
            if name == tag:
                break

    @property
    def _inside(self) -> bool:
        return bool(self._open) and self._open[-1][1]

    def handle_data(self, data: str) -> None:
        words = " ".join(data.split())
        if self._open and self._open[-1][0] == "time":
            return  # a card says when it was made
        if words and self._inside:
            self.said.append(words)


def read(html: str) -> dict[str, Any]:
    """All of it as plain data."""
    page = Page(html)
    return {"fields": page.fields, "said": page.said, "drawings": page.drawings}
