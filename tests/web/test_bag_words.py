"""The Bag in the words of those who fill it: a lens in one submit, a start of one's own."""

from __future__ import annotations

import re
from typing import Any

from django.http import QueryDict
from django.test import TestCase

from web.bag.models import Body, InHand, Lens
from web.demo.world import load
from web.people.models import Owner, Person

LENS = {
    "name": "35 mm with a tab", "shortest_mm": "35 mm", "widest": "f/2", "smallest": "f/16",
    "closest_mm": "70 cm", "has_scale": "1", "ring_kind": "stops", "to_infinity": "1",
    "throw_deg": "90°", "tab_at_infinity_hours": "4:08", "depth_marks": "f/4 f/8 f/16",
    "depth_marks_circle_mm": "0.033 mm",
}  # fmt: skip


class LensTest(TestCase):
    def setUp(self) -> None:
        load()

    def put_in(self, **said: str) -> Any:
        return self.client.post("/bag/lens/new/", {**LENS, **said})

    def lens(self, **said: str) -> Lens:
        answer = self.put_in(**said)
        self.assertEqual(answer.status_code, 302, self.messages(answer))
        found: Lens = Lens.objects.get(name=said.get("name", LENS["name"]))
        return found

    def messages(self, answer: Any) -> str:
        return "" if answer.context is None else str(answer.context["form"].errors)

    def test_what_is_displayed_is_also_read(self) -> None:
        lens = self.lens()
        self.assertEqual((lens.shortest_mm, lens.widest, lens.smallest), (35, 2, 16))
        self.assertEqual((lens.closest_mm, lens.throw_deg), (700, 90))
        self.assertAlmostEqual(lens.tab_at_infinity_hours or 0, 4 + 8 / 60)
        self.assertEqual(lens.depth_marks, [4, 8, 16])
        page = self.client.get(f"/bag/lens/{lens.pk}/")
        self.assertContains(page, 'value="4:08"')
        self.assertContains(page, "Throw, infinity to closest")

    def test_one_lands_on_its_page_with_the_answer(self) -> None:
        answer = self.put_in()
        lens = Lens.objects.get(name=LENS["name"])
        self.assertEqual(answer["Location"], f"/bag/lens/{lens.pk}/?kept=1")
        page = self.client.get(answer["Location"])
        self.assertContains(page, "Kept in your bag.")
        self.assertContains(page, "Which of its marks to trust")
        self.assertContains(page, "For Wall print at arm’s length on Full frame, 24 MP")
        self.assertNotContains(self.client.get(f"/bag/lens/{lens.pk}/"), "Kept in your bag")

    def test_for_another_body_and_standard(self) -> None:
        lens = self.lens()
        other = Body.objects.get(owner=lens.owner, name="Small body, 26 MP")
        page = self.client.get(f"/bag/lens/{lens.pk}/", {"body": other.pk})
        self.assertContains(page, "on Small body, 26 MP, a blur of")

    def test_units_are_never_there_twice(self) -> None:
        page = self.put_in(name="", shortest_mm="35 mm", throw_deg="90°", widest="f/2")
        self.assertEqual(page.status_code, 422)
        for name, value in (("shortest_mm", "35"), ("throw_deg", "90"), ("widest", "2")):
            self.assertContains(page, f'name="{name}" value="{value}"', status_code=422)

    def test_a_tab_seen_straight_down_at_a_distance(self) -> None:
        lens = self.lens(tab_at_infinity_hours="straight down at 1.2 m")
        self.assertAlmostEqual(float(lens.hands.clock(1200.0)), 6.0)
        also = self.lens(name="Other", tab_at_infinity_hours="6:00 at 120 cm", to_infinity="-1")
        self.assertAlmostEqual(float(also.hands.clock(1200.0)), 6.0)
        self.assertNotAlmostEqual(lens.tab_at_infinity_hours, also.tab_at_infinity_hours)

    def test_what_cannot_be_is_said(self) -> None:
        for said, field, words in (
            ({"tab_at_infinity_hours": "13:00"}, "tab_at_infinity_hours", "0 to 12"),
            ({"tab_at_infinity_hours": "left"}, "tab_at_infinity_hours", "such as 4:30"),
            ({"tab_at_infinity_hours": "straight down at 1.2 m", "throw_deg": ""},
             "tab_at_infinity_hours", "throw and closest focus are needed"),
            ({"tab_at_infinity_hours": "straight down at 30 cm"},
             "tab_at_infinity_hours", "does not come to that distance"),
            ({"throw_deg": "90", "marks": "0.7 m: 100\n1 m: 60\ninf: 0"}, "throw_deg", "100°"),
            ({"depth_marks_circle_mm": "", "read_f_number": "8", "read_focus": "2 m",
              "read_near": "1.9 m", "read_far": "10 m"}, "read_near", "No circle explains"),
        ):  # fmt: skip
            with self.subTest(said=said):
                answer = self.put_in(**said)
                self.assertEqual(answer.status_code, 422)
                self.assertIn(words, str(answer.context["form"].errors.get(field)))


