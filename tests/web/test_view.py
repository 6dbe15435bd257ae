"""View on the server: links, messages, answers; and that nothing typed can break it."""

from __future__ import annotations

import math
import re

from django.http import QueryDict
from django.test import TestCase

from optics.base import settable
from optics.scene.answer import Answer, answer
from tests.web.links import HTMX, changed
from tests.web.traced import circles
from web.ui.templatetags import format
from web.view.forms import read_scene, sample_query
from web.view.ways import ways


class PageTest(TestCase):
    def test_the_sample_scene_is_there_at_once(self) -> None:
        page = self.client.get("/", follow=True)
        self.assertContains(page, "holds A, B and C")
        self.assertContains(page, "20–35 mm f/4 zoom")

    def test_a_link_gives_back_the_same_link(self) -> None:
        query = changed(f_number="5.6", ring="8' 6\"", pixels_across="")
        reading = read_scene(query)
        self.assertTrue(reading.valid)
        again = read_scene(QueryDict(reading.query()))
        self.assertEqual(again.query(), reading.query())
        self.assertEqual(again.scene, reading.scene)

    def test_half_a_link_says_what_is_assumed(self) -> None:
        page = self.client.get("/view/?f_number=8")
        self.assertContains(page, "Not in the link: assumed.", count=4)
        self.assertContains(page, "f/8")
        self.assertNotContains(page, "Slate slab")

    def test_bad_input_has_its_message_beside_the_field_and_a_drawing(self) -> None:
        cases = (
            ("f_number", "0", "Give an aperture from 0.5 to 128"),
            ("f_number", "-8", "Give an aperture from 0.5 to 128"),
            ("f_number", "", "Give an aperture"),
            ("focal_length_mm", "abc", "“abc” is not a number"),
            ("focal_length_mm", "1e9", "from 1 to 3000 mm"),
            ("format", "whole-plate", "That format is not known"),
            ("circle_mm", "nan", "Give a circle"),
            ("pixels_across", "12.5", "a whole number"),
            ("ring", "5 cm", "cannot focus under 0.096 m"),
            ("ring", "12 furlongs", "The unit “furlongs” is not known"),
            ("place", "elsewhere", "not known"),
            ("units", "cubits", "Choose metres or feet"),
        )
        for name, text, message in cases:
            with self.subTest(name=name, text=text):
                page = self.client.get("/view/", changed(**{name: text}))
                beside = re.search(
                    rf'<p class="message wrong" id="message-{name}">\s*(.*?)</p>',
                    page.content.decode(),
                )
                assert beside is not None
                self.assertIn(message, beside[1])
                self.assertContains(page, "Slate slab")
                self.assertContains(page, 'class="curve" d="M')
                if name not in ("place", "units"):
                    self.assertContains(page, f'value="{text}"')
                answer = self.client.get("/view/", changed(**{name: text}), headers=HTMX)
                self.assertContains(answer, message)
                here = answer["HX-Replace-Url"]
                self.assertContains(self.client.get(here), message, msg_prefix="after a reload")

    def test_marks_too_near_or_at_one_place(self) -> None:
        query = sample_query()
        query.setlist("mark_distance", ["1.3 m", "130 cm", "5 cm", "far"])
        page = self.client.get("/view/", query)
        self.assertContains(page, "The same distance as Slate slab.")
        self.assertContains(page, "inside the lens.")
        self.assertContains(page, "“far” is not understood")
        for text in ("1.3 m", "130 cm", "5 cm", "far"):
            self.assertContains(page, f'value="{text}"')

    def test_an_error_falls_back_on_the_link_before(self) -> None:
        headers = {**HTMX, "Aim-Before": changed(f_number="5.6").urlencode()}
        answer = self.client.get("/view/", changed(f_number="x"), headers=headers)
        self.assertContains(answer, "Shown with f/5.6 meanwhile")

    def test_names_are_text_wherever_they_stand(self) -> None:
        query = sample_query()
        query.setlist("mark_name", ["<script>x</script>", "B", "C", "D"])
        query["lens"] = "<b>"
        for headers in ({}, HTMX):
            page = self.client.get("/view/", query, headers=headers)
            self.assertNotContains(page, "<script>x")
            self.assertContains(page, "&lt;script&gt;x")

    def test_nothing_of_the_page_is_inline_and_all_of_it_is_ours(self) -> None:
        page = self.client.get("/view/")
        policy = page["Content-Security-Policy"]
        self.assertIn("default-src 'self'", policy)
        self.assertIn("object-src 'none'", policy)
        self.assertNotIn("unsafe", policy)
        self.assertNotContains(page, " style=")
        self.assertNotContains(page, 'src="http')

    def test_moving_the_ring_leaves_the_axis_and_the_link_alone(self) -> None:
        query = sample_query()
        query.update({"drag_mm": "3456.7", "axis_near_mm": "700.0", "axis_far_mm": "inf"})
        answer = self.client.get("/view/", query, headers=HTMX)
        self.assertContains(answer, 'data-text="3.5 m"')
        self.assertContains(answer, 'data-near="700.0" data-far="inf"')
        self.assertEqual(answer["HX-Replace-Url"], "false")

    def test_plain_errors(self) -> None:
        for path in ("/view/plan/999/", "/view/plan/99999999999999999999/", "/nowhere/"):
            self.assertContains(self.client.get(path), "Not here", status_code=404)
        many = "&".join("m=1" for _ in range(4001))
        self.assertContains(self.client.get(f"/view/?{many}"), "could not be read", status_code=400)

    def test_the_light_without_scripts_comes_back_here_only(self) -> None:
        back = self.client.post("/light/", {"light": "dark", "next": "/kept/"})
        self.assertRedirects(back, "/kept/")
        self.assertContains(self.client.get("/kept/"), 'data-light="dark"')
        away = self.client.post("/light/", {"light": "x", "next": "https://elsewhere.invalid/"})
        self.assertRedirects(away, "/", fetch_redirect_response=False)


