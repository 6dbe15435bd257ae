"""The printed table of a lens: lines with tab stops on paper, cells on a screen, both the same."""

from __future__ import annotations

import html
import re

import pypdfium2
from django.test import TestCase

from web.bag.models import Lens
from web.demo.world import load

MM = 72 / 25.4
_APART = 2.0
"""mm: more than that between two letters of a line, and they are of two columns."""


def placed(data: bytes) -> list[list[tuple[float, str]]]:
    """The lines of a PDF's first page: what stands in each column, and where it begins, mm."""
    document = pypdfium2.PdfDocument(data)
    page = document[0].get_textpage()
    letters = []
    for at in range(page.count_chars()):
        letter = page.get_text_range(at, 1)
        if letter.strip():
            # What it takes of its line, not its ink: that of an hour hand starts where it likes.
            left, bottom, right, _ = page.get_charbox(at, loose=True)
            letters.append((round(bottom / MM, 1), left / MM, right / MM, letter))
    document.close()
    lines: list[list[tuple[float, str]]] = []
    below, end = None, 0.0
    for bottom, left, right, letter in sorted(letters, key=lambda one: (-one[0], one[1])):
        if below is None or abs(bottom - below) > 0.3:
            lines.append([])
            below, end = bottom, -100.0
        if left - end > _APART:
            lines[-1].append((left, letter))
        else:
            start, text = lines[-1][-1]
            lines[-1][-1] = (start, text + (" " if left - end > 0.3 else "") + letter)
        end = right
    return lines


def cells(page: str) -> list[list[str]]:
    """The lines of the table on the screen: each row's first, and each row's second."""
    found = []
    table = re.search(r'<table class="lens-table.*?</table>', page, re.S)
    assert table is not None
    for row in re.findall(r"<tr>(.*?)</tr>", table.group(), re.S):
        texts = re.findall(r"<t[hd][^>]*>(.*?)</t[hd]>", row, re.S)
        parts = [html.unescape(text).split("<br>") for text in texts]
        found.append([part[0] for part in parts])
        if any(len(part) > 1 for part in parts):
            found.append([part[1] for part in parts if len(part) > 1])
    return found


class PrintedTableTest(TestCase):
    def test_every_cell_of_the_screen_stands_under_its_head(self) -> None:
        owner = load()
        for units, lens in zip(("m", "ft"), Lens.objects.filter(owner=owner)[:2], strict=True):
            self.client.post("/you/", {"units": units})
            path = f"/cards/lens/{lens.pk}/"
            wanted = cells(self.client.get(path).content.decode())
            lines = placed(self.client.get(f"{path}table.pdf").content)
            start = next(at for at, line in enumerate(lines) if line[0][1] == "ring")
            heads = [left for left, _ in lines[start]]
            self.assertEqual(len(lines) - start, len(wanted))
            for line, texts in zip(lines[start:], wanted, strict=True):
                with self.subTest(lens=lens.name, line=texts[0]):
                    said = [text.replace(" ", "") for _, text in line]
                    self.assertEqual(said, [re.sub(r"\s", "", text) for text in texts])
                    columns = heads if len(line) == len(heads) else heads[1:]
                    for (left, _), head in zip(line, columns, strict=True):
                        self.assertAlmostEqual(left, head, delta=0.6)
