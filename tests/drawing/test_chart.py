"""The chart of blur over aperture, a ring turned to an answer, and a tab on its clock."""

from __future__ import annotations

import itertools
import math
import re
import unittest

from hypothesis import given
from hypothesis import strategies as st

from drawing import chart, ring
from drawing.chart import Point
from optics.lens.ring import Ring

NUMBER = re.compile(r"-?\d+\.?\d*")


def places(path: str) -> list[tuple[float, float]]:
    """The corners of a path of straight lines."""
    numbers = [float(n) for n in NUMBER.findall(path)]
    return list(zip(numbers[::2], numbers[1::2], strict=True))


class ChartTest(unittest.TestCase):
    POINTS = tuple(
        Point(n, math.hypot(8 / n, n / 20), 8 / n, n / 20)
        for n in (4 * 2 ** (k / 2) for k in range(6))
    )

    def draw(self) -> chart.Chart:
        now = self.POINTS[3]
        named = [p.f_number for p in self.POINTS]
        return chart.draw(400, 200, self.POINTS, now, [("S", self.POINTS[4])], named)

    def test_stops_stand_evenly_and_blur_goes_up(self) -> None:
        picture = self.draw()
        worst = places(picture.worst)
        gaps = [b[0] - a[0] for a, b in itertools.pairwise(worst)]
        self.assertLess(max(gaps) - min(gaps), 0.01 * max(gaps))
        for (_, y), point in zip(worst, self.POINTS, strict=True):
            above = (picture.bottom - y) / (picture.bottom - picture.standard_y)
            self.assertAlmostEqual(above, point.worst, 1)
        self.assertEqual((picture.now.x, picture.now.y), worst[3])
        self.assertEqual((picture.dots[0].x, picture.dots[0].y), worst[4])

    def test_labels_are_apart_and_in_the_picture(self) -> None:
        picture = self.draw()
        xs = [tag.x for tag in picture.labels]
        self.assertTrue(all(b - a >= 30 for a, b in itertools.pairwise(xs)))
        self.assertTrue(all(0 < x < picture.width for x in xs))

    def test_one_aperture_alone_still_draws(self) -> None:
        alone = self.POINTS[:1]
        picture = chart.draw(400, 200, alone, alone[0], [], [4])
        self.assertNotIn("nan", picture.worst)


class TurnedTest(unittest.TestCase):
    @given(st.floats(12, 200), st.floats(4.2, 30), st.floats(0.5, 5), st.floats(1.0, 200))
    def test_the_answer_stands_under_the_index_and_the_window_about_it(
        self, focal_length: float, times: float, throw: float, farther: float
    ) -> None:
        closest = focal_length * times
        turned = Ring.unit_focusing(focal_length, throw, closest)
        focus = closest * farther
        window = (max(closest, focus * 0.9), focus * 1.2)
        size = ring.ON_THE_LENS
        picture = ring.turned_to(size, turned, closest, focus, window)
        (top_x, _), (foot_x, _) = places(picture.index)
        self.assertAlmostEqual(top_x, size.width / 2, 0)
        self.assertAlmostEqual(foot_x, size.width / 2, 0)
        xs = [float(n) for n in re.findall(r"[ML](-?\d+\.?\d*) ", picture.window)]
        self.assertLessEqual(min(xs), size.width / 2 + 1)
        self.assertGreaterEqual(max(xs), size.width / 2 - 1)
        for tick in picture.ticks:
            self.assertTrue(-1 <= tick.x <= size.width + 1)

    def test_a_tab_at_half_past_four(self) -> None:
        face = ring.dial(132, math.radians(135), (math.radians(120), math.radians(150)))
        self.assertGreater(face.x, face.half)
        self.assertGreater(face.y, face.half)
        self.assertAlmostEqual(face.x - face.half, face.y - face.half, 1)
        self.assertIn("0 0 1", face.window, "the short way round, clockwise")
