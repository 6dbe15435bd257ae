"""Sky from what is typed to what is said, worked out another way: quaternions, and the core."""

from __future__ import annotations

import math
import re

from django.http import QueryDict
from hypothesis import given, settings
from hypothesis import strategies as st
from hypothesis.extra.django import TestCase

from optics.lens import depth
from tests import examples
from tests.optics.test_starfield import Ground
from tests.web.links import HTMX
from tests.web.test_sky import answered, link
from web.demo.world import load
from web.sky.forms import read_sky

FRAMES = {"full-frame": (36.0, 24.0), "four-thirds": (17.3, 13.0)}


class DriftTest(TestCase):
    @settings(max_examples=examples(60))
    @given(
        st.integers(-80, 80),
        st.integers(0, 359),
        st.integers(5, 85),
        st.sampled_from((14, 20, 35, 85)),
        st.sampled_from(tuple(FRAMES)),
        st.booleans(),
    )
    def test_the_worst_corner_of_this_frame(
        self, latitude: int, azimuth: int, height: int, f: int, frame: str, upright: bool
    ) -> None:
        """Every point of the frame's edge above the horizon, turned over the ground."""
        found = answered(
            latitude=f"{latitude}", direction=f"{azimuth}", height=f"{height}", lens="",
            focal_length_mm=f"{f}", format=frame, upright="1" if upright else "", seconds="20 s",
        )  # fmt: skip
        width, tall = FRAMES[frame][::-1] if upright else FRAMES[frame]
        ground = Ground(latitude, azimuth, height)
        level = max(-f * math.tan(math.radians(height)), -tall / 2)
        steps = [at / 40 for at in range(-40, 41)]
        edge = [(width / 2 * s, y) for s in steps for y in (level, tall / 2)]
        middle, half = (tall / 2 + level) / 2, (tall / 2 - level) / 2
        edge += [(x, middle + half * s) for s in steps for x in (-width / 2, width / 2)]
        drifts = [ground.drift(f, 20, x, y) for x, y in edge]
        self.assertAlmostEqual(max(drifts) / found.corner.length, 1, delta=1e-3)
        self.assertLessEqual(max(drifts), found.corner.length * (1 + 1e-9))
        self.assertLessEqual(found.calmest.length, min(drifts) + 1e-9)
        self.assertAlmostEqual(found.centre.length, ground.drift(f, 20, 0, 0), places=9)
        # And the longest time: the worst has then gone as far as it may.
        seconds = found.corner.longest
        worst = max(ground.drift(f, seconds, x, y) for x, y in edge)
        self.assertAlmostEqual(worst / found.sky.trail, 1, delta=1e-3)


class SaidTest(TestCase):
    def test_what_is_said_is_what_is_worked_out(self) -> None:
        """Each number of the answer against the core, from the page as it is read."""
        page = self.client.get("/sky/", link(margin="2", f_number="2.8").dict())
        text = " ".join(re.sub(r"<[^>]*>", " ", page.content.decode()).split())
        sky = read_sky(link(margin="2", f_number="2.8")).sky
        assert sky.pitch is not None
        said = re.search(r"([\d.]+) m or farther", text)
        star = re.search(r"A star is then ([\d.]+) px wide", text)
        near = re.search(r"it is sharp from ([\d.]+) m", text)
        begins = re.search(r"infinity begins at ([\d.]+) m", text)
        assert said is not None
        assert star is not None
        assert near is not None
        assert begins is not None
        ring = 1000 * float(said[1])
        pixels = float(depth.total_blur(sky.setup, math.inf, ring)) / sky.pitch
        self.assertAlmostEqual(float(star[1]), pixels, delta=0.006)
        self.assertLessEqual(pixels, 1.5 / 2)
        limit = float(depth.limits(sky.setup, ring).near)
        self.assertGreaterEqual(1000 * float(near[1]), limit, "rounded to the safe side")
        self.assertLess(1000 * float(near[1]), limit * 1.1)
        self.assertGreaterEqual(1000 * float(begins[1]), float(depth.hyperfocal(sky.setup)))

    def test_in_feet(self) -> None:
        load()
        page = self.client.get(
            "/sky/", {**link(ring="9 m", foreground="5").dict(), "read_in": "ft"}
        )
        query = QueryDict(page["Location"].split("?")[1])
        self.assertEqual((query["units"], query["foreground"]), ("ft", "5 m"))
        self.assertEqual(query["ring"], "9 m")
        answer = self.client.get(page["Location"])
        begins = re.search(r"Infinity begins at (\d+) ft", answer.content.decode())
        assert begins is not None
        exact = float(depth.hyperfocal(read_sky(link()).sky.setup)) / 304.8
        self.assertTrue(exact <= float(begins[1]) < exact * 1.1)
        self.assertContains(answer, "Stars are soft")

    def test_the_fragment_is_the_page_without_the_page(self) -> None:
        load()
        whole = self.client.get("/sky/", link(margin="2").dict()).content.decode()
        part = self.client.get("/sky/", link(margin="2").dict(), headers=HTMX).content.decode()
        self.assertNotIn("<form", part)
        for text in ("29 m", "pixel by pixel", "to-walk"):
            self.assertIn(text, whole)
            self.assertIn(text, part)

    def test_a_ring_set_by_hand_stays_while_the_aperture_changes(self) -> None:
        for f_number in ("2", "2.8", "4"):
            with self.subTest(f_number):
                free, held = answered(f_number=f_number), answered(f_number=f_number, ring="20 m")
                self.assertEqual(held.here.focus, 20_000)
                self.assertEqual(held.computed.focus, free.here.focus)
                self.assertEqual(held.begins, free.begins)
