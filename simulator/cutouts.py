"""Flat things of a few shapes that stand upright and face the camera: somebody, a bollard, a
crate."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from optics.zones.people import ADULT
from simulator.shapes import fill, fill_round
from simulator.things import Layer
from simulator.view import Plane, View

Array = npt.NDArray[np.float64]
Corners = tuple[tuple[float, float], ...]


@dataclass(frozen=True, slots=True)
class Shape:
    """A convex shape: its ``corners``, mm right of the foot's middle and above it, or an ellipse
    about a middle, ``round_``: x, y and its half axes. ``light`` it throws back."""

    light: float
    corners: Corners = ()
    round_: tuple[float, float, float, float] | None = None


@dataclass(frozen=True, slots=True)
class Cutout:
    """Shapes that stand upright at a depth, mm from the sensor; ``x`` and ``y`` of their foot's
    middle, right of the axis and above it, mm."""

    depth: float
    shapes: tuple[Shape, ...]
    x: float = 0.0
    y: float = 0.0
    speed: float = 0.0
    heading: float = 0.0

    def layer(self, view: View, luck: np.random.Generator) -> Layer:
        """All of its shapes, each over the one before."""
        plane = Plane.facing(self.x, -self.y, view.depth(self.depth))
        light = np.full(view.shape, 0.18, np.float32)
        cover = np.zeros(view.shape, np.float32)
        for shape in self.shapes:
            if shape.round_ is not None:
                x, y, wide, high = shape.round_
                ends = [(x + wide, y), (x - wide, y), (x, y + high), (x, y - high)]
                around = view.seen(plane.at(ends))
                axes = np.stack(((around[0] - around[1]) / 2, (around[2] - around[3]) / 2), axis=-1)
                fill_round(light, around.mean(axis=0), axes, shape.light)
                fill_round(cover, around.mean(axis=0), axes, 1.0)
            else:
                corners = view.seen(plane.at(shape.corners))
                fill(light, corners, shape.light)
                fill(cover, corners, 1.0)
        return Layer(light, cover, plane.inverse_depth(view))


def _upright(left: float, right: float, low: float, high: float, taper: float = 0.0) -> Corners:
    """Four corners; narrower above by ``taper`` on each side."""
    return ((left, low), (right, low), (right - taper, high), (left + taper, high))


def person(tall: float = ADULT, coat: float = 0.08, seed: int = 0) -> tuple[Shape, ...]:
    """Somebody who stands, ``tall`` mm, eight heads high [canon], in a coat so light."""
    luck = np.random.default_rng(seed)
    head = tall / 8
    step = float(luck.uniform(0.15, 0.5)) * head
    legs, skin = coat * 0.6, 0.35
    foot = step * 0.4

    def leg(side: float) -> tuple[Shape, ...]:
        at = side * (0.42 * head + foot)
        hip = side * 0.48 * head
        shin = ((at - 0.24 * head, 0.2 * head), (at + 0.24 * head, 0.2 * head),
                (hip + 0.46 * head, 4.0 * head), (hip - 0.46 * head, 4.0 * head))  # fmt: skip
        shoe = (at + side * 0.12 * head, 0.14 * head, 0.34 * head, 0.16 * head)
        return Shape(legs, shin), Shape(legs * 0.6, round_=shoe)

    def arm(side: float) -> tuple[Shape, ...]:
        hand = (side * 1.28 * head, 3.55 * head, 0.2 * head, 0.26 * head)
        sleeve = ((side * 1.08 * head, 3.6 * head), (side * 1.46 * head, 3.6 * head),
                  (side * 1.3 * head, 6.35 * head), (side * 0.85 * head, 6.6 * head))  # fmt: skip
        return Shape(skin, round_=hand), Shape(coat * 0.75, sleeve)

    body = ((-0.95 * head, 3.3 * head), (0.95 * head, 3.3 * head), (0.92 * head, 6.2 * head),
            (0.3 * head, 6.85 * head), (-0.3 * head, 6.85 * head),
            (-0.92 * head, 6.2 * head))  # fmt: skip
    return (
        *leg(-1.0), *leg(1.0), *arm(-1.0), *arm(1.0),
        Shape(coat, body),
        Shape(coat * 2.0, _upright(-0.05 * head, 0.05 * head, 3.3 * head, 6.3 * head)),
        Shape(skin * 0.8, _upright(-0.2 * head, 0.2 * head, 6.7 * head, 7.1 * head)),
        Shape(skin, round_=(0.0, 7.45 * head, 0.37 * head, 0.53 * head)),
        Shape(coat * 0.5, round_=(0.0, 7.74 * head, 0.4 * head, 0.27 * head)),
    )  # fmt: skip


def bollard(tall: float = 1000.0) -> tuple[Shape, ...]:
    """A post of a street, ``tall`` mm, with a light band about it."""
    wide = 0.09 * tall
    return (
        Shape(0.05, _upright(-wide, wide, 0, tall * 0.93, wide * 0.15)),
        Shape(0.6, _upright(-wide * 0.9, wide * 0.9, 0.74 * tall, 0.82 * tall)),
        Shape(0.05, round_=(0.0, 0.93 * tall, wide * 0.85, 0.07 * tall)),
    )


def crate(wide: float, tall: float) -> tuple[Shape, ...]:
    """A crate of boards, mm."""
    half = wide / 2
    boards = tuple(
        Shape(0.22 + 0.08 * (at % 2), _upright(-half, half, tall * at / 4, tall * (at + 0.92) / 4))
        for at in range(4)
    )
    thin = wide * 0.04
    posts = tuple(
        Shape(0.12, _upright(at - thin, at + thin, 0, tall)) for at in (-half * 0.92, half * 0.92)
    )
    return (Shape(0.06, _upright(-half, half, 0, tall)), *boards, *posts)
