"""Two pictures beside each other: what is soft is told from what moved, whatever the exposure."""

from __future__ import annotations

import unittest

import numpy as np
import numpy.typing as npt

from imaging.beside import Says, compared
from imaging.errors import Mixed
from tests.imaging import drawn
from tests.imaging.test_patches import leaves

SIZE = (640, 640)


def shifted(light: npt.NDArray[np.float32], across: int, down: int) -> npt.NDArray[np.float32]:
    return np.roll(light, (down, across), axis=(0, 1))


class BesideTest(unittest.TestCase):
    def share(self, says: npt.NDArray[np.str_], what: Says) -> float:
        known = says[says != Says.UNKNOWN]
        return float(np.mean(known == what)) if len(known) else 0.0

    def test_one_softer_half_is_told_whatever_the_light_and_the_tripod(self) -> None:
        first = leaves(2.5, SIZE)
        second = first.copy()
        second[:, 320:] = leaves(6.0, SIZE)[:, 320:]
        second = drawn.noisy(0.6 * shifted(second, 5, -3), drawn.ISO_100, 2).astype(np.float32)
        found = compared(first, second, 80)
        self.assertAlmostEqual(found.across, 5.0, delta=0.5)
        self.assertAlmostEqual(found.down, -3.0, delta=0.5)
        self.assertAlmostEqual(found.lighter, 0.6, delta=0.03)
        inner = found.says[1:-1]
        self.assertGreater(self.share(inner[:, 1:3], Says.SAME), 0.9)
        self.assertGreater(self.share(inner[:, 5:-1], Says.SECOND_SOFTER), 0.9)
        back = compared(second, first, 80)
        self.assertGreater(self.share(back.says[1:-1, 5:-1], Says.FIRST_SOFTER), 0.9)

    def test_what_moved_is_not_called_soft(self) -> None:
        first = leaves(2.5, SIZE)
        second = first.copy()
        second[160:480, 160:480] = shifted(leaves(2.5, SIZE), 17, 11)[160:480, 160:480]
        found = compared(first, second, 80)
        self.assertGreater(self.share(found.says[2:6, 2:6], Says.MOVED), 0.8)
        border = np.concatenate((found.says[0], found.says[-1]))
        self.assertGreater(self.share(border, Says.SAME), 0.9)

    def test_pictures_of_two_sizes_are_refused(self) -> None:
        with self.assertRaises(Mixed):
            compared(np.zeros((100, 100), np.float32), np.zeros((100, 120), np.float32))
