"""How soft a picture is, patch by patch, from whatever edges it happens to have.

At an edge the slope of the light is steepest; blurred a little more, it is less steep, and by how
much less depends on how blurred it was already [reblur]. So the ratio of the slopes at two widths
of a Gaussian tells the disc, whatever the edge's contrast. The widths are 0.8 and 1.6 pixels of a
copy of the picture, halved as often as the blur needs. Things thinner than their blur, and textures
finer than it, are no edges: patches with none, or whose edges disagree, count as not known.
"""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass
from functools import cache
from itertools import pairwise

import cv2
import numpy as np
import numpy.typing as npt

from imaging.errors import PictureError
from imaging.numbers import Array, Flags, Luminance

FINEST = 1.0
"""Pixels: what is sharper than that is told as that."""
FINE, WIDE = 0.8, 1.6
"""Pixels of a copy: the Gaussians at which slopes are compared."""
_CELL, _LEAST_CELL = 8, 4
"""Pixels of a copy: cells within which one edge is looked at, at most; in smaller copies smaller
ones."""
_LEVELS = 5
_CLEAR = 12.0
"""A slope counts that stands that many deviations of the noise's own slopes above it."""
_STRONGEST = 0.3
"""Edges with less than that share of a patch's steepest slope are left out of it."""
_MOST = 6.0
"""Pixels of a copy: what is softer than that is looked at in a smaller one."""
_LEAST_IN_COPY = 2.2
_LEAST_EDGES = 3
_AGREE = 0.22
"""How far a patch's edges may scatter about their middle, as a share of it, and be believed."""
LEAST_PATCH, MOST_PATCH = 16, 1024


@dataclass(frozen=True, slots=True)
class Map:
    """Discs of blur by patch: ``disc``, pixels, rows × columns, nan where nothing is ``known``."""

    patch: int
    disc: Array
    known: Flags