class OwnTest(TestCase):
    def setUp(self) -> None:
        load()

    def test_one_tap_empties_the_bag_and_another_fills_it(self) -> None:
        self.assertContains(self.client.get("/bag/"), "Start with my own")
        page = self.client.post("/bag/start/", follow=True)
        self.assertContains(page, "No lens yet")
        self.assertContains(page, "Put it back")
        owner = Owner.objects.get(is_sample=False)
        self.assertEqual(Lens.objects.filter(owner=owner).count(), 0)
        self.assertTrue(owner.standard_set.exists() if hasattr(owner, "standard_set") else True)
        self.assertEqual(self.client.get("/view/").status_code, 200)
        again = self.client.post("/bag/start/back/", follow=True)
        self.assertContains(again, "28 mm f/2.8 with tab")

    def test_what_was_put_in_stays(self) -> None:
        self.client.post("/bag/lens/new/", LENS)
        self.client.post("/bag/start/")
        owner = Owner.objects.get(is_sample=False)
        self.assertEqual([lens.name for lens in Lens.objects.filter(owner=owner)], [LENS["name"]])

    def test_ones_own_come_first_and_keep_their_identity(self) -> None:
        body = {"name": "Rangefinder, 24 MP", "format": "full-frame", "pixels_across": "6000",
                "steps": "thirds", "starts_focus": "half_press", "hold_or_toggle": "hold",
                "focuses_at": "taking"}  # fmt: skip
        answer = self.client.post("/bag/body/new/", body)
        self.assertEqual(answer.status_code, 302, answer.context and answer.context["form"].errors)
        page = self.client.get("/view/?format=full-frame&pixels_across=6000").content.decode()
        self.assertIn("selected>Rangefinder, 24 MP", page)
        self.assertLess(page.index(">Rangefinder, 24 MP<"), page.index(">Full frame, 24 MP<"))
        owner = Owner.objects.get(is_sample=False)
        self.assertEqual(InHand.objects.get(owner=owner).body.name, "Rangefinder, 24 MP")
        other = Body.objects.get(owner=owner, name="Full frame, 24 MP")
        InHand.objects.filter(owner=owner).update(body=other)
        page = self.client.get("/view/?format=full-frame&pixels_across=6000").content.decode()
        self.assertIn("selected>Full frame, 24 MP", page, "the one last taken in hand")


class NamesTest(TestCase):
    def test_capitals_do_not_matter_and_are_not_switched_on(self) -> None:
        Person.objects.create_user("Ostrel", password="reeds at the lock 7")
        page = self.client.get("/you/sign-in/")
        self.assertContains(page, 'autocapitalize="none"')
        said = {"username": "oSTREL", "password": "reeds at the lock 7"}
        self.assertEqual(self.client.post("/you/sign-in/", said).status_code, 302)

    def test_ten_per_cent(self) -> None:
        load()
        answer = self.client.post("/you/", {
            "units": "m", "pace_mm": "75 cm", "arm_mm": "65 cm", "eye_height_mm": "1.6 m",
            "judgement_error": "10 %",
        })  # fmt: skip
        self.assertEqual(answer.status_code, 302)
        self.assertEqual(Owner.objects.get(is_sample=False).judgement_error, 0.1)


