"""The focus ring: turning, marks, hands, and what two readings tell."""

from __future__ import annotations

import math
import unittest

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from optics import Setup
from optics.base.errors import FocusTooNear, NotANumber, OutOfRange, WrongOrder
from optics.lens import depth
from optics.lens.ring import Ring
from optics.lens.touch import (
    ANTICLOCKWISE,
    CLOCKWISE,
    Hands,
    between_angles,
    between_readings,
    mark_angle,
)
from optics.scene import focus_distances
from tests.optics.reference import values

FIFTY = Ring.unit_focusing(50, math.radians(90), 1000)
# A ring as one might read it, in degrees from the infinity stop.
READ = Ring([(700, 1.9), (1000, 1.32), (1500, 0.86), (3000, 0.41), (math.inf, 0.06)])


class RingTest(unittest.TestCase):
    def test_reference(self) -> None:
        (focal_length, throw, closest), distance, expected = values.UNIT_RING
        ring = Ring.unit_focusing(focal_length, math.radians(throw), closest)
        found = math.degrees(float(ring.angle(distance)))
        self.assertAlmostEqual(found, expected.value, delta=expected.tolerance)
        self.assertEqual(ring.angle(math.inf), 0)
        self.assertAlmostEqual(math.degrees(float(ring.angle(1000))), 90, 12)

    @given(st.floats(300, 1e7), st.booleans())
    def test_distance_to_angle_and_back(self, distance: float, measured: bool) -> None:
        ring = READ if measured else FIFTY
        self.assertAlmostEqual(float(ring.distance(ring.angle(distance))) / distance, 1, 8)

    @given(st.floats(0.06, 2.2), st.booleans())
    def test_angle_to_distance_and_back(self, angle: float, measured: bool) -> None:
        ring = READ if measured else FIFTY
        self.assertAlmostEqual(float(ring.angle(ring.distance(angle))), angle, 8)

    def test_marks_give_their_own_angles(self) -> None:
        for distance, angle in READ.marks:
            self.assertAlmostEqual(float(READ.angle(distance)), angle, 12)

    def test_a_unit_focusing_ring_is_known_again_from_three_marks(self) -> None:
        marks = [(d, float(FIFTY.angle(d))) for d in (1000.0, 1700.0, math.inf)]
        again = Ring(marks)
        self.assertAlmostEqual(again.focal_length, 50, delta=0.01)
        for distance in (800.0, 1200.0, 2500.0, 20000.0):
            found = float(again.angle(distance))
            self.assertAlmostEqual(found, float(FIFTY.angle(distance)), delta=1e-5)

    def test_in_one_over_distance_it_would_be_off(self) -> None:
        marks = ((1000, float(FIFTY.angle(1000))), (math.inf, 0.0))
        off = math.degrees(float(Ring(marks).angle(2000)) - float(FIFTY.angle(2000)))
        self.assertGreater(off, 2)

    def test_two_marks_are_enough_to_go_there_and_back(self) -> None:
        two = Ring([(1000, 1.5), (math.inf, 0.0)])
        self.assertEqual(two.focal_length, 0)
        for distance in (800.0, 1000.0, 2500.0, 1e6):
            self.assertAlmostEqual(float(two.distance(two.angle(distance))) / distance, 1, 9)
        self.assertEqual((two.distance(0.0), two.distance(-0.1)), (math.inf, math.inf))

    def test_past_infinity(self) -> None:
        self.assertEqual(FIFTY.distance(-0.05), math.inf)
        self.assertAlmostEqual(float(FIFTY.past_infinity(-0.05)), 0.05, 12)
        self.assertAlmostEqual(float(READ.past_infinity(0.0)), 0.06, 12)
        self.assertLess(READ.past_infinity(1.0), 0)
        without = Ring(READ.marks[:-1])
        self.assertLess(without.infinity, 0.41)

    def test_either_sense_of_throw(self) -> None:
        back = Ring.unit_focusing(50, -math.radians(90), 1000, infinity_at=3.0)
        self.assertAlmostEqual(float(back.angle(2000)), 3.0 - float(FIFTY.angle(2000)), 12)
        self.assertAlmostEqual(float(back.distance(back.angle(2000))), 2000, 6)
        self.assertAlmostEqual(float(back.past_infinity(3.1)), 0.1, 12)

    def test_arrays_and_lengths_along_the_barrel(self) -> None:
        found = FIFTY.along_barrel(np.array([1000, 2000]), math.inf, 60)
        self.assertEqual(np.shape(found), (2,))
        self.assertAlmostEqual(np.asarray(found)[0], -math.radians(90) * 30, 9)

    def test_a_thick_lens(self) -> None:
        thick = Ring.unit_focusing(90, 4.0, 450, hiatus=8)
        thin = Ring.unit_focusing(90, 4.0, 442)
        self.assertAlmostEqual(float(thick.angle(808)), float(thin.angle(800)), 12)
        self.assertAlmostEqual(float(thick.distance(thick.angle(808))), 808, 8)

    def test_bad_input(self) -> None:
        cases = (
            (OutOfRange, lambda: Ring([(1000, 0.5)])),
            (WrongOrder, lambda: Ring([(1000, 0.5), (2000, 0.6), (3000, 0.4)])),
            (WrongOrder, lambda: Ring([(1000, 0.5), (1000, 0.6)])),
            (NotANumber, lambda: Ring([(math.nan, 0.5), (1000, 0.6)])),
            (OutOfRange, lambda: Ring([(-5, 0.5), (1000, 0.6)])),
            (FocusTooNear, lambda: Ring.unit_focusing(50, 1, 150)),
            (OutOfRange, lambda: Ring.unit_focusing(50, 0, 1000)),
            (NotANumber, lambda: FIFTY.angle(math.nan)),
            (OutOfRange, lambda: FIFTY.angle(0)),
            (FocusTooNear, lambda: FIFTY.angle(150)),
            (NotANumber, lambda: FIFTY.distance(math.nan)),
            (OutOfRange, lambda: Hands(FIFTY, sense=0)),
        )
        for at, (error, call) in enumerate(cases):
            with self.subTest(at), self.assertRaises(error):
                call()


