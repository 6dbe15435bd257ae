"""Drills on their pages: what is asked carries its answers; tries are kept once; what they tell is
counted with only when that was wanted."""

from __future__ import annotations

import json
import math
import re
import uuid
from datetime import timedelta
from typing import Any

from django.test import Client
from django.utils import timezone

from drills.every import DRILLS
from tests.web.test_people import PASSWORD, Base
from web.bag.models import InHand, Lens, Standard
from web.drills import tried
from web.drills.models import Try
from web.kept.models import Kept
from web.people.models import Owner
from web.people.owners import taken_along
from web.street.forms import read_street
from web.street.sample import GEAR


def tasks_of(page: Any) -> list[dict[str, Any]]:
    """The tasks that a page carries."""
    text = page.content.decode()
    found = re.search(
        r'<script id="drill-tasks" type="application/json">(.*?)</script>', text, re.S
    )
    assert found is not None
    made: list[dict[str, Any]] = json.loads(found[1])
    return made


def tried_once(**said: Any) -> dict[str, Any]:
    """A try as a device sends it."""
    return {"key": str(uuid.uuid4()), "at": timezone.now().isoformat(), "drill": "ring",
            "part": "mark", "level": 1, "right": True, "off": 0.0, "ms": 2000, **said}  # fmt: skip


class Case(Base):
    def setUp(self) -> None:
        self.client = self.join()
        self.owner = Owner.objects.get(person__username="Marlo")

    def send(self, *entries: dict[str, Any], client: Client | None = None) -> dict[str, Any]:
        body = json.dumps({"entries": list(entries)})
        answer = (client or self.client).post("/drills/tries.json", body, "application/json")
        self.assertEqual(answer.status_code, 200, answer.content)
        found: dict[str, Any] = answer.json()
        return found


class PageTest(Case):
    def test_each_drill_carries_what_every_answer_is_worth(self) -> None:
        for drill in DRILLS:
            page = self.client.get(f"/drills/{drill.key}/practice/", {"seed": "4"})
            self.assertEqual(page.status_code, 200)
            made = tasks_of(page)
            self.assertGreaterEqual(len(made), 4)
            for task in made:
                count = len(task["labels"])
                self.assertTrue(
                    count == len(task["says"]) == len(task["right"]) == len(task["off"])
                )
                self.assertTrue(task["right"][task["best"]])
                self.assertTrue(task["asks"])
                self.assertTrue(all(task["says"]), drill.key)

    def test_pictures_are_those_that_the_page_names_and_no_others(self) -> None:
        page = self.client.get("/drills/blur/practice/", {"seed": "4"})
        task = tasks_of(page)[0]
        for name in ("src", "after"):
            picture = self.client.get(task["picture"][name])
            self.assertEqual((picture.status_code, picture["Content-Type"]), (200, "image/jpeg"))
            self.assertIn("immutable", picture["Cache-Control"])
            self.assertContains(page, f'rel="prefetch" href="{task["picture"][name]}"')
        for odd in ("x", task["picture"]["src"].split("/")[-2][:-2] + "xx", "a" * 4000):
            self.assertEqual(self.client.get(f"/drills/seen/{odd}/").status_code, 404)

    def test_five_minutes_have_some_of_all(self) -> None:
        made = tasks_of(self.client.get("/drills/five/practice/"))
        self.assertEqual({task["drill"] for task in made}, {drill.key for drill in DRILLS})

    def test_distances_are_in_ones_own_units(self) -> None:
        self.owner.units = "ft"
        self.owner.save()
        task = tasks_of(self.client.get("/drills/distance/practice/", {"seed": "2"}))[0]
        self.assertTrue(all(re.search(r"ft|′|″", label) for label in task["labels"]))
        self.assertIn("You said", task["says"][0])

    def test_what_one_lens_cannot_be_asked_is_said(self) -> None:
        standard = Standard.objects.get(owner=self.owner, name="Every pixel")
        InHand.objects.filter(owner=self.owner).update(standard=standard)
        lens = Lens.objects.get(owner=self.owner, name__startswith="90 mm")
        for drill in (*(one.key for one in DRILLS), "five"):
            page = self.client.get(f"/drills/{drill}/practice/", {"lens": lens.pk, "seed": "3"})
            self.assertEqual(page.status_code, 200, drill)
            self.assertTrue(tasks_of(page) or "left out" in page.content.decode(), drill)

    def test_every_lens_of_the_bag_and_odd_links(self) -> None:
        for lens in Lens.objects.filter(owner=self.owner):
            page = self.client.get("/drills/five/practice/", {"lens": lens.pk})
            self.assertEqual(page.status_code, 200)
            self.assertContains(page, f"As your {lens.name} sees it")
        for link in ("lens=999999", "set=999999", "set=x", "lens=" + "9" * 40):
            self.assertIn(self.client.get(f"/drills/ring/practice/?{link}").status_code, (200, 404))
        for path in ("nothing", "FIVE", "seen"):
            self.assertEqual(self.client.get(f"/drills/{path}/practice/").status_code, 404)
        self.assertEqual(
            self.client.get("/drills/ring/practice/?seed=" + "9" * 50).status_code, 200
        )

    def test_a_page_of_a_bag_without_lenses(self) -> None:
        Lens.objects.filter(owner=self.owner).delete()
        for path in ("", "five/practice/", "positions/practice/", "field/"):
            self.assertEqual(self.client.get(f"/drills/{path}").status_code, 200, path)


