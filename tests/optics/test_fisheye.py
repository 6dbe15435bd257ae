"""Fisheyes under stars, against counting points by matrices with formulas of this file's own."""

from __future__ import annotations

import math
import unittest

import numpy as np
import numpy.typing as npt
from hypothesis import given
from hypothesis import strategies as st

from optics.base.errors import OpticsError
from optics.sky import fractions, parts, projection, star_drift, star_field
from optics.sky.fractions import Framed
from optics.sky.projection import Projection
from optics.sky.rotation import Place

RATE = 2 * math.pi / 86164.0905
FISHEYES = (Projection.EQUIDISTANT, Projection.EQUISOLID)
Field = npt.NDArray[np.float64]


def bent(kind: Projection, f: float, angle: Field) -> Field:
    return f * angle if kind is Projection.EQUIDISTANT else 2 * f * np.sin(angle / 2)


def moved(
    kind: Projection, f: float, seconds: float, declination: float, x: Field, y: Field
) -> tuple[Field, Field]:
    """How far stars go and how far from the axis they start, by a matrix about the pole."""
    radius = np.hypot(x, y)
    at = (
        radius / f
        if kind is Projection.EQUIDISTANT
        else 2 * np.arcsin(np.minimum(radius / (2 * f), 1))
    )
    way = np.arctan2(y, x)
    start = np.stack([np.sin(at) * np.cos(way), np.sin(at) * np.sin(way), np.cos(at)])
    pole = np.array([0.0, math.cos(declination), math.sin(declination)])
    cross = np.array([[0, -pole[2], pole[1]], [pole[2], 0, -pole[0]], [-pole[1], pole[0], 0]])
    angle = RATE * seconds
    matrix = np.eye(3) + math.sin(angle) * cross + (1 - math.cos(angle)) * cross @ cross
    then = np.tensordot(matrix, start, axes=1)
    out = bent(kind, f, np.arccos(np.clip(then[2], -1, 1)))
    turned = np.arctan2(then[1], then[0])
    return np.hypot(out * np.cos(turned) - x, out * np.sin(turned) - y), at


def net(width: float, height: float) -> tuple[Field, Field]:
    right, up = np.meshgrid(
        ((np.arange(211) + 0.5) / 211 - 0.5) * width, ((np.arange(141) + 0.5) / 141 - 0.5) * height
    )
    return right, up


def in_sky(right: Field, up: Field, at: Field, altitude: float) -> npt.NDArray[np.bool_]:
    """Which directions are above a level horizon, by the cosine rule to the zenith."""
    upwards = np.where(np.hypot(right, up) > 0, up / np.maximum(np.hypot(right, up), 1e-12), 0)
    over = np.cos(at) * math.sin(altitude) + np.sin(at) * upwards * math.cos(altitude)
    return np.asarray((over >= 0) & (at <= math.pi / 2))


CASES = (
    st.sampled_from(FISHEYES),
    st.floats(7.0, 18.0),
    st.floats(2, 200),
    st.floats(-1.5, 1.5),
    st.floats(-math.pi, math.pi),
)


