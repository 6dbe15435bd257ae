"""Marks: how their distance was got, where they stand, what they should be; the tripod moved."""

from __future__ import annotations

import math
from functools import partial

from django.http import QueryDict
from hypothesis.extra.django import TestCase

from optics.base import units
from optics.scene import frame, size
from optics.scene.answer import Answer, answer
from optics.scene.camera import Camera
from optics.scene.marks import SKY
from tests.web.links import HTMX, changed
from web.demo.world import load
from web.hand.asker import Asker, Own
from web.hand.in_use import in_use
from web.view.forms import read_scene, scene_query
from web.view.reading import Reading
from web.view.sample import GEAR

CAMERA = Camera(900, math.radians(15), 0, 24, 24, 36)


def one_mark(distance: str, how: str = "ring", **more: str) -> QueryDict:
    """The sample's gear before a single mark; ``camera_height`` and so on go to the gear."""
    gear = {**GEAR, **{name: text for name, text in more.items() if name in GEAR}}
    said = [more.get(name, "") for name in ("error", "share", "stands", "at", "speed")]
    role = more.get("role", "must")
    return scene_query(gear, [("Slab", distance, role, how, *said)])


def read(query: QueryDict, who: Asker | None = None) -> Reading:
    return read_scene(query, who=who or Asker())