class PositionsTest(Case):
    def names(self, page: Any) -> set[str]:
        return {task["calls"] for task in tasks_of(page)}

    def test_of_any_street_by_its_link(self) -> None:
        link = {**GEAR, "count": "3"}
        page = self.client.get("/drills/positions/practice/", link)
        street = read_street(page.wsgi_request.GET).street
        made = tasks_of(page)
        self.assertEqual(self.names(page), {"Close", "Home", "Far"})
        self.assertEqual([task["home"] for task in made[:4]], [False, True, False, True])
        self.assertIn(str(street.like / 1000), [t["labels"][t["best"]].split()[0] for t in made])
        self.assertContains(page, "With the lens in hand")
        self.assertContains(page, "Sound")
        street_page = self.client.get("/street/", link)
        self.assertContains(street_page, "/drills/positions/practice/?")

    def test_of_one_position_from_both_stops(self) -> None:
        page = self.client.get("/drills/positions/practice/", {**GEAR, "count": "1", "seed": "1"})
        made = tasks_of(page)
        self.assertEqual(self.names(page), {"Home"})
        self.assertEqual({task["start"] for task in made}, {0, len(made[0]["labels"]) - 1})

    def test_of_a_kept_set_and_from_where_it_was_before(self) -> None:
        kept = Kept.objects.get(owner=self.owner, kind="set", name="Tinder Row")
        page = self.client.get(f"/drills/set/{kept.pk}/practice/")
        self.assertContains(page, "Positions of Tinder Row")
        moved = self.client.get(f"/street/set/{kept.pk}/practice/")
        self.assertRedirects(moved, f"/drills/set/{kept.pk}/practice/", 301)
        moved = self.client.get("/street/practice/?count=2")
        self.assertRedirects(moved, "/drills/positions/practice/?count=2", 301)
        plan = Kept.objects.get(owner=self.owner, kind="plan", name="Sallow Pit")
        self.assertEqual(self.client.get(f"/drills/set/{plan.pk}/practice/").status_code, 404)