class FisheyeTest(unittest.TestCase):
    @given(*CASES, st.sampled_from([None, 0.1, 0.6, 1.2]), st.floats(0.5, 1.5))
    def test_a_share_is_what_counting_says(
        self,
        kind: Projection,
        f: float,
        seconds: float,
        declination: float,
        roll: float,
        altitude: float | None,
        of: float,
    ) -> None:
        horizon = -math.inf if altitude is None else -float(bent(kind, f, np.array(altitude)))
        frame = Framed(36.0, 24.0, roll, horizon, kind)
        most = max(of * f * RATE * seconds * max(math.cos(declination), 0.3), 1e-4)
        right, up = net(36.0, 24.0)
        sine, cosine = math.sin(roll), math.cos(roll)
        x, y = right * cosine + up * sine, up * cosine - right * sine
        drift, at = moved(kind, f, seconds, declination, x, y)
        sky = in_sky(right, up, at, math.pi / 2 if altitude is None else altitude)
        found = fractions.share_within(f, seconds, declination, frame, most)
        self.assertAlmostEqual(found, float((drift[sky] <= most).mean()), delta=0.01)

    @given(*CASES, st.floats(0.05, 1.4))
    def test_the_worst_and_the_calmest_star_of_a_frame(
        self,
        kind: Projection,
        f: float,
        seconds: float,
        declination: float,
        roll: float,
        altitude: float,
    ) -> None:
        part = parts.fisheye_part(36.0, 24.0, roll, f, kind, altitude)
        right, up = net(36.0, 24.0)
        sine, cosine = math.sin(roll), math.cos(roll)
        x, y = right * cosine + up * sine, up * cosine - right * sine
        drift, at = moved(kind, f, seconds, declination, x, y)
        drift = drift[in_sky(right, up, at, altitude)]
        worst = star_field.farthest(f, seconds, declination, part).drift
        least = star_field.calmest(f, seconds, declination, part).drift
        self.assertGreaterEqual(worst, drift.max() * 0.999)
        self.assertLessEqual(worst, drift.max() * 1.01)
        self.assertLessEqual(least, drift.min() + 0.01 * worst)
        longest = star_field.longest(f, worst, declination, part)
        self.assertAlmostEqual(longest / seconds, 1, 4)

    def test_a_single_star(self) -> None:
        for kind in FISHEYES:
            for x, y in ((0.0, 0.0), (9.0, -4.0), (-3.0, 11.0)):
                with self.subTest(kind, x=x, y=y):
                    drift, _ = moved(kind, 10.0, 60.0, 0.4, np.array(x), np.array(y))
                    found = star_drift.drift(10.0, 60.0, 0.4, x, y, kind)
                    self.assertAlmostEqual(found / float(drift), 1, 6)
                    then = star_drift.where_after(10.0, 60.0, 0.4, x, y, kind)
                    self.assertAlmostEqual(math.hypot(then.x - x, then.y - y), found)
                    lasts = star_field.longest_of(10.0, found, 0.4, Place(x, y), kind)
                    self.assertAlmostEqual(lasts, 60.0, 4)
                    way = star_field.trails(10.0, [0, 60], 0.4, [x], [y], kind)
                    self.assertAlmostEqual(float(way.x[0, 1]), then.x)

    def test_the_pole_stands_still(self) -> None:
        for kind in Projection:
            for declination in (0.3, 1.2, -0.8):
                pole = star_field.pole_at(14.0, declination, kind)
                assert pole is not None
                moves = star_drift.drift(14.0, 3000.0, declination, pole.x, pole.y, kind)
                self.assertAlmostEqual(float(moves), 0.0, 9)
        self.assertIsNone(star_field.pole_at(14.0, 0.0, Projection.EQUISOLID))

    def test_beyond_the_rim_there_are_no_stars(self) -> None:
        for kind, edge in ((Projection.EQUIDISTANT, 8 * math.pi / 2), (FISHEYES[1], 8 * 2**0.5)):
            self.assertAlmostEqual(projection.rim(kind, 8.0), edge)
            self.assertEqual(star_drift.drift(8.0, 60.0, 0.4, edge * 1.01, 0.0, kind), 0.0)
            self.assertGreater(star_drift.drift(8.0, 60.0, 0.4, edge * 0.99, 0.0, kind), 0.0)
        cells = fractions.over_frame(8.0, 60.0, 0.4, Framed(36, 24, 0.0, -math.inf, kind), 36)
        self.assertTrue(np.isnan(cells.drift[0, 0]))
        self.assertFalse(np.isnan(cells.drift[12, 18]))

    def test_a_long_lens_draws_all_alike(self) -> None:
        """Within a degree of the axis there is no difference."""
        for kind in FISHEYES:
            straight = star_drift.drift(600.0, 30.0, 0.7, 9.0, 3.0)
            self.assertAlmostEqual(
                star_drift.drift(600.0, 30.0, 0.7, 9.0, 3.0, kind) / straight, 1, 3
            )

    @given(st.sampled_from(tuple(Projection)), st.floats(6, 50), st.floats(-1.5, 1.5))
    def test_angles_and_places(self, kind: Projection, f: float, angle: float) -> None:
        radius = projection.radius_of(kind, f, angle)
        self.assertAlmostEqual(projection.angle_of(kind, f, radius), angle, 9)

    def test_the_sky_all_under_the_frame_counts_it_whole(self) -> None:
        low = Framed(36.0, 24.0, 0.0, 30.0, Projection.EQUISOLID)
        whole = Framed(36.0, 24.0, 0.0, -math.inf, Projection.EQUISOLID)
        said = [fractions.share_within(16, 30, 0.3, one, 0.03) for one in (low, whole)]
        self.assertAlmostEqual(*said)

    def test_errors(self) -> None:
        for bad in (
            lambda: projection.radius_of(Projection.EQUISOLID, 0.0, 0.1),
            lambda: projection.radius_of(Projection.EQUISOLID, 10.0, 1.6),
            lambda: projection.angle_of(Projection.EQUISOLID, 10.0, math.nan),
            lambda: parts.fisheye_part(0.0, 24.0, 0.0, 8.0, Projection.EQUISOLID),
            lambda: parts.fisheye_part(36.0, 24.0, 0.0, 8.0, Projection.EQUISOLID, 2.0),
        ):
            with self.assertRaises(OpticsError):
                bad()
