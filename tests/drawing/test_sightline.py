"""The sightline's shapes, from numbers alone."""

from __future__ import annotations

import itertools
import math
import re
import unittest

from hypothesis import given
from hypothesis import strategies as st

from drawing import arms, sightline
from drawing.apart import spread
from drawing.scale import DistanceScale
from optics.base.settable import Span


def numbers(path: str) -> list[float]:
    return [float(n) for n in re.findall(r"-?\d+\.?\d*", path)]


class SpreadTest(unittest.TestCase):
    @given(st.lists(st.floats(0, 300), max_size=9), st.floats(1, 60))
    def test_apart_in_order_inside_and_no_farther_than_needed(
        self, wanted: list[float], gap: float
    ) -> None:
        placed = spread(wanted, gap, 0, 300)
        room = 300 / max(len(wanted) - 1, 1)
        order = sorted(range(len(wanted)), key=lambda i: wanted[i])
        for left, right in itertools.pairwise(order):
            self.assertGreaterEqual(placed[right] - placed[left], min(gap, room) - 1e-6)
        for x in placed:
            self.assertTrue(-1e-6 <= x <= 300 + 1e-6)

    def test_what_stands_apart_already_stays(self) -> None:
        self.assertEqual(spread([10, 200, 100], 24, 0, 300), [10, 200, 100])

    def test_two_at_one_place_make_way_equally(self) -> None:
        self.assertEqual(spread([100, 100], 24, 0, 300), [88, 112])


class DrawTest(unittest.TestCase):
    def draw(self, **changes: object) -> sightline.Sightline:
        scale = DistanceScale(700, math.inf, sightline.WIDE.left, sightline.WIDE.right)
        given_: dict[str, object] = {
            "ring": 2600,
            "ring_label": "ring at 2.6 m",
            "arms": arms.Arms((700, 2600, math.inf), (2.2, 0, 0.8)),
            "band": Span(1185, math.inf),
            "window": Span(2200, 3200),
            "subjects": [
                sightline.Subject("A", 1300, 0.84, "holds"),
                sightline.Subject("B", 1301, 0.84, "just"),
                sightline.Subject("D", 300, 7.25, "soft"),
            ],
        }
        return sightline.draw(sightline.WIDE, scale, "m", **{**given_, **changes})

    def test_the_band_ends_where_sharpness_does(self) -> None:
        line = self.draw()
        assert line.band is not None
        self.assertAlmostEqual(line.band.x, line.scale.x(1185), 1)
        self.assertEqual(line.band.end, sightline.WIDE.right)
        self.assertIn(f"H{line.band.x:.1f}", line.soft_path)

    def test_nothing_sharp_hatches_the_whole_axis(self) -> None:
        line = self.draw(band=None, window=None)
        self.assertEqual((line.band_path, line.window_path), ("", ""))
        xs = numbers(line.soft_path)
        self.assertEqual((min(xs[0], xs[2]), max(xs[0], xs[2])), (92, 912))

    def test_marks_at_one_place_are_both_legible_and_point_to_it(self) -> None:
        discs = {disc.letter: disc for disc in self.draw().discs}
        self.assertGreaterEqual(discs["B"].x - discs["A"].x, 2 * sightline.WIDE.disc)
        self.assertAlmostEqual(discs["A"].foot, discs["B"].foot, delta=1)
        self.assertIn(f"L{discs['A'].foot:.1f}", self.draw().stems["holds"])

    def test_blur_above_the_picture_is_said(self) -> None:
        discs = {disc.letter: disc for disc in self.draw().discs}
        self.assertEqual(discs["D"].above, "7.2×")
        self.assertGreater(discs["D"].y, sightline.WIDE.top)
        self.assertEqual(discs["A"].above, "")

    def test_the_label_of_the_ring_stays_in_the_picture(self) -> None:
        self.assertEqual(self.draw().handle.label_anchor, "start")
        self.assertEqual(self.draw(ring=math.inf).handle.label_anchor, "end")
        self.assertEqual(self.draw(ring=10).handle.share, 0)

    def test_samples_run_near_to_far_with_the_focus_as_vertex(self) -> None:
        scale = DistanceScale(700, math.inf, 0, 100)
        depths = arms.sample_depths(scale, 500, 9000, 2600)
        self.assertEqual(depths, sorted(depths))
        self.assertAlmostEqual(depths[0], 700)
        self.assertAlmostEqual(depths[-1], 9000)
        self.assertTrue(any(abs(d - 2600) < 1e-6 for d in depths))
        self.assertEqual(arms.sample_depths(scale, 500, math.inf, 2600)[-1], math.inf)
