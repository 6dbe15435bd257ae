"""The frame under the turning sky: against quaternions over the ground, corners included."""

from __future__ import annotations

import math
import unittest

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from optics.base.errors import AngleTooLarge, NotANumber, OutOfRange
from optics.sky import parts, star_drift, star_field
from optics.sky.rotation import Place

Vector = np.ndarray[tuple[int], np.dtype[np.float64]]
latitudes = st.floats(-90, 90)
heights = st.floats(-10, 89.9)
azimuths = st.floats(0, 360)
W, H = 36.0, 24.0
CORNERS = ((W / 2, H / 2), (-W / 2, H / 2), (-W / 2, -H / 2), (W / 2, -H / 2))


def product(p: Vector, q: Vector) -> Vector:
    """Of two quaternions, the scalar first."""
    (a, v), (b, w) = (p[0], p[1:]), (q[0], q[1:])
    return np.array([a * b - v @ w, *(a * w + b * v + np.cross(v, w))])


class Ground:
    """A level camera on the ground, in axes east, north and up; stars turned by quaternions about
    the pole of the sky. Written without the core and without a declination."""

    def __init__(self, latitude: float, azimuth: float, height: float) -> None:
        a, h, p = (math.radians(v) for v in (azimuth, height, latitude))
        self.ahead = np.array([math.cos(h) * math.sin(a), math.cos(h) * math.cos(a), math.sin(h)])
        self.right = np.array([math.cos(a), -math.sin(a), 0.0])
        self.up = np.cross(self.right, self.ahead)
        self.pole = np.array([0.0, math.cos(p), math.sin(p)])

    def then(self, f: float, seconds: float, x: float, y: float) -> tuple[float, float]:
        """Where a star of the frame's point (x right, y up) is after a time: stars go round the
        northern pole against the turning of the earth, from east through south to west."""
        star = f * self.ahead + x * self.right + y * self.up
        half = -0.5 * star_drift.SKY_TURNS * seconds
        turn = np.array([math.cos(half), *(math.sin(half) * self.pole)])
        back = turn * np.array([1, -1, -1, -1])
        moved = product(product(turn, np.array([0.0, *star])), back)[1:]
        deep = moved @ self.ahead
        return f * (moved @ self.right) / deep, f * (moved @ self.up) / deep

    def drift(self, f: float, seconds: float, x: float, y: float) -> float:
        then = self.then(f, seconds, x, y)
        return math.hypot(then[0] - x, then[1] - y)


def aim(latitude: float, azimuth: float, height: float) -> star_drift.Aim:
    return star_drift.aimed(math.radians(latitude), math.radians(azimuth), math.radians(height))


