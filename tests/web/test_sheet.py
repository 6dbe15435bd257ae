"""The plan sheet: one page on either paper, read back from its PDF."""

from __future__ import annotations

import io
from unittest import mock

import pypdf
from django.http import QueryDict
from hypothesis.extra.django import TestCase

from tests.web.links import changed
from web.demo.world import load
from web.ui import printing
from web.ui.press_room import own_file
from web.view.forms import scene_query
from web.view.sample import GEAR


class SheetTest(TestCase):
    def setUp(self) -> None:
        load()

    def read(self, path: str, query: QueryDict) -> tuple[pypdf.PdfReader, str]:
        response = self.client.get(path, query)
        self.assertEqual(response["Content-Type"], "application/pdf")
        found = pypdf.PdfReader(io.BytesIO(response.content))
        return found, " ".join(found.pages[0].extract_text().split())

    def test_one_page_on_either_paper_with_nothing_missing(self) -> None:
        sizes = {"a4": (210, 297), "letter": (215.9, 279.4)}
        for paper, (width, height) in sizes.items():
            query = changed(paper=paper, name="Low water", metered_f="8", metered_time="1/60")
            found, text = self.read("/cards/plan/sheet.pdf", query)
            self.assertEqual(len(found.pages), 1)
            box = found.pages[0].mediabox
            self.assertAlmostEqual(float(box.width) * 25.4 / 72, width, delta=0.1)
            self.assertAlmostEqual(float(box.height) * 25.4 / 72, height, delta=0.1)
            for part in ("Low water", "2.6 m", "f/11", "from 2.2 to 2.8 m", "Winch wheel",
                         "41 %", "the thumb button", "Magnify Slate slab and Tip ridge",
                         "peaking", "1/30 s at ISO 100", "Local rules"):  # fmt: skip
                self.assertIn(part, text)
            self.assert_nothing_cut(found)

    def test_the_fullest_sheet_still_fits(self) -> None:
        load()
        marks = [(f"A mark with quite a long name, {at}", f"{1 + at / 5:.1f} m", "must")
                 for at in range(24)]  # fmt: skip
        care = {f"care_{name}": "1" for name in ("water", "edges", "sun", "road", "night")}
        state = scene_query({**GEAR, **care}, marks)
        fields = {
            "name": "Full " * 15,
            "state": state.urlencode(),
            "note": "Watch the swell. " * 100,
        }
        self.client.post("/view/save/", fields)
        listed = self.client.get("/kept/").content.decode()
        path = listed.split('aria-label="Sheet of Full')[0].rsplit('href="', 1)[1].split('"')[0]
        for paper in ("a4", "letter"):
            found, text = self.read(f"{path.rstrip('/')}.pdf", QueryDict(f"paper={paper}"))
            self.assertEqual(len(found.pages), 1)
            for part in ("long name, 0", "long name, 23", "Watch the swell.", "certified filter"):
                self.assertIn(part, text)
            self.assertGreaterEqual(text.count("Watch the swell."), 100)
            self.assert_nothing_cut(found)

    def assert_nothing_cut(self, found: pypdf.PdfReader) -> None:
        """All text stands within the margins of the paper."""
        page = found.pages[0]
        width, height = float(page.mediabox.width), float(page.mediabox.height)
        places: list[tuple[float, float]] = []

        def seen(text: str, cm: list[float], tm: list[float], *_: object) -> None:
            if text.strip() and cm[3] < 0 < cm[0] and cm[4] == 0:  # not inside a drawing
                x, y = tm[4], tm[5]
                places.append((cm[0] * x + cm[2] * y + cm[4], cm[1] * x + cm[3] * y + cm[5]))

        page.extract_text(visitor_text=seen)
        self.assertGreater(len(places), 20)
        for x, y in places:
            self.assertTrue(20 < x < width - 20 and 20 < y < height - 20, (x, y))

    def test_the_sheet_on_the_screen_and_its_ways_to_paper(self) -> None:
        page = self.client.get("/cards/plan/sheet/", changed(name="Low <water>"))
        self.assertContains(page, "Low &lt;water&gt;")
        for part in ("PDF, A4", "PDF, Letter", "paper=letter", "Checks to make"):
            self.assertContains(page, part)
        self.assertEqual(self.client.get("/cards/kept/99999/sheet/").status_code, 404)
        for query in ("f_number=x", "paper=napkin", "mark_name=" + "A" * 300, ""):
            self.assertEqual(self.client.get(f"/cards/plan/sheet.pdf?{query}").status_code, 200)

    def test_without_the_libraries_it_says_so(self) -> None:
        with mock.patch.object(printing, "press", side_effect=printing.CannotPrint):
            page = self.client.get("/cards/plan/sheet.pdf")
        self.assertContains(page, "print that from the browser", status_code=501)

    def test_only_our_own_files_are_printed(self) -> None:
        folders = printing.press().folders
        for url in ("file:///etc/hostname", "http://localhost/static/x", f"{printing.OURS}/x",
                    f"{printing.OURS}/static/../settings", f"{printing.OURS}/static/%2e%2e/apps.py",
                    f"{printing.OURS}/static/"):  # fmt: skip
            with self.subTest(url), self.assertRaises(ValueError):
                own_file(url, printing.OURS, folders)
        css = own_file(f"{printing.OURS}/static/view/sheet.css", printing.OURS, folders)
        self.assertTrue(css.exists())