class TriesTest(Case):
    def test_sent_twice_they_are_kept_once(self) -> None:
        one, other = tried_once(), tried_once()
        self.send(one)
        said = self.send(one, other)
        self.assertEqual(set(said["heard"]), {one["key"], other["key"]})
        self.assertEqual(Try.objects.filter(owner=self.owner).count(), 2)

    def test_one_may_be_taken_back_before_or_after_it_was_heard(self) -> None:
        one, other = tried_once(), tried_once()
        self.send(one)
        said = self.send(tried_once(undo=one["key"]), other, tried_once(undo=other["key"]))
        self.assertEqual(len(said["heard"]), 3)
        self.assertFalse(Try.objects.filter(owner=self.owner).exists())
        stranger = self.join(Client(), "Iven")
        self.send(one)
        self.send(tried_once(undo=one["key"]), client=stranger)
        self.assertTrue(Try.objects.filter(owner=self.owner, key=one["key"]).exists())

    def test_what_is_none_is_refused_with_why_and_loses_nothing_else(self) -> None:
        good = tried_once()
        ahead = (timezone.now() + timedelta(days=9)).isoformat()
        odd: list[Any] = [
            tried_once(drill="cooking"), tried_once(part="x"), tried_once(level=9),
            tried_once(right="yes"), tried_once(off=math.nan), tried_once(off="far"),
            tried_once(at="yesterday"), tried_once(at=ahead), tried_once(said=-3.0, was=2000.0),
            tried_once(said=3000.0), tried_once(key="no"), tried_once(way="guessed"), "text", None,
            tried_once(way="paced", said="soon", was="3 m"),
            tried_once(way="paced", said="3 m", was="9 km"), tried_once(off=10**400),
        ]  # fmt: skip
        said = self.send(*odd, good)
        self.assertEqual(said["heard"], [good["key"]])
        self.assertTrue(all(said["refused"].values()))
        self.assertEqual(Try.objects.filter(owner=self.owner).count(), 1)
        for body in ("", "[]", "{", "null", '{"entries": 3}', "[" * 5000):
            answer = self.client.post("/drills/tries.json", body, "application/json")
            self.assertIn(answer.status_code, (200, 422))

    def test_of_very_many_the_oldest_make_room(self) -> None:
        most, tried.MOST_TRIES = tried.MOST_TRIES, 5
        self.addCleanup(setattr, tried, "MOST_TRIES", most)
        old = tried_once(at="2026-01-01T08:00:00+00:00")
        self.send(old, *(tried_once() for _ in range(5)))
        kept = Try.objects.filter(owner=self.owner)
        self.assertEqual(kept.count(), 5)
        self.assertFalse(kept.filter(key=old["key"]).exists())

    def test_in_the_field_in_ones_own_words(self) -> None:
        self.owner.pace_mm = 800
        self.owner.save()
        self.send(tried_once(way="paced", said="3 m", was="3 paces"))
        kept = Try.objects.get(owner=self.owner)
        self.assertEqual((kept.drill, kept.said_mm, kept.was_mm), ("distance", 3000.0, 2400.0))
        self.assertEqual(kept.part, "near")
        self.assertFalse(kept.right)

    def test_one_who_only_looks_is_nobody_and_one_who_answers_begins(self) -> None:
        guest = Client()
        page = guest.get("/drills/")
        self.assertContains(page, "Yours begins with your first answer")
        self.assertNotContains(page, "Let plans count")
        self.assertEqual({t["level"] for t in tasks_of(guest.get("/drills/blur/practice/"))}, {1})
        owners = Owner.objects.count()
        guest.get("/drills/tries.json")
        self.assertEqual(Owner.objects.count(), owners)
        self.send(tried_once(), client=guest)
        self.assertEqual(Owner.objects.count(), owners + 1)
        page = guest.get("/drills/")
        self.assertContains(page, "<b>1 of 1</b> right")
        self.assertNotContains(page, "Yours begins")

    def test_a_guests_go_with_them_and_all_are_told(self) -> None:
        guest = Client()
        self.send(tried_once(key="0f0f0f0f-1"), client=guest)
        guest.post("/you/sign-in/", {"username": "Marlo", "password": PASSWORD})
        self.assertTrue(Try.objects.filter(owner=self.owner, key="0f0f0f0f-1").exists())
        self.assertEqual(len(taken_along(self.owner)["tries"]), 1)
        table = self.client.get("/drills/tries.csv").content.decode()
        self.assertEqual(table.count("\r\n"), 2)
        self.assertIn("ring,mark,1,True", table)