class PreviewTest(TestCase):
    def drawn(self, **said: str) -> str:
        return self.client.post("/bag/lens/preview/", said).content.decode()

    def test_the_ring_while_one_types(self) -> None:
        load()
        self.assertIn("Say its focal length", self.drawn(name="x"))
        half = self.drawn(shortest_mm="35 mm")
        self.assertIn("Drawn from what is assumed", half)
        self.assertEqual(Lens.objects.filter(owner__is_sample=False).count(), 0)
        seen = self.drawn(shortest_mm="35", throw_deg="90°", closest_mm="0.7 m", to_infinity="1",
                          tab_at_infinity_hours="straight down at 1.2 m")  # fmt: skip
        self.assertIn("clockwise to infinity, near on the right", seen)
        self.assertNotIn("assumed", seen)
        self.assertRegex(seen, r"<dt>1.2 m</dt><dd>6:00</dd>")

    def test_the_near_end_is_on_its_true_side(self) -> None:
        """Turned clockwise, seen from behind, the top of a ring goes right: what comes under the
        index stood to its left. So infinity is on the left of a lens that turns so to infinity."""
        load()
        places = {}
        for way in ("1", "-1"):
            seen = self.drawn(shortest_mm="35", closest_mm="0.7 m", to_infinity=way)
            found = re.findall(r'<text[^>]* x="([\d.]+)"[^>]*>([^<]+)<', seen)
            places[way] = {label: float(x) for x, label in found}
        self.assertLess(places["1"]["∞"], places["1"]["0.7"])
        self.assertGreater(places["-1"]["∞"], places["-1"]["0.7"])


class FirstContactTest(TestCase):
    def taken(self, planner: str, lens: str, state: str = "") -> QueryDict:
        key = Lens.objects.filter(name=lens).order_by("-pk").first().pk
        said = {"lens": str(key), "next": f"/{planner}/", "state": state}
        return QueryDict(self.client.post("/bag/in-hand/", said)["Location"].partition("?")[2])

    def test_a_lens_starts_as_its_planner_wants_it_and_is_remembered_there(self) -> None:
        load()
        zoom, night = "20–35 mm f/4 zoom", "16 mm f/2 for the night"
        view = self.taken("view", zoom, "lens=50+mm+f/1.8&focal_length_mm=50&f_number=2&ring=3+m")
        self.assertEqual((view["focal_length_mm"], view["f_number"]), ("20", "11"))
        self.assertNotIn("ring", view, "nothing of another lens stays")
        self.assertEqual(self.taken("sky", night, "lens=")["f_number"], "2")
        street = self.taken("street", zoom, "lens=50+mm+f/1.8&locked=2+m&set_for=5.6")
        self.assertEqual((street["f_number"], street.get("locked")), ("8", None))
        view = view.copy()
        view["focal_length_mm"], view["f_number"] = "28", "16"
        self.taken("view", night, view.urlencode())
        again = self.taken("view", zoom, "lens=16+mm+f/2+for+the+night&f_number=11")
        self.assertEqual((again["focal_length_mm"], again["f_number"]), ("28", "16"))
        self.assertEqual(
            self.taken("street", zoom, "lens=")["f_number"], "8", "in its own planner only"
        )


class BodyTest(TestCase):
    def put_in(self, **said: str) -> Any:
        body = {"name": "Small one", "format": "aps-c", "pixels_across": "24 MP", "steps": "thirds",
                "starts_focus": "half_press", "hold_or_toggle": "hold",
                "focuses_at": "taking"}  # fmt: skip
        return self.client.post("/bag/body/new/", {**body, **said})

    def test_megapixels_are_read_as_on_the_box(self) -> None:
        load()
        self.assertEqual(self.put_in().status_code, 302)
        body = Body.objects.get(name="Small one")
        across = body.pixels_across or 0
        self.assertAlmostEqual(
            across * across * body.frame.height / body.frame.width, 24e6, delta=6e3
        )
        said = {"name": "Plate", "format": "own", "own_width_mm": "60 mm", "own_height_mm": "45"}
        self.assertEqual(self.put_in(**said, pixels_across="50 mp").status_code, 302)
        self.assertEqual(Body.objects.get(name="Plate").pixels_across, 8165)
        wrong = self.put_in(name="Other", pixels_across="0 MP")
        self.assertContains(wrong, "24 MP, or empty for film", status_code=422)

    def test_a_choice_says_what_it_needs(self) -> None:
        load()
        page = self.client.get("/bag/standard/new/").content.decode()
        self.assertIn('data-when="way" data-values="screen pixels diagonal"', page)
        self.assertIn('data-when="way" data-values="print" open', page, "a print is chosen")
