"""Whatever stands on a sheet or a card on the screen stands in its PDF, on the paper."""

from __future__ import annotations

import io
import re
from collections import Counter
from collections.abc import Iterator

import pypdf
from django.http import QueryDict
from django.test import TestCase

from tests import chance, examples
from tests.web.walk import scenes
from tests.web.walk.pages import Node, read
from web.demo.world import load

COUNT = examples(3)
EDGE = 14
"""Points: no text comes nearer to the edge of the paper."""
UNSEEN = ("title", "desc", "style", "script")


def texts(node: Node) -> Iterator[str]:
    """All that is to be read in an element, word by word."""
    for part in node.parts:
        if isinstance(part, str):
            yield from part.split()
        elif part.tag not in UNSEEN and "visually-hidden" not in part.attrs.get("class", ""):
            yield from texts(part)


class DocumentsTest(TestCase):
    def whole(self, path: str, holder: str, link: QueryDict) -> None:
        page = read(self.client.get(f"{path}/", link).content.decode())
        (shown,) = page.all(cls=holder)
        answer = self.client.get(f"{path}.pdf", link)
        self.assertEqual(answer["Content-Type"], "application/pdf")
        document = pypdf.PdfReader(io.BytesIO(answer.content))
        said = "".join(re.sub(r"[\s\0]+", "", one.extract_text()) for one in document.pages)
        for text, count in Counter(texts(shown)).items():
            self.assertGreaterEqual(said.count(text), count, f"{text} is missing")
        for one in document.pages:
            self.inside(one)

    def inside(self, page: pypdf.PageObject) -> None:
        width, height = float(page.mediabox.width), float(page.mediabox.height)
        places: list[tuple[str, float, float]] = []

        def seen(text: str, cm: list[float], tm: list[float], *_: object) -> None:
            if text.strip() and cm[3] < 0 < cm[0] and cm[4] == 0:  # not inside a drawing
                x, y = tm[4], tm[5]
                places.append((text.strip(), cm[0] * x + cm[2] * y + cm[4],
                               cm[1] * x + cm[3] * y + cm[5]))  # fmt: skip

        page.extract_text(visitor_text=seen)
        self.assertGreater(len(places), 10)
        for text, x, y in places:
            self.assertTrue(EDGE < x < width - EDGE and EDGE < y < height - EDGE, (text, x, y))

    def test_sheets(self) -> None:
        load()
        for seed in range(COUNT):
            scene = scenes.view(chance(f"sheet {seed}"))
            scene.link["name"] = f"Scene {seed}"
            with self.subTest(seed=seed, link=scene.link.urlencode()):
                self.whole("/cards/plan/sheet", "plan-sheet", scene.link)
                self.whole("/cards/plan/card", "pocket-card", scene.link)

    def test_cards(self) -> None:
        load()
        for seed in range(COUNT):
            night = scenes.night(chance(f"card {seed}"))
            night.link["name"] = f"Night {seed}"
            with self.subTest(seed=seed, link=night.link.urlencode()):
                self.whole("/cards/night/card", "pocket-card", night.link)
            street = scenes.street(chance(f"card {seed}"))
            street.link["name"] = f"Street {seed}"
            with self.subTest(seed=seed, link=street.link.urlencode()):
                self.whole("/cards/set/card", "pocket-card", street.link)
