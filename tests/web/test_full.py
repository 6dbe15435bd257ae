"""A database that takes nothing: said where something was typed, and nothing typed is lost."""

from __future__ import annotations

from django.db import DatabaseError, connection
from django.test import Client, TransactionTestCase

from web.bag.models import Lens
from web.demo.world import load
from web.kept.models import Kept
from web.people.models import Owner
from web.view.forms import sample_query


class FullTest(TransactionTestCase):
    """A database that takes nothing: said where something was typed, and nothing typed is lost."""

    def setUp(self) -> None:
        if connection.vendor != "sqlite":
            self.skipTest("only SQLite can be told to be full")
        load()
        self.client.post("/view/save/", {"name": "Before", "state": sample_query().urlencode()})
        with connection.cursor() as cursor:
            cursor.execute("PRAGMA page_count")
            pages = cursor.fetchone()[0]
            cursor.execute(f"PRAGMA max_page_count = {pages}")
        self.addCleanup(self.make_room)

    def make_room(self) -> None:
        with connection.cursor() as cursor:
            cursor.execute("PRAGMA max_page_count = 1000000")

    def fill(self) -> None:
        owner = Owner.objects.filter(is_sample=False).get()
        for size in (4000, 400, 4):
            with self.assertRaises(DatabaseError):
                while True:
                    Kept.objects.create(owner=owner, kind="plan", name="x", link="y" * size)
        with self.assertRaises(DatabaseError):
            for number in range(100_000):
                Lens.objects.create(owner=owner, name=f"L{number}", shortest_mm=50, longest_mm=50,
                                    widest=2)  # fmt: skip

    def test_each_form_says_so_and_keeps_what_was_typed(self) -> None:
        self.fill()
        count = Kept.objects.count()
        note = "A long note about the swell. " * 60
        state = sample_query().urlencode() + "&mark_distance=3+m&mark_name=" + "z" * 50
        lens = {"shortest_mm": "35", "widest": "2",
                "ring_kind": "stops", "to_infinity": "1", "marks": "0.7 m: 108\n1 m: 74\ninf: 0",
                "magnify": "q" * 60}  # fmt: skip
        refused = 0
        for turn in range(8):  # what is left on the last page may still take one
            lens["name"] = f"Lens {turn} {'w' * 40}"
            answer = self.client.post("/view/save/", {"name": "Mine", "state": state, "note": note})
            if answer.status_code == 503:
                self.assertContains(answer, "There is no room left", status_code=503)
                self.assertContains(answer, 'value="Mine"', status_code=503)
                self.assertContains(answer, "about the swell", status_code=503)
                refused += 1
            again = self.client.post("/bag/lens/new/", lens)
            if again.status_code != 302:
                self.assertContains(again, "There is no room left", status_code=422)
                self.assertContains(again, "w" * 40, status_code=422)
                refused += 1
        self.assertGreater(refused, 6)
        # By its name: where others left many free pages, what filled them stands before it.
        self.assertContains(self.client.get("/kept/?q=Before"), "<b>Before</b>")
        quiet = Client(raise_request_exception=False)
        fields = {"username": "Marlo", "password1": "a slab of slate 9",
                  "password2": "a slab of slate 9"}  # fmt: skip
        joined = quiet.post("/you/join/", fields)
        self.assertContains(joined, "There is no room left", status_code=503)
        self.assertContains(joined, 'value="Marlo"', status_code=503)
        deed = quiet.post("/you/sign-in/", {"username": "nobody", "password": "x"})
        self.assertIn(deed.status_code, (200, 503))
        self.make_room()
        self.assertGreaterEqual(Kept.objects.count(), count)
        answer = self.client.post("/view/save/", {"name": "Mine", "state": state, "note": note})
        self.assertEqual(answer.status_code, 302)