class FrameTest(unittest.TestCase):
    @given(latitudes, azimuths, heights, st.floats(10, 100), st.floats(5, 900))
    def test_every_corner_drifts_as_quaternions_turn_it(
        self, latitude: float, azimuth: float, height: float, f: float, seconds: float
    ) -> None:
        here, ground = aim(latitude, azimuth, height), Ground(latitude, azimuth, height)
        if abs(math.degrees(here.declination)) > 89.999:
            return  # north has no direction there; the test below turns the whole frame
        part = parts.frame_part(W, H, here.roll)
        for x, y in CORNERS:
            west = x * math.cos(here.roll) + y * math.sin(here.roll)
            north = y * math.cos(here.roll) - x * math.sin(here.roll)
            found = star_drift.drift(f, seconds, here.declination, west, north)
            self.assertAlmostEqual(found, ground.drift(f, seconds, x, y), delta=1e-6)
            held = part.held(Place(west, north))
            self.assertAlmostEqual(held.x, x)
            self.assertAlmostEqual(held.y, y)

    @given(latitudes, azimuths, heights, st.floats(10, 100), st.floats(0.004, 0.05))
    def test_the_longest_time_is_when_the_worst_corner_has_gone_so_far(
        self, latitude: float, azimuth: float, height: float, f: float, tolerance: float
    ) -> None:
        here, ground = aim(latitude, azimuth, height), Ground(latitude, azimuth, height)
        part = parts.frame_part(W, H, here.roll)
        seconds = star_field.longest(f, tolerance, here.declination, part)
        self.assertLess(seconds, 86400)
        # All along the edges, and not only in the corners; in steps of a sixtieth of a side.
        edges = [(W / 2 * s, y) for s in np.linspace(-1, 1, 61) for y in (-H / 2, H / 2)]
        edges += [(x, H / 2 * s) for s in np.linspace(-1, 1, 61) for x in (-W / 2, W / 2)]
        worst = max(ground.drift(f, seconds, x, y) for x, y in edges)
        self.assertAlmostEqual(worst / tolerance, 1, delta=2e-4)

    def test_at_every_declination_from_pole_to_pole(self) -> None:
        """A camera at the equator that looks along the meridian: each pole lies on the horizon."""
        for degrees in range(-90, 91, 5):
            north = degrees >= 0
            here = aim(0, 0 if north else 180, 90 - abs(degrees))
            self.assertAlmostEqual(math.degrees(here.declination), degrees, 5)
            ground = Ground(0, 0 if north else 180, 90 - abs(degrees))
            part = parts.frame_part(W, H, here.roll)
            worst = star_field.farthest(20, 30, here.declination, part)
            drifts = {corner: ground.drift(20, 30, *corner) for corner in CORNERS}
            self.assertAlmostEqual(worst.drift, max(drifts.values()), delta=1e-8)
            # And the exposure: then the first of the corners has gone as far as it may.
            seconds = star_field.longest(20, 0.018, here.declination, part)
            gone = max(ground.drift(20, seconds, *corner) for corner in CORNERS)
            self.assertAlmostEqual(gone / 0.018, 1, delta=1e-6)
            held = part.held(worst.start)
            self.assertAlmostEqual(drifts[(round(held.x), round(held.y))], worst.drift, delta=1e-8)

    @given(latitudes, azimuths, heights, st.floats(10, 60))
    def test_a_frame_is_never_worse_than_the_disc_round_it(
        self, latitude: float, azimuth: float, height: float, f: float
    ) -> None:
        here = aim(latitude, azimuth, height)
        frame = parts.frame_part(W, H, here.roll)
        disc = parts.round_part(math.hypot(W, H) / 2)
        most = star_field.farthest(f, 30, here.declination, disc).drift
        worst = star_field.farthest(f, 30, here.declination, frame).drift
        least = star_field.calmest(f, 30, here.declination, frame).drift
        self.assertLessEqual(worst, most * (1 + 1e-7))
        self.assertLessEqual(least, float(star_drift.drift(f, 30, here.declination)) * (1 + 1e-12))

    @given(latitudes, azimuths, heights, st.floats(12, 60), st.integers(0, 10**6))
    def test_no_star_of_the_frame_drifts_less_than_the_calmest(
        self, latitude: float, azimuth: float, height: float, f: float, seed: int
    ) -> None:
        here = aim(latitude, azimuth, height)
        part = parts.frame_part(W, H, here.roll)
        least = star_field.calmest(f, 30, here.declination, part)
        random = np.random.default_rng(seed)
        x, y = random.uniform(-W / 2, W / 2, 400), random.uniform(-H / 2, H / 2, 400)
        sine, cosine = math.sin(here.roll), math.cos(here.roll)
        drifts = star_drift.drift(
            f, 30, here.declination, x * cosine + y * sine, y * cosine - x * sine
        )
        self.assertLessEqual(least.drift, np.min(np.asarray(drifts)) + 1e-6)

    def test_which_corner(self) -> None:
        """Low in the south, the upper corners are nearer the equator, where stars go fastest."""
        south = aim(50, 180, 15)
        worst = star_field.farthest(16, 20, south.declination, parts.frame_part(W, H, 0.0))
        self.assertGreater(worst.start.y, 0, "towards the equator")
        self.assertAlmostEqual(abs(worst.start.x), W / 2)

    @given(latitudes, azimuths, st.floats(0, 30), st.floats(12, 60))
    def test_nothing_below_the_horizon_counts(
        self, latitude: float, azimuth: float, height: float, f: float
    ) -> None:
        here = aim(latitude, azimuth, height)
        level = -f * math.tan(math.radians(height))
        sky = parts.frame_part(W, H, here.roll, level)
        whole = parts.frame_part(W, H, here.roll)
        for found in (
            star_field.farthest(f, 30, here.declination, sky),
            star_field.calmest(f, 30, here.declination, sky),
        ):
            self.assertGreaterEqual(sky.held(found.start).y, level - 1e-9)
        self.assertLessEqual(
            star_field.farthest(f, 30, here.declination, sky).drift,
            star_field.farthest(f, 30, here.declination, whole).drift * (1 + 1e-9),
        )

    def test_the_pole_in_the_picture_stands_still(self) -> None:
        north = aim(50, 0, 45)
        part = parts.frame_part(W, H, north.roll)
        still = star_field.calmest(24, 600, north.declination, part)
        self.assertEqual(still.drift, 0.0)
        held = part.held(still.start)
        self.assertAlmostEqual(held.x, 0)
        self.assertAlmostEqual(held.y, 24 * math.tan(math.radians(5)))
        moving = star_field.calmest(100, 600, aim(50, 0, 20).declination, part)
        self.assertGreater(moving.drift, 0)