def mapped(luminance: Luminance, patch: int = 64) -> Map:
    """How soft a picture is in each of its patches, from its upper left corner.

    ``luminance``: linear, 0 to 1. ``patch``: pixels, 16 to 1024; what is left over at the right and
    lower sides is no patch. Raises PictureError.
    """
    if not LEAST_PATCH <= patch <= MOST_PATCH:
        raise PictureError(f"A patch is {LEAST_PATCH} to {MOST_PATCH} pixels.")
    rows, columns = (side // patch for side in luminance.shape)
    if not rows or not columns:
        raise PictureError("The picture is smaller than one patch.")
    disc = np.full((rows, columns), np.nan)
    open_ = np.ones((rows, columns), dtype=bool)
    copy, factor = luminance, 1
    for level in range(_LEVELS):
        if min(copy.shape) < 2 * _CELL:
            break
        found = _at_level(copy, patch / factor, rows, columns, max(_CELL // factor, _LEAST_CELL))
        last = level == _LEVELS - 1
        if level:  # what is sharp in a small copy, and was no edge in a larger one, is none
            found[found < _LEAST_IN_COPY] = np.nan
        take = open_ & np.isfinite(found) & (last | (found <= _MOST))
        disc[take] = found[take] * factor
        open_ &= ~take
        if not open_.any():
            break
        copy = cv2.resize(
            copy[: copy.shape[0] // 2 * 2, : copy.shape[1] // 2 * 2], None, fx=0.5, fy=0.5,
            interpolation=cv2.INTER_AREA,
        )  # fmt: skip
        factor *= 2
    return Map(patch, disc, np.isfinite(disc))


def _smooth(copy: Luminance, width: float) -> tuple[Luminance, Luminance]:
    """How much lighter a picture grows across and down, per pixel, behind a Gaussian."""
    smooth = cv2.GaussianBlur(copy, (0, 0), width)
    across = cv2.Sobel(smooth, cv2.CV_32F, 1, 0, ksize=1, scale=0.5)
    return across, cv2.Sobel(smooth, cv2.CV_32F, 0, 1, ksize=1, scale=0.5)


def _noise(copy: Luminance) -> float:
    """The deviation of the noise of a pixel: half of a picture, at least, is no edge [noise]."""
    crossed = cv2.filter2D(copy[: copy.shape[0] // 2 * 2], cv2.CV_32F, _CROSSED)
    return 1.4826 * float(np.median(np.abs(crossed[2:-2:3, 2:-2:3]))) / 6.0


_CROSSED = np.outer((1, -2, 1), (1, -2, 1)).astype(np.float32)


@dataclass(frozen=True, slots=True)
class _Slopes:
    """The steepest place of each cell of a copy: where it is, how steep there, how much steeper
    than behind the wider Gaussian, and in which direction the light grows, radians."""

    x: npt.NDArray[np.int64]
    y: npt.NDArray[np.int64]
    steep: Array
    ratio: Array
    angle: Array


def _steepest(copy: Luminance, least: float, cell: int) -> _Slopes:
    """What is steep by more than ``least``, at most one place in each cell, and only where an edge
    is steepest. Looked for behind the wider Gaussian: noise that made the finer slope steep would
    be believed."""
    fine_x, fine_y = _smooth(copy, FINE)
    wide_x, wide_y = _smooth(copy, WIDE)
    wide = cv2.magnitude(wide_x, wide_y)
    height, width = (side // cell for side in copy.shape)
    cells = wide[: height * cell, : width * cell].reshape(height, cell, width, cell)
    cells = cells.transpose(0, 2, 1, 3).reshape(height, width, cell * cell)
    y, x = np.divmod(cells.argmax(axis=2), cell)
    top, left = np.mgrid[0:height, 0:width] * cell
    y, x = (top + y).ravel(), (left + x).ravel()
    beyond = wide[y, x]
    keep = (y > 1) & (y < copy.shape[0] - 2) & (x > 1) & (x < copy.shape[1] - 2)
    keep &= beyond > 0.3 * least  # the finer slope is at most twice that
    y, x, beyond = y[keep], x[keep], beyond[keep]
    steep = np.hypot(fine_x[y, x], fine_y[y, x])
    dx = np.rint(1.3 * wide_x[y, x] / beyond).astype(int)
    dy = np.rint(1.3 * wide_y[y, x] / beyond).astype(int)
    top_of_edge = (wide[y + dy, x + dx] <= beyond) & (wide[y - dy, x - dx] <= beyond)
    good = top_of_edge & (steep > least)
    y, x, steep, beyond = y[good], x[good], steep[good].astype(float), beyond[good].astype(float)
    angle = np.arctan2(wide_y[y, x], wide_x[y, x]).astype(float)
    return _Slopes(x, y, steep, steep / beyond, angle)


@dataclass(frozen=True, slots=True)
class Directed:
    """Edges of a picture: the ``disc`` that each is blurred by across itself, pixels, and the
    ``angle`` in which its light grows, radians from the rows, downwards positive."""

    disc: Array
    angle: Array


def directed(luminance: Luminance) -> Directed:
    """The clearest edges of a picture, each with its softness and which way it stands.

    ``luminance``: linear, 0 to 1. What is softer than some ten pixels is not told.
    """
    noise = _noise(luminance)
    slopes = _steepest(luminance, max(_CLEAR * _FINE_NOISE * noise, _LEAST_SLOPE), _LEAST_CELL)
    discs = _disc_of(slopes.ratio)
    use = np.isfinite(discs)
    return Directed(discs[use], slopes.angle[use])


def _at_level(copy: Luminance, patch: float, rows: int, columns: int, cell: int) -> Array:
    """The disc of each patch in pixels of a copy; nan where it cannot be told."""
    noise = _noise(copy)
    slopes = _steepest(copy, max(_CLEAR * _FINE_NOISE * noise, _LEAST_SLOPE), cell)
    discs = _disc_of(slopes.ratio)
    row, column = (slopes.y / patch).astype(int), (slopes.x / patch).astype(int)
    found = np.full((rows, columns), np.nan)
    inside = (row < rows) & (column < columns) & np.isfinite(discs)
    which = (row * columns + column)[inside]
    order = np.argsort(which, kind="stable")
    which, values, steep = which[order], discs[inside][order], slopes.steep[inside][order]
    starts = [0, *(np.flatnonzero(np.diff(which)) + 1), len(which)] if len(which) else []
    for begin, end in pairwise(starts):
        found.flat[which[begin]] = _agreed(values[begin:end], steep[begin:end])
    return found


_FINE_NOISE = 0.22
"""The deviation of a slope behind the finer Gaussian, in deviations of a pixel: worked out."""
_LEAST_SLOPE = 0.002


def _agreed(discs: Array, slopes: Array) -> float:
    """What a patch's edges agree on; nan where they do not."""
    use = slopes >= _STRONGEST * slopes.max()
    discs = discs[use]
    if len(discs) < _LEAST_EDGES:
        return math.nan
    middle = float(np.median(discs))
    scatter = 1.4826 * float(np.median(np.abs(discs - middle)))
    return middle if scatter <= _AGREE * middle + 0.25 else math.nan


@cache
def _table() -> tuple[Array, Array]:
    """How much steeper an ideal edge behind a disc is at the finer Gaussian, by disc: falling.

    Found by putting such edges, at several slants, through the very steps that pictures go through.
    """
    discs = np.concatenate((np.linspace(0.2, 4, 20), np.geomspace(4.4, 24, 16)))
    ratios = [
        np.median(np.concatenate([_steepest(e, 0.02, _CELL).ratio for e in _ideal(disc)]))
        for disc in discs
    ]
    return discs, np.minimum.accumulate(np.array(ratios))


def _ideal(disc: float) -> Iterator[Luminance]:
    """Edges behind a disc, as pixels gather them."""
    side, fine = 96, 6
    place = (np.arange(side * fine) + 0.5) / fine - side / 2
    x, y = np.meshgrid(place, place)
    for slant in _SLANTS:
        across = np.clip(2 * (y * math.cos(slant) - x * math.sin(slant)) / disc, -1, 1)
        light = 0.5 + (across * np.sqrt(1 - across**2) + np.arcsin(across)) / math.pi
        yield light.reshape(side, fine, side, fine).mean(axis=(1, 3)).astype(np.float32)


_SLANTS = (0.06, 0.3, 0.55, 0.785, 1.1)


def _disc_of(ratio: Array) -> Array:
    """The disc that each ratio of slopes tells, pixels; nan for one that none makes."""
    discs, ratios = _table()
    found = np.interp(-ratio, -ratios, discs, left=FINEST, right=np.nan)
    return np.where(ratio > ratios[-1], found, np.nan)
