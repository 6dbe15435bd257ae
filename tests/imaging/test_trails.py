"""Star trails of known length, made up, and what is no trail."""

from __future__ import annotations

import math
import unittest

import numpy as np

from imaging.errors import NoStars
from imaging.reading import read
from imaging.trails import trailed
from simulator.body import Body
from simulator.camera import Camera, Shake
from simulator.exposing import file_of
from simulator.frame import Scene, take
from simulator.lens import Lens
from simulator.stars import Stars
from tests import some

BODY = Body(width=1500, height=1000)
LENS = Lens(24.0, 2.0)


class TrailsTest(unittest.TestCase):
    def sky(self, drift: float = 0.0, brightest: float = 5.0, shake: Shake | None = None) -> bytes:
        ring = LENS.stands_for(math.inf, 2.8)
        camera = Camera(LENS, BODY, 2.8, ring, iso=1600, shake=shake or Shake())
        stars = Stars(60, brightest, drift=drift * BODY.pitch)
        return file_of(take(Scene((), stars=stars, seed=3), camera), camera)

    def test_how_far_stars_went_faint_and_bright(self) -> None:
        for drift, brightest in some(((2.0, 8.0), (4.0, 2.0), (8.0, 8.0), (16.0, 2.0)), 3):
            with self.subTest(drift=drift, brightest=brightest):
                found = trailed(read(self.sky(drift, brightest)).luminance)
                self.assertLess(abs(found.length - drift), 2.0 * found.error)
                self.assertAlmostEqual(found.direction, 0.0, delta=0.03)
                self.assertTrue(found.moved)

    def test_points_are_no_trails_and_a_shake_has_its_direction(self) -> None:
        still = trailed(read(self.sky()).luminance)
        self.assertFalse(still.moved)
        self.assertLess(still.length, 0.5)
        shaken = trailed(read(self.sky(shake=Shake(6.0, 0.7))).luminance)
        self.assertAlmostEqual(shaken.length, 6.0, delta=0.8)
        self.assertAlmostEqual(shaken.direction, 0.7, delta=0.05)

    def test_without_stars_nothing_is_told(self) -> None:
        luck = np.random.default_rng(1)
        with self.assertRaises(NoStars):
            trailed((0.02 + 0.002 * luck.normal(size=(300, 400))).astype(np.float32))