class AnswerTest(TestCase):
    def answer(self, **changes: str) -> Answer:
        return answer(read_scene(changed(**changes)).scene)

    def test_hyperfocal_is_rounded_beyond_and_holds_infinity(self) -> None:
        answer = self.answer(place="hyperfocal")
        self.assertEqual(answer.ring.focus, 2200)
        self.assertEqual(answer.exact.far, math.inf)

    def test_a_mark_that_holds_only_where_it_was_typed_is_just(self) -> None:
        words = {v.mark.letter: v.word for v in self.answer(ring="2.9 m").verdicts}
        self.assertEqual(words["A"], "just")

    def test_a_remedy_is_another_setting_if_there_is_one_else_an_aperture(self) -> None:
        by_setting = self.answer(ring="9 m").remedy
        assert by_setting is not None
        assert by_setting.setting is not None
        self.assertEqual(by_setting.setting.focus, 2600)
        by_aperture = self.answer(f_number="5.6").remedy
        assert by_aperture is not None
        self.assertEqual((by_aperture.f_number, by_aperture.setting), (10, None))
        none = self.answer(focal_length_mm="90").remedy
        assert none is not None
        self.assertEqual((none.f_number, none.setting), (None, None))
        held = self.answer(f_number="10")
        self.assertEqual(held.failing, ())


