"""Shares, errors, speeds and times as people write them."""

from __future__ import annotations

import math
import unittest

from optics.base import amounts
from optics.base.errors import NotUnderstood


class AmountsTest(unittest.TestCase):
    def test_shares(self) -> None:
        for text, share in (("10 %", 0.1), ("10", 0.1), ("2,5%", 0.025), ("1/3", 1 / 3)):
            self.assertAlmostEqual(amounts.parse_share(text), share, msg=text)

    def test_errors_are_shares_or_lengths(self) -> None:
        for text, error in (("10 %", 100), ("5", 50), ("20 cm", 200), ("0.3 m", 300), ("1/4", 250)):
            self.assertAlmostEqual(amounts.parse_error(text, 1000.0), error, msg=text)
        self.assertEqual(amounts.parse_error("10 %", math.inf), 0.0)
        for text in ("100 %", "150", "1 m", "2 m"):
            with self.assertRaisesRegex(NotUnderstood, "100 % or more"):
                amounts.parse_error(text, 1000.0)

    def test_speeds(self) -> None:
        for text, system, speed in (
            ("1.2", "m", 1200),
            ("1.2 m/s", "ft", 1200),
            ("3,6 km/h", "m", 1000),
            ("1 mph", "m", 447.04),
            ("1", "ft", 304.8),
            ("5 cm/s", "m", 50),
        ):
            self.assertAlmostEqual(amounts.parse_speed(text, system), speed, msg=text)

    def test_times(self) -> None:
        for text, seconds in (
            ("1/125", 0.008),
            ("1/2.5 s", 0.4),
            ("0,5", 0.5),
            ("4 s", 4),
            ('2"', 2),
            ("2 min", 120),
        ):
            self.assertAlmostEqual(amounts.parse_seconds(text), seconds, msg=text)

    def test_what_is_not_understood_says_how_to_write_it(self) -> None:
        for parse, texts in (
            (amounts.parse_share, ("", "half", "-3", "1/0", "nan")),
            (amounts.parse_speed, ("", "fast", "-1", "3 knots", "inf")),
            (amounts.parse_seconds, ("", "0", "1/0", "-1", "long", "nan")),
        ):
            for text in texts:
                with self.subTest(text=text), self.assertRaises(NotUnderstood) as raised:
                    parse(text)
                self.assertIn("Write a", raised.exception.sentence)
        with self.assertRaisesRegex(NotUnderstood, "10 % or 20 cm"):
            amounts.parse_error("some", 1000.0)
