"""Stretches of sharpness on one axis, a row each."""

from __future__ import annotations

import math
import unittest

from drawing import bands
from drawing.bands import Stretch
from optics.base.settable import Span


class BandsTest(unittest.TestCase):
    def test_all_rows_on_one_axis(self) -> None:
        rows = (
            Stretch("Sky", "f/2", Span(4200, math.inf), 22_000),
            Stretch("Ground", "f/2.8", Span(1500, 4700), 2200),
        )
        drawn = bands.draw(rows, 760, "m")
        sky, ground = drawn.rows
        self.assertLess(sky.bar_x, ground.bar_x + ground.bar_width, "they overlap")
        self.assertGreater(sky.bar_x, ground.bar_x)
        self.assertLess(sky.bar_y, ground.bar_y)
        self.assertEqual([label for _, label in drawn.labels][-1], "∞")

    def test_where_nothing_is_sharp_there_is_an_axis_all_the_same(self) -> None:
        nothing = Stretch("Sky", "f/22", None, math.inf)
        drawn = bands.draw((nothing,), 760, "m")
        self.assertIsNone(drawn.rows[0].stretch.held)
        self.assertEqual(drawn.rows[0].bar_width, 0)
        self.assertTrue(drawn.labels)


if __name__ == "__main__":
    unittest.main()
