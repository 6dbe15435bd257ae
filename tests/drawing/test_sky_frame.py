"""The frame under the sky, and the same scene in several frames: to scale, and in their places."""

from __future__ import annotations

import re
import unittest

from hypothesis import given
from hypothesis import strategies as st

from drawing import same_scene, sky_frame
from drawing.same_scene import Shot
from drawing.sky_frame import Named

NOWHERE = float("-inf")


def numbers(path: str) -> list[float]:
    return [float(n) for n in re.findall(r"-?\d+(?:\.\d+)?", path)]


class SkyFrameTest(unittest.TestCase):
    def test_the_middle_is_the_middle_and_up_is_up(self) -> None:
        drawn = sky_frame.draw(
            36, 24, [[(0, 0), (18, 12)]], horizon=NOWHERE, named=[Named("a", -18, -12)], pole=(0, 6)
        )
        self.assertEqual((drawn.width, drawn.height), (300, 200))
        self.assertEqual(numbers(drawn.ways), [150, 100, 300, 0])
        self.assertEqual((drawn.letters[0].x, drawn.letters[0].y), (0, 200))
        self.assertEqual(drawn.pole, (150, 50))
        self.assertEqual(drawn.ground, "")

    def test_held_upright_the_long_side_stands(self) -> None:
        drawn = sky_frame.draw(24, 36, [], horizon=-9.0, named=[], pole=(30, 0))
        self.assertEqual((drawn.width, drawn.height), (200, 300))
        self.assertEqual(numbers(drawn.ground)[1], 225)
        self.assertIsNone(drawn.pole, "outside the frame")

    def test_a_horizon_above_the_frame_leaves_only_ground(self) -> None:
        drawn = sky_frame.draw(36, 24, [], horizon=40.0, named=[], pole=None)
        self.assertEqual(numbers(drawn.ground)[1], 0)

    def test_a_fisheye_has_a_rim_and_a_bent_horizon(self) -> None:
        """A circle of 12 mm in a frame of 36: 100 of 300. Under the horizon an arc closes it."""
        ways = [[(0, 0), (6, 6)], [(13, 0), (14, 1)], [(11, 0), (11.9, 0), (12.5, 0)]]
        bent = [(-12, 0), (0, -6), (12, 0)]
        drawn = sky_frame.draw(36, 24, ways, horizon=-6, named=[], pole=None, bent=bent, rim=12.0)
        self.assertEqual((drawn.rim, drawn.middle), (100, (150, 100)))
        self.assertEqual(
            drawn.ground, "M50.0 100.0L150.0 150.0L250.0 100.0A100.0 100.0 0 0 1 50.0 100.0Z"
        )
        self.assertEqual(drawn.ways.count("M"), 2, "what starts beyond the rim is not drawn")
        self.assertLessEqual(max(numbers(drawn.ways)), 250)
        wide = sky_frame.draw(36, 24, [], horizon=NOWHERE, named=[], pole=None, rim=30.0)
        self.assertEqual(wide.rim, 0, "the frame is full")

    @given(st.floats(-18, 18), st.floats(-12, 12))
    def test_letters_stay_in_the_picture(self, x: float, y: float) -> None:
        drawn = sky_frame.draw(36, 24, [], horizon=NOWHERE, named=[Named("b", x, y)], pole=None)
        letter = drawn.letters[0]
        self.assertTrue(0 < letter.letter_x < drawn.width)
        self.assertTrue(0 < letter.letter_y < drawn.height)

    def test_stars_are_spread_over_all_of_it(self) -> None:
        places = sky_frame.starts(36, 24, 9)
        self.assertEqual(len(places), 54)
        self.assertAlmostEqual(sum(x for x, _ in places), 0)
        self.assertAlmostEqual(max(y for _, y in places), 10)

    def test_the_time_that_tells(self) -> None:
        self.assertEqual(sky_frame.telling_time(3000), 3600)
        self.assertEqual(sky_frame.telling_time(1), 10)


class SameSceneTest(unittest.TestCase):
    def test_to_one_scale(self) -> None:
        drawn = same_scene.draw([Shot("Sky", 1, 3, 13), Shot("Ground", 8, 50, 4, soft=True)])
        per = same_scene.SIDE / drawn.across
        sky, ground = drawn.columns
        self.assertAlmostEqual(sky.wide, per, delta=0.06)
        self.assertAlmostEqual(numbers(sky.streak)[2], 3 * per, delta=0.06)
        self.assertFalse(sky.cut)
        self.assertTrue(ground.cut)
        self.assertTrue(ground.star_soft)
        # What blur has eaten of the edge, and what is left of it solid.
        self.assertAlmostEqual(numbers(ground.soft)[2], 4 * per, delta=0.06)
        solid = numbers(ground.edge)[2]
        self.assertAlmostEqual(2 * solid + 4 * per, same_scene.SIDE, delta=0.2)

    @given(
        st.lists(st.tuples(st.floats(0, 500), st.floats(0, 5000), st.floats(0, 800)), max_size=4)
    )
    def test_nothing_leaves_its_patch(self, shots: list[tuple[float, float, float]]) -> None:
        drawn = same_scene.draw([Shot("x", *shot) for shot in shots])
        for column in drawn.columns:
            x, _, length = numbers(column.streak)
            half = column.wide / 2
            self.assertGreaterEqual(x - half, column.x - 0.2)
            self.assertLessEqual(x + length + half, column.x + same_scene.SIDE + 0.2)
            self.assertLessEqual(numbers(column.soft)[2], same_scene.SIDE + 0.1)


if __name__ == "__main__":
    unittest.main()
