"""Cards of a lens: every number judged as printed, true size on paper, and odd requests."""

from __future__ import annotations

import csv
import html
import io
import math
import re
from pathlib import Path

import pypdf
from django.test import TestCase

from optics.lens.conjugates import magnification
from optics.lens.depth import hyperfocal, limits
from tests import some
from web.bag.models import Lens, Standard
from web.cards.asked import Asked
from web.cards.outgoing import COLUMNS
from web.cards.usecases import (
    over_and_under,
    ring_of,
    short_by_aperture,
    short_rows,
    strip,
    table,
    zoom_rows,
)
from web.demo.world import load


class CardsTest(TestCase):
    def setUp(self) -> None:
        self.owner = load()
        self.zoom = Lens.objects.get(owner=self.owner, name="20–35 mm f/4 zoom")

    def asked(self, lens: Lens | None = None, **texts: str) -> Asked:
        """What a page is made from, by asking for it."""
        answer = self.client.get(f"/cards/lens/{(lens or self.zoom).pk}/", texts)
        self.assertEqual(answer.status_code, 200)
        found: Asked = answer.context["asked"]
        return found

    def test_the_list_leads_to_every_lens_and_to_what_is_kept(self) -> None:
        page = self.client.get("/cards/")
        for lens in Lens.objects.filter(owner=self.owner):
            self.assertContains(page, f"/cards/lens/{lens.pk}/")
        self.assertContains(page, "Sallow Pit, the slab under stars")

    def test_the_short_card_promises_what_holds(self) -> None:
        for aperture in ("4", "8", "11"):
            found = self.asked(f_number=aperture)
            rows = short_rows(found)
            self.assertEqual(rows[0].start, 20)
            self.assertEqual(rows[-1].end, 35)
            for one in rows:
                for at in range(21):
                    setup = found.setup_of(one.start + (one.end - one.start) * at / 20)
                    held = limits(setup, one.focus)
                    self.assertTrue(math.isinf(held.far), one)
                    self.assertLessEqual(held.near, one.nearest * (1 + 1e-9))

    def test_the_zoom_card_by_focal_length(self) -> None:
        found = self.asked(f_number="8")
        rows = zoom_rows(found)
        self.assertEqual([row.focal_length for row in rows], [20, 24, 28, 35])
        for row in rows:
            setup = found.setup_of(row.focal_length)
            self.assertGreaterEqual(row.focus, hyperfocal(setup))
            assert row.held is not None
            self.assertGreaterEqual(row.held.near, limits(setup, row.focus).near * (1 - 1e-9))
            self.assertTrue(math.isinf(row.held.far))

    def test_a_zoom_that_darkens_has_its_own_aperture_in_each_row(self) -> None:
        lens = Lens.objects.create(
            owner=self.owner, name="18–55", shortest_mm=18, longest_mm=55, widest=3.5,
            widest_at_long_end=5.6,
        )  # fmt: skip
        rows = zoom_rows(self.asked(lens, f_number="3.5", focal_length="18"))
        self.assertAlmostEqual(rows[0].f_number, 3.5)
        self.assertAlmostEqual(rows[-1].f_number, 5.6)

    def test_over_and_under(self) -> None:
        found = self.asked(f_number="11")
        rows = over_and_under(found)
        self.assertEqual(sum(row.here for row in rows), 1)
        self.assertTrue(math.isinf(rows[-1].focus))
        for row in rows:
            held = limits(found.setup, row.focus)
            assert row.held is not None
            self.assertGreaterEqual(row.held.near, held.near * (1 - 1e-9))
            self.assertLessEqual(row.held.far, held.far * (1 + 1e-9))
            before = row.focus < next(one.focus for one in rows if one.here)
            self.assertEqual(math.isinf(row.held.far), not before)

    def test_choices_change_the_numbers_and_stay_in_the_link(self) -> None:
        strict = Standard.objects.get(owner=self.owner, name="Every pixel")
        found = self.asked(f_number="8", standard=str(strict.pk), focal_length="35")
        self.assertEqual((found.f_number, found.kit.focal_length), (8, 35))
        self.assertLess(found.setup.coc, 0.01)
        page = self.client.get(f"/cards/lens/{self.zoom.pk}/?{found.query()}")
        self.assertContains(page, "Every pixel")
        self.assertIn(f"standard={strict.pk}", html.unescape(page.content.decode()))

    def pdf(self, kind: str, **texts: str) -> pypdf.PdfReader:
        answer = self.client.get(f"/cards/lens/{self.zoom.pk}/{kind}.pdf", texts)
        self.assertEqual(answer["Content-Type"], "application/pdf")
        return pypdf.PdfReader(io.BytesIO(answer.content))

    def test_every_page_has_its_size(self) -> None:
        for kind, size in (
            ("zoom", (105, 148)),
            ("over", (105, 148)),
            ("strip", (297, 210)),
            ("ring", (297, 210)),
            ("table", (210, 297)),
        ):
            found = self.pdf(kind)
            self.assertEqual(len(found.pages), 1, kind)
            box = found.pages[0].mediabox
            for side, wanted in zip((box.width, box.height), size, strict=True):
                self.assertAlmostEqual(float(side) * 25.4 / 72, wanted, delta=0.1)
            text = found.pages[0].extract_text()
            for words in ("20–35 mm f/4 zoom", "Wall print"):
                self.assertIn(words, text, kind)

    def test_of_every_lens_each_card_is_one_page(self) -> None:
        for lens in some([*Lens.objects.filter(owner=self.owner)], 2):
            for kind in ("over", "table", "strip", "ring"):
                answer = self.client.get(f"/cards/lens/{lens.pk}/{kind}.pdf")
                found = pypdf.PdfReader(io.BytesIO(answer.content))
                self.assertEqual(len(found.pages), 1, (lens.name, kind))

    def test_the_strip_is_true_on_paper(self) -> None:
        """Distances between marks as the PDF draws them, against the scale; the check line 50."""
        page = self.pdf("strip", f_number="8", focal_length="24").pages[0]
        drawn = strip(self.asked(f_number="8", focal_length="24"))
        lines = horizontal(page)
        self.assertLess(min(abs(one - 170.0) for one in lines), 0.05)
        self.assertLess(min(abs(one - 50.0) for one in lines), 0.05)
        marks = sorted(verticals(page))
        wanted = [tick.x / (72 / 25.4) for tick in drawn.ticks]
        left = min(marks, key=lambda x: abs(x - wanted[0] - 12))
        for x in wanted:
            off = min(abs(mark - left - (x - wanted[0])) for mark in marks)
            self.assertLess(off, 0.1, x)

    def test_the_ring_strip_is_true_on_paper(self) -> None:
        """A throw of 80° on a barrel 72 mm across: 50.27 mm from the nearest mark to infinity."""
        page = self.pdf("ring", barrel="72", focal_length="20").pages[0]
        found = self.asked(barrel="72", focal_length="20")
        marks = verticals(page)
        (piece,) = ring_of(found).pieces
        whole = math.radians(80) * 36
        self.assertAlmostEqual(piece.width_mm, whole + 28 * 25.4 / 72, 3)
        self.assertGreater(len(piece.ticks), 5)
        infinity = piece.ticks[0] if piece.ticks[0].label == "∞" else piece.ticks[-1]
        for tick in piece.ticks:
            wanted = abs(tick.x - infinity.x) * 25.4 / 72
            off = min(abs(abs(one - other) - wanted) for one in marks for other in marks)
            self.assertLess(off, 0.1, tick)
            if math.isfinite(tick.distance):  # by the helicoid: in proportion to 1 ÷ (u − f)
                lens = found.setup
                turned = magnification(lens, tick.distance) / magnification(lens, 280.0)
                self.assertAlmostEqual(wanted, whole * turned, 2)
        self.assertLess(min(abs(one - 50.0) for one in horizontal(page)), 0.05)
        wrong = self.client.get(f"/cards/lens/{self.zoom.pk}/", {"barrel": "0"})
        self.assertContains(wrong, "A barrel is 20 to 200 mm across")
        self.assertContains(wrong, 'value="0"')
        self.assertContains(wrong, "For a barrel 65 mm across")

    def test_one_file_has_everything_in_it(self) -> None:
        answer = self.client.get(f"/cards/lens/{self.zoom.pk}/pocket.html", {"f_number": "8"})
        self.assertIn("attachment", answer["Content-Disposition"])
        text = answer.content.decode()
        self.assertLess(len(answer.content), 400_000)
        for words in ("Zoom card", "Over and under", "Sliding strip", "Ring strip", "at f/8"):
            self.assertIn(words, text)
        asked_for = re.findall(r"""(?:src|href)=["'][^"'#][^"']*|url\((?!data:)[^)]+\)""", text)
        self.assertEqual(asked_for, [], "nothing is asked for from anywhere")
        self.assertNotIn("http://", text.replace("http://www.w3.org/", ""))
        self.assertEqual(text.count("data:font/woff2"), 4)

    def test_the_table_and_its_numbers_as_printed(self) -> None:
        found = self.asked(focal_length="24")
        made = table(found)
        for cells in made.rows:
            for f_number, one in zip(made.apertures, cells, strict=True):
                held = limits(found.kit.at(f_number), one.focus)
                assert one.held is not None
                self.assertGreaterEqual(one.held.near, held.near * (1 - 1e-9))
                self.assertLessEqual(one.held.far, held.far * (1 + 1e-9))
        path = f"/cards/lens/{self.zoom.pk}/table"
        text = self.client.get(f"{path}.csv", {"focal_length": "24"}).content.decode()
        lines = list(csv.DictReader(io.StringIO(text)))
        self.assertEqual(len(lines), len(made.rows) * len(made.apertures))
        data = self.client.get(f"{path}.json", {"focal_length": "24"}).json()
        self.assertEqual(data["lens"], self.zoom.name)
        for line, row in zip(lines, data["rows"], strict=True):
            self.assertEqual(line, {name: str(value) for name, value in row.items()})
        first, last = made.rows[0][0], made.rows[-1][-1]
        assert first.held is not None
        assert last.held is not None
        self.assertAlmostEqual(data["rows"][0]["sharp_from_m"] * 1000, first.held.near, 6)
        self.assertEqual(data["rows"][-1]["sharp_to_m"], "inf")
        said = (Path(__file__).parents[2] / "docs" / "cards.md").read_text("utf-8")
        for name in COLUMNS:
            self.assertIn(f"`{name}`", said)

    def test_odd_requests(self) -> None:
        key = self.zoom.pk
        for path in (f"/cards/lens/{key}/none.pdf", "/cards/lens/99999/", "/cards/lens/0/zoom.pdf"):
            self.assertEqual(self.client.get(path).status_code, 404, path)
        odd = {"body": "x", "standard": "-1", "f_number": "0", "focal_length": "1e400"}
        self.assertEqual(self.client.get(f"/cards/lens/{key}/", odd).status_code, 200)
        long = Lens.objects.create(
            owner=self.owner, name="W" * 60, shortest_mm=50, longest_mm=50, widest=1.8
        )
        self.assertEqual(self.client.get(f"/cards/lens/{long.pk}/over.pdf").status_code, 200)
        prime = self.client.get(f"/cards/lens/{long.pk}/")
        self.assertNotContains(prime, "Zoom card")

    def test_an_empty_bag_says_what_to_do(self) -> None:
        self.client.post("/bag/start/empty/", {})
        self.client.post("/bag/start/", {})
        Lens.objects.all().delete()
        self.assertContains(self.client.get("/cards/"), "No lens in your bag yet")

    def test_what_a_short_card_may_cost_and_every_aperture_at_once(self) -> None:
        dear = short_rows(self.asked(give="3"))
        cheap = short_rows(self.asked(give="1.25"))
        self.assertLess(len(dear), len(cheap))
        self.assertLessEqual(max(row.cost for row in cheap), 1.25)
        self.assertEqual(self.asked(give="9").give, 1.5, "what is not offered is not taken")
        asked = self.asked(several="1")
        self.assertIn("several=1", asked.query())
        found = short_by_aperture(asked)
        self.assertGreater(len(found), 4)
        for n, rows in found:
            self.assertEqual(rows, short_rows(self.asked(f_number=f"{n:g}")))
        page = self.client.get(f"/cards/lens/{self.zoom.pk}/", {"several": "1"})
        self.assertContains(page, "The fewest numbers at each aperture")
        self.assertEqual(len(self.pdf("zoom", several="1").pages), 1)


