"""Shares of a frame by how far its stars drift, against a count of single pixels by matrices."""

from __future__ import annotations

import math
import unittest

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from optics.base.errors import OpticsError
from optics.sky import fractions, star_drift, star_field
from optics.sky.fractions import Framed
from optics.sky.parts import round_part

RATE = 2 * math.pi / 86164.0905  # rad/s: a turn in a sidereal day
FULL = Framed(36.0, 24.0)


def counted(f: float, seconds: float, declination: float, frame: Framed, most: float) -> float:
    """The share by brute force: every point of a fine net turned by a matrix about the pole."""
    low = max(frame.horizon, -frame.height / 2) if frame.horizon < frame.height / 2 else None
    bottom = -frame.height / 2 if low is None else low
    right, up = np.meshgrid(
        ((np.arange(601) + 0.5) / 601 - 0.5) * frame.width,
        bottom + (np.arange(401) + 0.5) / 401 * (frame.height / 2 - bottom),
    )
    roll = frame.roll or 0.0
    turn = np.array([[math.cos(roll), math.sin(roll)], [-math.sin(roll), math.cos(roll)]])
    x, y = np.tensordot(turn, np.stack([right, up]), axes=1)
    pole = np.array([0.0, math.cos(declination), math.sin(declination)])
    cross = np.array([[0, -pole[2], pole[1]], [pole[2], 0, -pole[0]], [-pole[1], pole[0], 0]])
    angle = RATE * seconds  # from ahead to +x, the way that stars go
    matrix = np.eye(3) + math.sin(angle) * cross + (1 - math.cos(angle)) * cross @ cross
    ahead = np.stack([x, y, np.full(x.shape, f)])
    after = np.tensordot(matrix, ahead, axes=1)
    with np.errstate(divide="ignore", invalid="ignore"):
        drift = np.hypot(f * after[0] / after[2] - x, f * after[1] / after[2] - y)
    drift = np.where(after[2] > 0, drift, np.inf)
    return float((drift <= most).mean())


class SharesTest(unittest.TestCase):
    @given(
        st.floats(10, 200),
        st.floats(1, 120),
        st.floats(-1.5, 1.5),
        st.floats(-math.pi, math.pi),
        st.sampled_from([-math.inf, -8.0, 0.0, 7.0, 30.0]),
        st.floats(0.6, 1.6),
    )
    def test_a_share_is_what_counting_says(
        self, f: float, seconds: float, declination: float, roll: float, horizon: float, of: float
    ) -> None:
        frame = Framed(36.0, 24.0, roll, horizon)
        middle = star_drift.drift(f, seconds, declination)
        most = max(of * middle, 1e-4)
        found = fractions.share_within(f, seconds, declination, frame, most)
        self.assertAlmostEqual(found, counted(f, seconds, declination, frame, most), delta=0.01)

    @given(st.floats(12, 100), st.floats(0.005, 0.1), st.floats(-1.5, 1.5), st.floats(0.05, 1))
    def test_so_long_keeps_so_much(
        self, f: float, most: float, declination: float, share: float
    ) -> None:
        for frame in (FULL, Framed(24.0, 36.0, 0.3)):
            longest = fractions.longest_for_share(f, most, declination, frame, share)
            if math.isinf(longest):
                continue
            kept = fractions.share_within(f, longest * 0.999, declination, frame, most)
            self.assertGreaterEqual(kept, share - 1e-9)
            beyond = fractions.share_within(f, longest * 1.02, declination, frame, most)
            self.assertLessEqual(beyond, share + 1e-9)
            drift = fractions.drift_of_share(f, longest, declination, frame, share)
            self.assertAlmostEqual(drift / most, 1, 6)

    def test_four_fifths_of_a_frame_that_many_know(self) -> None:
        """20 mm on 6000 pixels, 4 of them: 10 s hold four fifths, the corners reach 5, and 25 s
        would smear 13."""
        pitch = 36 / 6000
        longest = fractions.longest_for_share(20, 4 * pitch, 0.0, FULL, 0.8)
        self.assertTrue(10 < longest < 13)
        self.assertLess(fractions.drift_of_share(20, 10, 0.0, FULL, 0.8) / pitch, 4)
        corner = round_part(math.hypot(18, 12))
        for seconds, pixels in ((10, 5), (25, 13)):
            found = star_field.farthest(20, seconds, 0.0, corner).drift / pitch
            self.assertEqual(round(found), pixels)

    def test_nowhere_is_worse_than_the_equator(self) -> None:
        for f in (10.0, 14.0, 24.0, 85.0):
            for share in (0.5, 0.8, 1.0):
                equator = fractions.drift_of_share(f, 20, star_drift.WORST_DECLINATION, FULL, share)
                for degrees in range(5, 90, 5):
                    for side in (1, -1):
                        other = fractions.drift_of_share(
                            f, 20, side * math.radians(degrees), FULL, share
                        )
                        self.assertLessEqual(other, equator * (1 + 1e-9), (f, share, degrees))

    def test_not_knowing_how_it_is_held_is_the_worst_of_holding(self) -> None:
        held = [
            fractions.share_within(16, 15, 0.2, Framed(36, 24, math.radians(roll)), 0.02)
            for roll in range(0, 181, 15)
        ]
        unknown = fractions.share_within(16, 15, 0.2, FULL, 0.02)
        self.assertAlmostEqual(unknown, min(held), delta=0.005)

    def test_cells_of_the_frame(self) -> None:
        frame = Framed(36, 24, 0.4, -6.0)
        cells = fractions.over_frame(20, 12, 0.3, frame, 30)
        self.assertEqual(cells.drift.shape, (20, 30))
        self.assertTrue(np.all(np.isnan(cells.drift) == (cells.up < -6)))
        x = cells.right * math.cos(0.4) + cells.up * math.sin(0.4)
        y = cells.up * math.cos(0.4) - cells.right * math.sin(0.4)
        here = star_drift.drift(20, 12, 0.3, x[15, 3], y[15, 3])
        self.assertAlmostEqual(cells.drift[15, 3], here, 12)
        self.assertLess(cells.up[0, 0], cells.up[1, 0])

    def test_refusals(self) -> None:
        for wrong in (
            lambda: Framed(0, 24),
            lambda: fractions.share_within(20, -1, 0, FULL, 1),
            lambda: fractions.share_within(20, 1, 2, FULL, 1),
            lambda: fractions.share_within(20, 1, 0, FULL, 0),
            lambda: fractions.drift_of_share(20, 1, 0, FULL, 1.1),
            lambda: fractions.longest_for_share(20, 1, 0, FULL, 0),
        ):
            with self.assertRaises(OpticsError):
                wrong()
        self.assertEqual(
            fractions.longest_for_share(20, 10.0, 1.5, Framed(6, 4, 0.0), 0.8), math.inf
        )