class HowTest(TestCase):
    def test_each_way_of_measuring_becomes_a_depth_with_its_usual_error(self) -> None:
        # By hand for 900 mm over level ground, 15° down: depth = h·cos 15° + 900·sin 15° + 24.
        paced = 3000 * math.cos(math.radians(15)) + 900 * math.sin(math.radians(15)) + 24
        tape = math.sqrt(3000**2 - 900**2)  # to the ground, from straight under the lens, nearly
        cases = (
            ("ring", {}, 3000.0, 0.05 * 3000, 1e-9),
            ("eye", {}, 3000.0, 0.15 * 3000, 1e-9),
            ("ground", {}, paced, 0.08 * 3000 * math.cos(math.radians(15)), 1e-6),
            ("straight", {}, tape * math.cos(math.radians(15)) + 233 + 24, 0.02 * 3000, 25),
        )
        for how, more, depth, error, within in cases:
            with self.subTest(how):
                (row, _) = read(one_mark("3 m", how, **more)).rows
                assert row.mark is not None
                self.assertAlmostEqual(row.mark.depth, depth, delta=within)
                self.assertAlmostEqual(row.mark.uncertainty, error, delta=max(within, 6.0))

    def test_the_conversion_is_shown(self) -> None:
        # The contract's own case: the middle of the lower edge of the frame.
        page = self.client.get("/view/", one_mark("1.3 m", "straight", at="50 0"))
        self.assertContains(page, "1.3 m straight = 1.17 m deep.")
        page = self.client.get("/view/", one_mark("1.08 m", "ground"))
        self.assertContains(page, "1.08 m along the ground = 1.3 m deep.")
        page = self.client.get("/view/", one_mark("1.7 m", "size", share="50 %", upright="1"))
        row = read(one_mark("1.7 m", "size", share="1/2", upright="1")).rows[0]
        expected = float(size.distance_from_size(24, 36, 1700, 0.5))
        assert row.mark is not None
        self.assertAlmostEqual(row.mark.depth, expected)
        self.assertContains(page, f"{units.write(expected, 'm', 3)} away from its size")

    def test_without_a_camera_a_tape_counts_as_depth_and_the_doubt_widens(self) -> None:
        (row, _) = read(one_mark("1.3 m", "straight", camera_height="")).rows
        assert row.mark is not None
        self.assertEqual(row.mark.depth, 1300)
        self.assertAlmostEqual(row.mark.uncertainty, 130)
        self.assertIn("say where the camera stands", row.note)

    def test_the_usual_error_of_each_way_is_shown(self) -> None:
        page = self.client.get("/view/", one_mark("4 m", "straight"))
        self.assertContains(page, 'name="mark_error" value="" placeholder="2 %"')
        self.assertContains(page, 'data-usual="15 %"')

    def test_ones_own_eye_for_distances(self) -> None:
        (row, _) = read(one_mark("4 m", "eye"), Asker(lambda: Own(judging=0.25))).rows
        assert row.mark is not None
        self.assertAlmostEqual(row.mark.uncertainty, 1000)

    def test_an_error_of_ones_own(self) -> None:
        for text, error in (("10 %", 200), ("30 cm", 300), ("3", 60)):
            (row, _) = read(one_mark("2 m", "ring", error=text)).rows
            assert row.mark is not None
            self.assertAlmostEqual(row.mark.uncertainty, error, msg=text)

    def test_bad_input_is_said_at_its_mark_and_keeps_what_was_typed(self) -> None:
        cases = (
            (one_mark("0.5 m", "straight"), "0.5 m straight does not reach the ground", "0.5 m"),
            (one_mark("3 m", error="120 %"), "100 % or more", "120 %"),
            (one_mark("3 m", error="much"), "10 % or 20 cm", "much"),
            (one_mark("1.7 m", "size"), "how much of the frame", "1.7 m"),
            (one_mark("1.7 m", "size", share="tall"), "Write a share", "tall"),
            (one_mark("5 mm", "size", share="90 %"), "Larger than life", "5 mm"),
            (one_mark("3 m", stands="upstairs"), "in the sky", "upstairs"),
            (one_mark("3 m", speed="fast"), "Write a speed", "fast"),
            (one_mark("4 cm"), "inside the lens", "4 cm"),
            (one_mark("1 m", moved="-2 m"), "moved past it", "1 m"),
        )
        for query, message, typed in cases:
            with self.subTest(message):
                page = self.client.get("/view/", query)
                self.assertContains(page, message)
                self.assertContains(page, f'value="{typed}"')
                self.assertContains(page, "A is not counted")
                self.assertContains(page, 'x-on:click="cure"')
                sheet = self.client.get("/cards/plan/sheet/", query)
                self.assertContains(sheet, "Not counted:")
                self.assertContains(sheet, message)
                told = self.client.get("/view/", query, headers=HTMX)
                self.assertContains(told, message)

    def test_nearer_than_the_lens_focuses_still_has_its_blur(self) -> None:
        load()
        page = self.client.get("/view/", one_mark("0.2 m"))  # the zoom focuses from 0.28 m
        self.assertContains(page, "Nearer than the lens can focus (0.28 m)")
        self.assertContains(page, '<span class="verdict soft">')
        self.assertContains(page, "0.28")
        typed = self.client.get("/view/", changed(ring="0.2 m"))
        self.assertContains(typed, "this lens focuses from 0.28 m")


class StandingTest(TestCase):
    def test_put_in_the_frame_above_its_ground_it_is_that_much_higher(self) -> None:
        # The row of a thing 0.7 m high, by the frame's own geometry; then back from the row.
        row = float(frame.row_of_depth(CAMERA, 3000, 700))
        (found, _) = read(one_mark("3 m", at=f"30 {100 * row:.3f}")).rows
        assert found.mark is not None
        self.assertAlmostEqual(found.mark.rise, 700, delta=1)
        self.assertIn("it is 0.7 m above the ground", found.note)
        ground = float(frame.row_of_depth(CAMERA, 3000))
        (on_it, _) = read(one_mark("3 m", at=f"30 {100 * ground + 1:.1f}")).rows
        assert on_it.mark is not None
        self.assertEqual(on_it.mark.rise, 0)

    def test_in_the_sky(self) -> None:
        (found, _) = read(one_mark("inf", stands="sky")).rows
        assert found.mark is not None
        self.assertEqual(found.mark.rise, SKY)
        headers = {**HTMX, "Aim-Unfolded": "fold-frame"}
        page = self.client.get("/view/", one_mark("inf", stands="sky"), headers=headers)
        self.assertContains(page, 'id="dot-0"')

    def test_a_mark_below_the_frame_is_said_to_be_out_of_the_picture(self) -> None:
        headers = {**HTMX, "Aim-Unfolded": "fold-frame"}
        page = self.client.get("/view/", one_mark("0.6 m"), headers=headers)
        self.assertContains(page, "A is outside the picture")

    def test_no_horizon_and_a_camera_under_the_ground(self) -> None:
        headers = {**HTMX, "Aim-Unfolded": "fold-frame fold-lens fold-ways"}
        for more in ({"tilt_deg": "80"}, {"tilt_deg": "90"}, {"tilt_deg": "-80"}):
            page = self.client.get("/view/", changed(**more), headers=headers)
            self.assertContains(page, 'class="finder"')
        page = self.client.get("/view/", changed(camera_height="-1 m"))
        self.assertContains(page, "cannot be negative")
        page = self.client.get("/view/", changed(camera_height="0"))
        self.assertContains(page, "1 cm to 100 m above the ground")


