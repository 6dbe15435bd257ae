"""What a page of Street claims, held against the numbers that it prints."""

from __future__ import annotations

import math
import re
from collections.abc import Iterator

from tests.web.walk.pages import (
    BARE,
    LENGTH,
    STRETCH,
    TIME,
    Node,
    length,
    lengths,
    on_a_dial,
    stretch,
)
from tests.web.walk.scenes import Street


class Page:
    """A page of Street that was asked for with a street."""

    def __init__(self, street: Street, page: Node) -> None:
        self.street, self.page, self.system, self.lens = street, page, street.system, street.lens
        answers = [one for one in page.all("section") if one.attrs.get("aria-label") == "Answer"]
        self.answer = answers[0].words
        table = page.one("table", cls="positions-table")
        assert table is not None
        # The farthest first on the page.
        self.rows = [
            {"name": row.all("th")[0].words}
            | {cell.attrs["data-label"]: cell.words for cell in row.all("td")
               if "data-label" in cell.attrs}
            for body in table.all("tbody") for row in body.all("tr")
        ][::-1]  # fmt: skip
        self.rings = [length(row["ring"], self.system) for row in self.rows]
        self.no_gap = "No gap" in self.answer

    def fold(self, name: str) -> Node:
        """A part that is unfolded."""
        found = self.page.one(id=f"fold-{name}")
        assert found is not None, name
        return found

    def claims(self) -> Iterator[str]:
        """Everything that does not hold."""
        yield from self.of_the_answer()
        yield from self.of_the_gaps()
        yield from self.of_the_positions()
        yield from self.of_autofocus()
        yield from self.of_the_schools()
        for text in re.findall(rf"({TIME})", self.fold("light").words):
            if not on_a_dial(text):
                yield f"no time of a dial: {text}"

    def of_the_answer(self) -> Iterator[str]:
        captions = [one.words for one in self.page.all("output", cls="big")][:-1]
        if [length(text, self.system) for text in captions] != self.rings:
            yield f"answer {captions}, table {self.rings}"
        if found := re.search(rf"(?:No gap|^Sharp) {STRETCH}", self.answer.strip()):
            near, far = stretch(found[1], self.system)
            if not self.lens.cover(self.rings, near, far):
                yield f"{found[0]}: {self.rings} do not hold it"
        if found := re.search(r"f/([\d.]+) closes it, the ring as it is", self.answer):
            gap = re.search(rf"Gap ((?:{LENGTH}|{BARE})–{LENGTH})", self.answer)
            lens = self.street.at(float(found[1]))
            if gap and not lens.cover(self.rings, *stretch(gap[1], self.system)):
                # A gap is written a little wider than it is.
                near, far = stretch(gap[1], self.system)
                if not lens.cover(self.rings, near * 1.02, far * 0.98):
                    yield f"{found[0]}, and does not close {gap[1]}"

    def of_the_gaps(self) -> Iterator[str]:
        """A gap begins where one position is said to end, and ends where the next begins."""
        said = re.search(r"Gaps? (.*?)\.\s+(?:f/|With)", self.answer)
        if said is None:
            return
        held = [stretch(r["holds"], self.system) for r in self.rows if r["holds"] != "nothing"]
        for text in re.findall(rf"((?:{LENGTH}|{BARE})–{LENGTH})", said[1]):
            near, far = stretch(text, self.system)
            if not near < far:
                yield f"gap {text}"
            for one, other in held:
                if near < one < far * (1 - 1e-9) or near * (1 + 1e-9) < other < far:
                    yield f"gap {text} beside {one:.6g} to {other:.6g} held"

    def of_the_positions(self) -> Iterator[str]:
        before = None
        for row, ring in zip(self.rows, self.rings, strict=True):
            used = holds = None
            if row["use it for"] != "nothing here":
                used = stretch(row["use it for"], self.system)
                if not self.lens.holds(ring, *used):
                    yield f"use {row['ring']} for {row['use it for']}: soft there"
            if row["holds"] != "nothing":
                holds = stretch(row["holds"], self.system)
                if not self.lens.holds(ring, *holds):
                    yield f"{row['ring']} holds {row['holds']}: soft there"
            if used and holds and (used[0] < holds[0] * (1 - 1e-9)
                                   or used[1] > holds[1] * (1 + 1e-9)):  # fmt: skip
                yield f"use it for {row['use it for']} beside holds {row['holds']}"
            if self.no_gap and used:
                if before is not None and abs(before / used[0] - 1) > 1e-9:
                    yield f"No gap, and {before} is followed by {row['use it for']}"
                before = used[1]

    def of_autofocus(self) -> Iterator[str]:
        fold = self.fold("autofocus")
        says = re.search(rf"limiter from ({LENGTH}) to ({LENGTH})", fold.words)
        assert says is not None
        far = length(says[2], self.system)
        if 1e5 * 1.05 < far < math.inf:
            yield f"limiter to {says[2]}"
        for row in fold.rows():
            name, ring, span = row[0], row[1], row[2]
            at = next(r for r in self.rows if r["name"].startswith(name))
            if not re.match(LENGTH, span) or at["use it for"] == "nothing here":
                continue
            used = stretch(at["use it for"], self.system)
            for end in stretch(span, self.system):
                if not self.lens.holds(end, *used, within=1.002):
                    yield f"{name}, lock from {span}: {at['use it for']} soft at {end}"
            if length(ring, self.system) != length(at["ring"], self.system):
                yield f"{name}: {ring} beside {at['ring']}"

    def of_the_schools(self) -> Iterator[str]:
        if not (found := re.search(rf"No gap {STRETCH}", self.answer)):
            return
        near, far = stretch(found[1], self.system)
        for row in self.fold("schools").rows():
            if row[3] == "none" and not self.lens.cover(lengths(row[1], self.system), near, far):
                yield f"{row[0]} {row[1]}: gaps {row[3]}"
