"""The sliding strip as drawn: true to scale, brackets about the index, arms that stay on paper."""

from __future__ import annotations

import math
import unittest

from drawing import ring_strip, sliding_strip
from drawing.sliding_strip import POINTS
from optics import Kit, Ring
from optics.lens import ring_strip as ring_strips
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
        self.assertTrue(one.above, "over the bracket, for beside it is no paper")

    def test_rows_fit_their_paper(self) -> None:
        made = sliding(Kit(50.0, 0.03), (1.8, 2.8, 4.0, 5.6, 8.0, 11.0, 16.0), 1250.0, 480.0)
        drawn = sliding_strip.draw(made, "m")
        self.assertLess(max(one.y for one in drawn.brackets), drawn.slide_height - 5)
        self.assertGreater(drawn.scale_height_mm, 20)
        self.assertGreater(drawn.slide_height_mm, drawn.scale_height_mm)
        self.assertTrue(0 <= drawn.cost < 0.1)
        self.assertFalse(math.isnan(drawn.labels_at))


class RingStripTest(unittest.TestCase):
    def strip(self, throw: float, *, left: bool = False) -> ring_strip.Strip:
        ring = Ring.unit_focusing(50.0, throw, 600.0)
        made = ring_strips.ring_strip(ring, Kit(50.0, 0.03), (2.8, 8.0, 16.0), 70.0, 600.0)
        return ring_strip.draw(made, "m", infinity_left=left)

    def test_true_to_scale_and_in_its_sense(self) -> None:
        right, left = self.strip(2.0), self.strip(2.0, left=True)
        (one,), (other,) = right.pieces, left.pieces
        self.assertAlmostEqual(one.width_mm - 28 / POINTS, 70.0)
        self.assertEqual((one.ticks[-1].label, other.ticks[0].label), ("∞", "∞"))
        for tick, mirrored in zip(one.ticks, reversed(other.ticks), strict=True):
            self.assertAlmostEqual(tick.x + mirrored.x, one.width)

    def test_a_long_one_is_parted_and_says_where_it_joins(self) -> None:
        found = self.strip(8.0).pieces
        self.assertEqual([piece.joins for piece in found], [True, False])
        self.assertLessEqual(max(piece.width_mm for piece in found), 260)
        self.assertAlmostEqual(sum(piece.width_mm - 28 / POINTS for piece in found), 280.0)

    def test_pairs_stand_about_the_index(self) -> None:
        found = self.strip(2.0)
        for label in ("16",):
            at = [mark.x for mark in found.marks if mark.label == label]
            self.assertEqual(len(at), 2)
            self.assertLess(min(at), found.index)
            self.assertGreater(max(at), found.index)
        self.assertLess(max(mark.x for mark in found.marks), found.index_width)
        self.assertGreater(found.height_mm, 8)
        self.assertGreater(found.index_width_mm, 50)
