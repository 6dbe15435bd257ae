"""Stars and ground: one ring where one does, else frames in the order in which they are taken."""

from __future__ import annotations

import html
import math
import re

from hypothesis import given
from hypothesis import strategies as st
from hypothesis.extra.django import TestCase

from optics.base.units import USUAL
from optics.lens import depth
from optics.lens.conjugates import breathing
from tests.web.test_sky import answered, link
from web.demo.world import load
from web.planner.steps import Routine
from web.sky.foreground import foreground
from web.sky.routines import routines


def ways(**texts: str) -> tuple[Routine, ...]:
    found = answered(**texts)
    return routines(found, found.sky.in_use.body, USUAL)


class OneRingTest(TestCase):
    @given(st.floats(1.0, 60.0), st.sampled_from(["2", "2.8", "4", "8"]))
    def test_the_computed_ring_is_kept_wherever_it_has_the_ground(
        self, near: float, f_number: str
    ) -> None:
        alone = answered(f_number=f_number)
        both = answered(f_number=f_number, foreground=f"{near:.2f} m")
        start = round(near, 2) * 1000
        ground = both.sky.ground
        if depth.limits(ground, alone.here.focus).near <= start:
            self.assertEqual(both.here.focus, alone.here.focus)
        if both.for_ground:
            self.assertLess(both.here.focus, alone.here.focus)
            self.assertTrue(both.star_holds)
            self.assertLessEqual(depth.limits(ground, both.here.focus).near, start * (1 + 1e-9))
            window = both.here.window
            assert window is not None
            self.assertTrue(window.nearest <= both.here.focus <= window.farthest)
        found = foreground(both, start)
        if not found.frames:
            assert found.one is not None
            self.assertEqual(found.one.focus, both.here.focus, "the plan prints one ring")
            self.assertEqual(found.one.f_number, both.sky.setup.f_number)

    def test_plan_card_and_walk_print_the_same_ring(self) -> None:
        """Short of the 22 m that the margin asks for, with the ground from 4 m in one frame."""
        load()
        texts = link(foreground="4 m").dict()
        found = answered(foreground="4 m")
        self.assertTrue(found.for_ground)
        ring = f"{found.here.focus / 1000:g} m"
        plan = self.client.get("/sky/", texts)
        self.assertContains(plan, "Stars and ground in one frame")
        self.assertNotContains(plan, "22 m or farther")
        self.assertContains(
            self.client.get("/cards/night/card/", texts), f'data-fact="ring">{ring}<'
        )
        walk = self.client.get("/sky/walk/", {**texts, "way": "light"})
        self.assertContains(walk, f"Walk to {ring}: ")
        self.assertNotContains(walk, "Two frames")

    def test_a_ring_by_hand_goes_before(self) -> None:
        found = answered(foreground="4 m", ring="30 m")
        self.assertEqual(found.here.focus, 30_000)
        self.assertFalse(found.for_ground)
        self.assertLess(found.computed.focus, 22_000)