class WordsTest(TestCase):
    def test_every_way_of_placing_focus(self) -> None:
        # From the core: 2142.8 hyperfocal, 2177.3 a third up (camera 0.9 m, 15° down), and
        # infinity with a margin of 1.5, which is the hyperfocal distance of 0.025 ÷ 1.5: 3190.
        for place, ring in (
            ("between", 2600), ("hyperfocal", 2200), ("third_up", 2200), ("infinity", 3200),
            ("subject", 1300),
        ):  # fmt: skip
            with self.subTest(place):
                found = answer(read_scene(changed(place=place)).scene)
                self.assertEqual((found.ring.focus, found.why_not), (ring, ""))
        page = self.client.get("/view/", changed(place="subject"))
        self.assertContains(page, "B and C are soft")
        self.assertContains(page, 'value="subject" checked')

    def test_a_way_that_has_no_answer_says_why_and_the_ends_stand_in(self) -> None:
        for changes, why in (
            ({"camera_height": ""}, "Where the camera stands is not known."),
            ({"tilt_deg": "-30"}, "above the horizon"),
        ):
            page = self.client.get("/view/", changed(place="third_up", **changes))
            self.assertContains(page, why)
            self.assertContains(page, "Placed between the ends meanwhile")
        alone = QueryDict("place=subject&focal_length_mm=24&f_number=11&circle_mm=0.025")
        page = self.client.get("/view/", alone)
        self.assertContains(page, "No mark must be sharp.")
        self.assertContains(page, "at the hyperfocal distance")

    def test_where_the_camera_stands_is_checked_and_kept(self) -> None:
        for changes, message in (
            ({"camera_height": "5 mm"}, "1 cm to 100 m"),
            ({"camera_height": "high"}, "“high” is not understood"),
            ({"tilt_deg": "120"}, "from −90 to 90°"),
        ):
            page = self.client.get("/view/", changed(**changes))
            self.assertContains(page, message)
            self.assertContains(page, f'value="{next(iter(changes.values()))}"')
        fields = {"name": "Low", "state": changed(camera_height="3 ft", upright="1").urlencode()}
        kept = self.client.post("/view/save/", fields, follow=True)
        self.assertContains(kept, 'value="3 ft"')
        self.assertContains(kept, 'name="upright" value="1" checked')
        half = read_scene(QueryDict("focal_length_mm=24"))
        self.assertIsNone(half.scene.camera, "half a link has no camera of the sample's")

    def test_all_ways_in_one_table(self) -> None:
        found = {way.school.key: way for way in ways(read_scene(changed()).scene)}
        self.assertEqual(len(found), 8)
        self.assertTrue(found["between"].chosen)
        self.assertEqual(found["subject"].lost, ("B", "C"))
        self.assertEqual(found["infinity"].just, ("A",))
        # By hand: at 2.2 m the slab is the worst, at 1.3 m, against 2.558 m between the ends.
        slab, least = (circles(24, 11, 0.025, at, 1300) for at in (2200, 2557.8111))
        ridge = circles(24, 11, 0.025, 2200, 180000)
        stops = 2 * math.log2(max(slab, ridge) / least)
        self.assertAlmostEqual(found["hyperfocal"].stops or 0, stops, 3)
        self.assertGreater(len(found["insurance"].settings), 1)
        headers = {**HTMX, "Aim-Unfolded": "fold-ways"}
        page = self.client.get("/view/", changed(), headers=headers)
        for part in ("A third up", "not B and C", "2 frames", "nothing"):
            self.assertContains(page, part)
        self.assertNotContains(self.client.get("/view/", changed(), headers=HTMX), "A third along")

    def test_the_picture_in_the_finder(self) -> None:
        headers = {**HTMX, "Aim-Unfolded": "fold-frame"}
        page = self.client.get("/view/", changed(camera_height="0.9 m"), headers=headers)
        for part in ("of the way up the picture", "D is outside the picture", "ring 2.6 m"):
            self.assertContains(page, part)
        page = self.client.get("/view/", changed(camera_height=""), headers=headers)
        self.assertContains(page, "how high the lens is")
        shut = self.client.get("/view/", changed(camera_height="0.9 m"), headers=HTMX)
        self.assertNotContains(shut, "of the way up the picture")

    def test_diffraction_counts_where_the_standard_says_so(self) -> None:
        plain = answer(read_scene(changed(f_number="16")).scene)
        counted = answer(read_scene(changed(f_number="16", diffraction="1")).scene)
        # From the core's values: 1488.4 mm by geometry, 1584.9 with diffraction.
        self.assertAlmostEqual(plain.hyperfocal, 1488.4, 1)
        self.assertAlmostEqual(counted.hyperfocal, 1584.9, 1)
        self.assertGreater(counted.verdicts[1].blur, plain.verdicts[1].blur)
        self.assertLess(counted.left_for_defocus or 0, 0.025)
        page = self.client.get("/view/", changed(f_number="16", diffraction="1"))
        self.assertContains(page, 'name="diffraction" value="1" checked')
        self.assertContains(page, "that diffraction leaves")

    def test_where_diffraction_alone_is_too_much_nothing_is_sharp(self) -> None:
        for more in ({}, {"ring": "3 m"}, {"place": "hyperfocal"}):
            query = changed(f_number="32", circle_mm="0.01", diffraction="1", **more)
            for headers in ({}, HTMX):
                page = self.client.get("/view/", query, headers=headers)
                self.assertContains(page, "Nothing is sharp")
                self.assertContains(page, 'class="curve"')
        opened = answer(read_scene(changed(f_number="32", diffraction="1")).scene).remedy
        assert opened is not None
        self.assertEqual(opened.f_number, 22, "the narrowest that holds, not the widest")
        none = QueryDict("f_number=32&circle_mm=0.01&diffraction=1&focal_length_mm=24")
        self.assertContains(self.client.get("/view/", none), "Nothing is sharp")
        state = {"name": "Blind", "state": query.urlencode()}
        kept = self.client.post("/view/save/", state, follow=True)
        self.assertContains(kept, "Nothing is sharp")
        self.assertContains(self.client.get("/kept/"), "nothing is sharp")

    def test_a_stretch_is_said_so_that_its_ends_differ(self) -> None:
        cases = (
            ((2120.0, 3250.7), "m", "from 2.12 to 3.2 m"),
            ((2118.5, 3250.7), "m", "from 2.2 to 3.2 m"),
            ((1199.0, math.inf), "m", "from 1.2 m to ∞"),
            ((448.33, 451.69), "m", "at 0.45 m ± 1.6 mm"),
            ((449.9, 450.1), "m", "at 0.45 m ± 0.1 mm"),
            ((3994.1, 4005.9), "m", "at 4 m ± 5.9 mm"),
        )
        for span, system, said in cases:
            with self.subTest(said):
                self.assertEqual(format.placed(settable.inside(*span, system), system), said)
