"""What Sky unfolds: foreground, settings, lenses of the bag; and the frame's picture."""

from __future__ import annotations

import math
import re
from itertools import pairwise

from hypothesis import given, settings
from hypothesis import strategies as st
from hypothesis.extra.django import TestCase

from optics.lens import depth
from optics.light import dial, exposure
from optics.sky import star_drift
from tests import examples
from tests.web.test_sky import answered, link
from web.bag.models import Lens
from web.demo.world import load
from web.sky import pictures
from web.sky.bag import gatherers
from web.sky.foreground import Foreground, foreground
from web.sky.tries import tries


class ForegroundTest(TestCase):
    def plan(self, near: str, **changes: str) -> Foreground:
        found = answered(foreground=near, **changes)
        assert found.sky.foreground is not None
        return foreground(found, found.sky.foreground)

    def test_one_frame_where_it_can_be(self) -> None:
        """With the ring where stars just hold, a hut at 12 m is within the ground's standard."""
        found = self.plan("12 m")
        self.assertEqual(found.frames, ())
        assert found.one is not None
        held = depth.limits(answered().sky.ground, found.one.focus)
        self.assertLessEqual(held.near, 12_000)
        star = float(depth.total_blur(answered().sky.setup, math.inf, found.one.focus))
        self.assertLessEqual(star, float(answered().sky.setup.coc) * (1 + 1e-9))

    def test_two_frames_meet(self) -> None:
        found = self.plan("1.5 m")
        self.assertEqual([one.name for one in found.frames], ["Sky", "Ground"])
        sky, ground = found.frames
        self.assertLessEqual(ground.near, 1500 * 1.001)
        self.assertGreaterEqual(ground.far * 1.001, sky.near)
        if found.one is not None:
            self.assertGreater(found.stops, 0)
            self.assertLessEqual(found.one.near, 1500)

    def test_the_same_scene_in_each_frame(self) -> None:
        """Stars and foreground of every frame, worked out from the core."""
        found = self.plan("1.5 m")
        here = answered(foreground="1.5 m")
        for one in found.all:
            stars_at = here.sky.at(one.f_number).setup
            star = float(depth.total_blur(stars_at, math.inf, one.focus))
            self.assertAlmostEqual(one.star, star)
            blur = float(depth.blur_disc(stars_at, 1500, one.focus))
            self.assertAlmostEqual(one.fore, blur, msg="without diffraction, as the ground's is")
        self.assertEqual([one.stars_hold for one in found.all], [True, True, False])
        self.assertEqual([one.fore_holds for one in found.all], [True, False, True])

    def test_one_frame_costs_what_it_says(self) -> None:
        found, here = self.plan("1.5 m"), answered()
        assert found.one is not None
        self.assertAlmostEqual(found.stops, 2 * math.log2(found.one.f_number / 2), delta=0.1)
        assert found.one.set_to is not None
        needed = (found.one.set_to.needed, here.exposed.needed)
        self.assertAlmostEqual(math.log2(needed[0] / needed[1]), found.stops, delta=0.34)
        self.assertLessEqual(found.one.iso, here.sky.iso_usable)
        page = self.client.get("/sky/", link(foreground="1.5 m").dict())
        self.assertContains(page, "Two frames, or one at a price")
        self.assertContains(page, "same-scene-title")

    def test_several_where_one_of_the_ground_is_not_enough(self) -> None:
        lens = {"lens": "85 mm", "focal_length_mm": "85", "f_number": "1.4", "lens_range": "1.4 16"}
        found = self.plan("3 m", **lens)
        self.assertGreater(len(found.frames), 3)
        for one, other in pairwise(found.frames[1:]):
            self.assertLessEqual(other.near, one.far)

    def test_the_ground_under_a_moon_takes_a_time_that_the_dial_has(self) -> None:
        ground = self.plan("1.5 m", moon="full").frames[-1]
        self.assertLess(ground.seconds, 30)
        self.assertEqual(ground.seconds, dial.named_time(ground.seconds))
        # 0.17 lux, of which grass gives back 0.15: 0.0082 cd/m², and the sky's share of that.
        wanted = exposure.seconds_for(-3.0, ground.f_number, ground.iso)
        self.assertLess(abs(math.log2(ground.seconds / wanted)), 0.35)

    def test_what_takes_long_says_what_else_helps(self) -> None:
        """A small aperture for the ground, under stars alone: ISO goes up first, as far as 6400;
        then frames are laid together. Film has one ISO, and takes hours."""
        lens = {"lens": "", "focal_length_mm": "75", "f_number": "4", "format": "6x6"}
        wide = self.plan("3 m", focal_length_mm="35", f_number="2.8", lens="").ground[0]
        self.assertEqual((wide.iso, wide.seconds), (6400, 240))
        told = exposure.seconds_for(-10.737, wide.f_number, 6400)
        self.assertAlmostEqual(wide.set_to.frames / (told / 240), 1, delta=0.4)
        found = self.plan("3 m", star_px="", pixels_across="", circle_mm="0.05", **lens)
        ground = found.frames[-1]
        self.assertEqual(ground.iso, 400)
        metered = exposure.seconds_for(-10.737, ground.f_number, 400)
        self.assertAlmostEqual(ground.seconds / metered**1.3, 1, delta=0.1)
        query = link(foreground="3 m", star_px="", pixels_across="", circle_mm="0.05", **lens)
        self.assertContains(self.client.get("/sky/", query.dict()), "the last of the twilight")
        self.assertContains(self.client.get("/sky/", query.dict()), "Film grows slower")

    def test_nearer_than_the_lens_focuses(self) -> None:
        load()
        page = self.client.get("/sky/", link(foreground="0.15 m").dict())
        self.assertContains(page, "is nearer than this lens focuses")


