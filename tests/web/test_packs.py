"""Packs of cards: put in, ordered, printed in one go, and what has changed since."""

from __future__ import annotations

import io
import re
from unittest import mock

import pypdf
import pypdfium2
from django.test import Client, TestCase

from tests import some
from tests.web.test_people import PASSWORD
from web.bag.models import Lens
from web.cards import packs
from web.cards.models import MOST_CARDS, Card, Pack, Size
from web.demo.world import load
from web.kept.models import Kept
from web.people.models import Owner
from web.ui import imposing, printing

MM = 72 / 25.4
_FORM = re.compile(r"q ([-\d. ]+) cm (/\w+) Do Q")


class PacksTest(TestCase):
    def setUp(self) -> None:
        load()
        self.values = [f"kept:{one.pk}:card" for one in Kept.objects.all()]

    def pack(self, *values: str, **said: str) -> Pack:
        """A pack with these cards, made as a hand makes it."""
        self.client.post("/cards/packs/put/", {"card": values or self.values})
        pack = Pack.objects.latest("pk")
        if said:
            self.client.post(f"/cards/packs/{pack.pk}/change/", said)
        return pack

    def printed(self, pack: Pack) -> pypdf.PdfReader:
        """Printed to the end."""
        answer = self.client.post(f"/cards/packs/{pack.pk}/print/")
        for _ in range(40):
            if "Open the PDF" in answer.content.decode():
                break
            answer = self.client.post(f"/cards/packs/{pack.pk}/print/on/")
        answer = self.client.get(f"/cards/packs/{pack.pk}/cards.pdf")
        self.assertEqual(answer["Content-Type"], "application/pdf")
        self.data = answer.content
        return pypdf.PdfReader(io.BytesIO(answer.content))

    def test_put_in_ordered_taken_out_and_put_back(self) -> None:
        pack = self.pack(*self.values[:3])
        first, second, third = pack.cards.all()
        self.client.post(f"/cards/packs/{pack.pk}/change/", {"card": third.pk, "to": "up"})
        self.assertEqual(list(pack.cards.all()), [first, third, second])
        self.client.post(f"/cards/packs/{pack.pk}/change/", {"card": second.pk, "to": "first"})
        self.assertEqual(list(pack.cards.all()), [second, first, third])
        page = self.client.post(f"/cards/packs/{pack.pk}/change/", {"card": first.pk, "out": "1"})
        self.assertContains(page, "Put it back")
        self.assertEqual(list(pack.cards.all()), [second, third])
        self.client.post(f"/cards/packs/{pack.pk}/put/", {"card": self.values[0]})
        self.assertEqual(pack.cards.count(), 3)
        self.client.post(f"/cards/packs/{pack.pk}/put/", {"card": self.values[0]})
        self.assertEqual(pack.cards.count(), 3, "what is in it is not put in twice")

    def test_on_sheets_backs_lie_behind_their_fronts(self) -> None:
        combined = (
            ("a6", "a4", 4), ("a7", "a4", 8), ("credit", "a4", 10), ("a5", "a4", 2),
            ("a6", "letter", 2), ("credit", "letter", 10),
        )  # fmt: skip
        for size, paper, each in some(combined, 3, first=1):
            with self.subTest(size=size, paper=paper):
                card, sheet = packs.SIZES[Size(size)], packs.SHEETS[paper]
                lies = imposing.grid(card, sheet)
                self.assertEqual(lies.each, each)
                found = self.printed(self.pack(*self.values[:3], size=size, paper=paper))
                self.assertEqual(len(found.pages) % 2, 0)
                for front, back in zip(found.pages[::2], found.pages[1::2], strict=True):
                    self.assertTrue(self.cells(front, lies.turned, card))
                    for page in (front, back):
                        box = page.mediabox
                        self.assertAlmostEqual(float(box.width) / MM, sheet[0], delta=0.1)
                        self.assertAlmostEqual(float(box.height) / MM, sheet[1], delta=0.1)
                    for place in self.cells(back, lies.turned, card):
                        x, y, width, height = place
                        mirrored = (sheet[0] - x - width, y, width, height)
                        self.assertTrue(
                            any(
                                all(abs(a - b) < 0.1 for a, b in zip(one, mirrored, strict=True))
                                for one in self.cells(front, lies.turned, card)
                            ),
                            "a back with no front before it",
                        )

    def cells(
        self, page: pypdf.PageObject, turned: bool, card: tuple[float, float]
    ) -> list[tuple[float, float, float, float]]:
        """Where cards lie on a page, mm: left, bottom, width, height; each at its size."""
        content = page.get_contents()
        assert content is not None
        found = []
        drawings = page["/Resources"]["/XObject"]
        for matrix, name in _FORM.findall(content.get_data().decode()):
            a, b, c, d, e, f = map(float, matrix.split())
            _, _, wide, high = (float(v) for v in drawings[name]["/BBox"])
            corners = [(a * u + c * v + e, b * u + d * v + f)
                       for u, v in ((0, 0), (wide, 0), (0, high), (wide, high))]  # fmt: skip
            xs, ys = ([one[at] / MM for one in corners] for at in (0, 1))
            place = (min(xs), min(ys), max(xs) - min(xs), max(ys) - min(ys))
            size = card[::-1] if turned else card
            self.assertAlmostEqual(place[2], size[0], delta=0.01)
            self.assertAlmostEqual(place[3], size[1], delta=0.01)
            found.append(place)
        return found

    def test_pages_of_their_own_size_and_nothing_is_cut_off(self) -> None:
        for size in some(Size.values, 2):
            with self.subTest(size):
                found = self.printed(self.pack(*self.values[:4], size=size, paper="own"))
                width, height = packs.SIZES[Size(size)]
                said = ""
                for page in found.pages:
                    self.assertAlmostEqual(float(page.mediabox.width) / MM, width, delta=0.1)
                    self.assertAlmostEqual(float(page.mediabox.height) / MM, height, delta=0.1)
                    said += " ".join(page.extract_text().split()) + " "
                for kept in Kept.objects.all()[:4]:
                    self.assertIn(kept.name, said)
                if size != "credit":
                    self.assertEqual(len(found.pages), 8)
                self.assertIn("Local", said)

    def test_what_has_changed_since_it_was_printed_says_so(self) -> None:
        lens = Lens.objects.get(name="20–35 mm f/4 zoom")
        pack = self.pack(f"lens:{lens.pk}:zoom", self.values[0])
        lens = Lens.objects.get(owner=pack.owner, copied_from=lens.pk)
        state = f"/cards/packs/{pack.pk}/state/"
        self.assertContains(self.client.get(state), "not printed yet", 2)
        self.printed(pack)
        self.assertContains(self.client.get(state), "as printed on", 2)
        lens.name = "20–35 mm f/4 zoom, the old one"
        lens.save()
        self.assertContains(self.client.get(state), "Changed since it was printed", 1)
        self.assertContains(self.client.get(state), "the old one")
        page = self.client.post(f"/cards/packs/{pack.pk}/print/", {"which": "changed"})
        self.assertContains(page, "1 of 1 card")
        self.assertContains(self.client.get(state), "as printed on", 2)

    def test_what_is_gone_is_said_and_takes_nothing_with_it(self) -> None:
        lens = Lens.objects.get(name="20–35 mm f/4 zoom")
        pack = self.pack(f"lens:{lens.pk}:zoom", "lens:99999:over", self.values[0])
        Lens.objects.filter(owner=pack.owner, copied_from=lens.pk).delete()
        self.assertEqual(self.client.get(f"/cards/packs/{pack.pk}/").status_code, 200)
        self.assertContains(
            self.client.get(f"/cards/packs/{pack.pk}/state/"), "not there any more", 2
        )
        page = self.client.post(f"/cards/packs/{pack.pk}/print/")
        self.assertContains(page, "Not printed", 2)
        self.assertContains(page, "Open the PDF")

    def test_it_goes_on_in_steps_and_two_windows_print_nothing_twice(self) -> None:
        pack = self.pack(*self.values[:5])
        path = f"/cards/packs/{pack.pk}/print/"
        with mock.patch.object(packs, "MOST_AT_ONCE", 2):
            page = self.client.post(path)
            self.assertContains(page, "2 of 5 cards")
            self.assertContains(page, 'hx-post="')
            other = self.client.post(f"{path}on/", headers={"HX-Request": "true"})
            self.assertContains(other, "4 of 5 cards")
            self.assertNotContains(other, "<html")
            with mock.patch.object(printing, "press", side_effect=printing.Busy):
                waits = self.client.post(f"{path}on/")
            self.assertContains(waits, "goes on by itself")
            self.assertContains(waits, "delay:2s")
            self.assertContains(self.client.post(f"{path}on/"), "5 of 5 cards")
            self.assertContains(self.client.post(f"{path}on/"), "5 of 5 cards")
        pack.refresh_from_db()
        self.assertEqual(sum(piece.cards for piece in pack.pieces.all()), 5)

    def test_the_bag_has_a_card_of_all_its_lenses(self) -> None:
        page = self.client.get("/cards/bag/")
        lens = Lens.objects.get(name="20–35 mm f/4 zoom")
        whole = self.client.get(f"/cards/lens/{lens.pk}/", {"f_number": "8"}).content.decode()
        row = whole.split("<tr><th>35</th>")[1].split("</tr>")[0]
        ring, near = re.search(r"<b>([^<]+)</b>", row), re.search(r"from ([\d.]+ m) to", row)
        assert ring is not None
        assert near is not None
        cell = f"<b>{ring[1]}</b><br>{near[1]}"
        line = page.content.decode().split("<tr><th>35 mm</th>")[1].split("</tr>")[0]
        self.assertIn(cell, line)
        pack = self.pack("bag:1:card")
        self.assertEqual(len(self.printed(pack).pages), 1)
        for ending in ("pdf", "png", "svg"):
            self.assertEqual(self.client.get(f"/cards/bag/card.{ending}").status_code, 200)
        for one in Lens.objects.filter(owner=pack.owner):
            one.delete()
        self.assertEqual(self.client.get("/cards/bag/").status_code, 404)
        state = self.client.get(f"/cards/packs/{pack.pk}/state/")
        self.assertContains(state, "not there any more")

    def test_names_of_eighty_letters_in_any_script(self) -> None:
        scripts = (
            "朝の海の岩", "Хребет над ", "Überwältigungs", "नदी का किनारा ", "وادي الضوء ",
        )  # fmt: skip
        for script in some(scripts, 2):
            name = (script * 80)[:80].strip()
            with self.subTest(name):
                kept = Kept.objects.filter(kind="night")[0]
                kept.pk, kept.name, kept._state.adding = None, name, True
                kept.save()
                for size in ("a6", "credit"):
                    pack = self.pack(f"kept:{kept.pk}:card", size=size, paper="own")
                    found = self.printed(pack)
                    page = pypdfium2.PdfDocument(self.data)[0]
                    text = "".join(page.get_textpage().get_text_range().split())
                    if script.isascii() or script.startswith(("Ü", "朝")):
                        self.assertIn("".join(script.split())[:5], text)
                    self.assertGreaterEqual(len(found.pages), 2)

    def test_two_hundred_and_no_more(self) -> None:
        pack = self.pack(self.values[0])
        many = [Card(pack=pack, at=at, of="kept", thing=at + 10**6, face="card")
                for at in range(1, MOST_CARDS)]  # fmt: skip
        Card.objects.bulk_create(many)
        answer = self.client.post(f"/cards/packs/{pack.pk}/put/", {"card": self.values[1]})
        self.assertContains(answer, f"room for {MOST_CARDS} cards", status_code=409)
        self.assertEqual(self.client.get(f"/cards/packs/{pack.pk}/").status_code, 200)

    def test_odd_requests(self) -> None:
        pack = self.pack(self.values[0])
        path = f"/cards/packs/{pack.pk}"
        for said in ({"card": ["", "kept", "kept:x:y", "moon:1:card", "lens:-1:zoom"]}, {}):
            self.assertEqual(self.client.post(f"{path}/put/", said).status_code, 302)
        self.assertEqual(pack.cards.count(), 1)
        for said in ({"name": ""}, {"name": "x" * 81}):
            self.assertContains(self.client.post(f"{path}/change/", said), "name", status_code=422)
        self.client.post(f"{path}/change/", {"name": "<b>", "size": "napkin", "paper": "wall"})
        pack.refresh_from_db()
        self.assertEqual((pack.name, pack.size, pack.paper), ("<b>", "a6", "a4"))
        self.assertContains(self.client.get(f"{path}/"), "&lt;b&gt;")
        for odd in ("from=x", "from=99999999", ""):
            self.assertEqual(self.client.get(f"{path}/state/?{odd}").status_code, 200)
        self.assertEqual(self.client.get(f"{path}/cards.pdf").status_code, 404)
        self.assertEqual(
            self.client.post(f"{path}/change/", {"card": "12345", "to": "up"}).status_code, 404
        )
        stranger = Client()
        for place in ("/", "/state/", "/cards.pdf"):
            self.assertEqual(stranger.get(f"{path}{place}").status_code, 404)
        for place in ("/put/", "/change/", "/delete/", "/print/", "/print/on/"):
            self.assertEqual(stranger.post(f"{path}{place}").status_code, 404)

    def test_deleted_and_put_back(self) -> None:
        pack = self.pack(self.values[0])
        page = self.client.post(f"/cards/packs/{pack.pk}/delete/", follow=True)
        self.assertContains(page, "Put it back")
        self.assertEqual(self.client.get(f"/cards/packs/{pack.pk}/").status_code, 404)
        self.client.post(f"/cards/packs/{pack.pk}/restore/")
        self.assertEqual(self.client.get(f"/cards/packs/{pack.pk}/").status_code, 200)

    def test_it_comes_along_to_an_account(self) -> None:
        pack = self.pack(self.values[0])
        name = {"username": "Marlo", "password1": PASSWORD, "password2": PASSWORD}
        self.client.post("/you/join/", name)
        owner = Owner.objects.get(person__username="Marlo")
        mine = Pack.objects.get(owner=owner, name=pack.name)
        self.assertEqual(mine.name, pack.name)
        state = self.client.get(f"/cards/packs/{mine.pk}/state/")
        self.assertContains(state, "not printed yet")

    def test_ten_cards_in_one_small_file_that_asks_nobody(self) -> None:
        lens = Lens.objects.get(name="20–35 mm f/4 zoom")
        pack = self.pack(*self.values, f"lens:{lens.pk}:zoom", f"lens:{lens.pk}:over")
        self.assertEqual(pack.cards.count(), 10)
        answer = self.client.get(f"/cards/packs/{pack.pk}/pocket.html")
        self.assertLess(len(answer.content), 400_000)
        page = answer.content.decode()
        self.assertEqual(page.count('class="made-card'), 11)  # and the strip
        asks = re.findall(r'(?:src|href)="(?!#|data:)[^"]*"|url\((?!["\']?data:)[^)]*\)', page)
        self.assertEqual(asks, [])
        for kept in Kept.objects.filter(owner__is_sample=True):
            self.assertIn(kept.name, page)


class ImposingTest(TestCase):
    def test_what_did_not_fit_goes_on_to_another_card(self) -> None:
        self.assertEqual(
            packs.pairs_of([[1, 1], [1], [2, 1]]), [(0, 1), (2, None), (3, 5), (4, None)]
        )
        self.assertEqual(packs.pairs_of([[1, 2]]), [(0, 1), (2, None)])

    def test_marks_stand_at_every_cut(self) -> None:
        sheet = (210.0, 297.0)
        marks = imposing.lines(imposing.grid((85.6, 54.0), sheet), sheet)
        self.assertEqual(len(marks), 2 * 3 + 2 * 6)
