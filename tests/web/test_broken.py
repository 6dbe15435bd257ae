"""Things that no form would take: refused in a file, and shown as broken where they are kept."""

from __future__ import annotations

import json
from typing import Any

from django.test import TestCase

from tests import WHOLE, chance, examples, some
from web.bag import files
from web.bag.models import Attachment, Body, Lens, Standard, Thing
from web.bag.soundness import faults, sound
from web.bag.views import KINDS
from web.demo.world import load
from web.people import guests
from web.people.models import Owner
from web.people.owners import new_owner

ODD: tuple[Any, ...] = (
    -1500, -600.0, 0, 1e308, 1e-300, 10**30, True, None, "", "x", "\ud800", "a\x00b", "\u202eabc",
    "  ", [], [1], [[1, "a"]], [["x", "y"]], {}, "diagonal", "tighter", "own", "forgets", 3, 0.5,
    [[None, None]], [[1e9, 1e9], [1e9, 1e9]], [8, -8], "日本語の名前", "n" * 300,
    2, 5.6, 24.0, 100, 700.0, 3000.0, "Low water", False, [[700.0, 90], [None, 0.0]], [2.8, 22],
)  # fmt: skip
PAGES = (
    "/bag/", "/bag/standards/", "/bag/formats/", "/bag/file/", "/bag/import/", "/view/", "/street/",
    "/sky/?unfold=fold-bag", "/kept/",
)  # fmt: skip
FOLDED = {"HX-Request": "true", "Aim-Screen": "wide", "Aim-Unfolded": "fold-bag fold-tries"}


def made_odd(data: dict[str, Any], dice: Any) -> dict[str, Any]:
    """A bag with one to three of its values another: an odd one, or that of a neighbour."""
    for _ in range(dice.randint(1, 3)):
        key = dice.choice(["bodies", "lenses", "adapters", "standards"])
        thing = dice.choice(data[key])
        name = dice.choice([*thing, "name"])
        neighbour = dice.choice(data[key])
        near = name in neighbour and dice.random() < 0.3
        thing[name] = neighbour[name] if near else dice.choice(ODD)
    return data


