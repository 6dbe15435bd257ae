"""Where charts and finders have their middle: in the middle of what they are drawn into."""

from __future__ import annotations

import unittest

from drawing import shift_chart
from drawing.coming import Along, Coming


class PlacedTest(unittest.TestCase):
    def test_no_shift_stands_halfway_and_all_of_it_within_the_chart(self) -> None:
        chart = shift_chart.drawn(
            [(1.8, 0.0, 0.001), (4.0, 0.02, 0.002), (8.0, -0.01, 0.002)], 0.03
        )
        self.assertEqual(chart.zero, (shift_chart.TOP + shift_chart.BOTTOM) / 2)
        self.assertEqual(chart.points[0].y, chart.zero)
        for point in chart.points:
            self.assertTrue(shift_chart.TOP <= point.y <= shift_chart.BOTTOM, point)
        self.assertLess(chart.points[1].y, chart.zero, "farther is upwards")
        self.assertGreater(chart.points[2].y, chart.zero)

    def test_the_horizon_runs_through_the_middle_of_the_finder(self) -> None:
        flat = Along(0.0, 1.0)
        finder = Coming(
            600.0, 400.0, flat, flat, (0.0, 1.0), (), "", "", (360.0, 240.0), 6e3, 100.0, 80.0, 0.0
        )
        self.assertEqual(finder.horizon, 120.0)
