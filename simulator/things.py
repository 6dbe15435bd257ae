"""Things to photograph: each is drawn sharp, as a layer with what it covers and how deep it
stands."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Protocol

import cv2
import numpy as np
import numpy.typing as npt

from drawing import target
from simulator.shapes import fill, fill_round
from simulator.view import Plane, View

Image = npt.NDArray[np.float32]
Array = npt.NDArray[np.float64]

PAPER, INK = 0.72, 0.05
"""How much light white paper and printed black throw back."""


@dataclass(frozen=True, slots=True)
class Layer:
    """A thing as it would be seen all sharp: ``light`` at each sample; ``cover``, how much of it
    the thing fills, or None for all; ``inverse_depth`` 1/mm, at
    every so many samples as ``View.directions``, or one number."""

    light: Image
    cover: Image | None
    inverse_depth: Array


class Thing(Protocol):
    """Something in a scene."""

    @property
    def depth(self) -> float:
        """Of its middle, mm from the sensor, up to inf."""
        ...

    @property
    def speed(self) -> float:
        """How fast it moves across the view while the shutter is open, mm/s."""
        ...

    @property
    def heading(self) -> float:
        """Which way, radians from the right, downwards positive."""
        ...

    def layer(self, view: View, luck: np.random.Generator) -> Layer:
        """The thing as a view sees it."""
        ...


def _plane(view: View, thing: Sheet | Board | Edge) -> Plane:
    return Plane.facing(
        thing.x, -thing.y, view.depth(thing.depth), thing.lean, thing.turn, thing.roll
    )


@dataclass(frozen=True, slots=True)
class Sheet:
    """The printed target. ``depth`` of its middle, mm from the sensor; ``x``, ``y`` right of the
    axis and above it, mm; ``lean``, ``turn``, ``roll`` radians, as of ``Plane``; ``paper`` a4 or
    letter."""

    depth: float
    x: float = 0.0
    y: float = 0.0
    lean: float = math.radians(45.0)
    turn: float = 0.0
    roll: float = 0.0
    paper: str = "a4"
    speed: float = 0.0
    heading: float = 0.0

    def layer(self, view: View, luck: np.random.Generator) -> Layer:
        """The sheet and all that is printed on it."""
        plane = _plane(view, self)
        light = np.full(view.shape, PAPER, np.float32)
        for square in target.SQUARES:
            fill(light, view.seen(plane.at(square.corners)), INK)
        for mark in target.MARKS:
            _round(light, view, plane, mark.x, mark.y, mark.radius, INK)
            if mark.hole:
                _round(light, view, plane, mark.x, mark.y, mark.hole, PAPER)
        for corners in target.POINTERS:
            fill(light, view.seen(plane.at(corners)), INK)
        width, height = target.PAPERS[self.paper]
        cover = np.zeros(view.shape, np.float32)
        fill(cover, view.seen(plane.at(_corners(width, height))), 1.0)
        whole = None if float(cover.min()) == 1.0 else cover
        return Layer(light, whole, plane.inverse_depth(view))


def _corners(width: float, height: float) -> Array:
    w, h = width / 2, height / 2
    return np.array(((-w, -h), (w, -h), (w, h), (-w, h)))


def _round(
    light: Image, view: View, plane: Plane, x: float, y: float, r: float, level: float
) -> None:
    """A round thing on a plane, small enough to be seen as an ellipse."""
    around = view.seen(plane.at([(x + r, y), (x - r, y), (x, y + r), (x, y - r)]))
    axes = np.stack(((around[0] - around[1]) / 2, (around[2] - around[3]) / 2), axis=-1)
    fill_round(light, around.mean(axis=0), axes, level)


@dataclass(frozen=True, slots=True)
class Edge:
    """A dark half and a light half, the edge between them ``slant`` radians from upright."""

    depth: float
    slant: float = math.radians(5.0)
    dark: float = INK
    light: float = PAPER
    x: float = 0.0
    y: float = 0.0
    lean: float = 0.0
    turn: float = 0.0
    roll: float = 0.0
    speed: float = 0.0
    heading: float = 0.0

    def layer(self, view: View, luck: np.random.Generator) -> Layer:
        """All over the picture."""
        plane = _plane(view, self)
        rows, columns = view.shape
        middle = view.seen(plane.at([(0.0, 0.0)]))[0]
        along = np.array((math.sin(self.slant), -math.cos(self.slant)))
        beside = np.array((-along[1], along[0]))
        far = float(rows + columns)
        ends = (middle - far * along, middle + far * along)
        corners = [*ends, ends[1] + far * beside, ends[0] + far * beside]
        light = np.full(view.shape, self.dark, np.float32)
        fill(light, np.array(corners), self.light)
        return Layer(light, None, plane.inverse_depth(view))


@dataclass(frozen=True, slots=True)
class Board:
    """A flat thing with things scattered over it, light and dark: a wall, a slab, a hedge, a ridge.

    ``width``, ``height`` mm; ``grain`` the size of what is scattered, mm. Where ``width`` is inf it
    fills the picture: a ground that leans back, or a sky.
    """

    depth: float
    width: float = math.inf
    height: float = math.inf
    grain: float = 40.0
    darkest: float = 0.04
    lightest: float = 0.6
    x: float = 0.0
    y: float = 0.0
    lean: float = 0.0
    turn: float = 0.0
    roll: float = 0.0
    speed: float = 0.0
    heading: float = 0.0

    def layer(self, view: View, luck: np.random.Generator) -> Layer:
        """Leaves of its grain, drawn over each other."""
        plane = _plane(view, self) if math.isfinite(self.depth) else None
        cover = None
        if plane is not None and math.isfinite(self.width):
            cover = np.zeros(view.shape, np.float32)
            fill(cover, view.seen(plane.at(_corners(self.width, self.height))), 1.0)
        light = np.full(view.shape, math.sqrt(self.darkest * self.lightest), np.float32)
        (own,) = luck.spawn(1)
        for leaf in self._leaves(view, plane, own):
            leaf.draw(light)
        inverse = np.array(0.0) if plane is None else plane.inverse_depth(view)
        return Layer(light, cover, np.maximum(inverse, 0.0))

    def _leaves(
        self, view: View, plane: Plane | None, luck: np.random.Generator
    ) -> Iterator[_Leaf]:
        """Its texture as it stands in the picture. It goes with the thing: with the ring turned, or
        the thing moved, it is the same."""
        if plane is None:
            rows, columns = view.shape
            wide, high, grain = float(columns), float(rows), max(self.grain, 3.0 * view.samples)
        else:
            rows, columns = view.shape
            sample = view.depth(self.depth) / view.distance
            wide = min(self.width, _rounded(columns * sample * _AROUND))
            high = min(self.height, _rounded(rows * sample * _AROUND))
            grain = max(self.grain, 3.0 * view.samples * sample)
        count = int(np.clip(4.0 * wide * high / max(self.grain, 1.0) ** 2, 40, _MOST_LEAVES))
        levels = np.exp(luck.uniform(math.log(self.darkest), math.log(self.lightest), count))
        places = luck.uniform(-0.5, 0.5, (count, 2)) * (wide, high)
        sizes = luck.uniform((0.4, 0.25), (1.0, 0.7), (count, 2)) * grain
        turned = luck.uniform(0.0, 180.0, count)
        if plane is None:
            seen, scale = places + view.middle, np.ones(count)
        else:
            space = plane.at(places)
            there = space[:, 2] > _NEAREST
            scale = np.where(there, view.distance / np.where(there, space[:, 2], 1.0), 0.0)
            seen = np.where(there[:, None], view.seen(np.where(there[:, None], space, 1.0)), 0.0)
        for at in range(count):
            if scale[at] > 0:
                yield _Leaf(seen[at], sizes[at] * scale[at], float(turned[at]), float(levels[at]))


_AROUND = 1.5
"""Times what is in the frame, each way, that has texture: a plane that leans shows more."""
_NEAREST = 1.0
_MOST_LEAVES = 6000
_PARTS = 16
"""To a sample, in which OpenCV is told where shapes stand."""
_FARTHEST = 2**15


def _rounded(extent: float) -> float:
    """The next of steps that grow by half, so that breathing changes nothing."""
    return float(1.5 ** math.ceil(math.log(extent, 1.5)))


@dataclass(frozen=True, slots=True)
class _Leaf:
    """An ellipse of a texture: its middle and half axes, samples; its turn, degrees; its light."""

    at: Array
    axes: Array
    turned: float
    level: float

    def draw(self, light: Image) -> None:
        """Over what is there."""
        if float(np.abs(self.at).max()) > _FARTHEST or float(self.axes.max()) > _FARTHEST:
            return
        x, y = (int(place * _PARTS) for place in self.at)
        a, b = (int(axis * _PARTS) for axis in self.axes)
        cv2.ellipse(light, (x, y), (a, b), self.turned, 0, 360, self.level, -1, cv2.LINE_AA, 4)