class BrokenTest(TestCase):
    def setUp(self) -> None:
        load()

    def own(self) -> Owner:
        """A bag of the client's own."""
        self.client.post("/you/", {"units": "m", "pace_mm": "75 cm", "arm_mm": "65 cm",
                                   "eye_height_mm": "1.6 m", "judgement_error": "15"})  # fmt: skip
        return Owner.objects.get(is_sample=False)

    def assert_all_pages_answer(self, owner: Owner, path: str = "") -> None:
        for page in PAGES:
            self.assertEqual(self.client.get(page).status_code, 200, page)
        self.assertEqual(self.client.get("/sky/", headers=FOLDED).status_code, 200)
        for kind in KINDS.values():
            for thing in kind.model.objects.filter(owner=owner):
                answer = self.client.get(f"/bag/{kind.slug}/{thing.pk}/")
                self.assertEqual(answer.status_code, 200, thing)

    def test_a_file_is_refused_or_all_pages_answer(self) -> None:
        dice, taken, refused = chance("bag files"), 0, 0
        good = files.text_of(load())
        for number in range(examples(120)):
            guest = guests.Known(f"{number:043}", owns=True, day="20260101")
            owner = new_owner(guest=guest.hash)
            raw = json.dumps(made_odd(json.loads(good), dice)).encode()
            try:
                found = files.read(raw, owner)
            except files.Refused as why:
                self.assertTrue(why.sentence)
                refused += 1
                continue
            files.take(found.data, owner)
            taken += 1
            for kind in KINDS.values():
                things = list(kind.model.objects.filter(owner=owner))
                self.assertEqual(sound(things), things)
            again = files.read(files.text_of(owner).encode(), owner)
            self.assertEqual(again.changes, ())
            self.client.cookies[guests.COOKIE] = guest.text
            for page in PAGES:
                self.assertEqual(self.client.get(page).status_code, 200, (page, raw))
        self.assertGreater(min(taken, refused), 3 if WHOLE else 0)

    def test_what_the_database_holds_from_before_takes_no_page_with_it(self) -> None:
        owner = self.own()
        broken: tuple[tuple[type[Thing], dict[str, Any]], ...] = (
            (Standard, {"way": "diagonal", "parts": -1500}),
            (Standard, {"way": "print", "print_width_mm": -600}),
            (Standard, {"way": "print", "print_width_mm": float("inf")}),
            (Lens, {"marks": "abc"}),
            (Lens, {"marks": [["x", "y"], [1, 2]]}),
            (Lens, {"marks": [[7, 9], [8, 10], [None, 0]]}),
            (Lens, {"depth_marks": {"8": 1}}),
            (Lens, {"shortest_mm": 1e-9, "closest_mm": None}),
            (Lens, {"widest": 1e300, "smallest": None}),
            (Lens, {"throw_deg": -4.0}),
            (Body, {"format": "stamp"}),
            (Body, {"steps": "ninths"}),
            (Body, {"format": "own", "own_width_mm": 1e300, "own_height_mm": 1e-300}),
            (Attachment, {"factor": 1e300}),
        )
        for at, (model, fields) in enumerate(broken):
            thing = model.objects.filter(owner=owner).exclude(name__startswith="Broken").first()
            assert thing is not None
            thing.pk, thing.name, thing.once = None, f"Broken {at}", None
            thing._state.adding = True
            thing.save()
            model.objects.filter(pk=thing.pk).update(**fields)
            self.assertTrue(faults(model.objects.get(pk=thing.pk)), fields)
        self.assert_all_pages_answer(owner)
        page = self.client.get("/bag/").content.decode()
        for at in range(len(broken)):
            self.assertIn(f"<b>Broken {at}</b>", page)

        with self.subTest("mend and take out"):
            standard = Standard.objects.get(owner=owner, name="Broken 0")
            path = f"/bag/standard/{standard.pk}/"
            form = self.client.get(path)
            self.assertContains(form, "Parts: from 100 to 20")
            self.assertContains(form, 'value="-1500"')
            mended = {"name": "Mended", "way": "diagonal", "parts": "1500"}
            self.assertEqual(self.client.post(path, mended).status_code, 302)
            other = Standard.objects.get(owner=owner, name="Broken 1")
            self.client.post(f"/bag/standard/{other.pk}/take-out/")
            page = self.client.get("/bag/").content.decode()
            self.assertNotIn("Broken 0", page)
            self.assertNotIn("<b>Broken 1<", page)
            self.assertIn(">Mended<", page)

    def test_made_from_a_broken_one_or_from_itself(self) -> None:
        owner = self.own()
        first = Standard.objects.filter(owner=owner, way="print").first()
        assert first is not None
        other = Standard.objects.create(
            owner=owner, name="Other", way="tighter", than=first, stops=1
        )
        self.assertFalse(faults(other))
        Standard.objects.filter(pk=first.pk).update(print_width_mm=-1.0)
        self.assertIn("broken", faults(Standard.objects.get(pk=other.pk))["than"])
        Standard.objects.filter(pk=first.pk).update(
            way="tighter", than=other, stops=1, print_width_mm=None
        )
        self.assertIn("itself", faults(Standard.objects.get(pk=other.pk))["than"])
        self.assert_all_pages_answer(owner)

    def test_a_thing_typed_wrong_shows_what_is_kept_beside_it(self) -> None:
        owner = self.own()
        for kind in KINDS.values():
            for thing in kind.model.objects.filter(owner=owner)[:2]:
                form = kind.form(instance=thing, owner=owner)
                good = {name: form.text_of(name) for name in form.fields}
                for name in some([*form.fields], 4):
                    for text in ("-5", "x", "1e308"):
                        path = f"/bag/{kind.slug}/{thing.pk}/"
                        answer = self.client.post(path, good | {name: text, "name": ""})
                        self.assertEqual(answer.status_code, 422, (thing, name, text))
