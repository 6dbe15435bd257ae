"""Tests that are done by readings: what is typed, what is made of it, and where it goes."""

from __future__ import annotations

from typing import Any

from optics.lens.focusing import travel_per_degree
from optics.lens.ring_found import ring_off
from tests.web.test_bag import BagTest
from web.bag.models import Attachment, Lens, Standard
from web.bench.models import MOST_READINGS, Reading, Test
from web.demo.world import load

PRIME, ZOOM = "50 mm f/1.8", "20–35 mm f/4 zoom"


class ReadingsTest(BagTest):
    def setUp(self) -> None:
        super().setUp()
        load()

    def begin(self, kind: str, name: str = PRIME, **more: str) -> None:
        lens = Lens.objects.filter(name=name).order_by("-pk").first()
        assert lens is not None
        self.client.post("/bench/begin/", {"lens": lens.pk, "kind": kind, **more})
        self.test = Test.objects.latest("pk")
        self.lens = self.test.lens
        self.at = f"/bench/tests/{self.test.pk}/"

    def read(self, **fields: str) -> Any:
        return self.client.post(f"{self.at}reading/", fields)

    def result(self) -> Any:
        return self.client.get(self.at).context["result"]

    def keep(self, **more: str) -> Any:
        answer = self.client.post(f"{self.at}keep/", more)
        self.lens.refresh_from_db()
        return answer