class TriesTest(TestCase):
    def test_every_cell_is_the_light_of_the_night(self) -> None:
        found = answered(dark="5", f_number="2.8")  # 20 magnitudes: 1.08e-3 cd/m², EV −5.85
        table = tries(found)
        self.assertEqual(sum(row.now for row in table.rows), 1)
        self.assertEqual(sum(cell.now for row in table.rows for cell in row.cells), 1)
        for row in table.rows:
            for time, cell in zip(table.times, row.cells, strict=True):
                # N² ÷ t ÷ (ISO ÷ 100) = 2^EV, to the third of a stop that dials have.
                said = cell.exposed
                ev = math.log2(row.f_number**2 / time.seconds / (said.needed / 100))
                self.assertAlmostEqual(ev + said.too_bright, -5.85, delta=0.26)
                wanted = exposure.iso_for(-5.85, row.f_number, time.seconds)
                self.assertLessEqual(said.iso, 6400 * 1.06)
                self.assertGreaterEqual(said.frames * said.iso * 1.2, wanted * 0.9)
                if said.frames > 1:
                    self.assertLess((said.frames - 1) * said.iso, wanted)

    def test_times_are_for_how_far_stars_of_what_counts_may_drift(self) -> None:
        where = {"latitude": "47", "direction": "S", "height": "30"}
        found = answered(seconds="13 s", **where)
        for time in tries(found).times:
            again = answered(seconds=f"{time.seconds} s", **where)
            self.assertAlmostEqual(time.drift, again.counted.length)
            self.assertEqual(time.now, time.seconds == 13)

    def test_apertures_are_ones_the_lens_has(self) -> None:
        load()
        page = self.client.get("/sky/", link(f_number="2.5").dict())
        for text in ("f/2</th>", "f/2.5</th>", "f/2.8</th>", "f/8</th>"):
            self.assertContains(page, text)
        self.assertNotContains(page, "f/1.4</th>")
        self.assertContains(page, 'aria-label="Take f/2.8"')


