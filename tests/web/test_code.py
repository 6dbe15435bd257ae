"""The codes on cards, read back from their printed pages by a reader of codes."""

from __future__ import annotations

import io
from urllib.parse import parse_qs, urlsplit

import cv2
import numpy as np
import pypdfium2
from django.test import TestCase

from tests.web.test_printed import facts
from tests.web.walk.pages import read
from web.bag.models import Lens
from web.cards import code
from web.demo.world import load
from web.kept.models import Kept

DPI = 600


class CodeTest(TestCase):
    def setUp(self) -> None:
        load()

    def scanned(self, path: str) -> str:
        """What the code on the first page of a PDF says."""
        answer = self.client.get(path)
        self.assertEqual(answer["Content-Type"], "application/pdf")
        document = pypdfium2.PdfDocument(io.BytesIO(answer.content))
        whole = np.asarray(document[0].render(scale=DPI / 72, grayscale=True).to_pil())
        picture = whole[: whole.shape[0] // 4, whole.shape[1] * 3 // 5 :]  # where a phone is held
        document.close()
        text, _, _ = cv2.QRCodeDetectorAruco().detectAndDecode(picture)
        self.assertTrue(text, f"no code could be read on {path}")
        return str(text)

    def test_of_everything_kept_it_says_the_cards_numbers(self) -> None:
        for kept in Kept.objects.all():
            with self.subTest(kept.name):
                text = self.scanned(f"/cards/kept/{kept.pk}/card.pdf")
                said = parse_qs(urlsplit(text).query)
                self.assertEqual(said["c"], [kept.name])
                page = self.client.get(f"/cards/kept/{kept.pk}/card/").content.decode()
                named = facts(read(page))
                rings = [figures for name, held in named.items() if name.startswith("ring")
                         for figures in held]  # fmt: skip
                lines = " ".join(said["n"]).replace(" ", "").replace("'", "′").replace('"', "″")
                for ring in rings:
                    self.assertIn(f"ring{ring}".replace("∞", "inf"), lines)
                shown = self.client.get(f"{urlsplit(text).path}?{urlsplit(text).query}")
                for line in said["n"]:
                    self.assertContains(shown, line, html=False)

    def test_its_link_opens_the_same_answer_without_a_bag(self) -> None:
        for kept in Kept.objects.filter(kind__in=("plan", "night")):
            with self.subTest(kept.name):
                text = self.scanned(f"/cards/kept/{kept.pk}/card.pdf")
                shown = self.client.get(f"{urlsplit(text).path}?{urlsplit(text).query}")
                link = shown.context["link"]
                self.assertNotIn("c=", link)
                card = facts(read(self.client.get(f"/cards/kept/{kept.pk}/card/").content.decode()))
                page = facts(read(self.client.get(link).content.decode()))
                self.assertEqual(page["aperture"], card["aperture"])
                self.assertEqual(page["ring"], card["ring"])

    def test_of_a_lens(self) -> None:
        lens = Lens.objects.get(name="20–35 mm f/4 zoom")
        said = parse_qs(urlsplit(self.scanned(f"/cards/lens/{lens.pk}/zoom.pdf")).query)
        self.assertTrue(all("ring" in line and "sharp from" in line for line in said["n"]))
        self.assertEqual(said["in"], ["view"])
        self.assertEqual(said["lens"], [lens.name])

    def test_a_link_that_leads_elsewhere_is_not_offered(self) -> None:
        for planner in ("https://elsewhere.invalid", "/elsewhere.invalid", "javascript:1", "you"):
            said = {"n": "ring 2 m", "in": planner, "c": "<b>x", "lens": "24 mm"}
            page = self.client.get("/cards/at/", said)
            self.assertEqual(page.context["link"], "")
            self.assertContains(page, "&lt;b&gt;x")
        self.assertContains(self.client.get("/cards/at/"), "no numbers in this address")

    def test_one_that_would_be_too_fine_leaves_its_link_out(self) -> None:
        request = self.client.get("/cards/at/").wsgi_request
        long = code.address(request, "A", ["ring 2 m"], "view", "lens=" + "x" * 2000)
        self.assertLess(len(long), 100)
        self.assertNotIn("lens", long)
