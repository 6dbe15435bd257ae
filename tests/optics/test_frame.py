"""Rows, ground and depth: against outside values, against cut planes, and there and back."""

from __future__ import annotations

import math
import unittest

import numpy as np
from hypothesis import assume, given
from hypothesis import strategies as st

from optics.base.errors import (
    AngleTooLarge,
    NotANumber,
    OpticsError,
    OutOfRange,
    SubjectTooNear,
    TooShort,
)
from optics.scene import frame, size, tape
from optics.scene.camera import Camera
from tests.optics.reference import values

_height, _tilt, _slope, *_rest = values.CAMERA
SAMPLE = Camera(_height, math.radians(_tilt), _slope, *_rest)

cameras = st.builds(
    Camera,
    height=st.floats(100, 3000),
    tilt=st.floats(-0.6, 1.2),
    slope=st.floats(-0.4, 0.4),
    focal_length=st.floats(12, 100),
    frame_height=st.floats(10, 60),
    frame_width=st.floats(10, 60),
    focus=st.one_of(st.floats(1000, 1e5), st.just(math.inf)),
)


def point_in_space(camera: Camera, row: float, column: float, deep: float) -> np.ndarray:
    """Where a thing at a place in the picture and that deep is: level x, up y, ahead z from the
    sensor's middle, by turning the camera's own three directions. Written without the core."""
    v = camera.image_distance
    ahead = np.array([0, -math.sin(camera.tilt), math.cos(camera.tilt)])
    up = np.array([0, math.cos(camera.tilt), math.sin(camera.tilt)])
    right = np.array([1.0, 0, 0])
    on_sensor = (row - 0.5) * camera.frame_height * up + (column - 0.5) * camera.frame_width * right
    return v * ahead + (deep - v) * (ahead + on_sensor / v)


class ReferenceTest(unittest.TestCase):
    def test_ground(self) -> None:
        for row, horizontal, deep in values.GROUND:
            with self.subTest(row=row):
                point = frame.ground(SAMPLE, row)
                self.assertAlmostEqual(
                    float(point.horizontal), horizontal.value, delta=horizontal.tolerance
                )
                self.assertAlmostEqual(float(point.depth), deep.value, delta=deep.tolerance)

    def test_a_straight_distance_to_the_lower_edge(self) -> None:
        straight, expected = values.STRAIGHT_TO_THE_LOWER_EDGE
        found = float(tape.depth_of_straight(SAMPLE, straight, 0))
        self.assertAlmostEqual(found, expected.value, delta=expected.tolerance)

    def test_distance_from_size(self) -> None:
        fields, expected = values.ADULT_HALF_THE_FRAME
        found = size.distance_from_size(*fields)
        self.assertAlmostEqual(found, expected.value, delta=expected.tolerance)
        self.assertAlmostEqual(size.share_of_frame(28, 36, 1700, found), 0.5, 12)
        self.assertEqual(size.share_of_frame(28, 36, 1700, math.inf), 0)

    def test_the_sample_view(self) -> None:
        # The slab of the sample scene: 1.08 m along the ground is 1.3 m deep.
        self.assertAlmostEqual(float(frame.depth_along_ground(SAMPLE, 1080)), 1300, delta=0.5)


