"""Things to photograph: each is drawn sharp, as a layer with what it covers and how deep it
stands."""

from __future__ import annotations

import math
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

    def layer(self, view: View, luck: np.random.Generator) -> Layer:
        """Leaves of its grain, drawn over each other."""
        plane = _plane(view, self) if math.isfinite(self.depth) else None
        cover = None
        if plane is not None and math.isfinite(self.width):
            cover = np.zeros(view.shape, np.float32)
            fill(cover, view.seen(plane.at(_corners(self.width, self.height))), 1.0)
        scale = view.distance / view.depth(self.depth) if plane is not None else 1.0
        size = float(np.clip(self.grain * scale, 3.0 * view.samples, max(view.shape) / 3))
        light = _leaves(view.shape, size, self.darkest, self.lightest, luck)
        inverse = np.array(0.0) if plane is None else plane.inverse_depth(view)
        return Layer(light, cover, np.maximum(inverse, 0.0))


_PARTS = 16
"""To a sample, in which OpenCV is told where shapes stand."""


def _leaves(
    shape: tuple[int, ...], size: float, darkest: float, lightest: float, luck: np.random.Generator
) -> Image:
    rows, columns = shape
    light = np.full(shape, math.sqrt(darkest * lightest), np.float32)
    count = int(np.clip(4.0 * rows * columns / size**2, 40, 6000))
    levels = np.exp(luck.uniform(math.log(darkest), math.log(lightest), count))
    for level in levels:
        at = (int(luck.uniform(0, columns) * _PARTS), int(luck.uniform(0, rows) * _PARTS))
        axes = (
            int(size * luck.uniform(0.4, 1) * _PARTS),
            int(size * luck.uniform(0.25, 0.7) * _PARTS),
        )
        turned = float(luck.uniform(0, 180))
        cv2.ellipse(light, at, axes, turned, 0, 360, float(level), -1, cv2.LINE_AA, 4)
    return light
