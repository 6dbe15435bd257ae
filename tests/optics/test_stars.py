"""Drift of stars: against outside values, against a sky turned the long way, and as laws."""

from __future__ import annotations

import math
import unittest

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from optics.base.errors import AngleTooLarge, NotANumber, OutOfRange
from optics.sky import star_drift, star_field
from optics.sky.gathered import gathered
from optics.sky.parts import round_part
from tests.optics.reference import values

declinations = st.floats(-math.pi / 2, math.pi / 2)


def turned_sky(f: float, seconds: float, declination: float, x: float, y: float) -> float:
    """The chord by turning the star in hour angle with a rotation matrix about the pole's axis.

    Equatorial axes: z to the pole, x to hour angle 0 on the equator, y to the west. Written
    without the core; loses figures for short times, as any difference of positions does.
    """
    ahead = np.array([math.cos(declination), 0, math.sin(declination)])
    north = np.array([-math.sin(declination), 0, math.cos(declination)])
    west = np.array([0.0, 1.0, 0.0])
    star = x * west + y * north + f * ahead
    angle = star_drift.SKY_TURNS * seconds
    turn = np.array(
        [
            [math.cos(angle), -math.sin(angle), 0],
            [math.sin(angle), math.cos(angle), 0],
            [0, 0, 1],
        ]
    )
    then = turn @ star
    deep = then @ ahead
    return math.hypot(f * (then @ west) / deep - x, f * (then @ north) / deep - y)


class DriftTest(unittest.TestCase):
    def test_reference(self) -> None:
        for (x, y), expected in values.DRIFT:
            with self.subTest(x=x, y=y):
                found = float(star_drift.drift(16, 13, math.radians(60), x, y))
                self.assertAlmostEqual(found, expected.value, delta=expected.tolerance)

    @given(
        st.floats(8, 200), st.floats(60, 5000), declinations, st.floats(-25, 25), st.floats(-25, 25)
    )
    def test_agrees_with_a_sky_turned_the_long_way(
        self, f: float, seconds: float, declination: float, x: float, y: float
    ) -> None:
        found = float(star_drift.drift(f, seconds, declination, x, y))
        self.assertAlmostEqual(
            found, turned_sky(f, seconds, declination, x, y), delta=1e-9 * (f + found)
        )

    @given(
        st.floats(8, 400), st.floats(0, 600), declinations, st.floats(-18, 18), st.floats(-12, 12)
    )
    def test_where_a_star_is_then_is_a_drift_away(
        self, f: float, seconds: float, declination: float, x: float, y: float
    ) -> None:
        then = star_drift.where_after(f, seconds, declination, x, y)
        drift = star_drift.drift(f, seconds, declination, x, y)
        self.assertAlmostEqual(math.hypot(then.x - x, then.y - y), drift, delta=1e-9 * f)

    def test_stars_leave_the_view(self) -> None:
        gone = star_drift.where_after(16, 6 * 3600, 0.0, 10.0, 0.0)
        self.assertTrue(math.isnan(gone.x))
        # In the middle of a picture of the pole a star stands still.
        still = star_drift.where_after(16, 3600, math.pi / 2)
        self.assertAlmostEqual(math.hypot(still.x, still.y), 0, delta=1e-12)

    def test_where_it_is_simple(self) -> None:
        # A star in the middle, on the equator: f·tan of the angle turned. At the pole: nothing.
        self.assertAlmostEqual(
            float(star_drift.drift(20, 600, 0)), 20 * math.tan(600 * star_drift.SKY_TURNS), 12
        )
        self.assertAlmostEqual(float(star_drift.drift(20, 600, math.pi / 2)), 0, 12)
        # Round the pole, a circle: chord = 2 r sin of half the angle.
        expected = 2 * 10 * math.sin(0.5 * 600 * star_drift.SKY_TURNS)
        self.assertAlmostEqual(float(star_drift.drift(20, 600, math.pi / 2, 6, 8)), expected, 10)
        self.assertEqual(star_drift.drift(20, 30000, 0), math.inf)

    def test_a_short_time_loses_no_figures(self) -> None:
        tiny = float(star_drift.drift(20, 1e-6, 0.3, 5, 3))
        self.assertAlmostEqual(tiny / float(star_drift.drift(20, 1e-3, 0.3, 5, 3)), 1e-3, 9)

    def test_arrays_and_bad_input(self) -> None:
        self.assertEqual(np.shape(star_drift.drift(16, np.ones((3, 1)), np.zeros(4))), (3, 4))
        cases = (
            (AngleTooLarge, lambda: star_drift.drift(16, 13, np.array([0.0, 1.6]))),
            (OutOfRange, lambda: star_drift.drift(0, 13, 0)),
            (OutOfRange, lambda: star_drift.drift(16, -1, 0)),
            (NotANumber, lambda: star_drift.drift(16, 13, math.nan)),
            (AngleTooLarge, lambda: star_drift.longest_exposure(16, 0.01, 2)),
            (OutOfRange, lambda: star_drift.longest_exposure(16, 0, 1)),
            (AngleTooLarge, lambda: star_drift.declination_of(2, 0, 0)),
        )
        for error, call in cases:
            with self.subTest(error.__name__), self.assertRaises(error):
                call()


