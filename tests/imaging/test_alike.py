"""Whether two small pictures show the same view."""

from __future__ import annotations

import unittest

from imaging.alike import alike
from tests.imaging import drawn


def small(disc: float, turned: float = 5.0, levels: tuple[float, float] = (0.1, 0.6)) -> bytes:
    return drawn.file(drawn.edge(disc, turned, (240, 160), 0.004, 1, levels))


class AlikeTest(unittest.TestCase):
    def test_the_same_view_softer_or_darker_is_alike(self) -> None:
        for other in (small(14.0), small(2.0, levels=(0.03, 0.2)), small(2.0, 8.0)):
            self.assertGreater(alike(small(2.0), other), 0.85)

    def test_another_view_another_shape_and_nothing_to_see_are_not(self) -> None:
        flat = drawn.file(drawn.edge(2.0, size=(240, 160), levels=(0.2, 0.2)))
        upright = drawn.file(drawn.edge(2.0, size=(160, 240)))
        for other in (small(2.0, 95.0), small(2.0, 185.0), flat, upright):
            self.assertLess(alike(small(2.0), other), 0.3)
