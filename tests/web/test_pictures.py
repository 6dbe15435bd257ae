"""Every kind of printed page as a picture: what it looks like, by white light and by red."""

from __future__ import annotations

import io
import re
import xml.etree.ElementTree as ET

import numpy as np
import pypdfium2
from django.test import TestCase
from PIL import Image

from optics.base.numbers import Array
from web.bag.models import Lens
from web.demo.world import load
from web.kept.models import Kept


class PicturesTest(TestCase):
    def setUp(self) -> None:
        load()
        lens = Lens.objects.get(name="20–35 mm f/4 zoom")
        kept = [Kept.objects.filter(kind=kind)[0].pk for kind in ("plan", "set", "night")]
        self.cards = [f"/cards/kept/{key}/card" for key in kept]
        self.cards += [f"/cards/lens/{lens.pk}/{kind}" for kind in ("zoom", "over")]
        self.strips = [f"/cards/lens/{lens.pk}/{kind}" for kind in ("strip", "ring")]
        self.others = [f"/cards/lens/{lens.pk}/table", f"/cards/kept/{kept[0]}/sheet"]

    def pages(self, path: str, dpi: float = 100) -> list[Array]:
        """The pages of a PDF as it comes out of the printer: rows of pixels, 0 to 1."""
        data = self.client.get(f"{path}.pdf").content
        document = pypdfium2.PdfDocument(data)
        found = [np.asarray(page.render(scale=dpi / 72).to_pil(), float)[..., :3] / 255
                 for page in document]  # fmt: skip
        document.close()
        return found

    def test_ink_on_paper_by_white_light_and_by_red(self) -> None:
        """No black slab, no empty page; and what is seen by white light is seen by red."""
        for path in (*self.cards, *self.strips, *self.others):
            for at, page in enumerate(self.pages(path)):
                with self.subTest(path, page=at):
                    inked = page.min(axis=2) < 0.5
                    self.assertTrue(0.0005 < inked.mean() < 0.25, inked.mean())
                    by_red = page[..., 0] < 0.72
                    lost = inked & ~by_red
                    self.assertLess(lost.sum() / inked.sum(), 0.01, "gone by red light")

    def test_each_piece_of_a_strip_is_paper_with_marks_on_it(self) -> None:
        for path in self.strips:
            page = self.pages(path, 200)[0]
            dark = page.max(axis=2) < 0.5
            rows = np.flatnonzero(dark.any(axis=1))
            columns = np.flatnonzero(dark.any(axis=0))
            pieces = dark[rows[0] : rows[-1], columns[0] : columns[-1]]
            self.assertLess(pieces.mean(), 0.12, path)

    def test_png_is_as_large_as_the_card_at_three_hundred_dots(self) -> None:
        for path in self.cards:
            answer = self.client.get(f"{path}.png")
            self.assertEqual(answer["Content-Type"], "image/png")
            picture = Image.open(io.BytesIO(answer.content))
            self.assertAlmostEqual(picture.width, 105 / 25.4 * 300, delta=1.5)
            self.assertAlmostEqual(picture.height, 148 / 25.4 * 300, delta=1.5)
            self.assertAlmostEqual(picture.info["dpi"][0], 300, delta=0.1)
        back = self.client.get(f"{self.cards[0]}.png?side=back").content
        self.assertNotEqual(back, self.client.get(f"{self.cards[0]}.png").content)
        self.assertIn(
            "back.png", self.client.get(f"{self.cards[0]}.png?side=back")["Content-Disposition"]
        )

    def test_svg_is_true_to_size_and_needs_nothing_else(self) -> None:
        for path in (*self.cards, *self.strips):
            with self.subTest(path):
                answer = self.client.get(f"{path}.svg")
                self.assertEqual(answer["Content-Type"], "image/svg+xml")
                self.assertIn("attachment", answer["Content-Disposition"])
                text = answer.content.decode()
                drawing = ET.fromstring(text)
                width = 105 if path in self.cards else 297
                self.assertAlmostEqual(float(drawing.attrib["width"][:-2]), width, delta=0.1)
                asked = re.findall(r'href="(?!#|data:)|url\((?!#)|<text', text)
                self.assertEqual(asked, [])
                self.assertGreater(text.count("<use "), 100, "its letters are outlines")
                names = set(re.findall(r'href="#([^"]+)"', text))
                self.assertTrue(names <= set(re.findall(r'id="([^"]+)"', text)))

    def test_a_sheet_is_no_picture(self) -> None:
        self.assertEqual(self.client.get(f"{self.others[1]}.png").status_code, 404)
