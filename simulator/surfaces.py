"""Flat grounds and walls that go away from the camera, with a texture that goes away with them.

Each sample is a ray: where it meets the plane, the light there is looked up. What is finer than the
samples show fades into its mean, so that nothing shimmers far away.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import cv2
import numpy as np
import numpy.typing as npt

from simulator.things import Layer
from simulator.view import EVERY, View

Image = npt.NDArray[np.float32]
_TEXTURE = 256
_OCTAVES = ((1.0, 0.5), (0.37, 0.3), (0.13, 0.2))
"""Of grain: their sizes, and how much of the contrast each has."""
_JOINT = 0.02
"""Of a slab: how wide the joint beside it is."""
_HORIZON = 1e-9
"""1/mm: what is farther is the horizon."""
_BEHIND = 1e8
"""mm: a surface is drawn before all that stands on it."""


@dataclass(frozen=True, slots=True)
class Surface:
    """A plane that fills all of the picture that its rays meet it in.

    ``point``   somewhere on it, mm from the pupil, x to the right, y down, z away.
    ``across``, ``along``  directions in it, of length 1, at right angles.
    ``dark``, ``light``  between which its light lies. ``grain``, and ``slab``: mm, how large what
                is scattered on it is, and the slabs it is laid of; 0 for none.
    ``ends``    how far it goes across, from ``point``, mm.
    ``order``   as how deep it is drawn among other things, mm. ``even``: blurred all over as what
                stands there, mm; 0: each place by its own depth.
    """

    point: tuple[float, float, float]
    across: tuple[float, float, float]
    along: tuple[float, float, float]
    dark: float = 0.15
    light: float = 0.35
    grain: float = 120.0
    slab: float = 0.0
    ends: tuple[float, float] = (-math.inf, math.inf)
    order: float = _BEHIND
    even: float = 0.0
    speed: float = 0.0
    heading: float = 0.0

    @property
    def depth(self) -> float:
        """Where it stands among other things, mm."""
        return self.order

    def layer(self, view: View, luck: np.random.Generator) -> Layer:
        """All of it that is before the camera."""
        point, across, along = (np.array(one) for one in (self.point, self.across, self.along))
        normal = np.cross(across, along)
        normal = normal / float(normal @ point)
        nx, ny, nz = (float(one) for one in normal)
        rows, columns = view.shape
        x0, y0 = view.middle
        a = ((np.arange(columns) - x0) / view.distance).astype(np.float32)[None, :]
        b = ((np.arange(rows) - y0) / view.distance).astype(np.float32)[:, None]
        inverse = nx * a + ny * b + nz
        cover = inverse > _HORIZON
        z = np.asarray(1.0 / np.where(cover, inverse, np.float32(1.0)), np.float32)
        u = _place(across, point, a, b, z)
        cover &= (u >= self.ends[0]) & (u <= self.ends[1])
        light = np.full(view.shape, 0.5 * (self.dark + self.light), np.float32)
        (own,) = luck.spawn(1)
        down, right = np.flatnonzero(cover.any(axis=1)), np.flatnonzero(cover.any(axis=0))
        if len(down):
            box = (slice(down[0], down[-1] + 1), slice(right[0], right[-1] + 1))
            v = _place(along, point, a[:, box[1]], b[box[0]], z[box])
            steep = math.hypot(nx, ny) / view.distance
            size = np.asarray(z[box] * (z[box] * steep + 1 / view.distance), np.float32)
            light[box] = self._light(u[box], v, size, own)
        covered = cover.astype(np.float32)
        if self.even:
            return Layer(light, covered, np.array(1.0 / view.depth(self.even)))
        over, out = (np.arange(0.0, n + EVERY, EVERY) - m for n, m in ((rows, y0), (columns, x0)))
        coarse = (nx * out[None, :] + ny * over[:, None]) / view.distance + nz
        return Layer(light, covered, np.maximum(coarse, 0.0))

    def _light(self, u: Image, v: Image, size: Image, luck: np.random.Generator) -> Image:
        """The light at places of the plane, mm; ``size``: of a sample there, mm."""
        middle, swing = 0.5 * (self.dark + self.light), self.light - self.dark
        light = np.full(u.shape, middle, np.float32)
        for share, weight in _OCTAVES:
            cell = self.grain * share
            texture = luck.random((_TEXTURE, _TEXTURE), dtype=np.float32) - np.float32(0.5)
            found = cv2.remap(
                texture, _wrapped(u, cell), _wrapped(v, cell), cv2.INTER_LINEAR,
                borderMode=cv2.BORDER_WRAP,
            )  # fmt: skip
            light += np.float32(2.0 * weight * swing) * found * _shown(cell, size)
        if self.slab:
            wide, slab = np.float32(self.slab * _JOINT), np.float32(self.slab)
            joint = np.zeros(u.shape, np.float32)
            for place in (u, v + np.floor(u / slab) % 2 * (slab / 2)):
                off = np.abs(place / slab - np.rint(place / slab)) * slab
                edge = np.clip((wide + size / 2 - off) / size, 0.0, 1.0)
                joint = np.maximum(joint, edge * np.minimum(2 * wide / size, 1.0))
            light *= 1.0 - np.float32(0.6) * joint
        return np.asarray(np.clip(light, 0.01, 1.0), np.float32)


def _place(
    way: npt.NDArray[np.float64], point: npt.NDArray[np.float64], a: Image, b: Image, z: Image
) -> Image:
    """How far along a direction of the plane what is seen lies, mm from its point."""
    x, y, away = (float(one) for one in way)
    return np.asarray((x * a + y * b + away) * z - float(way @ point), np.float32)


def _wrapped(place: Image, cell: float) -> Image:
    """Places as those of a texture that goes on for ever."""
    turns = place * np.float32(1.0 / (cell * _TEXTURE))
    return np.asarray((turns - np.floor(turns)) * np.float32(_TEXTURE), np.float32)


def _shown(cell: float, size: Image) -> Image:
    """How much of a texture of such cells is left where a sample is so large."""
    return np.asarray(np.clip(cell / (2.0 * size) - 0.25, 0.0, 1.0), np.float32)


def floor(
    height: float, tilt: float, *, grain: float = 120.0, slab: float = 0.0, dark: float = 0.15,
    light: float = 0.35, even: float = 0.0,
) -> Surface:  # fmt: skip
    """Level ground under a camera, ``height`` mm below its pupil, that looks ``tilt`` down,
    radians."""
    sine, cosine = math.sin(tilt), math.cos(tilt)
    return Surface(
        (0.0, height * cosine, height * sine), (1.0, 0.0, 0.0), (0.0, -sine, cosine),
        dark, light, grain, slab, even=even,
    )  # fmt: skip


def wall(
    x: float, height: float, tall: float, *, grain: float = 300.0, slab: float = 0.0,
    dark: float = 0.1, light: float = 0.25, even: float = 0.0,
) -> Surface:  # fmt: skip
    """A wall along the axis of a camera that looks level, ``x`` mm to its right, ``tall`` mm from
    the ground, which is ``height`` mm below the pupil."""
    return Surface(
        (x, 0.0, 0.0), (0.0, 1.0, 0.0), (0.0, 0.0, 1.0), dark, light, grain, slab,
        (height - tall, height), _BEHIND / 2, even,
    )  # fmt: skip
