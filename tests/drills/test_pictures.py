"""The pictures of drills show what is true: sizes, stars by optics, blur by its cause."""

from __future__ import annotations

import io
import math
import random
import unittest
from functools import cache
from typing import Any

import cv2
import numpy as np
from PIL import Image

from drills import blur, distance, focus, pictures, star
from drills.tasks import Task
from optics.lens.conjugates import focus_of
from optics.lens.depth import total_blur
from tests import some
from tests.drills.gears import gear


def picture(said: Any) -> Any:
    """Grey levels, 0 to 1."""
    return np.asarray(Image.open(io.BytesIO(pictures.drawn(said).body)).convert("L"), float) / 255


def linear(coded: Any) -> Any:
    return np.where(coded <= 0.04045, coded / 12.92, ((coded + 0.055) / 1.055) ** 2.4)


def width_of(light: Any) -> float:
    """The diameter of a uniform disc, pixels, with the second moment that some light has."""
    rows, columns = np.indices(light.shape)
    whole = light.sum()
    x, y = (columns * light).sum() / whole, (rows * light).sum() / whole
    spread = (((columns - x) ** 2 + (rows - y) ** 2) * light).sum() / whole / 2
    return 4.0 * math.sqrt(max(spread - 1 / 12, 0.0))  # a pixel is wide itself


def sharpness(grey: Any) -> float:
    """How steep edges are, whatever the contrast: of the steepest, against the light there is."""
    soft = cv2.GaussianBlur(grey, (0, 0), 0.8)
    across, down = cv2.Sobel(soft, -1, 1, 0), cv2.Sobel(soft, -1, 0, 1)
    return float(np.percentile(np.hypot(across, down), 99.5) / (np.ptp(soft) + 1e-6))


class SceneTest(unittest.TestCase):
    def test_the_same_numbers_give_the_same_picture(self) -> None:
        every = ((distance, "near"), (blur, "motion"), (star, "bright"))
        for drill, part in some(every, 3):
            task = drill.DRILL.make(gear(), random.Random(3), part, 1)
            assert task.picture is not None
            self.assertEqual(pictures.drawn(task.picture), pictures.drawn(task.picture))

    def test_somebody_is_as_tall_as_perspective_has_it(self) -> None:
        """With and without: what differs is the person. 28 mm, 600 pixels to 36 mm."""
        for depth in some((4500.0, 6300.0, 11_000.0), 3, first=1):
            said = {"of": "street", "focal": 28.0, "width": 36.0, "height": 24.0, "depth": depth,
                    "thing": "person", "aside": 0.0, "seed": 5}  # fmt: skip
            there = picture(said)
            gone = picture({**said, "aside": 50.0})
            rows = np.flatnonzero((np.abs(there - gone) > 0.05).any(axis=1))
            tall = rows[-1] - rows[0] + 1
            v = 28.0
            expected = 1700.0 / (depth - 2 * v) * v / 36.0 * 600
            self.assertAlmostEqual(tall, expected, delta=0.13 * expected)  # people differ by 3 %
            foot = 200 + 1600.0 / (depth - 2 * v) * v / 36.0 * 600
            self.assertAlmostEqual(rows[-1], foot, delta=0.03 * foot)

    def test_a_slab_stands_at_its_depth(self) -> None:
        task = focus.DRILL.make(gear(), random.Random(2), focus.WALL, 1)
        assert task.picture is not None
        there = picture(task.picture)
        gone = picture({**task.picture, "aside": 40.0})
        rows = np.flatnonzero((np.abs(there - gone) > 0.08).any(axis=1))
        self.assertAlmostEqual(1 - rows[-1] / there.shape[0], task.picture["row"], delta=0.02)


class StarTest(unittest.TestCase):
    def test_its_size_is_that_of_optics_at_twenty_settings(self) -> None:
        for focal, widest in ((28.0, 2.8), (50.0, 1.8)):
            lens = gear(focal, widest)
            task = star.DRILL.make(lens, random.Random(8), star.BRIGHT, 1)
            assert task.picture is not None
            each = pictures.stack_of(task.picture)
            checked = 0
            for at in range(0, star.STOPS, 2):
                out = task.picture["first"] - at * task.picture["step"]
                setup = lens.kit.at(widest)
                if out <= 0:  # past infinity as far as before it, the same but for the pupil's cone
                    expected = star.disc_at(setup, out) / 0.006
                else:
                    at_mm = float(focus_of(setup, out / focal))
                    expected = float(total_blur(setup, math.inf, at_mm)) / 0.006
                if expected < 2.0:
                    continue  # of what is so small, pixels tell where it lies, and not its size
                light = linear(each[at][..., 1] / 255.0) - linear(np.median(each[at]) / 255.0)
                middle = self._middle(task.picture, each[at].shape)
                size = width_of(self._about(light, middle))
                self.assertAlmostEqual(size, expected, delta=0.05 * expected, msg=f"{focal} {at}")
                checked += 1
            self.assertGreaterEqual(checked, 20)

    @staticmethod
    def _middle(said: Any, shape: tuple[int, ...]) -> Any:
        luck = np.random.default_rng(int(said["seed"]))
        x, y = luck.uniform(-0.2, 0.2), luck.uniform(-0.2, 0.2)
        return np.array(
            ((shape[1] - 1) / 2 + x * shape[1] / 2, (shape[0] - 1) / 2 + y * shape[0] / 2)
        )

    @staticmethod
    def _about(light: Any, at: Any) -> Any:
        x, y = (round(float(one)) for one in at)
        reach = 11
        return np.maximum(light[y - reach : y + reach + 1, x - reach : x + reach + 1], 0.0)


class BlurTest(unittest.TestCase):
    @staticmethod
    @cache
    def make(part: str, seed: int = 5) -> tuple[Any, Any, Task]:
        task = blur.DRILL.make(gear(), random.Random(seed), part, 1)
        assert task.picture is not None
        assert task.after is not None
        return picture(task.picture), picture(task.after), task

    def test_each_is_softer_than_its_sharp_self(self) -> None:
        for part in some(blur.CAUSES, 3):
            soft, sharp, _ = self.make(part)
            if part == blur.HAZE:
                self.assertLess(np.ptp(soft), 0.6 * np.ptp(sharp))
            elif part == blur.DRIFT:
                self.assertGreater((soft > 0.3).sum(), 1.5 * (sharp > 0.3).sum())
            else:
                sign = (slice(100, 230), slice(215, 330))
                self.assertLess(sharpness(soft[sign]), 0.75 * sharpness(sharp[sign]), part)

    def test_what_else_is_sharp_tells_them_apart(self) -> None:
        wall = (slice(20, 260), slice(365, 415))
        post = (slice(20, 260), slice(20, 60))

        def gained(part: str, where: Any) -> float:
            soft, sharp, _ = self.make(part)
            return sharpness(soft[where]) / sharpness(sharp[where])

        self.assertGreater(gained(blur.NEAR, post), 1.2)
        self.assertGreater(gained(blur.FAR, wall), 1.2)
        self.assertAlmostEqual(gained(blur.MOTION, wall), 1.0, delta=0.1)

        def differs(part: str) -> float:
            soft, sharp, _ = self.make(part)
            return float(np.abs(cv2.GaussianBlur(soft - sharp, (0, 0), 1.5))[wall].mean())

        self.assertGreater(differs(blur.SHAKE), 5 * differs(blur.MOTION))

    def test_haze_leaves_edges_where_they_are(self) -> None:
        soft, sharp, _ = self.make(blur.HAZE)
        self.assertGreater(sharpness(soft), 0.6 * sharpness(sharp))