class RolesTest(TestCase):
    def answer(self, roles: list[str], **changes: str) -> Answer:
        query = changed(**changes)
        query.setlist("mark_role", roles)
        return answer(read_scene(query).scene)

    def test_a_natural_fall_off_is_a_choice_and_not_a_failure(self) -> None:
        found = self.answer(["must", "must", "must", "may_go"], look="subject")
        self.assertEqual(found.kept, ("A",))
        self.assertEqual(found.failing, ())
        self.assertEqual(found.falling_off, ("B", "C"))
        self.assertAlmostEqual(found.ring.focus, 1300)
        page = self.client.get("/view/", changed(look="subject"))
        self.assertContains(page, "B and C fall off naturally, as wished.")

    def test_the_subject_by_its_letter(self) -> None:
        found = self.answer(["must", "must", "must", "may_go"], look="subject", subject="b")
        self.assertEqual((found.kept, found.falling_off), (("B",), ("A",)))
        one = self.answer(["must", "must", "must", "may_go"], place="subject", subject="B")
        self.assertAlmostEqual(one.ring.focus, 4200)
        gone = self.answer(["must", "must", "must", "may_go"], place="subject", subject="D")
        self.assertAlmostEqual(gone.ring.focus, 1300, msg="D may go soft: the first, then")

    def test_nice_is_kept_where_it_costs_nothing_that_must_be(self) -> None:
        without = self.answer(["may_go", "must", "must", "may_go"])
        nice = self.answer(["nice", "must", "must", "may_go"])
        self.assertEqual(without.kept, nice.kept)
        self.assertNotEqual(without.verdicts[0].word, "holds")
        self.assertEqual(nice.verdicts[0].word, "holds")
        lost = self.answer(["must", "must", "must", "nice"])
        self.assertEqual(lost.nice_lost, ("D",))
        self.assertAlmostEqual(lost.ring.focus, 2600, msg="what must be sharp comes first")

    def test_what_should_fall_soft_is_judged_by_that(self) -> None:
        found = self.answer(["must", "must", "must", "fall_soft"])
        self.assertEqual(found.too_sharp, ("D",))  # 1.9 times the standard; 2 are wanted
        wide = self.answer(["may_go", "must", "may_go", "fall_soft"], f_number="4")
        self.assertEqual(wide.soft_as_wished, ("D",))
        page = self.client.get("/view/", changed())
        self.assertContains(page, "should fall soft")

    def test_all_may_go(self) -> None:
        found = self.answer(["may_go"] * 4)
        self.assertEqual((found.kept, found.failing), ((), ()))
        headers = {**HTMX, "Aim-Unfolded": "fold-ways fold-rescue fold-aperture fold-light"}
        query = changed()
        query.setlist("mark_role", ["may_go"] * 4)
        page = self.client.get("/view/", query, headers=headers)
        self.assertContains(page, "holds infinity")
        self.assertContains(page, "nothing can fail to be")