class SpaceTest(unittest.TestCase):
    @given(cameras, st.floats(0, 1))
    def test_a_row_looks_where_its_ray_cuts_the_ground(self, camera: Camera, row: float) -> None:
        point = frame.ground(camera, row)
        assume(math.isfinite(float(point.depth)) and point.depth < 1e8)
        sensor_up = camera.height + camera.image_distance * math.sin(camera.tilt)
        pupil_ahead = camera.image_distance * math.cos(camera.tilt)
        found = point_in_space(camera, row, 0.5, float(point.depth))
        ground_up = math.tan(camera.slope) * float(point.horizontal)
        scale = float(point.depth)
        self.assertAlmostEqual(found[1] + sensor_up, ground_up, delta=1e-9 * scale)
        self.assertAlmostEqual(found[2] - pupil_ahead, float(point.horizontal), delta=1e-9 * scale)

    @given(cameras, st.floats(0, 1))
    def test_row_to_ground_and_back(self, camera: Camera, row: float) -> None:
        point = frame.ground(camera, row)
        # Close under the horizon the ground runs away, and the row with it.
        assume(math.isfinite(float(point.depth)) and point.depth < 1e6)
        self.assertAlmostEqual(float(frame.row_of_ground(camera, point.horizontal)), row, 7)
        deep = float(frame.depth_along_ground(camera, point.horizontal))
        self.assertAlmostEqual(deep / float(point.depth), 1, 9)
        per_level = math.cos(camera.tilt) - math.tan(camera.slope) * math.sin(camera.tilt)
        assume(abs(per_level) > 0.05)
        self.assertAlmostEqual(float(frame.row_of_depth(camera, deep)), row, 6)

    @given(cameras, st.floats(0, 1), st.floats(0, 1), st.floats(1.5, 1e4))
    def test_straight_to_depth_and_back(
        self, camera: Camera, row: float, column: float, times: float
    ) -> None:
        deep = camera.image_distance * times
        straight = float(tape.straight_of_depth(camera, deep, row, column))
        found = point_in_space(camera, row, column, deep)
        self.assertAlmostEqual(straight / float(np.linalg.norm(found)), 1, 9)
        again = float(tape.depth_of_straight(camera, straight, row, column, rise=math.inf))
        self.assertAlmostEqual(again / deep, 1, 9)

    @given(cameras, st.floats(500, 1e5), st.floats(0, 90))
    def test_along_the_ground_to_depth_and_back(
        self, camera: Camera, horizontal: float, rise: float
    ) -> None:
        per_level = math.cos(camera.tilt) - math.tan(camera.slope) * math.sin(camera.tilt)
        assume(per_level > 0.05)
        assume(horizontal * per_level + (camera.height - rise) * math.sin(camera.tilt) > 1)
        deep = frame.depth_along_ground(camera, horizontal, rise)
        again = float(frame.horizontal_of_depth(camera, deep, rise))
        self.assertAlmostEqual(again / horizontal, 1, 8)

    @given(cameras, st.floats(1.2, 40.0), st.floats(0.1, 0.9), st.floats(0.0, 0.8))
    def test_a_tape_to_the_ground_ends_where_it_is_seen(
        self, camera: Camera, times: float, column: float, share: float
    ) -> None:
        length, rise = camera.height * times, share * camera.height
        try:
            deep = tape.depth_of_tape(camera, length, rise, column)
            row = float(frame.row_of_depth(camera, deep, rise))
        except OpticsError:
            return  # behind the camera, or the ground falls away from it
        self.assertAlmostEqual(
            float(tape.straight_of_depth(camera, deep, row, column)) / length, 1.0, 6
        )

    @given(cameras, st.floats(0, 1), st.floats(10, 1000))
    def test_the_height_of_what_is_seen(self, camera: Camera, row: float, times: float) -> None:
        deep = camera.image_distance * times
        point = point_in_space(camera, row, 0.5, deep)
        rise = frame.height_seen(camera, deep, row)
        sensor_up = camera.height + camera.image_distance * math.sin(camera.tilt)
        pupil_ahead = camera.image_distance * math.cos(camera.tilt)
        ground = (point[2] - pupil_ahead) * math.tan(camera.slope)
        self.assertAlmostEqual((sensor_up + point[1] - ground - rise) / deep, 0.0, 7)

    @given(cameras, st.floats(0.0, 5000.0))
    def test_a_step_back_makes_everything_as_much_deeper(self, camera: Camera, back: float) -> None:
        there = camera.height * 3 + 2000.0
        level = back * math.cos(camera.slope)
        try:
            before = float(frame.depth_along_ground(camera, there))
            after = float(frame.depth_along_ground(camera, there + level))
        except OpticsError:
            return
        deeper = float(frame.axial_of_step(camera, back))
        self.assertAlmostEqual(after - before, deeper, 6)

    def test_above_the_horizon_there_is_no_distance(self) -> None:
        point = frame.ground(SAMPLE, np.array([0.5, SAMPLE.horizon_row, 0.9]))
        self.assertTrue(np.isfinite(np.asarray(point.depth)[0]))
        self.assertEqual(list(np.asarray(point.depth)[1:]), [math.inf, math.inf])
        self.assertAlmostEqual(float(frame.row_of_ground(SAMPLE, math.inf)), SAMPLE.horizon_row, 12)

    def test_infinity_stays_infinity(self) -> None:
        self.assertEqual(frame.depth_along_ground(SAMPLE, math.inf), math.inf)
        self.assertEqual(frame.horizontal_of_depth(SAMPLE, math.inf), math.inf)
        self.assertEqual(tape.depth_of_straight(SAMPLE, math.inf, 0.9), math.inf)
        self.assertEqual(tape.straight_of_depth(SAMPLE, math.inf, 0.5), math.inf)

    def test_uphill_is_nearer_and_paces_lie_along_it(self) -> None:
        uphill = Camera(900, math.radians(15), math.radians(10), 24, 24, 36)
        self.assertLess(frame.ground(uphill, 0.2).depth, frame.ground(SAMPLE, 0.2).depth)
        level = float(frame.horizontal_of_paces(uphill, 2000))
        self.assertAlmostEqual(level, 2000 * math.cos(math.radians(10)), 9)


