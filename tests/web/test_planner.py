"""What View works out beside the answer, against working it out another way."""

from __future__ import annotations

import math
from functools import partial

from hypothesis.extra.django import TestCase

from drawing import sightline
from optics.base import settable
from optics.scene import choosing, frame
from optics.scene.answer import answer
from optics.scene.camera import Camera
from tests.web.links import HTMX, changed
from tests.web.traced import circles, lowest
from web.bag.models import Body, Lens
from web.demo.world import load
from web.hand.asker import Asker
from web.hand.in_use import InUse, in_use
from web.people.owners import sample
from web.view import pictures, standin
from web.view.forms import read_scene, scene_query
from web.view.reading import Reading
from web.view.sample import GEAR
from web.view.tolerance import errors_of, tolerance
from web.view.ways import Way, ways


def scene(f: float, n: float, coc: float, height: str, tilt: str, *depths: str) -> Reading:
    gear = {
        **GEAR, "lens": "", "focal_length_mm": str(f), "f_number": str(n), "circle_mm": str(coc),
        "camera_height": height, "tilt_deg": tilt,
    }  # fmt: skip
    return read_scene(scene_query(gear, [(f"M{d}", d, "must") for d in depths]))


class ComparedTest(TestCase):
    """The table of all ways, for three scenes, against nets and traced rays."""

    SCENES = (
        (24.0, 11.0, 0.025, "0.9 m", "15", "1.3 m", "4.2 m", "180 m"),
        (50.0, 8.0, 0.02, "1.6 m", "5", "3 m", "9 m", "25 m"),
        (16.0, 5.6, 0.02, "0.5 m", "20", "0.7 m", "2 m", "12 m"),
    )

    def test_three_scenes(self) -> None:
        for scene in self.SCENES:
            self.assert_compared(*scene)

    def assert_compared(
        self, f: float, n: float, coc: float, height: str, tilt: str, *texts: str
    ) -> None:
        reading = scene(f, n, coc, height, tilt, *texts)
        depths = [1000 * float(text.removesuffix(" m")) for text in texts]
        found = {way.school.key: way for way in ways(reading.scene)}

        def worst(focus: float, n: float = n) -> float:
            return max(circles(f, n, coc, focus, d) for d in depths)

        def with_infinity_at(blur: float) -> float:
            return lowest(lambda d: abs(circles(f, n, coc, d, math.inf) - blur), 500, 30000)

        between = lowest(worst, depths[0], depths[-1])
        high = 1000 * float(height.removesuffix(" m"))
        camera = Camera(high, math.radians(float(tilt)), 0, f, 24, 36)
        expected = {
            "between": between,
            "hyperfocal": with_infinity_at(1.0),
            "subject": depths[0],
            "infinity": with_infinity_at(1 / 1.5),
            "third_up": float(frame.ground(camera, 1 / 3).depth),
        }
        for school, focus in expected.items():
            with self.subTest(school, f=f):
                way = found[school]
                # A third up sees itself focused there: 1 % of the distance at most.
                # And all are set where a hand can.
                within = 0.012 if school == "third_up" else 2e-4
                near, far = focus * (1 - within), focus * (1 + within)
                self.assertLessEqual(settable.down(near), way.settings[0])
                self.assertGreaterEqual(settable.up(far), way.settings[0])
                self.assert_judged(way, worst(way.settings[0]), depths, (f, n, coc))
                if way.stops:  # closing by so many stops makes it as sharp as between
                    closed = n * 2 ** (way.stops / 2)
                    self.assertAlmostEqual(worst(way.settings[0], closed) / worst(between), 1, 3)

    def assert_judged(
        self, way: Way, worst: float, depths: list[float], lens: tuple[float, float, float]
    ) -> None:
        self.assertAlmostEqual(way.worst / worst, 1, 4)
        soft = [
            "ABC"[at] for at, d in enumerate(depths) if circles(*lens, way.settings[0], d) > 1.0001
        ]
        self.assertEqual(list(way.lost), soft)

    def test_a_way_is_one_click_away_where_it_can_be_chosen(self) -> None:
        headers = {**HTMX, "Aim-Unfolded": "fold-ways"}
        page = self.client.get("/view/", changed(), headers=headers).content.decode()
        for school in ("hyperfocal", "subject", "third_up", "infinity", "frames"):
            self.assertIn(f'data-place="{school}"', page)
        self.assertNotIn('data-place="between"', page, "that one is in force")

    def test_several_frames_together_keep_what_one_cannot(self) -> None:
        query = changed(place="frames", f_number="5.6")
        found = answer(read_scene(query).scene)
        self.assertGreater(len(found.shots), 1)
        self.assertEqual(found.failing, ())
        for depth in (1300, 4200, 180000):
            best = min(circles(24, 5.6, 0.025, ring.focus, depth) for ring in found.shots)
            self.assertLessEqual(best, 1.0001)
        page = self.client.get("/view/", query)
        self.assertContains(page, "frames that together hold ")
        # Between the frames the drawn arms turn back down: never over the standard where it holds.
        (line,) = pictures.sightlines(found, (sightline.WIDE,))
        corners = [tuple(map(float, at.split())) for at in line.curve[1:].split("L")]
        inside = [y for x, y in corners if line.band and line.band.x + 1 < x < line.band.end - 1]
        standard = float(line.standard_path.split()[1].split("H")[0])
        self.assertGreater(len(inside), 2)
        self.assertTrue(all(y >= standard - 0.2 for y in inside))
        self.assertEqual(line.also_path.count("z"), 2 * (len(found.shots) - 1))


