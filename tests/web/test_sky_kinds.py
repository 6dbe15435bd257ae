"""Nights of all kinds on Sky: how dark, on film, on a mount, aurora, a comet, through a fisheye."""

from __future__ import annotations

import html
import math
import re

from django.http import QueryDict
from django.test import TestCase

from optics.light import dial
from optics.light.night import Moon
from optics.sky.projection import Projection
from tests.web.test_sky import answered, link
from web.bag.models import Lens
from web.demo.world import load
from web.hand.asker import Asker
from web.hand.in_use import InUse
from web.sky.bag import gatherers
from web.sky.forms import read_sky
from web.sky.skies import Counts
from web.sky.tries import tries

FULL = {"lens": "", "focal_length_mm": "20", "f_number": "2.8", "star_px": "3"}
FILM = {**FULL, "f_number": "1.4", "pixels_across": "", "star_px": "", "film_iso": "800"}


class KindsTest(TestCase):
    def said(self, **texts: str) -> str:
        """The answer's words."""
        page = self.client.get("/sky/", link(**texts).dict()).content.decode()
        answer = re.search(r'<section class="answer.*?</section>', page, re.DOTALL)
        assert answer is not None
        return re.sub(r"\s+", " ", html.unescape(re.sub(r"<[^>]+>", "", answer[0])))

    def test_how_dark_it_is_in_words_by_class_and_by_a_meter(self) -> None:
        """Class 4 is 21.1 magnitudes: 3.93e-4 cd/m², EV −7.32. f/2.8 (8) and 10 s leave ISO 12 780:
        two frames of 6400."""
        self.assertIn("for a class 4 sky, give or take ⅔ stop", self.said(dark="4", **FULL))
        self.assertEqual(answered(dark="4", **FULL).exposed.needed, 12_800)
        self.assertIn("for 20.2 mag/″², give or take ⅓ stop", self.said(meter="20.2", **FULL))
        both = answered(meter="20.2", dark="4", **FULL)
        self.assertEqual(both.sky.night.magnitude, 20.2, "what was measured counts")
        self.assertAlmostEqual(answered(**FULL).sky.night.ev100, -8)

    def test_the_moon_costs_what_it_costs(self) -> None:
        text = self.said(moon="full", **FULL)
        self.assertIn("stars alone with a full moon, give or take a stop", text)
        self.assertIn("The moon makes the sky 3.8 stops brighter", text)
        self.assertNotIn("moon makes", self.said(**FULL))
        page = self.client.get("/sky/", link(moon="half", **FULL).dict())
        self.assertContains(page, "a stop under a meter’s middle grey")
        self.assertContains(page, "0.57 stop brighter than the sky")

    def test_links_of_earlier_days_mean_what_they_meant(self) -> None:
        for light, moon, magnitude in (("-2", Moon.FULL, 21.6), ("-4", Moon.HALF, 21.6),
                                       ("-6", Moon.NONE, 20.0)):  # fmt: skip
            link = QueryDict(f"light={light}&focal_length_mm=20")
            night = read_sky(link).sky.night
            self.assertEqual(night.moon, moon)
            self.assertAlmostEqual(night.magnitude, magnitude, 1)
        self.assertAlmostEqual(read_sky(QueryDict("light=7")).sky.night.ev100, -8)

    def test_what_cannot_be_is_said_and_the_last_that_could_be_stays(self) -> None:
        wrong = {
            "dark": "10", "moon": "blue", "underfoot": "x", "order": "x", "subject": "x",
            "projection": "x", "mount": "x", "meter": "30", "pole_off": "20", "film_iso": "2",
            "reciprocity": "3",
        }  # fmt: skip
        reading = read_sky(link(**wrong))
        self.assertEqual(set(reading.errors), set(wrong))
        for name, text in wrong.items():
            self.assertEqual(reading.texts[name], text)
        before = link(meter="21.4")
        kept = read_sky(link(meter="2.14"), lambda: before)
        self.assertEqual(kept.sky.night.magnitude, 21.4)
        self.assertIn("Shown with 21.4 mag meanwhile.", kept.errors["meter"])

    def test_film_has_one_iso_and_the_time_follows(self) -> None:
        """f/1.4 (2) at EV −8 and ISO 800: 64 s by the meter, 64^1.3 = 223 s."""
        found = answered(**FILM)
        film = found.film
        assert film is not None
        self.assertAlmostEqual(film.metered, 64)
        self.assertAlmostEqual(film.seconds, 64**1.3)
        self.assertEqual(found.iso, 800)
        self.assertEqual(found.seconds, dial.named_time(64**1.3))
        text = self.said(**FILM)
        self.assertIn("Film of ISO 800 takes 3.7 min for stars alone", text)
        self.assertIn("the meter’s 64 s, longer by its exponent of 1.3", text)
        plain = answered(**{**FILM, "reciprocity": "1"})
        self.assertEqual(plain.seconds, dial.named_time(64))
        short = answered(seconds="0:32", **FILM)
        # 32 s do as much as 32^(1 ÷ 1.3) = 14.4 s by the meter: 2.15 stops less than 64.
        self.assertAlmostEqual(short.exposed.stops, math.log2(64 / 32 ** (1 / 1.3)), 2)
        self.assertIn("0:32 is 2.2 stops darker", self.said(seconds="0:32", **FILM))
        walk = self.client.get("/sky/walk/", link(**FILM).dict())
        self.assertContains(walk, "By the scale: film, where nothing is magnified")
        self.assertContains(walk, "by the clock")
        self.assertNotContains(walk, "Magnify it.")

    def test_a_mount_cancels_all_but_what_its_pole_leaves(self) -> None:
        """Half a degree off: 2 sin ¼° = 0.00873 of the pace. 4 px of 6 µm then take as long as
        stars in the middle of a tripod's frame take to go 4 ÷ 0.00873."""
        tripod, mount = answered(**FULL), answered(mount="tracker", **FULL)
        left = 2 * math.sin(math.radians(0.25))
        middle = [one.parts[0].longest for one in (tripod, mount)]
        self.assertAlmostEqual(middle[1] * left / middle[0], 1, 6)
        self.assertEqual(mount.iso, 800)
        self.assertAlmostEqual(mount.seconds / (8 / 2**-8 / 8), 1, delta=0.02)
        worse = answered(mount="tracker", pole_off="3", **FULL)
        self.assertLess(worse.counted.longest, mount.counted.longest / 5)
        text = self.said(mount="tracker", **FULL)
        self.assertIn("The ground stands still and smears", text)
        ground = mount.ground_drift / 0.006
        self.assertAlmostEqual(ground, 20 * math.tan(7.2921e-5 * mount.seconds) / 0.006, 1)

    def test_on_a_mount_the_ground_takes_its_own_frame_to_the_horizon(self) -> None:
        page = self.client.get("/sky/walk/", link(mount="tracker", foreground="12 m").dict())
        self.assertContains(page, "Set the mount on the pole, and start it.")
        self.assertContains(page, "Stop the mount: the ground is to stand still.")
        text = page.content.decode()
        self.assertLess(text.index("Now the picture"), text.index("Now the ground"))
        self.assertIn("to ∞", text)

    def test_where_a_tripod_falls_short_a_mount_is_offered(self) -> None:
        tele = {**FULL, "focal_length_mm": "200", "f_number": "4"}
        text = self.said(**tele)
        self.assertIn("Too dark for f/4 and 1.6 s", text)
        self.assertRegex(text, r"On a mount that follows the sky: \d:\d\d, ISO \d+")
        self.assertNotIn("On a mount", self.said(mount="tracker", **tele))

    def test_no_iso_is_lower_than_bodies_have(self) -> None:
        """A city under a full moon, f/1.4 and 30 s: EV −2.05, ISO 100 × 2^(−3.9 + 2.05) = 27."""
        city = {**FULL, "f_number": "1.4", "dark": "9", "moon": "full", "seconds": "30 s"}
        found = answered(**city)
        self.assertEqual((found.iso, found.exposed.frames), (100, 1))
        self.assertAlmostEqual(found.exposed.too_bright, 1.6, delta=0.35)
        self.assertRegex(self.said(**city), r"and 1\.\d stops too bright: a shorter time")
        for texts in (city, {**FULL, "mount": "tracker"}):
            for row in tries(answered(**texts)).rows:
                for cell in row.cells:
                    self.assertGreaterEqual(cell.exposed.iso, 100)

    def test_an_aurora_by_how_fast_it_moves(self) -> None:
        times = {}
        for key in ("quiet", "slow", "running", "bursting"):
            found = answered(subject=key, **FULL)
            times[key] = found.seconds
            assert found.sky.aurora is not None
            self.assertLessEqual(found.seconds, found.sky.aurora.longest)
        self.assertEqual(times, {"quiet": 10, "slow": 5, "running": 1.6, "bursting": 0.5})
        self.assertIn("5 s keeps the folds of slow curtains apart",
                      self.said(subject="slow", **FULL))  # fmt: skip
        self.assertIn("run together", self.said(subject="slow", seconds="15 s", **FULL))
        owner = load()
        ranked = gatherers(answered(subject="slow").sky, Lens.objects.filter(owner=owner))
        light = [one.of_aurora for one in ranked]
        self.assertEqual(light, sorted(light, reverse=True))

    def test_a_comet_stands_in_the_middle(self) -> None:
        tele = {**FULL, "focal_length_mm": "200", "f_number": "4", "subject": "comet"}
        self.assertEqual(answered(**tele).sky.counts, Counts.MIDDLE)
        self.assertEqual(answered(part="corners", **tele).sky.counts, Counts.CORNERS)
        self.assertIn("lay many short frames together on its head", self.said(**tele))
        walk = self.client.get("/sky/walk/", link(**tele).dict())
        self.assertContains(walk, "Point at a star near the comet.")

    def test_a_fisheye_by_its_true_projection(self) -> None:
        """A fisheye of 15 mm keeps its corners far longer than a rectilinear lens."""
        fish = {**FULL, "focal_length_mm": "15"}
        straight, bent = answered(**fish), answered(projection="equisolid", **fish)
        self.assertGreater(bent.parts[2].longest, 1.8 * straight.parts[2].longest)
        self.assertAlmostEqual(bent.parts[0].longest, straight.parts[0].longest, 3)
        aimed = {"latitude": "47", "direction": "S", "height": "30"}
        page = self.client.get("/sky/", link(projection="equisolid", **aimed, **fish).dict())
        self.assertContains(page, "c: least")
        self.assertContains(page, "fastest")
        unknown = self.client.get("/sky/", link(projection="equidistant", **fish).dict())
        self.assertContains(unknown, "held the worst way for this fisheye")

    def test_the_bag_knows_how_a_lens_draws_and_the_link_tells_others(self) -> None:
        owner = load()
        lens = Lens.objects.get(owner=owner, name=link()["lens"])
        lens.projection = "equidistant"
        asker = Asker(in_use=lambda texts: InUse(lens, None, lambda: None))
        reading = read_sky(link(), who=asker)
        self.assertEqual(reading.sky.projection, Projection.EQUIDISTANT)
        self.assertIn("projection=equidistant", reading.query())
        again = read_sky(QueryDict(reading.query()))
        self.assertEqual(again.sky.projection, Projection.EQUIDISTANT)

    def test_the_card_says_what_kind_of_night_it_is(self) -> None:
        for texts, words in (
            ({"mount": "tracker"}, "on a mount that follows, 0.5° off the pole"),
            ({"projection": "equisolid"}, "fisheye, equisolid"),
            ({"subject": "slow"}, "slow curtains"),
            ({"subject": "comet"}, "a comet"),
            (FILM, "film, longer by 1.3"),
        ):
            page = self.client.get("/cards/night/card/", link(**{**FULL, **texts}).dict())
            self.assertIn(words, page.content.decode().lower())
