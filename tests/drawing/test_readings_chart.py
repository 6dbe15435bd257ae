"""Readings and sharpness drawn, and maps of differences: what stands where."""

from __future__ import annotations

import itertools
import math
import unittest

from drawing import readings_chart, sharpness_chart
from drawing.difference_map import Box, boxes
from drawing.readings_chart import Readings
from drawing.sharpness_chart import Blur


class ReadingsChartTest(unittest.TestCase):
    def test_everything_is_inside_and_in_proportion(self) -> None:
        rows = [Readings((1.0, 2.0, 3.0), 2.0, 0.25, (0.0, 4.0)), Readings((-1.0,), -1.0, 0.1)]
        made = readings_chart.drawn(rows)
        first, second = made.rows
        for x in (*first.points, first.low, first.high, *second.points):
            self.assertTrue(readings_chart.LEFT <= x <= readings_chart.RIGHT)
        step = first.points[1] - first.points[0]
        self.assertAlmostEqual(first.points[2] - first.points[1], step, delta=0.02)
        self.assertAlmostEqual(first.high - first.low, step, delta=0.02, msg="twice the error")
        assert made.zero is not None
        self.assertAlmostEqual(first.points[0] - made.zero, step, delta=0.02)
        self.assertGreater(second.y, first.y)
        self.assertGreater(made.height, made.foot)

    def test_ticks_are_round_and_few_and_zero_may_be_out_of_sight(self) -> None:
        made = readings_chart.drawn([Readings((0.0181, 0.0186, 0.019), 0.0185, 0.0002)], False)
        self.assertIsNone(made.zero)
        self.assertLessEqual(len(made.ticks), 7)
        self.assertGreaterEqual(len(made.ticks), 2)
        for tick in made.ticks:
            self.assertAlmostEqual(tick.value / 1e-4, round(tick.value / 1e-4), places=6)

    def test_readings_that_are_all_one_can_be_drawn(self) -> None:
        made = readings_chart.drawn([Readings((0.0, 0.0, 0.0), 0.0, 0.0)])
        self.assertEqual(len({*made.rows[0].points, made.zero}), 1)


class SharpnessChartTest(unittest.TestCase):
    def test_sharper_is_lower_and_names_keep_apart(self) -> None:
        blurs = [Blur(2.0, 0.008, 0.0002, 0.012, 0.0002, 0.002),
                 Blur(8.0, 0.0090, 0.0002, 0.0091, 0.0002, 0.0088)]  # fmt: skip
        made = sharpness_chart.drawn(blurs, 0.015)
        assert made.corner is not None
        assert made.standard is not None
        self.assertGreater(made.centre.points[0].y, made.corner.points[0].y)
        self.assertLess(made.standard, made.corner.points[0].y)
        names = sorted((made.centre.name_y, made.corner.name_y, made.ideal.name_y))
        for one, other in itertools.pairwise(names):
            self.assertGreaterEqual(other - one, 16.9)
        self.assertLess(made.apertures[0].at, made.apertures[1].at)

    def test_corners_out_of_the_frame_and_a_loose_standard_are_left_out(self) -> None:
        made = sharpness_chart.drawn([Blur(4.0, 0.006, 0.0, math.nan, math.nan, 0.004)], 0.9)
        self.assertIsNone(made.corner)
        self.assertIsNone(made.standard)


class DifferenceMapTest(unittest.TestCase):
    def test_runs_and_like_rows_become_one_box_each(self) -> None:
        says = [["a", "a", "-", "b"], ["a", "a", "-", "b"], ["-", "a", "a", "b"]]
        self.assertEqual(
            boxes(says, 10, frozenset("-")),
            (Box(0, 0, 20, 20, "a"), Box(30, 0, 10, 30, "b"), Box(10, 20, 20, 10, "a")),
        )

    def test_every_patch_is_drawn_once(self) -> None:
        says = [["a" if (r * 7 + c * 3) % 4 else "-" for c in range(9)] for r in range(6)]
        made = boxes(says, 1, frozenset("-"))
        drawn = [(x, y) for b in made for x in range(b.x, b.x + b.width)
                 for y in range(b.y, b.y + b.height)]  # fmt: skip
        wanted = {(c, r) for r in range(6) for c in range(9) if says[r][c] == "a"}
        self.assertEqual(len(drawn), len(wanted))
        self.assertEqual(set(drawn), wanted)