class InfinityTest(ReadingsTest):
    def test_from_readings_to_plans_that_count_it_and_back(self) -> None:
        self.begin("infinity")
        self.assertContains(self.client.get(self.at), "Focus on a star or a far light")
        for stood in ("2° past", "2.5 past", "1.5 deg past", "2 past", "2,2° past"):
            self.read(stood=stood)
        page = self.client.get(self.at)
        self.assertContains(page, "Infinity is 2° past the mark")
        (line,) = page.context["result"].lines
        per = travel_per_degree(self.lens.ring, 50.0)
        self.assertAlmostEqual(line.off, line.degrees * per, delta=0.001)
        self.assertEqual(line.shown, "soft")
        Lens.objects.update(ring_off_mm=0.4)
        self.keep()
        (kept,) = self.lens.found
        self.assertEqual((kept.kind, kept.distance), ("ring", float("inf")))
        self.assertEqual(kept.value.value, line.off)
        self.assertIsNone(self.lens.ring_off_mm, "what a trial frame said is in the readings")
        self.assertContains(
            self.client.get(f"/bench/lens/{self.lens.pk}/"), "more than the ring reads"
        )
        link = "/view/?lens=50+mm+f/1.8&focal_length_mm=50&f_number=5.6&camera_height=&tilt_deg="
        link += "&mark_distance=6+m&mark_distance=9+m"
        view = self.client.get(link)
        self.assertContains(view, "ring off by")
        self.assertEqual(view.context["reading"].setup.focus_shift, -line.off)
        ideal = self.client.get(f"{link}&lens_ideal=1")
        self.assertEqual(ideal.context["reading"].setup.focus_shift, 0.0)
        self.assertContains(ideal, "Count them")

    def test_the_walk_at_night_says_where_it_is(self) -> None:
        self.begin("infinity")
        for _ in range(4):
            self.read(stood="3° short")
        self.keep()
        walk = self.client.get(
            "/sky/walk/?way=star&lens=50+mm+f/1.8&focal_length_mm=50&f_number=1.8"
        )
        self.assertContains(walk, "By your test infinity is 3° short of its mark.")

    def test_a_distance_read_off_the_ring_counts_as_its_angle(self) -> None:
        self.begin("infinity")
        for stood in ("25 m", "30 m", "27 m"):
            self.read(stood=stood)
        (line,) = self.result().lines
        self.assertAlmostEqual(line.off, ring_off(50.0, 27_000.0), delta=0.005)
        self.assertFalse(line.past)

    def test_a_zoom_at_each_of_its_lengths(self) -> None:
        self.begin("infinity", ZOOM)
        self.assertContains(self.read(stood="1 past"), "Give a focal length", status_code=422)
        self.assertContains(
            self.read(stood="1 past", focal_length_mm="50"), "20 to 35 mm", status_code=422
        )
        for length in ("20", "35"):
            for stood in ("1 past", "1.5 past", "1 past"):
                self.read(stood=stood, focal_length_mm=length)
        form = self.client.get(self.at).context["reading_form"]
        self.assertEqual(form["focal_length_mm"].value(), "35", "as at the last reading")
        self.assertIsNone(form["stood"].value())
        self.assertEqual([line.focal_length for line in self.result().lines], [20.0, 35.0])
        self.keep()
        self.assertEqual([one.focal_length for one in self.lens.found], [20.0, 35.0])

    def test_against_the_stop_of_a_lens_without_a_mark(self) -> None:
        self.begin("infinity")
        wrong = self.read(stood="2 past", against="stop")
        self.assertContains(wrong, "how many degrees short", status_code=422)
        self.assertContains(wrong, 'value="2 past"', status_code=422)
        for stood in ("4 short", "4.5 short", "4 short"):
            self.read(stood=stood, against="stop")
        self.assertContains(self.client.get(self.at), "before the stop")
        self.keep()
        self.assertEqual(self.lens.found[0].kind, "stop")
        self.assertEqual(self.lens.found[0].value.value > 0, True)
        walk = self.client.get(
            "/sky/walk/?way=star&lens=50+mm+f/1.8&focal_length_mm=50&f_number=1.8"
        )
        self.assertContains(walk, "before its stop")

    def test_with_what_is_behind_the_lens_it_counts_only_there(self) -> None:
        behind = Attachment.objects.first()
        assert behind is not None
        self.begin("infinity", **{"with": behind.name})
        self.assertContains(self.client.get(self.at), behind.name)
        for stood in ("5 past", "5.5 past", "5 past"):
            self.read(stood=stood)
        (line,) = self.result().lines
        per = travel_per_degree(self.lens.ring, 50.0)
        self.assertAlmostEqual(line.off, line.degrees * per * behind.factor**2, delta=0.002)
        self.assertEqual(line.focal_length, 50.0 * behind.factor)
        self.keep()
        f = 50.0 * behind.factor
        tail = f"&focal_length_mm={f:g}&f_number=8&mark_distance=6+m&mark_distance=9+m"
        alone = self.client.get("/view/?lens=50+mm+f/1.8&focal_length_mm=50&f_number=8")
        self.assertEqual(alone.context["reading"].setup.focus_shift, 0.0)
        name = f"50+mm+f/1.8+%2B+{behind.name.replace(' ', '+')}"
        both = self.client.get(f"/view/?lens={name}{tail}")
        self.assertAlmostEqual(both.context["reading"].setup.focus_shift, -line.off, places=4)

    def test_what_cannot_be_read_is_said_and_stays_typed(self) -> None:
        self.begin("infinity")
        for stood in ("", "somewhere", "400° past", "0.1 mm", "2 past it", "∞∞"):
            with self.subTest(stood):
                page = self.read(stood=stood)
                self.assertContains(page, "Write where the ring stood", status_code=422)
                self.assertContains(page, f'value="{stood}"', status_code=422)
        self.assertFalse(Reading.objects.exists())

    def test_the_odd_one_is_marked_and_taken_out(self) -> None:
        self.begin("infinity")
        for stood in ("2 past", "2.5 past", "2 past", "30 past", "2 past"):
            self.read(stood=stood)
        page = self.client.get(self.at)
        self.assertContains(page, "does not agree with the others", count=1)
        (odd,) = page.context["result"].odd
        self.assertEqual(Reading.objects.get(pk=odd).values["turned_deg"], 30.0)
        self.client.post(f"{self.at}reading/", {"out": str(odd)})
        self.assertFalse(self.result().odd)

    def test_too_few_and_too_many(self) -> None:
        self.begin("infinity")
        self.read(stood="1 past")
        self.assertContains(self.client.get(self.at), "three readings at a focal length")
        self.assertEqual(self.keep().status_code, 404)
        Reading.objects.bulk_create(
            Reading(test=self.test, values={"turned_deg": 1.0, "against": "mark"})
            for _ in range(MOST_READINGS)
        )
        self.assertContains(self.read(stood="1 past"), "room for", status_code=422)


