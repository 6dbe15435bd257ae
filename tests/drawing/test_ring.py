"""Rings and frames as drawn: in order, within their picture, labels apart."""

from __future__ import annotations

import itertools
import math
import re
import unittest

from hypothesis import given
from hypothesis import strategies as st

from drawing import bands, frames, ring
from optics.base.formats import BY_KEY, FORMATS
from optics.base.settable import Span
from optics.lens.ring import Ring

SIZE = ring.CARD


class RingPictureTest(unittest.TestCase):
    @given(
        st.floats(12, 200),
        st.floats(4.2, 30),
        st.floats(0.5, 6),
        st.booleans(),
        st.sampled_from(["m", "ft"]),
    )
    def test_near_on_the_left_infinity_on_the_right_and_labels_apart(
        self, focal_length: float, times: float, throw: float, back: bool, system: str
    ) -> None:
        closest = focal_length * times
        turned = Ring.unit_focusing(focal_length, -throw if back else throw, closest)
        picture = ring.draw(SIZE, turned, closest, system, focus=3 * closest)
        self.assertEqual(picture.ticks[-1].label, "∞")
        self.assertGreaterEqual(len(picture.ticks), 3)
        for left, right in itertools.pairwise(picture.ticks):
            half = 3.3 * (len(left.label) + len(right.label))
            self.assertGreater(math.hypot(right.x - left.x, right.y - left.y), half)
        for tick in picture.ticks:
            self.assertTrue(0 < tick.x < SIZE.width and 0 < tick.y < SIZE.height)
        places = [float(n) for n in re.findall(r"-?\d+\.?\d*", picture.body)]
        self.assertTrue(all(-1 <= n <= 500 for n in places))
        self.assertTrue(picture.index.startswith("M"))

    def test_measured_marks_are_what_is_engraved(self) -> None:
        marks = [(700.0, 1.6), (1000.0, 1.05), (3000.0, 0.32), (math.inf, 0.0)]
        picture = ring.draw(SIZE, Ring(marks), 700, "m", [d for d, _ in marks])
        self.assertEqual([t.label for t in picture.ticks], ["0.7", "1", "3", "∞"])
        self.assertEqual(picture.index, "")


class FramesTest(unittest.TestCase):
    def test_to_one_scale_on_one_line(self) -> None:
        picture = frames.draw(FORMATS, 600, 90)
        scales = [box.width / f.width for box, f in zip(picture.boxes, FORMATS, strict=True)]
        self.assertAlmostEqual(min(scales), max(scales), 9)
        for box in picture.boxes:
            self.assertAlmostEqual(box.y + box.height, 90, 6)
            self.assertLessEqual(box.x + box.width, 600 + 1e-6)
        self.assertEqual(frames.draw([], 100, 50).boxes, ())
        alone = frames.draw([BY_KEY["6x6"]], 400, 80)
        self.assertAlmostEqual(alone.boxes[0].height, 80)


class BandsTest(unittest.TestCase):
    def test_rows_on_one_axis(self) -> None:
        rows = [
            bands.Stretch("a", "x", Span(1000, math.inf), 3000),
            bands.Stretch("b", "y", Span(2000, 5000), 3000),
            bands.Stretch("c", "z", None, 3000),
        ]
        picture = bands.draw(rows, 880, "m")
        wide, inside, nothing = picture.rows
        self.assertLess(wide.bar_x, inside.bar_x)
        self.assertGreater(wide.bar_x + wide.bar_width, inside.bar_x + inside.bar_width)
        self.assertEqual(nothing.bar_width, 0)
        self.assertEqual({r.index[:5] for r in picture.rows}, {wide.index[:5]})
        narrow = bands.draw(rows, 342, "ft", stacked=True)
        self.assertGreater(narrow.height, picture.height)
        self.assertTrue(all(0 <= r.bar_x + r.bar_width <= 342 for r in narrow.rows))
        self.assertGreater(bands.draw([], 342, "m").height, 0)
