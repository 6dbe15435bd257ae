"""Readings by hand: their mean and error, the odd one out, and what a ring's readings tell."""

from __future__ import annotations

import math
import unittest

import numpy as np

from optics.base.errors import OutOfRange
from optics.lens.readings import settled, widened
from optics.lens.ring import Ring
from optics.lens.ring_found import line, marks_read, ring_law, ring_off
from tests import some


class SettledTest(unittest.TestCase):
    def test_twice_the_error_holds_the_truth_nineteen_times_of_twenty(self) -> None:
        """Also of three readings, which tell their own scatter badly: 4000 tries each."""
        luck = np.random.default_rng(3)
        for count in some((3, 4, 5, 9), 3):
            within = 0
            for _ in range(4000):
                told = settled(luck.normal(2.0, 0.7, count).tolist(), 1e-6).found
                within += abs(told.value - 2.0) <= 2.0 * told.error
            self.assertAlmostEqual(within / 4000, 0.9545, delta=0.011, msg=f"{count} readings")

    def test_the_tables_widening_joins_what_follows_it(self) -> None:
        """Half of Student's two-sided 95.45 % points: of 2 and 20 degrees 2.26 and 1.07."""
        self.assertEqual(widened(2), 2.263)
        self.assertAlmostEqual(widened(20), 1.067, delta=0.006)
        rising = [widened(k) for k in range(1, 40)]
        self.assertEqual(rising, sorted(rising, reverse=True))

    def test_readings_that_agree_are_no_surer_than_they_can_be_read(self) -> None:
        told = settled([2.0, 2.0, 2.0], 0.5)
        self.assertAlmostEqual(told.found.error, widened(2) * 0.5 / 3.0)
        self.assertEqual(told.found.value, 2.0)

    def test_the_odd_one_is_found_and_only_it(self) -> None:
        self.assertEqual(settled([1.9, 2.1, 2.0, 6.0, 2.05], 0.1).odd, 3)
        self.assertIsNone(settled([1.9, 2.1, 2.0, 2.3], 0.1).odd)
        self.assertIsNone(settled([1.0, 9.0, 2.0], 0.1).odd, "of three nobody can tell")

    def test_fewer_than_three_say_nothing(self) -> None:
        with self.assertRaises(OutOfRange):
            settled([1.0, 2.0], 0.1)


class RingFoundTest(unittest.TestCase):
    def test_how_far_a_ring_is_off_from_both_sides(self) -> None:
        """24 mm at infinity with the ring on 10 m: f²/(u − f) less, 0.058 mm; and back."""
        self.assertAlmostEqual(ring_off(24.0, 10_000.0), -(24.0**2) / (10_000 - 2 * 24), delta=2e-4)
        self.assertEqual(ring_off(24.0, 2000.0, 2000.0), 0.0)
        self.assertAlmostEqual(ring_off(50.0, 3000.0, 2000.0), -ring_off(50.0, 2000.0, 3000.0))

    def test_a_straight_line_with_its_errors(self) -> None:
        luck = np.random.default_rng(8)
        within = 0
        for _ in range(1500):
            places = [0.1, 0.4, 0.9, 1.5, 2.0]
            values = [0.3 + 1.7 * x + float(luck.normal(0, 0.05)) for x in places]
            told = line(places, values, 1e-6)
            within += abs(told.slope.value - 1.7) <= 2.0 * told.slope.error
            within += abs(told.at_zero.value - 0.3) <= 2.0 * told.at_zero.error
        self.assertAlmostEqual(within / 3000, 0.9545, delta=0.012)

    def test_the_law_of_a_ring_gives_back_its_throw_and_infinity(self) -> None:
        """Read off a ring of 90° whose infinity lies 2° past its mark, to half a degree."""
        ring = Ring.unit_focusing(50.0, math.radians(90.0), 500.0, math.radians(-2.0))
        pairs = [(d, round(2 * math.degrees(ring.angle(d))) / 2) for d in (600, 900, 1500, 3000)]
        turned = [(float(d), math.radians(angle)) for d, angle in pairs]
        law = ring_law(50.0, turned, 500.0, math.radians(0.5))
        self.assertLess(abs(math.degrees(law.throw.value) - 90.0),
                        2 * math.degrees(law.throw.error))  # fmt: skip
        self.assertLess(abs(math.degrees(law.infinity.value) + 2.0),
                        2 * math.degrees(law.infinity.error))  # fmt: skip
        self.assertAlmostEqual(law.travel, 1.0 / abs(ring.turn(math.inf, 500.0)) * 50.0
                               * _magnification(50.0, 500.0), delta=0.02)  # fmt: skip

    def test_which_engraved_marks_deserve_trust(self) -> None:
        """Made for 0.030 and read for 0.020: a stop and a sixth stricter, so f/8 wants f/4's (5.3
        would do); off by 0.05 mm, f/8's room of 0.16 shrinks to 0.11 and f/2.8's to nothing."""
        marks = (2.8, 4.0, 5.6, 8.0, 11.0, 16.0)
        told = {one.f_number: one for one in marks_read(marks, 0.030, 0.020, 0.0)}
        self.assertEqual(told[8.0].instead, 4.0)
        self.assertFalse(told[8.0].trusted)
        self.assertIsNone(told[2.8].instead)
        self.assertEqual(told[8.0].blur, 0.030)
        off = {one.f_number: one for one in marks_read(marks, 0.030, 0.020, 0.05)}
        self.assertEqual(off[8.0].instead, 2.8)
        self.assertAlmostEqual(off[8.0].blur, 0.030 + 0.05 / 8.0)
        same = marks_read(marks, 0.020, 0.020, 0.0)
        self.assertTrue(all(one.trusted for one in same))


def _magnification(f: float, distance: float) -> float:
    total = distance / f - 2.0
    return 2.0 / (total + math.sqrt(total**2 - 4.0))
