"""How bright nights are, against values worked out by hand and against what is common knowledge."""

from __future__ import annotations

import math
import unittest

from hypothesis import given
from hypothesis import strategies as st

from optics.base.errors import OpticsError
from optics.light import aurora, night, reciprocity
from optics.light.night import Ground, Moon, Night


class NightTest(unittest.TestCase):
    def test_a_meter_reading_as_luminance_and_exposure(self) -> None:
        """22 magnitudes are 1.71e-4 cd/m²; 0.125 cd/m² is EV 0; a stop darker than middle grey."""
        self.assertAlmostEqual(night.luminance(22.0) / 1.7117e-4, 1, 4)
        self.assertAlmostEqual(Night(22.0).ev100, -8.5123, 3)
        self.assertAlmostEqual(Night().ev100, -8.0, 2)
        self.assertAlmostEqual(night.exposure_value(0.125), 1.0)

    @given(st.floats(14, 22.5))
    def test_there_and_back(self, magnitude: float) -> None:
        self.assertAlmostEqual(night.magnitude_of(night.luminance(magnitude)), magnitude, 9)

    def test_classes_grow_brighter_one_after_the_other(self) -> None:
        found = [Night(one.magnitude).ev100 for one in night.CLASSES]
        self.assertEqual(found, sorted(found))
        self.assertEqual([one.number for one in night.CLASSES], list(range(1, 10)))

    def test_the_moon(self) -> None:
        """A full moon 45° high throws about a fifth of a lux, and half a moon a tenth of that; in
        a dark sky a right angle away it leaves between 18 and 19 magnitudes."""
        full = night.moon_on_level_ground(Moon.FULL)
        self.assertAlmostEqual(full, 0.17, delta=0.03)
        self.assertAlmostEqual(night.moon_on_level_ground(Moon.HALF) / full, 0.1, delta=0.03)
        sky = night.magnitude_of(Night(21.9, Moon.FULL).luminance)
        self.assertTrue(18 < sky < 19, sky)
        steps = [Night(21.9, moon).moon_stops for moon in Moon]
        self.assertEqual(steps[0], 0.0)
        self.assertEqual(steps, sorted(steps))

    def test_in_a_town_the_moon_adds_little(self) -> None:
        town, hill = Night(17.5, Moon.FULL), Night(21.9, Moon.FULL)
        self.assertLess(town.moon_stops, 0.6)
        self.assertGreater(hill.moon_stops, 4)

    def test_unlit_ground_is_darker_by_what_it_gives_back(self) -> None:
        for ground, share in night.REFLECTED.items():
            self.assertAlmostEqual(Night().ground_darker(ground), -math.log2(share))

    def test_a_moon_makes_the_ground_brighter_than_the_sky(self) -> None:
        lit = Night(21.9, Moon.FULL)
        self.assertLess(lit.ground_darker(Ground.GRASS), -0.5)
        level = night.REFLECTED[Ground.GRASS] * (
            lit.luminance + night.moon_on_level_ground(Moon.FULL) / math.pi
        )
        self.assertAlmostEqual(lit.ground_ev100(Ground.GRASS), math.log2(level / 0.125) + 1)

    def test_how_far_off_it_may_be(self) -> None:
        self.assertAlmostEqual(Night().doubt, 0.75 * math.log2(10) / 2.5)
        self.assertEqual(Night(21.4, Moon.HALF, 0.1).doubt, 1.0)
        self.assertLess(Night(21.4, known=0.25).doubt, 0.34)

    def test_errors(self) -> None:
        for bad in (
            lambda: Night(math.nan),
            lambda: Night(13.9),
            lambda: Night(23),
            lambda: Night(21, known=-1),
            lambda: night.luminance(math.inf),
            lambda: night.magnitude_of(0),
            lambda: night.exposure_value(-1),
        ):
            with self.assertRaises(OpticsError):
                bad()


class AuroraTest(unittest.TestCase):
    def test_a_kilorayleigh(self) -> None:
        """10¹³ photons of 2.23 eV over 4π, at 680 lm/W: 1.93e-4 cd/m², about a dark sky itself."""
        photon = 2.2231 * 1.602177e-19
        self.assertAlmostEqual(aurora.KILORAYLEIGH / (1e13 / 12.56637 * photon * 679.6), 1, 3)
        self.assertAlmostEqual(aurora.KILORAYLEIGH / night.luminance(21.9), 1, 0)

    def test_brighter_and_faster_one_after_the_other(self) -> None:
        light = [Night(glow=one.luminance).ev100 for one in aurora.AURORAS]
        self.assertEqual(light, sorted(light))
        times = [one.longest for one in aurora.AURORAS]
        self.assertEqual([round(seconds, 1) for seconds in times], [25.0, 5.0, 1.7, 0.5])

    def test_it_lights_no_ground_that_is_counted(self) -> None:
        lit = Night(glow=0.01)
        self.assertEqual(lit.ground_ev100(Ground.GRASS), Night().ground_ev100(Ground.GRASS))
        self.assertEqual(lit.moon_stops, 0.0)
        self.assertEqual(Night(21.4, known=0.2, glow=0.01).doubt, 1.0)


class ReciprocityTest(unittest.TestCase):
    def test_a_minute_becomes_three_and_a_half(self) -> None:
        self.assertAlmostEqual(reciprocity.lengthened(60, 1.3), 204.9, 1)
        self.assertEqual(reciprocity.lengthened(0.5, 1.3), 0.5)
        self.assertEqual(reciprocity.lengthened(60, 1.0), 60.0)

    @given(st.floats(0.01, 3000), st.floats(1, 2))
    def test_there_and_back(self, seconds: float, exponent: float) -> None:
        there = reciprocity.lengthened(seconds, exponent)
        self.assertAlmostEqual(reciprocity.metered_of(there, exponent) / seconds, 1, 9)

    def test_errors(self) -> None:
        for bad in ((0.0, 1.3), (10.0, 0.9), (10.0, 2.1), (math.nan, 1.3)):
            with self.assertRaises(OpticsError):
                reciprocity.lengthened(*bad)
            with self.assertRaises(OpticsError):
                reciprocity.metered_of(*bad)