class ScaleTest(ReadingsTest):
    def test_what_a_scale_is_worth_and_a_ring_measured(self) -> None:
        self.begin("scale")
        ring = self.lens.ring
        for tape, says in (("1.2 m", 1160), ("1.8 m", 1730), ("3 m", 2800), ("5 m", 4500)):
            turned = round(abs(ring.turn(float("inf"), float(says))) * 57.2958 * 2) / 2
            self.read(distance_mm=tape, says_mm=f"{says} mm", turned_deg=f"{turned}")
        result = self.result()
        self.assertIsNotNone(result.scale)
        self.assertEqual(len(result.lines), 4)
        first = result.lines[0]
        self.assertAlmostEqual(first.off, ring_off(50.0, 1160.0, 1200.0), delta=0.005)
        self.assertAlmostEqual(first.stands_at, 1243.0, delta=8.0)
        self.assertAlmostEqual(
            result.turned.infinity, 0.0, delta=8 * result.turned.infinity_error + 6
        )
        page = self.client.get(self.at)
        self.assertContains(page, "with the ring on it, sharp at")
        self.keep()
        self.assertEqual(self.lens.found[0].kind, "ring")
        self.assertEqual([mark[0] for mark in self.lens.marks], [1200.0, 1800.0, 3000.0, 5000.0])
        self.assertEqual(self.lens.ring.marks[0][0], 1200.0)

    def test_engraved_marks_are_told_what_they_are_worth(self) -> None:
        self.begin("scale")
        Lens.objects.filter(pk=self.lens.pk).update(
            depth_marks=[4, 8, 16], depth_marks_circle_mm=0.03
        )
        for tape in ("1.2 m", "2 m", "3 m", "5 m"):
            self.read(distance_mm=tape, says_mm=tape)
        page = self.client.get(self.at)
        self.assertContains(page, "The scale holds" if page.context["result"].scale.sure
                            else "Not sure yet")  # fmt: skip
        self.assertContains(page, "those of f/4")
        self.assertFalse(page.context["result"].trusted)

    def test_what_is_missing_is_asked(self) -> None:
        self.begin("scale")
        page = self.read(distance_mm="2 m")
        self.assertContains(page, "Say what the ring says", status_code=422)
        self.assertContains(page, 'value="2 m"', status_code=422)
        near = self.read(distance_mm="10 cm", says_mm="2 m")
        self.assertContains(near, "No lens focuses that near", status_code=422)


class CircleTest(ReadingsTest):
    def shown(self) -> None:
        """Limits of 50 mm by a circle of 0.030, read to three figures."""
        for n, focus, near, far in (("8", "3 m", "2.37 m", "4.08 m"),
                                    ("11", "2.5 m", "1.94 m", "3.52 m"),
                                    ("5.6", "2 m", "1.77 m", "2.30 m")):  # fmt: skip
            self.read(f_number=n, focus_mm=focus, near_mm=near, far_mm=far)

    def test_the_circle_of_engraved_marks_goes_with_the_lens(self) -> None:
        self.begin("circle")
        self.shown()
        result = self.result()
        self.assertLess(abs(result.circle - 0.030), 2.0 * result.error + 0.0005)
        self.keep()
        self.assertEqual(self.lens.depth_marks_circle_mm, result.circle)
        self.assertEqual(self.lens.found[0].kind, "circle")
        self.assertContains(self.client.get(f"/bench/lens/{self.lens.pk}/"), "depth-of-field marks")

    def test_the_circle_of_a_bar_becomes_a_standard(self) -> None:
        for name in ("The bar of the {}", "The bar of the {} 2"):
            self.begin("circle")
            self.shown()
            circle = self.result().circle
            answer = self.keep(standard="1")
            made = Standard.objects.get(name=name.format(self.test.body or "camera"))
            self.assertEqual(made.circle_mm, circle)
            self.assertEqual(answer.status_code, 302)
            self.assertContains(self.client.get(answer["Location"]), made.name)
        self.assertFalse(Test.objects.exists())

    def test_limits_out_of_order_and_infinity(self) -> None:
        self.begin("circle")
        wrong = self.read(f_number="8", focus_mm="2 m", near_mm="3 m", far_mm="5 m")
        self.assertContains(wrong, "nearer than the focus", status_code=422)
        self.read(f_number="11", focus_mm="8 m", near_mm="4 m", far_mm="∞")
        self.assertEqual(Reading.objects.get().values["far_mm"], "infinity")
        self.assertContains(self.client.get(self.at), "4 m to ∞")

    def test_the_made_up_camera_reads_it_too(self) -> None:
        self.begin("circle")
        for _ in range(5):
            self.client.post(f"{self.at}made-up/")
        self.assertTrue(self.result().ready)
        self.assertNotContains(self.client.get(self.at), "Let the made-up camera")


class StrangersTest(ReadingsTest):
    def test_another_kind_is_no_page_and_another_owner_sees_nothing(self) -> None:
        lens = Lens.objects.first()
        assert lens is not None
        none = self.client.post("/bench/begin/", {"lens": lens.pk, "kind": "magic"})
        self.assertEqual(none.status_code, 404)
        self.begin("infinity")
        self.client.cookies.clear()
        self.assertEqual(self.read(stood="1 past").status_code, 404)
        self.assertEqual(Reading.objects.count(), 0)
