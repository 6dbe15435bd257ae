"""Shapes drawn on a grid of samples, each sample as light as the share of it that is covered.

An edge's share of a sample is taken as if the sample were as wide, across the edge, as its shadow:
exact for edges along the grid, and within a few hundredths of a sample for others.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

Image = npt.NDArray[np.float32]
Array = npt.NDArray[np.float64]
Point = tuple[float, float]


_LARGE = 1_000_000
"""Samples: of shapes larger than that the outline is drawn more simply."""


@dataclass(frozen=True, slots=True)
class _Box:
    """The samples about some points: which rows and columns, and where those stand."""

    rows: slice
    columns: slice
    x: Array
    y: Array


def _box(image: Image, points: Array) -> _Box | None:
    height, width = image.shape[:2]
    x0, y0 = np.floor(points.min(axis=0)).astype(int) - 2
    x1, y1 = np.ceil(points.max(axis=0)).astype(int) + 3
    x0, y0, x1, y1 = max(x0, 0), max(y0, 0), min(x1, width), min(y1, height)
    if x0 >= x1 or y0 >= y1:
        return None
    large = (x1 - x0) * (y1 - y0) > _LARGE
    kind = np.float32 if large else np.float64
    x, y = np.arange(x0, x1, dtype=kind)[None, :], np.arange(y0, y1, dtype=kind)[:, None]
    return _Box(slice(y0, y1), slice(x0, x1), x, y)


def fill(image: Image, corners: Sequence[Point] | Array, level: float) -> None:
    """Draw a convex polygon over an image. ``corners``: (x, y) in samples, either way round; the
    middle of the first sample is (0, 0)."""
    points = np.asarray(corners, dtype=float)
    box = _box(image, points)
    if box is None:
        return
    following = np.roll(points, -1, axis=0)
    area = float(np.sum(points[:, 0] * following[:, 1] - following[:, 0] * points[:, 1]))
    large = box.x.size * box.y.size > _LARGE
    covered: Array | None = None
    for (ax, ay), (bx, by) in zip(points, following, strict=True):
        length = math.hypot(bx - ax, by - ay)
        if length < 1e-9:
            continue
        nx, ny = (by - ay) / length, -(bx - ax) / length
        if area < 0:
            nx, ny = -nx, -ny
        kind = box.x.dtype.type
        inside = box.x * kind(-nx) + (box.y * kind(-ny) + kind(ax * nx + ay * ny))
        if large:
            inside += kind(0.5)
            share = np.clip(inside, 0.0, 1.0, out=inside)
        else:
            share = _share(inside, nx, ny)
        covered = share if covered is None else np.multiply(covered, share, out=covered)
    if covered is not None:
        _over(image, box.rows, box.columns, covered, level)


def _share(inside: Array, nx: float, ny: float) -> Array:
    """How much of a sample lies inside an edge that its middle is ``inside`` by: the integral of a
    sample's own profile across the edge, a trapezium."""
    wide, narrow = max(abs(nx), abs(ny)), min(abs(nx), abs(ny))
    if narrow < 1e-6:
        return np.clip(inside / wide + 0.5, 0.0, 1.0)
    flat, foot = (wide - narrow) / 2, (wide + narrow) / 2
    out = np.minimum(np.abs(inside), foot)
    on_flat = np.minimum(out, flat)
    on_slope = np.maximum(out - flat, 0.0)
    half = (on_flat + on_slope - on_slope**2 / (2 * narrow)) / wide
    return np.where(inside >= 0, 0.5 + half, 0.5 - half)


def fill_round(image: Image, middle: Array, axes: Array, level: float) -> None:
    """Draw an ellipse. ``middle``: (x, y); ``axes``: 2 × 2, what the unit circle's x and y become;
    samples."""
    reach = np.abs(axes).sum(axis=1)
    box = _box(image, np.stack((middle - reach, middle + reach)))
    if box is None:
        return
    x, y = box.x, box.y
    back = np.linalg.inv(axes)
    u = back[0, 0] * (x - middle[0]) + back[0, 1] * (y - middle[1])
    v = back[1, 0] * (x - middle[0]) + back[1, 1] * (y - middle[1])
    radius = np.maximum(np.hypot(u, v), 1e-9)
    steep_x = (u * back[0, 0] + v * back[1, 0]) / radius
    steep_y = (u * back[0, 1] + v * back[1, 1]) / radius
    steep = np.maximum(np.hypot(steep_x, steep_y), 1e-9)
    covered = np.clip((1.0 - radius) / steep + 0.5, 0.0, 1.0)
    _over(image, box.rows, box.columns, covered, level)


def _over(image: Image, rows: slice, columns: slice, covered: Array, level: float) -> None:
    here = image[rows, columns]
    image[rows, columns] = here + (level - here) * covered.astype(np.float32, copy=False)
