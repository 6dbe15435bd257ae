"""A mark a step nearer or farther: settings of a hand, in the unit typed, and the link follows."""

from __future__ import annotations

import re

from django.http import QueryDict
from django.test import TestCase

from optics.base import units
from tests.web.links import HTMX
from web.demo.world import load
from web.view.forms import scene_query
from web.view.sample import GEAR

WIDTH = re.compile(r'id="mark-distance-0" name="mark_distance" value="([^"]*)"')


class SteppingTest(TestCase):
    def setUp(self) -> None:
        load()

    def step(self, distance: str, by: object, system: str = "m", at: object = 0) -> tuple[str, str]:
        """What the field says then, and the link."""
        query = scene_query({**GEAR, "units": system}, [("Post", distance, "must")])
        query["mark_step"], query["mark_by"] = str(at), str(by)
        answer = self.client.get("/view/", query, headers=HTMX)
        self.assertEqual(answer.status_code, 200)
        found = WIDTH.search(answer.content.decode())
        link = QueryDict(answer["HX-Replace-Url"].partition("?")[2])
        return (found[1].replace("&#x27;", "'").replace("&quot;", '"') if found else "",
                link["mark_distance"])  # fmt: skip

    def test_steps_of_a_hand(self) -> None:
        for distance, by, then in (
            ("1.3 m", 1, "1.4 m"), ("1.3 m", -1, "1.2 m"), ("1.3 m", 4, "1.7 m"),
            ("1.34 m", 1, "1.4 m"), ("1.34 m", -1, "1.3 m"), ("9.9 m", 1, "10 m"),
            ("10 m", -1, "9.9 m"), ("180 m", 1, "190 m"), ("1 km", 1, "inf"), ("inf", 1, "inf"),
            ("inf", -1, "1000 m"), ("130 cm", 1, "1.4 m"), ("3 paces", 1, "4 paces"),
            ("2 arms", -1, "1 arms"),
        ):  # fmt: skip
            with self.subTest(distance=distance, by=by):
                field, link = self.step(distance, by)
                if "paces" in distance or "arms" in distance:
                    self.assertEqual(field, then)
                    continue
                self.assertAlmostEqual(units.parse(field, "m"), units.parse(then, "m"), 3)
                self.assertEqual(link, field)

    def test_in_feet(self) -> None:
        before = "4¼ ft"
        field, _ = self.step(before, 1, "ft")
        self.assertGreater(units.parse(field, "ft"), units.parse(before, "ft"))
        self.assertEqual(self.step(field, -1, "ft")[0], before)

    def test_there_and_back(self) -> None:
        for distance in ("0.45 m", "1.2 m", "4.2 m", "33 m", "640 m"):
            there, _ = self.step(distance, 3)
            self.assertEqual(self.step(there, -3)[0], distance)

    def test_what_is_no_step_changes_nothing(self) -> None:
        for distance, by, at in (
            ("far off", 1, 0), ("2 m", 0, 0), ("2 m", "x", 0), ("2 m", 1, 7), ("2 m", 1, "x"),
        ):  # fmt: skip
            self.assertEqual(self.step(distance, by, at=at), ("", distance))
