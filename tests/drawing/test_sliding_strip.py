"""The sliding strip as drawn: true to scale, brackets about the index, arms that stay on paper."""

from __future__ import annotations

import math
import unittest

from drawing import sliding_strip
from drawing.sliding_strip import POINTS
from optics import Kit
from optics.lens.sliding import sliding


class StripTest(unittest.TestCase):
    def test_true_to_scale(self) -> None:
        made = sliding(Kit(24.0, 0.025), (4.0, 8.0), 600.0, 170 * POINTS)
        drawn = sliding_strip.draw(made, "m")
        self.assertAlmostEqual((drawn.right - drawn.left) / POINTS, 170)
        self.assertAlmostEqual(drawn.check / POINTS, 50)
        self.assertAlmostEqual(drawn.width_mm * POINTS, drawn.width)
        for tick in drawn.ticks:
            self.assertAlmostEqual(tick.x, drawn.left + made.scale.x(tick.distance))
        self.assertEqual(drawn.ticks[-1].label, "∞")
        for bracket, one in zip(made.brackets, drawn.brackets, strict=True):
            self.assertAlmostEqual(drawn.index - one.start, bracket.near)
            self.assertAlmostEqual(one.end - drawn.index, bracket.far)
            self.assertLess(one.label_at, one.start)
        self.assertEqual([one.label for one in drawn.brackets], ["f/4", "f/8"])

    def test_what_is_longer_than_the_paper_is_cut_and_says_so(self) -> None:
        made = sliding(Kit(16.0, 0.03), (22.0,), 400.0, 200.0)
        (one,) = sliding_strip.draw(made, "ft").brackets
        self.assertTrue(one.cut_near and one.cut_far)
        self.assertEqual((one.start, one.end), (0.0, 228.0))
        self.assertGreaterEqual(one.label_at, 20)

    def test_rows_fit_their_paper(self) -> None:
        made = sliding(Kit(50.0, 0.03), (1.8, 2.8, 4.0, 5.6, 8.0, 11.0, 16.0), 1250.0, 480.0)
        drawn = sliding_strip.draw(made, "m")
        self.assertLess(max(one.y for one in drawn.brackets), drawn.slide_height - 5)
        self.assertGreater(drawn.scale_height_mm, 20)
        self.assertGreater(drawn.slide_height_mm, drawn.scale_height_mm)
        self.assertTrue(0 <= drawn.cost < 0.1)
        self.assertFalse(math.isnan(drawn.labels_at))