def _paths(page: pypdf.PageObject) -> list[tuple[float, float, float, float]]:
    """Straight strokes of a page, mm: from and to, through every change of the plane."""
    content = page.get_contents()
    assert content is not None
    found, stack = [], []
    plane = (1.0, 0.0, 0.0, 1.0, 0.0, 0.0)
    at = (0.0, 0.0)
    for operands, operator in pypdf.generic.ContentStream(content, page.pdf).operations:
        values = [float(one) for one in operands if isinstance(one, (int, float))]
        if operator == b"q":
            stack.append(plane)
        elif operator == b"Q":
            plane = stack.pop()
        elif operator == b"cm":
            a, b, c, d, e, f = values
            p = plane
            plane = (
                a * p[0] + b * p[2], a * p[1] + b * p[3], c * p[0] + d * p[2], c * p[1] + d * p[3],
                e * p[0] + f * p[2] + p[4], e * p[1] + f * p[3] + p[5],
            )  # fmt: skip
        elif operator in (b"m", b"l"):
            x, y = values
            here = (
                x * plane[0] + y * plane[2] + plane[4], x * plane[1] + y * plane[3] + plane[5],
            )  # fmt: skip
            if operator == b"l":
                found.append((*at, *here))
            at = here
    return [tuple(one * 25.4 / 72 for one in line) for line in found]  # type: ignore[misc]


def horizontal(page: pypdf.PageObject) -> list[float]:
    """How long the level strokes are, mm."""
    return [abs(x2 - x1) for x1, y1, x2, y2 in _paths(page) if abs(y2 - y1) < 0.01]


def verticals(page: pypdf.PageObject) -> list[float]:
    """Where the upright strokes stand, mm."""
    return [x1 for x1, y1, x2, y2 in _paths(page) if abs(x2 - x1) < 0.01 and y1 != y2]