class ExposureTest(unittest.TestCase):
    @given(st.floats(10, 200), st.floats(0.002, 0.05), declinations, st.floats(0, 25))
    def test_the_worst_star_drifts_just_so_far(
        self, f: float, tolerance: float, declination: float, radius: float
    ) -> None:
        seconds = star_drift.longest_exposure(f, tolerance, declination, radius)
        if math.isinf(seconds):
            self.assertGreater(abs(declination), 1.4)
            return
        worst = star_field.farthest(f, seconds, declination, round_part(radius)).drift
        self.assertAlmostEqual(worst / tolerance, 1, 8)

    @given(st.floats(12, 100), declinations, st.floats(1, 25), st.integers(0, 10**6))
    def test_no_star_of_the_disc_drifts_farther(
        self, f: float, declination: float, radius: float, seed: int
    ) -> None:
        random = np.random.default_rng(seed)
        angle, share = random.uniform(0, 2 * math.pi, 300), np.sqrt(random.uniform(0, 1, 300))
        chords = star_drift.drift(
            f, 20, declination, radius * share * np.cos(angle), radius * share * np.sin(angle)
        )
        worst = star_field.farthest(f, 20, declination, round_part(radius)).drift
        self.assertLessEqual(np.max(np.asarray(chords)), worst * (1 + 1e-7))

    @given(st.floats(12, 100), st.floats(0.003, 0.03), st.floats(0, 1.3), st.floats(1.05, 3))
    def test_longer_lenses_and_stricter_wishes_take_less_time(
        self, f: float, tolerance: float, declination: float, more: float
    ) -> None:
        seconds = star_drift.longest_exposure(f, tolerance, declination)
        self.assertLess(star_drift.longest_exposure(f * more, tolerance, declination), seconds)
        self.assertGreater(star_drift.longest_exposure(f, tolerance * more, declination), seconds)

    @given(st.floats(10, 200), st.floats(0.002, 0.05), declinations, st.floats(0, 22))
    def test_nowhere_is_it_shorter_than_at_the_equator(
        self, f: float, tolerance: float, declination: float, radius: float
    ) -> None:
        worst = star_drift.longest_exposure(f, tolerance, star_drift.WORST_DECLINATION, radius)
        here = star_drift.longest_exposure(f, tolerance, declination, radius)
        self.assertGreaterEqual(here, worst * (1 - 1e-7))

    def test_the_rule_that_would_say_the_same(self) -> None:
        seconds = star_drift.longest_exposure(16, 0.0081, 0)
        self.assertAlmostEqual(star_drift.rule_number(16, seconds), 111.08, 2)
        self.assertAlmostEqual(star_drift.seconds_of_rule(500, 16), 31.25, 9)
        self.assertAlmostEqual(star_drift.seconds_of_rule(500, 16, 1.5), 500 / 24, 9)

    def test_what_a_lens_gathers_before_stars_trail(self) -> None:
        wide, long = (
            gathered(f, n, star_drift.longest_exposure(f, 0.008, 0))
            for f, n in ((16, 2.8), (50, 1.8))
        )
        # Time goes with 1/f and the pupil with f²: of stars 50·(2.8/1.8)² ÷ 16, of the sky by f.
        self.assertAlmostEqual(long.of_star / wide.of_star, 50 / 16 * (2.8 / 1.8) ** 2, 4)
        self.assertAlmostEqual(long.of_sky / wide.of_sky, 16 / 50 * (2.8 / 1.8) ** 2, 4)
        with self.assertRaises(OutOfRange):
            gathered(16, 2.8, math.inf)


class PointingTest(unittest.TestCase):
    def test_where_a_lens_points(self) -> None:
        # The pole stands due north as high as the latitude; due south, the equator at 90° − φ.
        latitude = math.radians(50)
        cases = ((0, 50, 90), (180, 40, 0), (90, 0, 0), (0, 90, 50), (180, 0, -40))
        for azimuth, altitude, expected in cases:
            with self.subTest(azimuth=azimuth, altitude=altitude):
                found = float(
                    star_drift.declination_of(
                        latitude, math.radians(azimuth), math.radians(altitude)
                    )
                )
                self.assertAlmostEqual(math.degrees(found), expected, 5)
