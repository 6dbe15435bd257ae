"""The card of a night: two sides of A6, or both on one sheet; read back from its PDF."""

from __future__ import annotations

import io
from unittest import mock

import pypdf
from hypothesis.extra.django import TestCase

from tests.web.test_sky import link
from web.demo.world import load
from web.kept.models import Kept
from web.ui import printing


class CardTest(TestCase):
    def setUp(self) -> None:
        load()

    def read(self, path: str = "/cards/night/card.pdf", **changes: str) -> pypdf.PdfReader:
        response = self.client.get(path, {**link().dict(), **changes})
        self.assertEqual(response["Content-Type"], "application/pdf")
        return pypdf.PdfReader(io.BytesIO(response.content))

    def words(self, found: pypdf.PdfReader) -> list[str]:
        return [" ".join(page.extract_text().split()) for page in found.pages]

    def size(self, found: pypdf.PdfReader) -> tuple[float, float]:
        box = found.pages[0].mediabox
        return float(box.width) * 25.4 / 72, float(box.height) * 25.4 / 72

    def test_two_sides_of_a_quarter_of_a4(self) -> None:
        found = self.read(name="Ridge", foreground="1.5 m", way="star")
        self.assertEqual(len(found.pages), 2)
        width, height = self.size(found)
        self.assertAlmostEqual(width, 105, delta=0.1)
        self.assertAlmostEqual(height, 148, delta=0.1)
        front, back = self.words(found)
        for text in ("Ridge", "22 m", "30 paces", "f/2", "10 s", "6400", "Frames 2",
                     "sharp from 8.6 m",
                     "0.96 px", "1 Ground", "2.2 m", "2:49", "2 Sky"):  # fmt: skip
            self.assertIn(text, front)
        for text in ("On a star", "The centre of the rear dial", "two seconds",
                     "Local rules"):  # fmt: skip
            self.assertIn(text, back)

    def test_the_answer_is_large(self) -> None:
        """At least 36 points for the ring, 9 for whatever else is read in the dark."""
        sizes: list[tuple[float, str]] = []

        def seen(text: str, cm: list[float], tm: list[float], _: object, size: float) -> None:
            if text.strip() and cm[3] < 0 and cm[4] == 0:  # not inside a drawing
                sizes.append((size * abs(tm[0] * cm[0]), text.strip()))

        for way in ("two", "star"):
            for page in self.read(foreground="1.5 m", way=way).pages:
                page.extract_text(visitor_text=seen)
        self.assertGreater(len(sizes), 20)
        ring = next(size for size, text in sizes if text.startswith("22 m"))
        self.assertGreater(ring, 36)
        self.assertGreater(min(size for size, _ in sizes), 7.9)

    def test_both_sides_on_one_sheet(self) -> None:
        for paper, size in (("a4", (210, 297)), ("letter", (215.9, 279.4))):
            with self.subTest(paper):
                found = self.read(paper=paper, foreground="1.5 m", way="star")
                self.assertEqual(len(found.pages), 1)
                for side, expected in zip(self.size(found), size, strict=True):
                    self.assertAlmostEqual(side, expected, delta=0.1)
                text = self.words(found)[0]
                self.assertIn("Focus on a light at", text)
                self.assertIn("On a star", text)

    def test_the_fullest_still_fits(self) -> None:
        lens = {"lens": "85 mm", "focal_length_mm": "85", "f_number": "1.4", "lens_range": "1.4 16"}
        found = self.read(
            name="A very long name of a night " * 3, foreground="3 m", way="day", latitude="47",
            direction="SSE", height="25", **lens,
        )  # fmt: skip
        self.assertEqual(len(found.pages), 2)
        front, back = self.words(found)
        self.assertIn("more nearer by: see the plan", front)
        self.assertIn("By day", back)
        self.assertIn("Local rules", back)

    def test_on_the_screen_with_its_ways_to_paper_and_its_back(self) -> None:
        page = self.client.get("/cards/night/card/", link(name="Low <ridge>", way="light"))
        self.assertContains(page, "Low &lt;ridge&gt;")
        for text in ("PDF, card, A6", "PDF, A4", "PDF, Letter", "way=star", "On a lit thing"):
            self.assertContains(page, text)
        self.assertContains(page, "Walk to 22 m or farther")

    def test_a_kept_night_has_its_card(self) -> None:
        state = link(margin="2").urlencode()
        self.client.post("/sky/save/", {"name": "Ridge", "state": state})
        kept = Kept.objects.get(name="Ridge")
        self.assertContains(self.client.get("/kept/"), f"/cards/kept/{kept.pk}/card/")
        self.assertContains(self.client.get(f"/cards/kept/{kept.pk}/card/"), "<h1>Ridge</h1>")
        front = self.words(self.read(f"/cards/kept/{kept.pk}/card.pdf"))[0]
        self.assertIn("Ridge", front)
        self.assertEqual(self.client.get("/cards/kept/99999/card/").status_code, 404)

    def test_whatever_is_asked_there_is_a_card(self) -> None:
        for query in ("f_number=x", "paper=napkin", "way=sideways", "f_number=32", "",
                      "pixels_across=&star_px=", "focal_length_mm=2000&trail_px=1",
                      "latitude=90&direction=0&height=90", "foreground=1+cm"):  # fmt: skip
            with self.subTest(query):
                self.assertEqual(self.client.get(f"/cards/night/card/?{query}").status_code, 200)
                response = self.client.get(f"/cards/night/card.pdf?{query}")
                self.assertEqual(response["Content-Type"], "application/pdf")

    def test_without_the_libraries_it_says_so(self) -> None:
        with mock.patch.object(printing, "press", side_effect=printing.CannotPrint):
            page = self.client.get("/cards/night/card.pdf")
        self.assertContains(page, "print that from the browser", status_code=501)
