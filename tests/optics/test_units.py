"""Lengths as text: what is understood, what is not and why, and there and back."""

from __future__ import annotations

import math
import unittest

from hypothesis import given
from hypothesis import strategies as st

from optics.base import units
from optics.base.errors import NotANumber, NotUnderstood, OutOfRange

UNDERSTOOD = (
    ("1.3", "m", 1300),
    ("1.3", "ft", 1.3 * 304.8),
    ("1,3 m", "ft", 1300),
    ("130 cm", "m", 1300),
    ("130cm", "ft", 1300),
    ("1300mm", "m", 1300),
    (".5 m", "m", 500),
    ("4ft", "m", 1219.2),
    ("4 feet", "m", 1219.2),
    ("4' 3\"", "m", 1295.4),
    ("4′3″", "m", 1295.4),
    ("4’ 3”", "m", 1295.4),
    ("4 ft 3 in", "m", 1295.4),
    ("4'3", "m", 1295.4),
    ("4' 3 1/2\"", "m", 1308.1),
    ("4' 3½\"", "m", 1308.1),
    ("3/4 in", "m", 19.05),
    ('9"', "m", 228.6),
    ("inf", "m", math.inf),
    (" ∞ ", "ft", math.inf),
    ("Infinity", "m", math.inf),
    ("1,2 m", "ft", 1200),
    ("1 m 30", "ft", 1300),
    ("1m30cm", "m", 1300),
    ("2 yd", "m", 1828.8),
    ("1½ yards", "m", 1371.6),
    ("6 paces", "m", 4500),
    ("3 paces", "ft", 2250),
    ("1.5 arms", "m", 975),
    ("about 3 m", "m", 3000),
    ("~ 12ft", "m", 3657.6),
    ("c. 5", "m", 5000),
    ("4", "pace", 3000),
    ("30", "cm", 300),
)
NOT_UNDERSTOOD = (
    ("", "missing"),
    ("   ", "missing"),
    ("abc", "“abc” is not understood"),
    ("5' 14\"", "14 inches are a foot or more"),
    ("12 furlongs", "The unit “furlongs” is not known"),
    ("-3 m", "cannot be negative"),
    ("1/0 in", "over zero"),
    ("2.5' 3\"", "feet must be whole"),
    ("3 m 2 ft", "Only feet and inches, or metres and centimetres, go together"),
    ("1 m 130", "130 centimetres are a metre or more"),
    ("1 m 100", "100 centimetres are a metre or more"),
    ("5' 12\"", "12 inches are a foot or more"),
    ("1..3", "is not one number"),
    ("1.2.3", "is not one number"),
    ("2,5,1", "is not one number"),
    ("1.5 m 20", "metres must be whole"),
    ("cm", "is not understood"),
    ("about", "is not understood"),
    ("1 2 3", "is not understood"),
    ("1.3 m?", "“?” is not understood"),
    ("nan", "is not understood"),
    ("9" * 50, "too long"),
)


