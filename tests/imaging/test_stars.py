"""Width of stars against the width put in."""

from __future__ import annotations

import unittest

import numpy as np

from imaging import stars
from imaging.errors import BadLight, NoStars, Shaken
from imaging.reading import read
from imaging.rings import fwhm
from tests import some
from tests.imaging import drawn


class WidthTest(unittest.TestCase):
    def test_within_three_per_cent_from_one_and_a_half_to_thirty_pixels(self) -> None:
        for noise in some((drawn.ISO_100, drawn.ISO_6400), 2, first=1):
            for at, width in enumerate((1.5, 4.0, 30.0)):
                with self.subTest(width=width, noise=noise):
                    light = drawn.stars(width, noise, at, size=(700, 460))
                    found = stars.measured(read(drawn.file(light)).luminance)
                    self.assertAlmostEqual(found.fwhm / width, 1.0, delta=0.03)
                    self.assertLess(abs(found.fwhm - width), 2.5 * found.error)

    def test_stars_that_fall_off_softly_too(self) -> None:
        for width in some((1.8, 4.0), 2):
            with self.subTest(width):
                light = drawn.stars(width, drawn.ISO_100, 3, gauss=True)
                found = stars.measured(light.astype(np.float32))
                self.assertAlmostEqual(found.fwhm / width, 1.0, delta=0.03)

    def test_a_disc_behind_nothing_is_as_wide_as_it_is(self) -> None:
        self.assertEqual(fwhm(5.0, 0.0), 5.0)
        self.assertAlmostEqual(fwhm(0.0, 1.0), 2.35482, 4)
        self.assertAlmostEqual(fwhm(1e-3, 1.0), 2.35482, 4)
        self.assertAlmostEqual(fwhm(10.0, 0.3), 10.0, 1)


class RefusedTest(unittest.TestCase):
    def test_what_is_no_sky_of_stars_is_said_with_its_cure(self) -> None:
        points = drawn.stars(3.0, 0.004, 1)
        trails = sum(np.roll(points, k, axis=1) for k in range(12)) / 6
        cases = [
            (np.full((300, 300), 0.02), NoStars, "expose longer"),
            (trails, Shaken, "trails"),
            (np.clip(points * 6, 0, 1), BadLight, "less long"),
            (drawn.edge(3.0, size=(300, 300)), NoStars, ""),
        ]
        for light, error, words in cases:
            with self.subTest(error=error.__name__), self.assertRaises(error) as raised:
                stars.measured(light.astype(np.float32))
            self.assertIn(words, raised.exception.sentence)