class BadInputTest(unittest.TestCase):
    def test_camera(self) -> None:
        good = {
            "height": 900, "tilt": 0.2, "slope": 0, "focal_length": 24,
            "frame_height": 24, "frame_width": 36,
        }  # fmt: skip
        cases = (
            ("height", 0, OutOfRange),
            ("tilt", 1.6, AngleTooLarge),
            ("slope", math.pi / 2, AngleTooLarge),
            ("tilt", math.nan, NotANumber),
            ("focal_length", -24, OutOfRange),
        )
        for name, value, error in cases:
            with self.subTest(name=name, value=value), self.assertRaises(error) as caught:
                Camera(**{**good, name: value})
            self.assertEqual(caught.exception.name, name)

    def test_a_tape_too_short_to_reach_the_ground(self) -> None:
        with self.assertRaises(TooShort) as caught:
            tape.depth_of_straight(SAMPLE, np.array([1300.0, 800.0]), 0)
        self.assertEqual((caught.exception.value, caught.exception.index), (800.0, (1,)))
        tuft = float(tape.depth_of_straight(SAMPLE, 800, 0, rise=700))
        self.assertLess(tuft, 800)
        self.assertGreater(float(tape.depth_of_straight(SAMPLE, 500, 0.95)), 400)

    def test_distances(self) -> None:
        cases = (
            (NotANumber, lambda: frame.ground(SAMPLE, math.nan)),
            (SubjectTooNear, lambda: frame.row_of_ground(SAMPLE, -5000)),
            (SubjectTooNear, lambda: frame.depth_along_ground(SAMPLE, -5000)),
            (SubjectTooNear, lambda: frame.horizontal_of_depth(SAMPLE, 10)),
            (SubjectTooNear, lambda: tape.depth_of_straight(SAMPLE, 10, 0.9)),
            (NotANumber, lambda: tape.depth_of_straight(SAMPLE, math.nan, 0)),
            (OutOfRange, lambda: size.distance_from_size(28, 36, 10, 1.0)),
            (
                OutOfRange,
                lambda: frame.horizontal_of_depth(Camera(900, math.pi / 2, 0, 24, 24, 36), 900),
            ),
        )
        for error, call in cases:
            with self.subTest(error.__name__), self.assertRaises(error):
                call()
