"""What is told beside an answer: what the standard leaves out, what the lens has not got, what
others measure from elsewhere."""

from __future__ import annotations

import math
import re
from dataclasses import replace
from functools import partial

from django.http import QueryDict
from django.test import TestCase

from optics import Setup
from optics.lens.aperture import stops_between
from optics.scene.answer import answer
from tests.web.links import HTMX, changed
from tests.web.test_street import answered as street
from tests.web.walk.pages import read
from web.demo.world import load
from web.hand.asker import Asker
from web.hand.in_use import in_use
from web.people.owners import sample
from web.street import judging
from web.view.forms import read_scene
from web.view.trial import turn_from


class BesideTheAnswerTest(TestCase):
    def setUp(self) -> None:
        load()

    def words(self, part: str = "", **changes: str) -> str:
        page = read(self.client.get("/view/", changed(**changes)).content.decode())
        found = page.one(id=part) if part else page.one("section", cls="answer")
        assert found is not None
        return found.words

    def test_diffraction_that_the_standard_leaves_out(self) -> None:
        # A disc of diffraction is 0.0077324 mm at f/8 (core.md), in proportion to the f-number.
        alone = 0.0077324 / 8 * 22
        said = self.words(f_number="22", circle_mm="0.01")
        self.assertIn(f"At f/22 diffraction alone is {alone / 0.01:.1f} times your standard", said)
        self.assertIn("which does not count it", said)
        self.assertNotIn("diffraction", self.words(f_number="22", circle_mm="0.05"))
        self.assertNotIn("diffraction", self.words(f_number="8", diffraction="1"))

    def test_the_sharpest_holds_where_anything_does(self) -> None:
        """A standard without diffraction is not followed to where everything softens, nor left."""
        for circle in ("0.008", "0.012", "0.025"):
            for place in ("between", "hyperfocal", "infinity"):
                said = self.words("fold-aperture", circle_mm=circle, place=place)
                if "is the widest that holds" in said:
                    times = re.search(r"is the sharpest[^:]*: ([\d.]+) times", said)
                    assert times is not None
                    self.assertLessEqual(float(times[1]), 1, said)

    def test_a_lens_that_has_not_got_it(self) -> None:
        page = self.client.get("/view/", changed(focal_length_mm="50", f_number="64"))
        self.assertContains(page, "This lens has 20 to 35 mm: worked out as if it had 50.")
        self.assertContains(page, "This lens goes from f/4 to f/22.")
        moved = self.client.get("/view/", changed(focal_length_mm="50"), headers=HTMX)
        self.assertContains(moved, "This lens has 20 to 35 mm")
        prime = changed(lens="28 mm f/2.8 with tab", focal_length_mm="35")
        self.assertContains(self.client.get("/view/", prime), "This lens has 28 mm: worked out")
        zoomed = self.client.get("/view/", changed(focal_length_mm="35"))
        self.assertNotContains(zoomed, "worked out as if")

    def test_the_standard_in_its_own_terms_first(self) -> None:
        said = self.words("fold-rescue", f_number="5.6")
        self.assertIn("your standard is a print 57.6 cm wide, seen from 50 cm", said)
        # 0.2 mm on paper read at 25 cm: 36 mm wide over a circle of 0.025, and never too wide.
        self.assertIn("which comes to one of 28 cm", said)
        self.assertIn("a print up to 28 cm wide", self.words("results"))
        self.assertIn("a screen 3840 pixels wide", self.words(
            "results", circle_mm="0.009375", diffraction="1"))  # fmt: skip

    def test_limits_as_textbooks_count_them(self) -> None:
        """90 mm at f/8 set to 1 m: the lens stands 99.9 mm in front of the sensor."""
        more = {"lens": "", "focal_length_mm": "90", "f_number": "8", "ring": "1 m"}
        said = self.words("results", **more)
        books = r"Limits in textbooks (\S+) to (\S+) m: they measure from the lens, 10 cm"
        found = re.search(books, said)
        assert found is not None
        held = answer(read_scene(changed(**more)).scene).exact
        near, far = float(found[1]) * 1000, float(found[2]) * 1000
        image = 1000 - (1000 + math.sqrt(1000 * (1000 - 360))) / 2
        self.assertLessEqual(held.near, near + image)
        self.assertGreaterEqual(held.far, far + image)
        self.assertAlmostEqual(near + image, held.near, delta=5)

    def test_as_measured_has_its_unit(self) -> None:
        query = changed()
        query.setlist("mark_distance", ["1.3", "4.2", "180", "0.8"])
        sheet = read(self.client.get("/cards/plan/sheet/", query).content.decode())
        (table,) = sheet.all("table", cls="sheet-marks")
        self.assertEqual([row[2] for row in table.rows()], ["1.3 m", "4.2 m", "180 m", "0.8 m"])

    def test_words_of_the_line_and_of_the_rows_are_one_rule(self) -> None:
        """With the ring at 3 m the slab is sharp at 1.3 m, and not at the 5 % nearer it may be."""
        said = self.words(ring="3 m")
        self.assertIn("holds B and C; A just, at the distance you gave.", said)
        page = read(self.client.get("/view/", changed(ring="3 m")).content.decode())
        verdict = page.one(id="verdict-0")
        assert verdict is not None
        self.assertIn("just", verdict.words)

    def test_after_a_trial_a_turn_is_a_turn(self) -> None:
        who = Asker(in_use=partial(in_use, sample()))
        for at in ("2.3 m", "2.4 m", "2.5 m", "2.6 m", "2.7 m"):
            reading = read_scene(changed(trials=f"{at} f/11 soft A", focus_by="scale"), who=who)
            found, start = answer(reading.scene), reading.trials[0].focus
            turned = (found.ring.focus < start) - (found.ring.focus > start)
            turn = turn_from(reading.trials[0], found, reading.in_use, "scale")
            self.assertEqual(turn.way, turned)


