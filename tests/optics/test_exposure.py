"""Light, time and movement: hand-checked values, pairs that undo each other, and what gives way."""

from __future__ import annotations

import math
import unittest

from hypothesis import given
from hypothesis import strategies as st

from optics import Setup
from optics.base.errors import NotANumber, OutOfRange
from optics.lens.wave import DISC_HALF
from optics.light import dial, exposure, motion
from optics.light.exposure import Exposure, Gives, settle
from optics.sky import star_drift

f_numbers, times = st.floats(0.7, 64), st.floats(1e-4, 3600)
isos, densities = st.floats(25, 1e6), st.floats(0, 20)


class ExposureTest(unittest.TestCase):
    def test_full_sun_at_f16(self) -> None:
        # The old rule: in full sun, f/16 at one over the film speed. log₂(256·100) = 14.6.
        sunny = Exposure(16, 1 / 100)
        self.assertAlmostEqual(sunny.ev100, 14.6439, 4)
        self.assertEqual(exposure.light_named(sunny.ev100).name, "full sun")
        self.assertEqual(exposure.light_named(-9).name, "stars alone")

    def test_as_a_camera_names_them(self) -> None:
        for seconds, named in (
            (1 / 512, 1 / 500), (1 / 64, 1 / 60), (1 / 16, 1 / 15), (1 / 33, 1 / 30), (0.27, 0.25),
            (2.1, 2.0), (28.0, 30.0), (1 / 9999, 1 / 10000),
        ):  # fmt: skip
            self.assertEqual(dial.named_time(seconds), named)
        for iso, named in ((195.3, 200), (390.6, 400), (6250, 6400), (98, 100), (1010, 1000)):
            self.assertEqual(dial.named_iso(iso), named)

    def test_every_iso_of_a_dial_is_its_own_name(self) -> None:
        thirds = (100, 125, 160, 200, 250, 320, 400, 500, 640, 800, 1000, 1250, 1600, 2000, 2500,
                  3200, 4000, 5000, 6400, 8000, 10_000, 12_800, 16_000, 20_000, 25_600, 32_000,
                  40_000, 51_200, 64_000, 102_400, 204_800)  # fmt: skip
        for iso in thirds:
            self.assertAlmostEqual(dial.named_iso(iso), iso, delta=1e-6)
            self.assertAlmostEqual(dial.named_iso(1.04 * iso), iso, delta=1e-6)

    @given(st.floats(1 / 7000, 28), st.floats(60, 90_000))
    def test_names_are_within_a_sixth_of_a_stop_or_so(self, seconds: float, iso: float) -> None:
        self.assertLess(abs(math.log2(dial.named_time(seconds) / seconds)), 0.26)
        self.assertLess(abs(math.log2(dial.named_iso(iso) / iso)), 0.2)

    def test_the_longest_time_on_the_dial_that_is_no_longer(self) -> None:
        cases = (
            (5.4, 5),
            (5, 5),
            (0.13, 1 / 8),
            (29.9, 25),
            (30, 30),
            (31, 31),
            (95.7, 95),
            (1e-6, 1e-6),
        )
        for seconds, named in cases:
            with self.subTest(seconds):
                self.assertAlmostEqual(dial.longest_named(seconds), named)

    @given(st.floats(1e-4, 5000))
    def test_it_is_never_longer_and_at_most_a_step_shorter(self, seconds: float) -> None:
        named = dial.longest_named(seconds)
        self.assertLessEqual(named, seconds * (1 + 1e-9))
        self.assertGreater(named * 1.43, seconds)

    @given(f_numbers, times, isos, densities)
    def test_each_follows_from_the_others(self, n: float, t: float, iso: float, nd: float) -> None:
        ev = Exposure(n, t, iso, nd).ev100
        self.assertAlmostEqual(exposure.seconds_for(ev, n, iso, nd) / t, 1, 9)
        self.assertAlmostEqual(exposure.iso_for(ev, n, t, nd) / iso, 1, 9)

    def test_filters(self) -> None:
        self.assertAlmostEqual(exposure.nd_stops_of(64), 6, 12)
        self.assertAlmostEqual(exposure.nd_stops_of(1000), 9.9658, 4)

    def test_what_gives_way(self) -> None:
        wished = Exposure(8, 1 / 500, 200)
        enough = settle(wished.ev100, wished, 3200, 1 / 125)
        self.assertEqual((enough.gave, enough.short, enough.next), ((), 0, Gives.ISO))
        darker = settle(wished.ev100 - 3, wished, 3200, 1 / 125)
        self.assertAlmostEqual(darker.exposure.iso, 1600, 6)
        self.assertEqual((darker.gave, darker.next), ((Gives.ISO,), Gives.ISO))
        dark = settle(wished.ev100 - 5, wished, 3200, 1 / 125)
        self.assertAlmostEqual(dark.exposure.iso, 3200, 6)
        self.assertAlmostEqual(dark.exposure.seconds, 1 / 250, 9)
        self.assertEqual((dark.gave, dark.next), ((Gives.ISO, Gives.TIME), Gives.TIME))
        darkest = settle(wished.ev100 - 10, wished, 3200, 1 / 125, widest=4)
        self.assertEqual(darkest.gave, (Gives.ISO, Gives.TIME, Gives.APERTURE))
        self.assertAlmostEqual(darkest.exposure.f_number, 4, 9)
        self.assertAlmostEqual(darkest.short, 2, 9)
        self.assertIsNone(darkest.next)
        time_first = settle(wished.ev100 - 1, wished, 3200, 1 / 125, order=(Gives.TIME, Gives.ISO))
        self.assertAlmostEqual(time_first.exposure.seconds, 1 / 250, 9)
        bright = settle(wished.ev100 + 2, wished, 3200, 1 / 125)
        self.assertAlmostEqual(bright.exposure.seconds, 1 / 2000, 9)
        self.assertEqual(bright.gave, (Gives.TIME,))

    @given(st.floats(-6, 16), f_numbers, times, isos)
    def test_what_can_be_done_is_right_for_the_light(
        self, ev: float, n: float, t: float, iso: float
    ) -> None:
        found = settle(ev, Exposure(n, t, iso), iso * 16, t * 4, widest=n / 2)
        self.assertAlmostEqual(found.exposure.ev100 - found.short, ev, 8)

    def test_bad_input(self) -> None:
        cases = (
            (OutOfRange, lambda: Exposure(0, 1)),
            (NotANumber, lambda: Exposure(8, math.nan)),
            (OutOfRange, lambda: Exposure(8, 1, 100, -1)),
            (OutOfRange, lambda: exposure.nd_stops_of(0.5)),
            (OutOfRange, lambda: exposure.seconds_for(math.inf, 8)),
            (OutOfRange, lambda: settle(10, Exposure(8, 1), 0, 1)),
        )
        for at, (error, call) in enumerate(cases):
            with self.subTest(at), self.assertRaises(error):
                call()


