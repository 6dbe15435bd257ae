"""Softness patch by patch, on leaves of all sizes behind a known disc."""

from __future__ import annotations

import unittest

import cv2
import numpy as np
import numpy.typing as npt

from imaging.errors import PictureError
from imaging.patches import mapped
from tests.imaging import drawn


def leaves(disc: float, size: tuple[int, int], seed: int = 1) -> npt.NDArray[np.float32]:
    """Light and dark leaves behind a disc: drawn three times as fine, blurred, then gathered."""
    luck, fine = np.random.default_rng(seed), 3
    width, height = size[0] * fine, size[1] * fine
    light = np.full((height, width), 0.4, np.float32)
    for _ in range(260):
        middle = (int(luck.uniform(0, width)), int(luck.uniform(0, height)))
        long = int(luck.uniform(15, 60) * fine)
        axes = (long, int(long * luck.uniform(0.5, 1)))
        level = float(luck.uniform(0.05, 0.9))
        cv2.ellipse(light, middle, axes, luck.uniform(0, 180), 0, 360, level, -1)
    reach, parts = int(disc * fine / 2) + 2, 8
    place = (np.arange((2 * reach + 1) * parts) + 0.5) / parts - reach - 0.5
    inside = np.hypot(*np.meshgrid(place, place)) < disc * fine / 2
    kernel = inside.reshape(2 * reach + 1, parts, 2 * reach + 1, parts).mean(axis=(1, 3))
    soft = cv2.filter2D(light, -1, kernel / kernel.sum())
    return cv2.resize(soft, size, interpolation=cv2.INTER_AREA)


class MapTest(unittest.TestCase):
    def test_most_patches_are_known_and_right(self) -> None:
        for disc in (2.0, 3.0, 5.0, 8.0, 12.0, 20.0):
            with self.subTest(disc):
                light = drawn.noisy(leaves(disc, (960, 640)), drawn.ISO_100, 1)
                found = mapped(light.astype(np.float32))
                self.assertGreater(found.known.mean(), 0.8)
                middle = float(np.median(found.disc[found.known]))
                self.assertAlmostEqual(middle / disc, 1.0, delta=0.1)

    def test_what_is_sharp_is_told_from_what_is_soft_beside_it(self) -> None:
        both = np.concatenate((leaves(2.0, (480, 480)), leaves(8.0, (480, 480), 2)), axis=1)
        found = mapped(both, 80)
        self.assertEqual(found.disc.shape, (6, 12))
        left, right = found.disc[:, :5], found.disc[:, 7:]
        self.assertLess(float(np.nanmax(left)), 3.0)
        self.assertGreater(float(np.nanmedian(right)), 7.0)

    def test_what_is_plain_is_not_known(self) -> None:
        luck = np.random.default_rng(1)
        plain = 0.3 + 0.01 * luck.normal(size=(400, 400))
        found = mapped(plain.astype(np.float32))
        self.assertLess(found.known.mean(), 0.05)
        self.assertTrue(np.isnan(found.disc[~found.known]).all())

    def test_a_patch_has_a_size_that_can_be(self) -> None:
        for patch in (0, 4, 5000):
            with self.subTest(patch), self.assertRaises(PictureError):
                mapped(np.zeros((300, 300), np.float32), patch)
        with self.assertRaises(PictureError):
            mapped(np.zeros((40, 40), np.float32), 64)