class TripodTest(TestCase):
    def test_moving_back_makes_every_mark_deeper_and_renumbers_them(self) -> None:
        query = changed(moved="0.5 m", tilt_deg="0")
        before, after = read_scene(changed(tilt_deg="0")).scene, read_scene(query)
        for old, new in zip(before.marks, after.scene.marks, strict=True):
            self.assertAlmostEqual(new.depth - old.depth, 500)
        self.assertIn("Now 1.8 m deep.", after.rows[0].note)
        anew = read_scene(QueryDict(after.renumbered.query()))
        self.assertEqual(anew.rows[0].distance, "1.8 m")
        self.assertEqual(anew.texts["moved"], "")
        for old, new in zip(after.scene.marks, anew.scene.marks, strict=True):
            self.assertAlmostEqual(new.depth / old.depth, 1, 3)

    def test_renumbering_keeps_how_each_was_measured(self) -> None:
        for how, more in (("ground", {}), ("straight", {}), ("size", {"share": "40 %"})):
            with self.subTest(how):
                there = read(one_mark("3 m", how, moved="1 m", **more))
                anew = read(QueryDict(there.renumbered.query()))
                old, new = there.scene.marks[0], anew.scene.marks[0]
                self.assertEqual(anew.rows[0].how, how)
                self.assertAlmostEqual(new.depth / old.depth, 1, 3)
        answer = self.client.get("/view/", changed(moved="1 m", tilt_deg="0"), headers=HTMX)
        self.assertContains(answer, "Now 2.3 m deep.")
        query = changed(moved="1 m", tilt_deg="0")
        query["renumber"] = "1"
        answer = self.client.get("/view/", query, headers=HTMX)
        self.assertContains(answer, 'value="2.3 m"')
        self.assertNotIn("moved", answer["HX-Replace-Url"])

    def test_a_step_that_cannot_be_taken(self) -> None:
        for text, message in (("far", "not understood"), ("-2 m", "moved past it")):
            page = self.client.get("/view/", changed(moved=text))
            self.assertContains(page, message)
            self.assertContains(page, f'value="{text}"')


class ToldTest(TestCase):
    def test_a_link_tells_of_the_lens_to_those_who_have_it_not(self) -> None:
        owner = load()
        query = changed(choose="widest")
        query.setlist("mark_distance", ["0.25 m", "4.2 m", "180 m", "0.8 m"])
        own = read_scene(query, who=Asker(in_use=partial(in_use, owner)))
        link = QueryDict(own.query())
        self.assertEqual((link["lens_range"], link["lens_closest"]), ("4 22", "280"))
        strangers = read_scene(link)
        self.assertIsNone(strangers.in_use.lens)
        one, other = answer(own.scene), answer(strangers.scene)
        self.assertEqual(one.scene.setup, other.scene.setup)
        self.assertEqual((one.shots, one.scene.closest), (other.shots, other.scene.closest))
        for nonsense in ("22 4", "x y", "4", "4 22 8", "-1 5", "nan nan"):
            read = read_scene(changed(lens_range=nonsense, lens_closest="near"))
            self.assertTrue(read.valid)
            self.assertEqual(read.scene.apertures[0], 0.7)


class ManyTest(TestCase):
    def test_two_hundred_marks_pasted_in(self) -> None:
        marks = [(f"Mark {at}", f"{1 + at / 50:.2f} m", "must") for at in range(200)]
        query = scene_query(GEAR, marks)
        for headers in ({}, HTMX):
            page = self.client.get("/view/", query, headers=headers)
            self.assertContains(page, "Only 60 marks are used; this one is left out.", count=143)
            self.assertContains(page, 'class="curve"')
        self.assertContains(self.client.get("/view/", query), 'value="Mark 199"')
        told = self.client.post("/view/save/", {"name": "Many", "state": query.urlencode()})
        self.assertEqual(told.status_code, 302)
        self.assertContains(self.client.get(told["Location"]), 'value="Mark 199"')
        self.assertContains(self.client.get("/kept/"), "not counted")