class MotionTest(unittest.TestCase):
    SETUP = Setup(28, 8, 0.02)

    def test_a_streak_as_a_disc(self) -> None:
        # sin(x)/x is one half at x = 1.8954942670339809, found by bisection here.
        low, high = 1.0, 3.0
        for _ in range(80):
            x = 0.5 * (low + high)
            low, high = (x, high) if math.sin(x) / x > 0.5 else (low, x)
        # Streak: sin(πLν)/(πLν) = ½ at πLν = x. Disc: at πdν = 2.2151. Same ν: d/L = 2.2151/x.
        self.assertAlmostEqual(star_drift.STREAK_AS_DISC, DISC_HALF / x, 4)
        self.assertAlmostEqual(motion.disc_as_streak(motion.streak_as_disc(0.02)), 0.02, 12)

    def test_a_walker_crossing(self) -> None:
        # At 3 m, focused there: the scale is m = 0.0096..., so 1.4 m/s for 1/250 s is 0.0535 mm.
        streak = motion.crossing(self.SETUP, 3000, 1400, 1 / 250, 3000)
        m = 28 / (3000 - 28 * 2.0096)  # u = D − f(1 + m)
        self.assertAlmostEqual(streak, m * 1400 / 250, delta=2e-4)
        self.assertEqual(motion.crossing(self.SETUP, math.inf, 1400, 1, 3000), 0)

    def test_a_walker_coming_straight_on(self) -> None:
        # 10 mm off the middle; a depth of 2972 mm from the pupil shrinks by 14 mm: 10 × 14/2958.
        streak = motion.approaching(self.SETUP, 3000, 1400, 1 / 100, 10, 3000)
        self.assertAlmostEqual(streak, 10 * 14 / 2957.7, delta=1e-4)
        self.assertEqual(motion.approaching(self.SETUP, math.inf, 1400, 1, 10, 3000), 0)
        with self.assertRaises(OutOfRange):
            motion.approaching(self.SETUP, 3000, 1400, 10, 10, 3000)

    @given(st.floats(500, 20000), st.floats(100, 10000), st.floats(1, 20))
    def test_the_longest_time_of_one_who_comes_closer(
        self, subject: float, speed: float, height: float
    ) -> None:
        seconds = motion.longest_approaching(self.SETUP, subject, speed, height, subject)
        streak = motion.approaching(self.SETUP, subject, speed, seconds, height, subject)
        self.assertAlmostEqual(motion.streak_as_disc(streak) / 0.02, 1, 7)
        still = motion.longest_approaching(self.SETUP, subject, 0, height, subject)
        self.assertEqual(still, math.inf)

    @given(st.floats(500, 20000), st.floats(100, 10000))
    def test_the_longest_time_makes_the_standard(self, subject: float, speed: float) -> None:
        rate = motion.per_second(self.SETUP, subject, speed, subject)
        seconds = motion.longest_still(rate, 0.02)
        streak = motion.crossing(self.SETUP, subject, speed, seconds, subject)
        self.assertAlmostEqual(motion.streak_as_disc(streak) / 0.02, 1, 9)
        near = motion.distance_where_still(self.SETUP, speed, seconds)
        self.assertAlmostEqual(near / subject, 1, delta=0.01)

    def test_a_wished_for_smear(self) -> None:
        found = motion.times_to_smear(2.0, 0.5, 3.0)
        self.assertEqual((found.shortest, found.longest), (0.25, 1.5))
        self.assertEqual(motion.times_to_smear(0, 0.5, 3).shortest, math.inf)
        self.assertEqual(motion.longest_still(0, 0.02), math.inf)
        with self.assertRaises(OutOfRange):
            motion.times_to_smear(2.0, 3.0, 0.5)

    def test_hands(self) -> None:
        self.assertAlmostEqual(motion.hand_held(50), 1 / 50, 12)
        self.assertAlmostEqual(motion.hand_held(50, 1.5, 3, 2), 8 / 150, 12)
        self.assertAlmostEqual(motion.together(0.03, 0.04), 0.05, 12)