class HandsTest(unittest.TestCase):
    @given(st.floats(0, 2 * math.pi), st.floats(1000, 20_000), st.sampled_from((1, -1)))
    def test_where_a_tab_stands_and_back(self, tab_at: float, focus: float, sense: int) -> None:
        hands = Hands(FIFTY, tab_at=tab_at, sense=sense)
        found = hands.distance_where(float(hands.tab(focus)))
        assert found is not None
        self.assertAlmostEqual(1 / found, 1 / focus, delta=1e-9)

    def test_where_a_tab_never_stands(self) -> None:
        # A ring of 90 degrees, its tab at six with the ring at infinity: never at twelve.
        self.assertIsNone(Hands(FIFTY, tab_at=math.pi).distance_where(0.0))
        self.assertEqual(Hands(FIFTY, tab_at=math.pi).distance_where(math.pi), math.inf)

    def test_a_tab_on_the_clock(self) -> None:
        hands = Hands(FIFTY, tab_at=math.pi, tab_focus=math.inf, sense=CLOCKWISE)
        self.assertAlmostEqual(float(hands.clock(math.inf)), 6, 9)
        self.assertAlmostEqual(float(hands.clock(1000)), 9, 9)  # 90° on, clockwise
        other = Hands(FIFTY, sense=ANTICLOCKWISE)
        self.assertAlmostEqual(float(other.clock(1000)), 3, 9)

    def test_which_way_to_turn(self) -> None:
        hands = Hands(FIFTY)
        self.assertEqual(hands.direction(3000, 1000), CLOCKWISE)
        self.assertEqual(hands.direction(1000, math.inf), ANTICLOCKWISE)
        self.assertEqual(hands.direction(1000, 1000), 0)


class DepthMarksTest(unittest.TestCase):
    def test_what_lies_under_a_true_mark_is_within_the_limits(self) -> None:
        setup = Setup(50, 11, 0.03)
        for focus in (1500.0, 3000.0):
            held = depth.limits(setup, focus)
            under = FIFTY.under_mark(focus, mark_angle(FIFTY, setup, focus))
            self.assertGreaterEqual(under.near, float(held.near) * (1 - 1e-9))
            self.assertLessEqual(under.far, float(held.far) * (1 + 1e-9))
            self.assertAlmostEqual(under.near / float(held.near), 1, delta=0.02)

    def test_at_the_hyperfocal_distance_infinity_is_under_the_mark(self) -> None:
        setup = Setup(50, 11, 0.03)
        hyperfocal = float(depth.hyperfocal(setup))
        angle = mark_angle(FIFTY, setup, hyperfocal)
        self.assertEqual(FIFTY.under_mark(hyperfocal, angle * 1.1).far, math.inf)
        blind = Setup(50, 32, 0.01, diffraction=True)
        self.assertTrue(math.isnan(mark_angle(FIFTY, blind, 3000)))


class ReadingsTest(unittest.TestCase):
    def test_halfway_is_equal_blur(self) -> None:
        setup = Setup(50, 8, 0.03)
        found = between_readings(FIFTY, setup, 12000, 2000)
        # Exactly equal blur is at the harmonic mean of the image distances, 51.28 and 50.21 mm,
        # not at their arithmetic one: 0.0056 mm of 0.7 mm of extension, 0.8 %.
        self.assertAlmostEqual(
            found.focus / focus_distances.between(setup, 2000, 12000), 1, delta=1e-2
        )
        assert found.f_number is not None
        wide = Setup(50, found.f_number * 1.0001, 0.03)
        self.assertIsNotNone(depth.focus_window(wide, 2000, 12000))
        angles = [float(a) for a in np.asarray(FIFTY.angle(np.array([2000, 12000])))]
        same = between_angles(FIFTY, setup, *angles)
        self.assertAlmostEqual(same.focus, found.focus, 6)
        self.assertAlmostEqual(same.angle, sum(angles) / 2, 12)
        with self.assertRaises(NotANumber):
            between_readings(FIFTY, setup, math.nan, 2000)
