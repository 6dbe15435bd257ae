"""Tiles on the axis, on the pavement and on the ring: where they stand is where the optics say."""

from __future__ import annotations

import math
import re
import unittest
from itertools import pairwise

from drawing import pavement, ring_tiles, sightline, tiles
from drawing.arms import Arms
from drawing.scale import DistanceScale
from optics.base.settable import Span
from optics.lens.ring import Ring

SCALE = DistanceScale(600.0, math.inf, sightline.WIDE.left, sightline.WIDE.right)
FLAT = Arms((700.0, 1000.0, 2000.0), (0.5, 0.9, 0.2))
THREE = (
    tiles.Placed("Close", "0.7–1 m", 850.0, Span(700.0, 1000.0), False, False),
    tiles.Placed("Home", "1–2 m", 1400.0, Span(1000.0, 2000.0), True, True),
    tiles.Placed("Far", "2 m–∞", 4000.0, Span(2000.0, math.inf), False, False),
)


def numbers(path: str) -> list[float]:
    return [float(n) for n in re.findall(r"-?\d+(?:\.\d+)?", path)]


class TileLineTest(unittest.TestCase):
    def test_tiles_lie_end_to_end_where_the_axis_says(self) -> None:
        drawn = tiles.draw(sightline.WIDE, SCALE, "m", placed=THREE, arms=FLAT, gaps=())
        for one, other in pairwise(drawn.tiles):
            self.assertAlmostEqual(one.x + one.width, other.x, delta=0.15)
        self.assertAlmostEqual(drawn.tiles[1].x, SCALE.x(1000.0), delta=0.06)
        self.assertAlmostEqual(drawn.tiles[-1].x + drawn.tiles[-1].width, SCALE.right, delta=0.15)
        self.assertEqual([pointer.x for pointer in drawn.pointers],
                         [round(SCALE.x(d), 1) for d in (850, 1400, 4000)])  # fmt: skip
        self.assertEqual([bool(pointer.lock) for pointer in drawn.pointers], [False, True, False])

    def test_the_standard_stands_half_way_up_and_the_arms_under_it(self) -> None:
        drawn = tiles.draw(sightline.WIDE, SCALE, "m", placed=THREE, arms=FLAT, gaps=())
        size = sightline.WIDE
        standard = numbers(drawn.standard_path)[1]
        self.assertAlmostEqual(standard, (size.top + size.baseline) / 2, delta=0.06)
        heights = numbers(drawn.curve)[1::2]
        for height, circles in zip(heights, FLAT.circles, strict=True):
            share = (size.baseline - height) / (size.baseline - size.top)
            self.assertAlmostEqual(2 * share, circles, delta=0.01)

    def test_words_that_do_not_fit_are_left_out(self) -> None:
        narrow = [
            tiles.Placed(f"Far {k}", "a long stretch", 2000.0 + k,
                         Span(2000.0 + 20 * k, 2020.0 + 20 * k), False, False)
            for k in range(5)
        ]  # fmt: skip
        drawn = tiles.draw(sightline.NARROW, SCALE, "m", placed=narrow, arms=FLAT, gaps=())
        self.assertEqual({tile.name for tile in drawn.tiles}, {""})
        self.assertEqual({tile.says for tile in drawn.tiles}, {""})

    def test_gaps_are_drawn_where_nothing_holds(self) -> None:
        gap = Span(1000.0, 1500.0)
        drawn = tiles.draw(sightline.WIDE, SCALE, "m", placed=THREE, arms=FLAT, gaps=(gap,))
        self.assertAlmostEqual(numbers(drawn.gap_path)[0], SCALE.x(1000.0), delta=0.06)
        self.assertAlmostEqual(numbers(drawn.gap_path)[2], SCALE.x(1500.0), delta=0.06)

    def test_arms_that_leave_the_picture_are_broken(self) -> None:
        high = Arms((700.0, 900.0, 1000.0, 1400.0, 2000.0), (0.1, 1.9, 5.0, 1.9, 0.1))
        drawn = tiles.draw(sightline.WIDE, SCALE, "m", placed=THREE, arms=high, gaps=())
        self.assertEqual(drawn.curve.count("M"), 2)


LABELS = {720.0: "0.72 m", 1050.0: "1.1 m", 2070.0: "2.1 m"}