class OneFactTest(TestCase):
    def test_stops_are_those_of_the_dial(self) -> None:
        """f/5.6 to f/18 by name is 3⅓ stops, whatever the names round to."""
        self.assertAlmostEqual(stops_between(5.6, 18), 10 / 3, 9)
        self.assertAlmostEqual(stops_between(4, 4.5), 1 / 3, 9)

    def test_outwards_is_infinity_where_it_is(self) -> None:
        """Near the hyperfocal distance a far limit may be a trillion kilometres."""
        found = street(near="6.2 m", far="30000 km", count="1")
        self.assertEqual(judging.limiter(found).far, math.inf)
        page = self.client.get("/street/", QueryDict("like=6.2+m&focal_length_mm=28&f_number=8"))
        self.assertNotRegex(page.content.decode(), r"\d{9} k?m")

    def test_a_step_is_printed_as_it_is_taken(self) -> None:
        page = self.client.get("/view/", changed(f_number="5.6")).content.decode()
        printed = re.search(r"([\d.]+) m back does it", page)
        taken = re.search(r'data-back="([\d.]+)"', page)
        assert printed is not None
        assert taken is not None
        self.assertAlmostEqual(float(taken[1]), 1000 * float(printed[1]), 6)
        moved = read_scene(changed(f_number="5.6", moved=f"{taken[1]} mm"))
        self.assertEqual(answer(moved.scene).failing, ())

    def test_by_hand_as_it_was_typed(self) -> None:
        said = read(self.client.get("/view/", changed(ring="2.335 m")).content.decode())
        ring = said.one(id="ring-now")
        assert ring is not None
        self.assertEqual(ring.words, "2.335 m")
        in_feet = read(
            self.client.get("/view/", changed(ring="2.335 m", units="ft")).content.decode()
        )
        ring = in_feet.one(id="ring-now")
        assert ring is not None
        self.assertEqual(ring.words, "7′ 8″")
        scene = replace(read_scene(changed(ring="2.335 m", units="ft")).scene)
        self.assertAlmostEqual(answer(scene).ring.focus, (7 * 12 + 8) * 25.4, 6)
        self.assertEqual(scene.setup, Setup(24, 11, 0.025))