class TrailTest(unittest.TestCase):
    @given(latitudes, azimuths, heights, st.floats(-18, 18), st.floats(-12, 12))
    def test_a_trail_goes_where_quaternions_lead(
        self, latitude: float, azimuth: float, height: float, x: float, y: float
    ) -> None:
        here, ground = aim(latitude, azimuth, height), Ground(latitude, azimuth, height)
        if abs(math.degrees(here.declination)) > 89.999:
            return
        part = parts.frame_part(W, H, here.roll)
        sine, cosine = math.sin(here.roll), math.cos(here.roll)
        start = Place(x * cosine + y * sine, y * cosine - x * sine)
        times = np.array([0.0, 600.0, 1800.0])
        way = star_field.trails(24, times, here.declination, [start.x], [start.y])
        for seconds, west, north in zip(times, way.x[0], way.y[0], strict=True):
            held = part.held(Place(float(west), float(north)))
            right, up = ground.then(24, float(seconds), x, y)
            self.assertAlmostEqual(held.x, right, delta=1e-6)
            self.assertAlmostEqual(held.y, up, delta=1e-6)

    def test_a_trail_ends_where_the_star_leaves_the_view(self) -> None:
        way = star_field.trails(16, np.linspace(0, 40_000, 50), 0.0, [10.0, -10.0], [0.0, 3.0])
        self.assertEqual(way.x.shape, (2, 50))
        seen = np.isfinite(way.x[0])
        self.assertTrue(seen[:5].all())
        self.assertFalse(seen[-5:].any())


class BadInputTest(unittest.TestCase):
    def test_is_named(self) -> None:
        part = parts.round_part(20)
        cases = (
            (OutOfRange, lambda: parts.round_part(-1)),
            (OutOfRange, lambda: parts.frame_part(0, 24, 0)),
            (NotANumber, lambda: parts.frame_part(36, 24, math.nan)),
            (NotANumber, lambda: parts.frame_part(36, 24, 0, math.nan)),
            (OutOfRange, lambda: star_field.farthest(0, 20, 0, part)),
            (OutOfRange, lambda: star_field.calmest(20, -1, 0, part)),
            (AngleTooLarge, lambda: star_field.longest(20, 0.01, 2, part)),
            (OutOfRange, lambda: star_field.longest(20, 0, 0, part)),
            (AngleTooLarge, lambda: star_drift.aimed(2, 0, 0)),
        )
        for error, call in cases:
            with self.subTest(error.__name__), self.assertRaises(error):
                call()


if __name__ == "__main__":
    unittest.main()