class BagTest(TestCase):
    def test_ranked_by_the_sky_with_zooms_at_both_ends(self) -> None:
        lenses = list(Lens.objects.filter(owner=load()))
        ranked = gatherers(answered().sky, lenses)
        zooms = sum(lens.is_zoom for lens in lenses)
        self.assertEqual(len(ranked), len(lenses) + zooms)
        skies = [one.of_sky for one in ranked]
        self.assertEqual(skies, sorted(skies, reverse=True))
        for values in (skies, [one.of_stars for one in ranked], [one.of_aurora for one in ranked]):
            self.assertEqual(max(values), 1.0)
        fastest = min(ranked, key=lambda one: one.f_number)
        self.assertEqual(fastest.of_aurora, 1.0)

    def test_against_the_formula(self) -> None:
        """Of a star: time × area of the pupil. Of the sky: time ÷ N². Until stars trail."""
        sky = answered(part="corners").sky
        ranked = gatherers(sky, Lens.objects.filter(owner=load()))
        radius = sky.format.diagonal / 2
        lasts = [
            star_drift.longest_exposure(one.focal_length, sky.trail, 0.0, radius) for one in ranked
        ]
        stars = [t * (o.focal_length / o.f_number) ** 2 for t, o in zip(lasts, ranked, strict=True)]
        skies = [t / o.f_number**2 for t, o in zip(lasts, ranked, strict=True)]
        for one, seconds, star, light in zip(ranked, lasts, stars, skies, strict=True):
            self.assertAlmostEqual(one.seconds, seconds)
            self.assertAlmostEqual(one.of_stars, star / max(stars))
            self.assertAlmostEqual(one.of_sky, light / max(skies))

    def test_which_for_stars_which_for_aurora_and_taking_one(self) -> None:
        load()
        page = self.client.get("/sky/")
        self.assertContains(page, "<b>16 mm f/2 for the night</b> gathers most of the sky")
        self.assertContains(page, "For moving aurora <b>50 mm f/1.8</b>")
        link_to = r'<a class="plain" href="([^"]+)" aria-label="Take 50 mm'
        found = re.search(link_to, page.content.decode())
        assert found is not None
        page = self.client.get(found[1].replace("&amp;", "&"))
        self.assertContains(page, 'value="50"')
        self.assertContains(page, 'data-number="1.8"')

    def test_an_empty_bag(self) -> None:
        self.assertEqual(gatherers(answered().sky, []), ())
        load()
        Lens.objects.all().delete()
        self.assertContains(self.client.get("/sky/"), "No lenses in your bag yet")


class FramePictureTest(TestCase):
    where = {"latitude": "47", "direction": "N", "height": "40"}

    def test_only_where_it_is_known_how_the_frame_stands(self) -> None:
        self.assertIsNone(pictures.frame_under_sky(answered()))
        self.assertNotContains(self.client.get("/sky/"), "under-sky-title")
        page = self.client.get("/sky/", link(**self.where).dict())
        self.assertContains(page, "The pole of the sky is in the picture")

    def test_the_pole_stands_where_the_latitude_puts_it(self) -> None:
        """7° above what the lens points at, due north at 47°: 16 mm × tan 7° up the middle."""
        drawn = pictures.frame_under_sky(answered(**self.where))
        assert drawn is not None
        assert drawn.drawn.pole is not None
        x, y = drawn.drawn.pole
        unit = drawn.drawn.width / 36
        self.assertAlmostEqual(x, drawn.drawn.width / 2)
        self.assertAlmostEqual((drawn.drawn.height / 2 - y) / unit, 16 * math.tan(math.radians(7)))

    def test_the_horizon_cuts_the_ground_off(self) -> None:
        low = answered(latitude="47", direction="S", height="10")
        drawn = pictures.frame_under_sky(low)
        assert drawn is not None
        self.assertNotEqual(drawn.drawn.ground, "")
        level = -16 * math.tan(math.radians(10))
        for streak in low.streaks:
            held = low.sky.part.held(streak.start)
            self.assertGreaterEqual(held.y, level - 1e-9)
        high = pictures.frame_under_sky(answered(latitude="47", direction="S", height="70"))
        assert high is not None
        self.assertEqual(high.drawn.ground, "")

    def test_a_star_that_leaves_the_view_meanwhile(self) -> None:
        wide = {"focal_length_mm": "4", "lens": "", "seconds": "3600 s"}
        page = self.client.get("/sky/", link(latitude="-90", direction="S", height="-10", **wide))
        self.assertContains(page, "under-sky-title")

    @settings(max_examples=examples(40))
    @given(st.integers(-90, 90), st.integers(0, 360), st.integers(-10, 90), st.booleans())
    def test_any_direction_is_drawn(self, lat: int, az: int, height: int, upright: bool) -> None:
        page = self.client.get(
            "/sky/",
            link(
                latitude=f"{lat}", direction=f"{az}", height=f"{height}",
                upright="1" if upright else "",
            ).dict(),
        )  # fmt: skip
        self.assertContains(page, "under-sky-title")
        self.assertNotIn("nan", re.sub(r"<[^>]*>", "", page.content.decode()).lower().split())