class ApertureTest(TestCase):
    def setUp(self) -> None:
        load()
        owner = sample()
        self.who = Asker(in_use=partial(in_use, owner))

    def test_the_widest_that_holds(self) -> None:
        found = answer(read_scene(changed(choose="widest"), who=self.who).scene)
        ends = [(1300 * 0.95, 1300 * 1.05), (4200 * 0.95, 4200 * 1.05), (171000, 189000)]

        def holds(n: float, focus: float) -> bool:
            return all(circles(24, n, 0.025, focus, d) <= 1.0001 for pair in ends for d in pair)

        n = float(found.scene.setup.f_number)
        self.assertTrue(holds(n, found.ring.focus))
        wider = [a for a in found.scene.apertures if a < n]
        net = [1000 * 1.004**k for k in range(400)]
        self.assertFalse(any(holds(wider[-1], focus) for focus in net), "a third wider does not")

    def test_never_an_aperture_the_lens_has_not_got(self) -> None:
        for choose in ("widest", "sharpest", "softens"):
            for distance in ("0.4 m", "0.9 m", "1.3 m"):
                query = changed(choose=choose, mark_distance=distance)
                found = answer(read_scene(query, who=self.who).scene)
                self.assertIn(float(found.scene.setup.f_number), found.scene.apertures)
                self.assertTrue(4 <= float(found.scene.setup.f_number) <= 22)
        query = changed()
        query.setlist("mark_distance", ["0.35 m", "4.2 m", "180 m", "0.8 m"])
        found = answer(read_scene(query, who=self.who).scene)
        assert found.remedy is not None
        self.assertIsNone(found.remedy.f_number, "f/32 would, and the zoom ends at f/22")
        typed = self.client.get("/view/", changed(f_number="2"))
        self.assertContains(typed, "This lens goes from f/4 to f/22.")

    def test_the_sharpest_and_the_chart(self) -> None:
        reading = read_scene(changed(), who=self.who)
        chart = choosing.chart(reading.scene)
        assert chart.sharpest is not None
        assert chart.widest is not None
        # The contract's value is f/14.6 with a blur of 0.018638, and flat.
        self.assertIn(chart.sharpest.f_number, (13, 14, 16))
        self.assertAlmostEqual(chart.sharpest.total * 0.025, 0.018638, delta=0.0004)
        for one in chart.tried:
            self.assertGreaterEqual(one.total, 0.98 * max(one.defocus, one.waves))
            self.assertEqual(one.worst, one.defocus, "this standard leaves diffraction out")
        self.assertEqual(chart.tried[0].f_number, 4)
        defocus = [one.defocus for one in chart.tried]
        self.assertEqual(defocus, sorted(defocus, reverse=True))
        sharpest = answer(read_scene(changed(choose="sharpest"), who=self.who).scene)
        self.assertEqual(float(sharpest.scene.setup.f_number), chart.sharpest.f_number)

    def test_where_what_should_fall_soft_does(self) -> None:
        query = changed(choose="softens", place="subject")
        query.setlist("mark_role", ["may_go", "must", "may_go", "fall_soft"])
        found = answer(read_scene(query, who=self.who).scene)
        self.assertEqual(found.too_sharp, ())
        n = float(found.scene.setup.f_number)
        smaller = min(a for a in found.scene.apertures if a > n)
        focus = found.ring.focus
        self.assertAlmostEqual(focus, 4200)
        self.assertGreaterEqual(circles(24, n, 0.025, focus, 800), 2)
        self.assertLess(circles(24, smaller, 0.025, focus, 800), 2, "the next smaller does not")
        none = self.client.get("/view/", changed(choose="softens"))
        self.assertContains(none, "No mark should fall soft")

    def test_what_cannot_be_chosen_is_said(self) -> None:
        query = changed(choose="widest")
        query.setlist("mark_distance", ["0.3 m", "4.2 m", "180 m", "0.8 m"])
        self.assertContains(
            self.client.get("/view/", query), "No aperture of this lens holds all of it"
        )


