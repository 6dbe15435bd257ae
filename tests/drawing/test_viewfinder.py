"""The picture in the finder: rows in order of depth, and words that agree with the drawing."""

from __future__ import annotations

import itertools
import math
import unittest
from dataclasses import replace

from hypothesis import given
from hypothesis import strategies as st

from drawing import viewfinder
from drawing.viewfinder import Standing
from optics.scene.camera import Camera
from optics.scene.frame import row_of_depth

LEVEL = Camera(1000, 0.0, 0.0, 24, 24, 36)


def draw(
    camera: Camera = LEVEL, focus: float = 3000, near: float = 1500, far: float = math.inf
) -> viewfinder.Viewfinder:
    marks = [Standing("A", 4000, "holds"), Standing("B", 1100, "soft")]
    return viewfinder.draw(360, camera, "m", focus=focus, near=near, far=far, marks=marks)


class ViewfinderTest(unittest.TestCase):
    def test_level_over_the_ground_by_hand(self) -> None:
        picture = draw()
        v = 24 * 3000 / (3000 - 24)  # from 1/f = 1/u + 1/v, nearly: the ring reads from the sensor
        below = 1000 / (3000 - v) * v / 24
        self.assertEqual((picture.height, picture.horizon_y), (240, 120))
        assert picture.focus is not None
        self.assertAlmostEqual(picture.focus.y, 120 + below * 240, 0)
        self.assertIn(f"{round(50 - 100 * below)} % of the way up", picture.focus_says)
        self.assertEqual([dot.letter for dot in picture.dots], ["A"])
        self.assertEqual(picture.outside, ("B",), "the ground at 1.1 m is under the picture")

    def test_further_frames_have_their_rows_too(self) -> None:
        marks = [Standing("A", 4000, "holds")]
        picture = viewfinder.draw(
            360, LEVEL, "m", focus=2500, near=1500, far=math.inf, marks=marks, also=(6000, 1000)
        )
        (row,) = picture.also  # the ground at 1 m is under the picture
        self.assertEqual(row.label, "then 6 m")
        expected = (1 - float(row_of_depth(replace(LEVEL, focus=2500), 6000))) * picture.height
        self.assertAlmostEqual(row.y, expected, 1)

    def test_soft_ground_is_hatched_and_all_of_it_where_nothing_is_sharp(self) -> None:
        ((top, high),) = draw(near=2500).soft
        self.assertAlmostEqual(top + high, 240)
        self.assertEqual(len(draw(near=2500, far=9000).soft), 2)
        self.assertEqual(draw(near=1000).soft, (), "sharp from before the picture to infinity")
        self.assertEqual(draw(near=math.nan, far=math.nan).soft, ((120, 120),))

    def test_it_says_what_to_do_where_the_row_is_not_there(self) -> None:
        down = Camera(1000, math.radians(70), 0.0, 24, 24, 36)
        up = Camera(1000, math.radians(-60), 0.0, 24, 24, 36)
        for camera, focus, words in (
            (LEVEL, math.inf, "on the horizon"),
            (down, math.inf, "the farthest thing there is"),
            (LEVEL, 600, "below the picture"),
            (down, 30_000, "above the picture"),
            (up, 3000, "below the picture"),
        ):
            picture = draw(camera, focus)
            self.assertIn(words, picture.focus_says)
            self.assertEqual(picture.focus is None, "horizon" not in words)
        self.assertEqual(draw(up).horizon_y, 240, "only sky")
        self.assertEqual(draw(down).horizon_y, 0, "only ground")

    @given(
        st.floats(20, 90_000),
        st.floats(-1.5, 1.5),
        st.floats(8, 400),
        st.booleans(),
        st.one_of(st.floats(1700, 1e6), st.just(math.inf)),
    )
    def test_farther_ground_stands_higher_and_labels_stay_apart(
        self, height: float, tilt: float, focal_length: float, upright: bool, focus: float
    ) -> None:
        sides = (36, 24) if upright else (24, 36)
        camera = Camera(height, tilt, 0.0, focal_length, *sides, focus=focus)
        picture = draw(camera, focus)
        rows = [line.y for line in picture.ground]
        for near, far in itertools.pairwise(rows):
            self.assertGreater(near - far, 20)
        for y in rows:
            self.assertTrue(picture.horizon_y < y < picture.height)
            if picture.focus:
                self.assertGreater(abs(y - picture.focus.y), 20)
        for dot in picture.dots:
            self.assertTrue(0 < dot.x < picture.width and 0 < dot.y < picture.height)
        for top, high in picture.soft:
            self.assertTrue(picture.horizon_y - 0.1 <= top < top + high <= picture.height + 0.2)
        if picture.focus and math.isfinite(focus):
            row = float(row_of_depth(camera, focus))
            self.assertAlmostEqual(picture.focus.y, (1 - row) * picture.height, 0)
