"""What is rounded is read back as what was judged; what is rounded inwards stays inside."""

from __future__ import annotations

import math
import unittest
from itertools import pairwise

from hypothesis import given
from hypothesis import strategies as st

from optics.base import amounts, settable, units
from optics.base.settable import FINE
from optics.base.writing import circles
from optics.light import dial
from optics.zones import joints, stretches, tiling
from tests.optics.scenes import SAMPLE

distances = st.floats(10, 1e6)
systems = st.sampled_from(units.SYSTEMS)
figures = st.integers(2, 6)


def read(distance: float, system: str) -> float:
    """A distance as it is written, read back."""
    return units.parse(settable.written(distance, system), system)


class GridTest(unittest.TestCase):
    @given(distances, systems, figures)
    def test_what_is_on_the_grid_is_written_as_it_is(
        self, distance: float, system: str, count: int
    ) -> None:
        for rounded in (settable.nearest, settable.up, settable.down):
            on_grid = rounded(distance, system, count)
            if on_grid > 0:
                self.assertAlmostEqual(read(on_grid, system) / on_grid, 1, delta=1e-9)
        self.assertGreaterEqual(settable.up(distance, system, count), distance * (1 - 1e-8))
        self.assertLessEqual(settable.down(distance, system, count), distance * (1 + 1e-8))

    def test_across_ten_feet(self) -> None:
        for feet, up, down in ((9.96, "9.96 ft", "9.96 ft"), (9.9585, "10 ft", "9′ 11½″")):
            length = feet * 304.8
            self.assertEqual(settable.written(settable.up(length, "ft", FINE), "ft"), up)
            self.assertEqual(settable.written(settable.down(length, "ft", FINE), "ft"), down)

    @given(distances, st.floats(1.0001, 3), systems)
    def test_a_setting_is_in_its_window_as_it_is_written(
        self, near: float, ratio: float, system: str
    ) -> None:
        focus = near * math.sqrt(ratio)
        setting = settable.within(focus, near, near * ratio, system)
        self.assertGreaterEqual(read(setting.focus, system), near * (1 - 1e-8))
        self.assertLessEqual(read(setting.focus, system), near * ratio * (1 + 1e-8))
        self.assertEqual(setting.held, settable.figures_of(setting.focus, system) <= FINE)

    def test_typed(self) -> None:
        self.assertEqual(settable.written(settable.typed(2335)), "2.335 m")
        self.assertEqual(settable.written(settable.typed(2335, "ft"), "ft"), "7′ 8″")
        self.assertEqual(settable.typed(1000 / 3), 333)
        self.assertEqual(settable.typed(333.3333, "m", 333.3333), 334, "no nearer than it goes")


class InsideTest(unittest.TestCase):
    @given(distances, st.floats(1.00001, 40), systems)
    def test_all_of_it_is_true_as_written(self, near: float, ratio: float, system: str) -> None:
        far = near * ratio
        span = settable.inside(near, far, system)
        if span.reach:
            middle = read(span.middle, system)
            low, high = middle - span.reach, middle + span.reach
            self.assertEqual(float(f"{span.reach:.2g}"), float(f"{span.reach:.12g}"))
        else:
            low, high = read(span.near, system), read(span.far, system)
        self.assertGreaterEqual(low, near * (1 - 1e-8))
        self.assertLessEqual(high, far * (1 + 1e-8))
        self.assertGreater(1 / low - 1 / high, 0.7 * (1 / near - 1 / far))

    def test_a_narrow_zone(self) -> None:
        span = settable.inside(3994.1, 4005.9)
        self.assertEqual((settable.written(span.middle), span.reach), ("4 m", 5.9))

    def test_what_no_blur_tells_from_infinity(self) -> None:
        self.assertEqual(settable.inside(6200, 4e19).far, math.inf)


class JointsTest(unittest.TestCase):
    @given(st.floats(600, 2000), st.integers(2, 5), systems, st.booleans())
    def test_no_gap_reads_as_no_gap(
        self, near: float, count: int, system: str, endless: bool
    ) -> None:
        far = math.inf if endless else near * 6
        found = tiling.tile(SAMPLE, near, far, count)
        if not found.complete:
            return
        focuses = [zone.focus for zone in found.zones]
        tiles = stretches.tiles(SAMPLE, focuses, near, far)
        told = joints.written(tiles, system)
        for one, other in pairwise(told):
            assert one.used is not None
            assert other.used is not None
            self.assertEqual(one.used.far, other.used.near)
        for tile, said in zip(tiles, told, strict=True):
            assert said.used is not None
            assert said.held is not None
            for span in (said.used, said.held):
                self.assertGreaterEqual(span.near, tile.near * (1 - 1e-6))
                self.assertLessEqual(span.far, tile.far * (1 + 1e-6))
            self.assertLessEqual(said.held.near, said.used.near * (1 + 1e-9))
            self.assertGreaterEqual(said.held.far, said.used.far * (1 - 1e-9))

    def test_as_many_figures_as_it_takes(self) -> None:
        self.assertEqual(joints.joint(1020, 1120, 1050), 1100)
        self.assertEqual(joints.joint(1020, 1090, 1050), 1050)
        self.assertEqual(joints.joint(1046.2, 1049.9, 1048), 1048)
        self.assertLessEqual(settable.figures_of(joints.joint(1046.21, 1046.23, 1046.22)), 6)


class DialTest(unittest.TestCase):
    @given(st.floats(1 / 30000, 20_000))
    def test_a_time_is_one_that_can_be_set_and_read_back(self, seconds: float) -> None:
        for named in (dial.named_time, dial.longest_named, dial.shortest_named):
            time = named(seconds)
            self.assertTrue(time in dial.TIMES or time == int(time), time)
            self.assertAlmostEqual(amounts.parse_seconds(dial.written(time)) / time, 1, 9)
        self.assertLessEqual(dial.longest_named(seconds), seconds * (1 + 1e-9))
        self.assertGreaterEqual(dial.shortest_named(seconds), seconds * (1 - 1e-9))

    def test_written(self) -> None:
        for seconds, said in (
            (1 / 125, "1/125 s"), (1 / 1250, "1/1250 s"), (1.3, "1.3 s"), (0.5, "0.5 s"),
            (30, "30 s"), (126, "2:06"), (3725, "1:02:05"), (math.inf, "any time"),
            (1e-6, "under 1/32000 s"),
        ):  # fmt: skip
            self.assertEqual(dial.written(seconds), said)


class CirclesTest(unittest.TestCase):
    @given(st.floats(0, 1e6))
    def test_one_is_the_standard_and_nothing_else(self, value: float) -> None:
        shown = float(circles(value))
        self.assertEqual(shown > 1, value > 1 + 1e-9)
        self.assertAlmostEqual(shown, value, delta=max(0.0501 * value, 0.05))

    def test_written(self) -> None:
        for value, said in ((0.824, "0.82"), (1.0, "1"), (1.009, "1.01"), (1.0004, "1.01"),
                            (3.44, "3.4"), (123.4, "120"), (math.inf, "∞"),
                            (0.01, "0")):  # fmt: skip
            self.assertEqual(circles(value), said)


if __name__ == "__main__":
    unittest.main()
