"""Movement told from a missed focus: leaves behind a known disc, drawn out by a known length."""

from __future__ import annotations

import math
import unittest

import cv2
import numpy as np
import numpy.typing as npt

from imaging.errors import NoEdge
from imaging.movement import Movement, movement
from tests.imaging import drawn
from tests.imaging.test_patches import leaves

SIZE = (480, 360)


def drawn_out(
    light: npt.NDArray[np.float32], length: float, direction: float
) -> npt.NDArray[np.float32]:
    """A picture moved in a straight line while the shutter was open."""
    reach = int(length) + 4
    kernel = np.zeros((2 * reach + 1,) * 2, np.float32)
    for along in np.linspace(-length / 2, length / 2, 400):
        x, y = reach + along * math.cos(direction), reach + along * math.sin(direction)
        column, row = int(x), int(y)
        fx, fy = x - column, y - row
        kernel[row : row + 2, column : column + 2] += np.outer((1 - fy, fy), (1 - fx, fx))
    return np.asarray(cv2.filter2D(light, -1, kernel / kernel.sum()), np.float32)


def seen(disc: float, length: float = 0.0, direction: float = 0.0, noise: float = 1.0) -> Movement:
    light = leaves(disc, SIZE, seed=3)
    if length:
        light = drawn_out(light, length, direction)
    noisy = drawn.noisy(light, noise * drawn.ISO_100, 1)
    return movement(noisy.astype(np.float32))


class MovementTest(unittest.TestCase):
    def test_what_is_only_out_of_focus_has_no_direction(self) -> None:
        for disc in (2.0, 4.0, 8.0, 14.0):
            with self.subTest(disc):
                found = seen(disc)
                self.assertFalse(found.moved)
                self.assertAlmostEqual(found.disc / disc, 1.0, delta=0.15)

    def test_what_moved_has_its_length_and_its_direction(self) -> None:
        for disc, length, direction in (
            (2.0, 4.0, 0.3), (2.0, 8.0, 1.2), (3.0, 6.0, -0.7), (2.0, 16.0, 0.5), (6.0, 5.0, 0.9),
        ):  # fmt: skip
            with self.subTest(disc=disc, length=length, direction=direction):
                found = seen(disc, length, direction)
                self.assertTrue(found.moved)
                self.assertAlmostEqual(found.length / length, 1.0, delta=0.2)
                self.assertLess(abs(found.length - length), 2.5 * found.length_error)
                turned = math.remainder(found.direction - direction, math.pi)
                self.assertLess(abs(math.degrees(turned)), 5.0)

    def test_edges_that_all_stand_one_way_tell_no_direction(self) -> None:
        bars = np.tile(np.repeat((0.1, 0.7), 30), 6)[None, :].repeat(300, axis=0)
        soft = cv2.GaussianBlur(bars.astype(np.float32), (0, 0), 1.5)
        with self.assertRaises(NoEdge):
            movement(soft)

    def test_a_plain_picture_tells_nothing(self) -> None:
        with self.assertRaises(NoEdge):
            movement(np.full((200, 200), 0.3, np.float32))