class OrderTest(TestCase):
    def test_before_dark_or_after_the_stars(self) -> None:
        first = ways(foreground="1.5 m")[0]
        self.assertEqual(first.key, "two")
        told = [step.do for step in first.steps]
        self.assert_in_order(
            told, "Compose", "In the last light, the ground", "Wait for the dark",
            "infinity again", "Point at a star in the picture", "Tape", "Now the picture",
            "At home",
        )  # fmt: skip
        last = [step.do for step in ways(foreground="1.5 m", order="dark")[0].steps]
        self.assert_in_order(
            last, "Compose", "smallest square", "Tape", "Now the picture", "Off with the tape",
            "Now the ground: ring to 2.2 m", "At home",
        )  # fmt: skip
        self.assertEqual([one.key for one in ways()], ["star", "light", "day"])
        self.assertEqual([one.key for one in ways(foreground="12 m")], ["star", "light", "day"])

    def assert_in_order(self, told: list[str], *parts: str) -> None:
        at = [next(at for at, text in enumerate(told) if part in text) for part in parts]
        self.assertEqual(at, sorted(at), told)

    def test_how_much_the_view_changes(self) -> None:
        """16 mm from infinity to 2.2 m: 1 ÷ (2200 ÷ 16 − 2) = 0.74 % larger, by the thin lens."""
        found = answered(foreground="1.5 m")
        ring = foreground(found, 1500).ground[0].focus
        larger = breathing(found.sky.setup, ring, math.inf) - 1
        self.assertAlmostEqual(larger, 16 / (ring - 32), 4)
        compose = ways(foreground="1.5 m")[0].steps[1]
        self.assertIn("about 0.7 % larger", compose.know)

    def test_times_in_the_dark_as_a_bulb_timer_has_them(self) -> None:
        """f/2.5, grass under stars alone at ISO 6400: minutes; under a full moon seconds."""
        dark = ways(foreground="1.5 m", order="dark")[0]
        step = next(step for step in dark.steps if "Now the ground" in step.do)
        assert step.now is not None
        self.assertRegex(step.now[1], r"^\d:\d\d$")
        self.assertIn("2.7 stops darker than the sky", step.know)
        lit = ways(foreground="1.5 m", order="dark", moon="full")[0]
        step = next(step for step in lit.steps if "Now the ground" in step.do)
        assert step.now is not None
        self.assertRegex(step.now[1], r"^[\d.]+ s$")
        self.assertIn("brighter than the sky", step.know)
        for order in ("dusk", "dark"):
            way = ways(foreground="1.5 m", moon="half", order=order)[0]
            takes = next(step for step in way.steps if "Now the picture" in step.do)
            self.assertIn("makes the sky 1.2 stops brighter", takes.know)

    def test_dark_ground_takes_frames_laid_together(self) -> None:
        woods = foreground(answered(foreground="1.5 m", underfoot="dark", dark="1"), 1500).ground[0]
        self.assertEqual(woods.seconds, 240)
        self.assertGreater(woods.set_to.frames, 1)
        step = next(
            step for step in
            ways(foreground="1.5 m", underfoot="dark", dark="1", order="dark")[0].steps
            if "Now the ground" in step.do
        )  # fmt: skip
        self.assertIn(f"{woods.set_to.frames} frames laid together", step.know)
        self.assertIn("4:00", step.know)

    def test_card_and_link_have_the_order(self) -> None:
        for order, first in (("dusk", "1 Ground"), ("dark", "1 Sky")):
            texts = link(foreground="1.5 m", order=order).dict()
            page = self.client.get("/cards/night/card/", texts)
            self.assertContains(page, f"<th>{first}</th>")
            self.assertContains(page, "<h2>Two frames</h2>")
            plan = self.client.get("/sky/", texts)
            self.assertContains(plan, "takes a frame of its own")
            self.assertIn(f"order={order}", html.unescape(plan.content.decode()))

    def test_several_frames_of_the_ground(self) -> None:
        lens = {"lens": "85 mm", "focal_length_mm": "85", "f_number": "1.4", "lens_range": "1.4 16"}
        way = ways(foreground="3 m", **lens)[0]
        self.assertRegex(way.name, r"^\d+ frames$")
        grounds = [step.do for step in way.steps if "In the last light" in step.do]
        self.assertGreater(len(grounds), 2)
        self.assertIn("ground 1", grounds[0])


class BranchesTest(TestCase):
    def test_every_branch_goes_back_to_a_step_of_its_own_way(self) -> None:
        film = {"pixels_across": "", "star_px": "", "lens": "", "focal_length_mm": "24"}
        for texts in ({}, {"foreground": "1.5 m"}, {"mount": "tracker"}, film):
            for way in ways(**texts):
                branched = [step for step in way.steps if step.branches]
                self.assertTrue(branched or film is texts, way.key)
                for step in branched:
                    for branch in step.branches:
                        self.assertTrue(branch.tries)
                        if branch.back:
                            self.assertIsNotNone(way.goes_back(branch), (way.key, branch.when))

    def test_i_see_no_star_and_it_is_soft(self) -> None:
        load()
        page = self.client.get("/sky/walk/", {**link().dict(), "way": "star"}).content.decode()
        text = html.unescape(re.sub(r"<[^>]+>", " ", page))
        for part in ("I see no star", "The brightest that your eye finds", "A planet",
                     "A lamp far off, at 22 m or farther", "Else the ring on 22 m by its scale",
                     "Stars are soft", "the smaller stars show which way"):  # fmt: skip
            self.assertIn(part, text)
        self.assertIn("Again from: Turn past the point", text)

    def test_a_lens_that_forgets_is_told_at_the_start(self) -> None:
        owner = load()
        owner.lenss.filter(name=link()["lens"]).update(ring_kind="forgets")
        page = self.client.get("/sky/walk/", {**link().dict(), "way": "star"}).content.decode()
        first = page[: page.index('id="step-2"')]
        self.assertIn("forgets its focus when the camera is switched off or sleeps", first)