class UnitsTest(unittest.TestCase):
    def test_understood(self) -> None:
        for text, system, expected in UNDERSTOOD:
            with self.subTest(text):
                self.assertAlmostEqual(units.parse(text, system), expected, 9)

    def test_not_understood_says_what(self) -> None:
        for text, part in NOT_UNDERSTOOD:
            with self.subTest(text), self.assertRaises(NotUnderstood) as caught:
                units.parse(text)
            self.assertIn(part, caught.exception.sentence)
            self.assertEqual(caught.exception.value, text)

    @given(st.floats(0.1, 1e7), st.sampled_from(units.SYSTEMS), st.sampled_from(units.SYSTEMS))
    def test_exact_text_comes_back(self, length: float, system: str, reader: str) -> None:
        again = units.parse(units.write(length, system, 17), reader)
        self.assertAlmostEqual(again / length, 1, delta=1e-14)

    @given(st.floats(0.1, 1e7), st.sampled_from(units.UNITS), st.floats(400, 1100))
    def test_own_measures_come_back(self, length: float, unit: str, pace: float) -> None:
        own = units.Measures(pace=pace, arm=pace * 0.9)
        again = units.parse(units.write(length, unit, 17, own), "m", own)
        self.assertAlmostEqual(again / length, 1, delta=1e-14)

    def test_the_table_is_whole(self) -> None:
        """Whatever is spelled has a length, and whatever can be written can be typed."""
        self.assertLessEqual(set(units.SYSTEMS), set(units.UNITS))
        for key, unit in units.TABLE.items():
            self.assertIn(key, unit.spellings, "a unit is a spelling of itself")
            for spelling in unit.spellings:
                for system in units.SYSTEMS:
                    self.assertAlmostEqual(units.parse(f"2 {spelling}", system), 2 * unit.mm, 9)
            self.assertAlmostEqual(units.parse("2", key), 2 * unit.mm, 9)
            self.assertAlmostEqual(units.USUAL.mm_per(key), unit.mm, 9)
            text = units.write(3 * unit.mm, key, 4)
            self.assertAlmostEqual(units.parse(text) / (3 * unit.mm), 1, delta=1e-3)
        self.assertEqual(units.write(12_000_000), "12 km")
        self.assertEqual(units.parse("5 km"), 5e6)
        self.assertAlmostEqual(units.parse("1 mile", "ft"), 5280 * 304.8)

    def test_own_measures(self) -> None:
        own = units.Measures(pace=800, arm=700)
        self.assertEqual(units.parse("3 paces", measures=own), 2400)
        self.assertEqual(units.parse("Eye level", measures=units.Measures(eye=1710)), 1710)
        self.assertEqual(units.write(800, units.PACES, 2, own), "1 pace")
        self.assertEqual(units.write(2000, units.PACES, 2, own), "2.5 paces")
        self.assertEqual(units.write(1050, units.ARMS, 2, own), "1.5 arms")
        self.assertEqual(units.write(1828.8, units.YARDS, 2), "2 yd")
        with self.assertRaises(OutOfRange):
            units.Measures(pace=0)
        with self.assertRaises(OutOfRange):
            units.Measures(eye=-1)

    @given(st.floats(30, 1e6), st.sampled_from(units.SYSTEMS), st.sampled_from([2, 3]))
    def test_short_text_comes_back_to_its_figures(
        self, length: float, system: str, figures: int
    ) -> None:
        again = units.parse(units.write(length, system, figures))
        coarsest = {2: 0.05, 3: 0.005}[figures]
        if system == "ft":  # half of half an inch, or of a tenth, near the bottom
            half = 6.35 if figures == 2 or length > 910 else 1.27
            coarsest = max(coarsest, half / length)
        self.assertAlmostEqual(again / length, 1, delta=coarsest * 1.01)
        self.assertEqual(units.write(again, system, figures), units.write(length, system, figures))

    def test_written(self) -> None:
        cases = (
            (2600, "m", 2, "2.6 m"),
            (1300, "m", 3, "1.3 m"),
            (180000, "m", 2, "180 m"),
            (2565.4, "ft", 2, "8½ ft"),
            (2565.4, "ft", 3, "8′ 5″"),
            (2578.1, "ft", 3, "8′ 5½″"),
            (1497.2, "ft", 4, "4′ 10.9″"),
            (1497.2, "ft", 5, "4′ 10.94″"),
            (1497.2, "ft", 8, "4.9120735 ft"),
            (13, "ft", 2, "½ in"),
            (1219.2, "ft", 2, "4 ft"),
            (9144, "ft", 2, "30 ft"),
            (609.6 + 12.7, "ft", 2, "2′ ½″"),
            (304.8 * 9.999, "ft", 2, "10 ft"),
            (203.2, "ft", 2, "8 in"),
            (4, "m", 2, "4 mm"),
            (0.1, "ft", 3, "0.00394 in"),
            (math.inf, "ft", 2, "∞"),
        )
        for length, system, figures, expected in cases:
            with self.subTest(expected):
                self.assertEqual(units.write(length, system, figures), expected)
        with self.assertRaises(NotANumber):
            units.write(math.nan)

    def test_which_texts_name_their_unit(self) -> None:
        self.assertEqual(
            [units.has_unit(text) for text in ("1.3", "1.3 m", "4'", "∞", "inf", "12")],
            [False, True, True, True, True, False],
        )