class ToleranceTest(TestCase):
    def setUp(self) -> None:
        load()

    def test_on_a_ring_with_a_tab(self) -> None:
        lens = Lens.objects.get(owner=sample(), name="28 mm f/2.8 with tab")
        query = changed(lens=lens.name, focal_length_mm="28", f_number="8", ring="3 m")
        found = answer(read_scene(query).scene)
        told = tolerance(found, InUse(lens=lens), "")
        assert told.on_ring is not None
        # Measured at 3 m: 18.4° from infinity; the tab goes to infinity anticlockwise, and stands
        # at half past four there: nearer is clockwise, and 30° are an hour.
        self.assertAlmostEqual(told.on_ring.answer.degrees, 18.4, 6)
        self.assertAlmostEqual(float(lens.hands.clock(3000)), 4.5 + 18.4 / 30, 6)
        self.assertEqual(told.on_ring.touch, "by the scale, 3 m")
        self.assertEqual(told.on_ring.from_infinity, "clockwise")
        # Where all of the window does, the words are as coarse as that: 5:15 is 2.5 m.
        wide = answer(
            read_scene(changed(lens=lens.name, focal_length_mm="28", f_number="16")).scene
        )
        told = tolerance(wide, InUse(lens=lens), "")
        assert told.on_ring is not None
        self.assertEqual(told.on_ring.touch, "tab at 5:15 (2.5 m)")

    def test_a_body_that_focuses_at_the_taking_aperture_is_less_exact(self) -> None:
        found = answer(read_scene(changed()).scene)
        wide = {e.way: e.worst for e in errors_of(found.scene, InUse())}
        body = Body(format="full-frame", pixels_across=6000, focuses_at="taking")
        closed = {e.way: e.worst for e in errors_of(found.scene, InUse(find_body=lambda: body))}
        # With no lens known f/2.8 is assumed; the picture is taken at f/11.
        self.assertAlmostEqual(closed["spot"] / wide["spot"], 11 / 2.8)
        self.assertAlmostEqual(closed["eye"] / wide["eye"], 11 / 2.8, msg="no screen shows more")

    def test_the_panel_says_it_in_words(self) -> None:
        headers = {**HTMX, "Aim-Unfolded": "fold-lens"}
        page = self.client.get("/view/", changed(focus_by="magnified"), headers=headers)
        for part in ("before infinity", "anticlockwise", "In degrees", "good enough", "with care",
                     "In a magnified view", "peaking", "Peaking"):  # fmt: skip
            if part != "peaking":
                self.assertContains(page, part)
        bare = changed(lens="50 mm f/1.8", focal_length_mm="50")
        page = self.client.get("/view/", bare, headers=headers)
        self.assertContains(page, "come back (anticlockwise) until the farthest mark just softens")
        gone = changed(lens="a lens since deleted")
        self.assertContains(self.client.get("/view/", gone, headers=headers), "No lens of your bag")

    def test_stand_ins_are_those_inside_the_window(self) -> None:
        reading = read_scene(changed())
        query = changed()
        query.setlist("mark_distance", ["1.3 m", "2.7 m", "180 m", "0.8 m"])
        found = standin.stand_in(answer(read_scene(query).scene), reading.panels)
        self.assertEqual(found.inside, ("Winch wheel",))
        self.assertEqual(standin.stand_in(answer(reading.scene), reading.panels).inside, ())

    def test_the_box_and_its_ground(self) -> None:
        reading = read_scene(changed(box="20 %", box_at="50 40"))
        found = standin.stand_in(answer(reading.scene), reading.panels).box
        assert found is not None
        camera = Camera(900, math.radians(15), 0, 24, 24, 36)
        for row, depth in ((0.3, found.near), (0.5, found.far)):
            self.assertAlmostEqual(float(frame.ground(camera, row).depth), depth or 0, 6)
        self.assertIn("spans more than the window", found.warning)
        small = read_scene(changed(box="4 %", box_at="50 40"))
        safe = standin.stand_in(answer(small.scene), small.panels).box
        assert safe is not None
        self.assertEqual(safe.warning, "")
        low = read_scene(changed(box="6 %", box_at="50 5"))
        box = standin.stand_in(answer(low.scene), low.panels).box
        assert box is not None
        self.assertIn("nearer than the window", box.warning)

    def test_over_something_nearer(self) -> None:
        query = changed(box="6 %", box_at="20 41")
        query.setlist("mark_at", ["20 41", "", "", ""])
        reading = read_scene(query)
        box = standin.stand_in(answer(reading.scene), reading.panels).box
        assert box is not None
        self.assertIn("reaches over A, which is nearer", box.warning)

    def test_swinging_back(self) -> None:
        reading = read_scene(changed(box_at="10 41"))
        found = answer(reading.scene)
        swing = standin.stand_in(found, reading.panels).swing
        assert swing is not None
        across, up = (0.1 - 0.5) * 36 / 24, (0.41 - 0.5) * 24 / 24
        angle = math.atan(math.hypot(across, up))
        self.assertAlmostEqual(swing.angle, math.degrees(angle), 6)
        reads = found.ring.focus / math.cos(angle)
        self.assertEqual(swing.reads, settable.nearest(reads, "m", settable.FINE))