class PavementTest(unittest.TestCase):
    VIEW = pavement.View(28.6, 18 / 28.6)
    STRIPS = (
        pavement.Strip("Close", 720.0, 1050.0, False),
        pavement.Strip("Home", 1050.0, 2070.0, True),
        pavement.Strip("Far", 2070.0, math.inf, False),
    )

    def plan(self, speed: float = 1400.0, angle: float = 0.26) -> pavement.Pavement:
        walker = pavement.Walker(speed, angle, (("C", 1200.0), ("H", 1900.0)))
        return pavement.draw(
            600.0,
            216.0,
            self.VIEW,
            self.STRIPS,
            walker,
            LABELS,
        )

    def test_true_scale_along_and_across(self) -> None:
        """A zone's near corners stand as far apart as the frame is wide there."""
        corners = numbers(self.plan().zones[0].path)
        x1, y1, x2 = corners[0], corners[1], corners[2]
        per_mm = (x2 - x1) / (1050.0 - 720.0) if len(corners) == 8 else None
        scale = (600.0 - 34.0 - 8.0) / pavement.shown_to(self.STRIPS, 1900.0)
        half = (720.0 - 28.6) * 18 / 28.6
        self.assertAlmostEqual(((216.0 - 26.0) / 2 - y1) / scale, half, delta=3.0)
        if per_mm is not None:
            self.assertAlmostEqual(per_mm, scale, delta=0.001)

    def test_planes_are_flat_and_zones_meet(self) -> None:
        zones = self.plan().zones
        ends = [max(numbers(zone.path)[::2]) for zone in zones]
        starts = [min(numbers(zone.path)[::2]) for zone in zones]
        self.assertEqual(ends[:2], starts[1:])

    def test_the_walker_goes_at_their_speed(self) -> None:
        for speed, angle in ((1400.0, 0.0), (1400.0, 0.5), (200.0, 0.26), (9000.0, 1.2)):
            drawn = self.plan(speed, angle)
            scale = (600.0 - 34.0 - 8.0) / pavement.shown_to(self.STRIPS, 1900.0)
            one, other = drawn.steps[0], drawn.steps[1] if len(drawn.steps) > 1 else drawn.steps[0]
            seconds = float(other.says.split()[0]) * (60 if "min" in other.says else 1)
            walked = math.hypot(one.x - other.x, one.y - other.y) / scale
            self.assertAlmostEqual(walked, speed * seconds, delta=8.0)
            self.assertLessEqual(len(drawn.steps), 8)

    def test_presses_in_the_picture_only(self) -> None:
        self.assertEqual([press.letter for press in self.plan().presses], ["C", "H"])
        self.assertEqual(self.plan(angle=1.3).presses, ())

    def test_labels_keep_apart(self) -> None:
        xs = [x for x, _ in self.plan().labels]
        self.assertTrue(all(b - a >= 45.9 for a, b in pairwise(xs)))


class OnTheRingTest(unittest.TestCase):
    RING = Ring.unit_focusing(28.0, math.radians(90), 700.0)

    def test_tiles_run_along_the_ring_and_end_at_its_ends(self) -> None:
        stretches = [
            ring_tiles.Stretch("Close", 850.0, Span(500.0, 1050.0), False),
            ring_tiles.Stretch("Home", 1400.0, Span(1050.0, math.inf), True),
            ring_tiles.Stretch("Far", math.inf, None, False),
        ]
        drawn = ring_tiles.draw(ring_tiles.WHOLE, self.RING, 700.0, stretches)
        self.assertEqual([band.letter for band in drawn.bands], ["C", "H", "F"])
        self.assertEqual([bool(band.path) for band in drawn.bands], [True, True, False])
        for band in drawn.bands:
            self.assertTrue(0 <= band.x <= ring_tiles.WHOLE.width)
            self.assertTrue(0 <= band.y <= ring_tiles.WHOLE.height)
        xs = [band.x for band in drawn.bands]
        self.assertEqual(xs, sorted(xs), "near on the left")

    def test_tabs_on_the_clock(self) -> None:
        drawn = ring_tiles.clock(
            200.0, [("Close", math.pi * 1.1, False), ("Home", math.pi, True), ("Far", 3.1, False)]
        )
        x, y = numbers(drawn.tabs[1].path)[2:]
        self.assertAlmostEqual(x, 100.0, delta=0.1)
        self.assertGreater(y, 170.0, "straight down")
        places = [(tab.x, tab.y) for tab in drawn.tabs]
        for at, one in enumerate(places):
            for other in places[at + 1 :]:
                self.assertGreater(math.dist(one, other), 12.0)


if __name__ == "__main__":
    unittest.main()
