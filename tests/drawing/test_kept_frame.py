"""The small frame: what is beyond is marked where it is, and nothing else."""

from __future__ import annotations

import re
import unittest

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from drawing import kept_frame

_RUN = re.compile(r"M([\d.]+) ([\d.]+)H([\d.]+)v([\d.]+)H[\d.]+Z")


class KeptFrameTest(unittest.TestCase):
    @given(st.integers(0, 2**24 - 1), st.booleans())
    def test_the_marked_area_is_that_of_the_cells(self, bits: int, upright: bool) -> None:
        cells = np.array([bits >> at & 1 for at in range(24)], dtype=float).reshape(4, 6)
        width, height = (24.0, 36.0) if upright else (36.0, 24.0)
        drawn = kept_frame.draw(width, height, cells, 0.5)
        self.assertEqual(max(drawn.width, drawn.height), kept_frame.LONG)
        marked = 0.0
        for left, top, right, tall in _RUN.findall(drawn.beyond):
            marked += (float(right) - float(left)) * float(tall)
            self.assertLessEqual(float(right), drawn.width + 0.1)
            self.assertLessEqual(float(top) + float(tall), drawn.height + 0.1)
        share = marked / (drawn.width * drawn.height)
        self.assertAlmostEqual(share, cells.mean(), delta=0.02)
        self.assertEqual(drawn.ground, "")

    def test_what_is_high_is_drawn_high_and_no_sky_is_apart(self) -> None:
        cells = np.array([[np.nan, np.nan], [0.1, 0.1], [0.1, 0.9]])
        drawn = kept_frame.draw(30.0, 30.0, cells, 0.5)
        ((left, top, _, _),) = _RUN.findall(drawn.beyond)
        self.assertEqual((float(left), float(top)), (drawn.width / 2, 0.0))
        ((left, top, _, tall),) = _RUN.findall(drawn.ground)
        self.assertEqual(float(left), 0.0)
        self.assertAlmostEqual(float(top) + float(tall), drawn.height, 1)

    def test_just_as_far_is_within(self) -> None:
        self.assertEqual(kept_frame.draw(30, 20, [[0.5]], 0.5).beyond, "")
