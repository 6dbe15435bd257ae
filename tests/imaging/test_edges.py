"""Blur of a slanted edge against the disc that was put in."""

from __future__ import annotations

import math
import unittest

import numpy as np

from imaging.errors import BadLight, NoEdge, NotSlanted, PictureError
from imaging.finding import clearest_edge
from imaging.reading import read
from imaging.spread import equivalent
from optics.lens.wave import DISC_HALF
from tests import some
from tests.imaging import drawn

DISCS = (1.5, 2.2, 4.0, 8.0, 16.0, 30.0)


class DiscTest(unittest.TestCase):
    def test_within_three_per_cent_from_one_and_a_half_to_thirty_pixels(self) -> None:
        """From files, at noise of ISO 100 to 6400, along rows, columns and between."""
        for nth, noise in enumerate((0.0, drawn.ISO_100, drawn.ISO_6400)):
            for at, disc in some([*enumerate(DISCS)], 3, first=nth):
                degrees = (5.3, 95.0, -8.0, 33.0, 84.0, -96.0)[at]
                light = drawn.edge(disc, degrees, (300, 340), noise, seed=at)
                with self.subTest(disc=disc, noise=noise):
                    found = clearest_edge(read(drawn.file(light)).luminance)
                    self.assertAlmostEqual(found.blur.disc / disc, 1.0, delta=0.03)
                    slant = abs(math.remainder(degrees, 90.0))
                    self.assertAlmostEqual(math.degrees(found.line.off_grid), slant, delta=0.1)

    def test_its_error_is_honest(self) -> None:
        """Of many edges under much noise two thirds and more lie within one error, nine tenths
        within two."""
        off = []
        for seed in range(40):
            disc = float(np.random.default_rng(seed).uniform(1.5, 12))
            light = drawn.edge(disc, 5.0 + seed, (120, 130), 0.05, seed, parts=6)
            found = clearest_edge(light.astype(np.float32))
            off.append(abs(found.blur.disc - disc) / found.blur.error)
        self.assertGreaterEqual(sum(one <= 2.0 for one in off), 36)
        self.assertGreaterEqual(sum(one <= 1.0 for one in off), 24)
        self.assertLess(sum(one <= 0.2 for one in off), 36, "nor is it a large one to hide behind")

    def test_uneven_light_on_either_side_is_no_blur(self) -> None:
        light = drawn.edge(6.0, 7.0, (300, 300))
        across = np.linspace(0.8, 1.2, 300)
        found = clearest_edge((light * across[:, None] * across[None, :]).astype(np.float32))
        self.assertAlmostEqual(found.blur.disc, 6.0, delta=0.12)

    def test_a_disc_and_a_gaussian_pass_one_half_where_their_product_does(self) -> None:
        self.assertAlmostEqual(equivalent(5.0, 0.0), 5.0)
        gauss = math.sqrt(math.log(2) / 2) / math.pi  # passes one half at frequency one
        self.assertAlmostEqual(equivalent(0.0, gauss), DISC_HALF / math.pi, 6)
        self.assertGreater(equivalent(5.0, 1.0), 5.0)


class RefusedTest(unittest.TestCase):
    def test_what_cannot_be_measured_is_said_with_its_cure(self) -> None:
        blown = np.clip(drawn.edge(4.0, levels=(0.06, 1.5), noise=0.01), 0, 1)
        luck = np.random.default_rng(5)
        cases = [
            (blown, BadLight, "a stop less"),
            (np.zeros((200, 200)), BadLight, "expose it longer"),
            (np.full((200, 200), 0.4), NoEdge, "a dark sheet on a light one"),
            (0.4 + 0.1 * luck.normal(size=(200, 200)), PictureError, "."),
            (drawn.edge(1.2, 0.0, (200, 200)), NotSlanted, "by some five degrees"),
        ]
        for light, error, words in cases:
            with self.subTest(words), self.assertRaises(error) as raised:
                clearest_edge(light.astype(np.float32))
            self.assertIn(words, raised.exception.sentence)

    def test_white_paper_that_is_just_white_is_measured(self) -> None:
        light = np.clip(drawn.edge(5.0, levels=(0.0, 1.0)), 0, 1)
        found = clearest_edge(light.astype(np.float32))
        self.assertAlmostEqual(found.blur.disc, 5.0, delta=0.1)
