"""Streaks over pixels: all to one scale, as long and as wide as they are."""

from __future__ import annotations

import math
import re
import unittest

from drawing import streaks
from drawing.streaks import Trace


def length(path: str) -> float:
    x1, y1, x2, y2 = (float(n) for n in re.findall(r"-?\d+(?:\.\d+)?", path))
    return math.hypot(x2 - x1, y2 - y1)


class StreaksTest(unittest.TestCase):
    def test_to_one_scale(self) -> None:
        drawn = streaks.draw([Trace("a", 3, 0, 1), Trace("b", 0, -6, 1), Trace("c", 3, 4, 2)])
        per = streaks.SIDE / drawn.across
        for patch, pixels in zip(drawn.patches, (3, 6, 5), strict=True):
            self.assertAlmostEqual(length(patch.streak), pixels * per, delta=0.2)
            self.assertFalse(patch.cut)
        self.assertAlmostEqual(drawn.patches[2].wide, 2 * per, delta=0.06)

    def test_patches_stand_beside_each_other(self) -> None:
        drawn = streaks.draw([Trace("a", 1, 0, 1)] * 3)
        xs = [patch.x for patch in drawn.patches]
        self.assertEqual(xs, [0, streaks.SIDE + streaks.GAP, 2 * (streaks.SIDE + streaks.GAP)])
        self.assertEqual(drawn.width, 3 * streaks.SIDE + 2 * streaks.GAP)

    def test_what_is_too_long_is_cut_at_the_edge(self) -> None:
        drawn = streaks.draw([Trace("a", 900, 100, 1), Trace("b", 0, 0, 1)])
        self.assertTrue(drawn.patches[0].cut)
        self.assertLess(length(drawn.patches[0].streak), streaks.SIDE)
        self.assertFalse(drawn.patches[1].cut)

    def test_a_star_that_stands_is_a_dot(self) -> None:
        drawn = streaks.draw([Trace("a", 0, 0, 1.5)])
        self.assertLess(length(drawn.patches[0].streak), 0.1)
        self.assertGreater(drawn.patches[0].wide, 1)


if __name__ == "__main__":
    unittest.main()
