"""A picture drawn on a snapshot: its frame, its soft rows and its blur, against plain geometry."""

from __future__ import annotations

import math
import unittest

from optics import Setup
from optics.base.errors import OutOfRange
from optics.scene.as_taken import as_taken
from optics.scene.camera import Camera

HEIGHT, TILT = 900.0, math.radians(15.0)
SNAPSHOT = Camera(HEIGHT, TILT, 0.0, 24.0, 24.0, 36.0)


def thin_lens(depth: float, focus: float, f: float, n: float) -> float:
    """The disc of a point by similar triangles: depths from the sensor, of a lens that stands f and
    a little before it."""

    def behind(distance: float) -> float:
        # Sensor to subject is a + b with 1/a + 1/b = 1/f: the nearer root is the lens's.
        if math.isinf(distance):
            return f
        return (distance - math.sqrt(distance * distance - 4 * f * distance)) / 2

    image = behind(focus)
    if math.isinf(depth):
        sharp = f
    else:
        away = depth - image
        sharp = f * away / (away - f)
    return f / n * abs(image - sharp) / sharp


class AsTakenTest(unittest.TestCase):
    def test_its_frame_is_by_the_tangents_of_what_is_taken_in(self) -> None:
        for f, width in ((24.0, 36.0), (35.0, 36.0), (50.0, 36.0), (24.0, 23.5)):
            found = as_taken(SNAPSHOT, Setup(f, 8.0, 0.025), math.inf, width, width * 2 / 3)
            share = (width / f) / (36.0 / 24.0)
            self.assertAlmostEqual(found.right - found.left, share, places=9)
            self.assertAlmostEqual(found.top - found.bottom, share, places=9)
            self.assertAlmostEqual(found.left + found.right, 1.0, places=9)
            self.assertTrue(found.whole)
        wide = as_taken(SNAPSHOT, Setup(16.0, 8.0, 0.025), math.inf, 36.0, 24.0)
        self.assertFalse(wide.whole)
        self.assertTrue(all(0.0 <= band.row <= 1.0 for band in wide.bands))

    def test_a_row_is_as_blurred_as_its_ground_is_deep(self) -> None:
        setup, focus = Setup(35.0, 2.8, 0.03), 2500.0
        found = as_taken(SNAPSHOT, setup, focus, 36.0, 24.0)
        airy = 0.0
        for band in found.bands:
            down = (0.5 - band.row) * 24.0 / 24.0  # tangent below the axis, of the snapshot
            falls = math.sin(TILT) + down * math.cos(TILT)
            depth = HEIGHT / falls + 24.0 if falls > 1e-9 else math.inf
            if math.isfinite(band.depth):
                self.assertAlmostEqual(band.depth / depth, 1.0, places=6)
            blur = thin_lens(depth, focus, 35.0, 2.8)
            airy = max(airy, abs(band.disc * 36.0 - blur))
        self.assertLess(airy, 0.006)  # diffraction, which counts too, is no more than that

    def test_what_is_soft_lies_on_both_sides_of_the_row_that_is_focused_on(self) -> None:
        found = as_taken(SNAPSHOT, Setup(35.0, 2.8, 0.03), 2500.0, 36.0, 24.0)
        self.assertEqual(len(found.soft), 2)
        near, far = found.soft
        self.assertLess(near[1], found.focus_row)
        self.assertLess(found.focus_row, far[0])
        for band in found.bands:
            is_soft = any(low <= band.row <= high for low, high in found.soft)
            self.assertEqual(is_soft, thin_lens(band.depth, 2500.0, 35.0, 2.8) > 0.03)
        deep = as_taken(SNAPSHOT, Setup(24.0, 16.0, 0.05), 1900.0, 36.0, 24.0)
        self.assertEqual(deep.soft, ())

    def test_no_frame_is_none(self) -> None:
        with self.assertRaises(OutOfRange):
            as_taken(SNAPSHOT, Setup(24.0, 8.0, 0.025), 2000.0, 0.0, 24.0)
