"""Measuring from a snapshot: against rays drawn here, and with clicks that are not exact."""

from __future__ import annotations

import math
import unittest
from dataclasses import replace

import numpy as np

from optics.base.errors import OutOfRange, WrongOrder
from optics.scene import scouting
from optics.scene.camera import Camera
from optics.scene.scouting import Spot, Unsure

HEIGHT, TILT, F = 1500.0, math.radians(12.0), 24.0
CAMERA = Camera(HEIGHT, 0.0, 0.0, F, 24.0, 36.0)
EXACT = Unsure(0.0, 0.0, 0.0)
HORIZON = 0.5 + math.tan(TILT) * F / 24.0
"""By hand: tan of the tilt above the middle, in units of v = f."""


def seen(level: float, high: float = 0.0) -> float:
    """The row of a point so far along level ground and so high, by turning it into the camera."""
    down = HEIGHT - high
    depth = level * math.cos(TILT) + down * math.sin(TILT)
    below = down * math.cos(TILT) - level * math.sin(TILT)
    return 0.5 - below / depth * F / 24.0


def depth_of(level: float) -> float:
    """Of the foot there, from the sensor."""
    return level * math.cos(TILT) + HEIGHT * math.sin(TILT) + F


class ScoutingTest(unittest.TestCase):
    def test_the_foot_of_a_thing_against_rays(self) -> None:
        for level in (1200.0, 3000.0, 9000.0, 60_000.0):
            with self.subTest(level):
                found = scouting.foot(CAMERA, HORIZON, seen(level), EXACT)
                self.assertAlmostEqual(found.value / depth_of(level), 1.0, places=9)
                self.assertEqual(found.error, 0.0)
                far = scouting.along(CAMERA, HORIZON, seen(level), EXACT)
                self.assertAlmostEqual(far.value / level, 1.0, places=9)

    def test_at_the_horizon_and_above_nothing_can_be_said(self) -> None:
        for row in (HORIZON, HORIZON + 0.2):
            found = scouting.foot(CAMERA, HORIZON, row, Unsure(0.001, 0.001, 50.0))
            self.assertEqual((found.value, found.error), (math.inf, math.inf))
            self.assertEqual(found.share, math.inf)

    def test_known_heights_need_no_height_of_the_lens(self) -> None:
        for level, tall in ((2500.0, 1750.0), (9000.0, 3000.0)):
            ends = (seen(level), seen(level, tall))
            other = replace(CAMERA, height=400.0)
            found = scouting.by_its_height(other, HORIZON, ends, tall, EXACT)
            self.assertAlmostEqual(found.value / depth_of(level), 1.0, places=9)
            back = scouting.height_of(CAMERA, HORIZON, ends, EXACT)
            self.assertAlmostEqual(back.value / tall, 1.0, places=9)

    def test_a_snapshot_held_askew_is_turned_level(self) -> None:
        roll = math.radians(4.0)

        def askew(place: Spot) -> Spot:
            x, y = (place.column - 0.5) * 36.0, (place.row - 0.5) * 24.0
            c, s = math.cos(roll), math.sin(roll)
            return Spot(0.5 + (x * c - y * s) / 36.0, 0.5 + (y * c + x * s) / 24.0)

        left, right = askew(Spot(0.1, HORIZON)), askew(Spot(0.9, HORIZON))
        found = scouting.roll_of(right, left, 36.0, 24.0)
        self.assertAlmostEqual(found, roll)
        level = scouting.levelled(askew(Spot(0.3, 0.2)), found, 36.0, 24.0)
        self.assertAlmostEqual(level.column, 0.3)
        self.assertAlmostEqual(level.row, 0.2)
        with self.assertRaises(OutOfRange):
            scouting.roll_of(left, left, 36.0, 24.0)

    def test_clicks_that_are_off_stay_within_the_stated_error(self) -> None:
        """2 px of a 4000-pixel picture's height of 2667, a lens held 5 cm higher or lower: within
        two errors 19 times of 20, for feet, for known heights and for heights."""
        luck = np.random.default_rng(4)
        unsure = Unsure(2 / 2667, 2 / 2667, 50.0)
        within = {"foot": 0, "height": 0, "tall": 0}
        tries = 800
        for _ in range(tries):
            level, tall = float(luck.uniform(1200, 9000)), float(luck.uniform(900, 2500))
            low, high = (
                row + float(luck.normal(0, unsure.click))
                for row in (seen(level), seen(level, tall))
            )
            horizon = HORIZON + float(luck.normal(0, unsure.horizon))
            camera = replace(CAMERA, height=HEIGHT + float(luck.normal(0, unsure.height)))
            found = {
                "foot": (scouting.foot(camera, horizon, low, unsure), depth_of(level)),
                "height": (
                    scouting.by_its_height(camera, horizon, (low, high), tall, unsure),
                    depth_of(level),
                ),
                "tall": (scouting.height_of(camera, horizon, (low, high), unsure), tall),
            }
            for name, (told, true) in found.items():
                within[name] += abs(told.value - true) <= 2.0 * told.error
        for name, count in within.items():
            self.assertAlmostEqual(count / tries, 0.9545, delta=0.03, msg=name)

    def test_upside_down_is_said(self) -> None:
        for ask in (
            scouting.height_of,
            lambda c, h, e, u: scouting.by_its_height(c, h, e, 10.0, u),
        ):
            with self.assertRaises(WrongOrder):
                ask(CAMERA, HORIZON, (0.5, 0.4), EXACT)
