"""Crops at full size in which something went wrong, and how the camera was set for them."""

from __future__ import annotations

import math
from dataclasses import dataclass, field
from typing import Any

import numpy as np

from drills.tasks import Facts
from simulator.camera import Shake
from simulator.cutouts import Cutout, Shape
from simulator.frame import Scene
from simulator.stars import Stars
from simulator.things import Board, Edge

FOCAL, PIXEL = 50.0, 0.004
"""mm: of the lens and the sensor that blurred crops are taken with."""


@dataclass(frozen=True, slots=True)
class Crop:
    """A scene, and how the camera was set when it was taken of it."""

    scene: Scene
    focus: float
    f_number: float = 4.0
    iso: float = 200.0
    time: float = 1 / 250
    shake: Shake = field(default_factory=Shake)


def crop(said: Facts) -> Crop:
    """Something went wrong with it, by ``amount``; 0 for nothing."""
    cause, amount = str(said["cause"]), float(said["amount"])
    seed, way = int(said["seed"]), float(said["way"])
    if cause == "drift":
        stars = Stars(14, 2.6, sky=0.012, drift=amount * 16 * PIXEL)
        return Crop(Scene(stars=stars, seed=seed), math.inf, 2.8, 800.0)
    if cause == "haze":
        return Crop(_hazy(seed, 0.8 * amount), math.inf, 8.0)
    speed = 0.0
    subject = 3000.0
    focus, f_number, shake = subject, 5.6, Shake()
    if cause in ("near", "far"):
        other = _IN_FRONT if cause == "near" else _BEHIND
        focus = subject / (1.0 + amount * (1.0 / other - 1.0))
    elif cause == "motion":
        speed = amount * 14 * PIXEL * subject / FOCAL * 250
    elif cause == "shake":
        shake = Shake(amount * 11, way)
    elif cause == "diffraction" and amount:
        f_number = 18.0 + 16.0 * amount
    return Crop(_stall(seed, subject, speed, way), focus, f_number, shake=shake)


_IN_FRONT, _BEHIND = 0.8, 1.45
"""Times as far away as the sign stand the post in front of it and the wall behind."""


def _stall(seed: int, subject: float, speed: float, way: float) -> Scene:
    """A sign on a stall, a post in front of it and a wall behind."""
    luck = np.random.default_rng(seed)
    mm = subject / FOCAL * PIXEL  # to a pixel, at the subject
    sign = _sign(130 * mm, 120 * mm, luck)
    post = Board(
        subject * _IN_FRONT, width=70 * mm, height=400 * mm, grain=3.2 * mm, darkest=0.05,
        lightest=0.5, x=float(luck.uniform(-135, -115)) * mm,
    )  # fmt: skip
    wall = Board(subject * _BEHIND, grain=8 * mm, darkest=0.12, lightest=0.6)
    x = float(luck.uniform(15, 45)) * mm
    return Scene(
        (wall, post, Cutout(subject, sign, x=x, y=-60 * mm, speed=speed, heading=way)), seed=seed
    )


def _sign(wide: float, tall: float, luck: np.random.Generator) -> tuple[Shape, ...]:
    """A board with strokes on it, as letters have them, of no script."""
    half = wide / 2
    shapes = [Shape(0.7, ((-half, 0), (half, 0), (half, tall), (-half, tall)))]
    for row in range(4):
        size = tall * (0.2 - 0.035 * row)
        y = tall * (0.74 - 0.23 * row)
        x = -half * 0.85
        while x < half * 0.8:
            for _ in range(int(luck.integers(2, 4))):
                thin = size * 0.13
                if luck.random() < 0.5:
                    at = x + float(luck.uniform(0, size * 0.6))
                    corners = ((at, y), (at + thin, y), (at + thin, y + size), (at, y + size))
                else:
                    at = y + float(luck.uniform(0, size * 0.85))
                    corners = ((x, at), (x + size * 0.7, at), (x + size * 0.7, at + thin),
                               (x, at + thin))  # fmt: skip
                shapes.append(Shape(0.05, corners))
            x += size * float(luck.uniform(0.85, 1.15))
    return tuple(shapes)


def _hazy(seed: int, lost: float) -> Scene:
    """Ridges one behind the other, the air before them as thick as ``lost`` in a kilometre."""
    luck = np.random.default_rng(seed)
    things: list[Any] = [Edge(9e6, dark=0.62, light=0.62)]
    for depth, height in ((4.5e6, 60), (2.2e6, 5), (0.8e6, -60)):
        mm = depth / FOCAL * PIXEL
        places = np.linspace(-240, 240, 40)
        heights = height + luck.uniform(-12, 12, 40) + 18 * np.sin(places / 70 + luck.uniform(0, 6))
        shapes = [
            Shape(float(luck.uniform(0.04, 0.1)),
                  ((x0 * mm, -300 * mm), (x1 * mm, -300 * mm), (x1 * mm, h1 * mm),
                   (x0 * mm, h0 * mm)))
            for x0, x1, h0, h1 in zip(places, places[1:], heights, heights[1:], strict=False)
        ]  # fmt: skip
        for x in luck.uniform(-220, 220, 3):
            foot = float(np.interp(x, places, heights)) - 3
            corners = ((x - 2, foot), (x + 2, foot), (x + 1, foot + 34), (x - 1, foot + 34))
            shapes.append(Shape(0.05, tuple((mm * a, mm * b) for a, b in corners)))
        things.append(Cutout(depth, tuple(shapes)))
    return Scene(tuple(things), haze=min(lost, 0.97), seed=seed)
