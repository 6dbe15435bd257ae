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
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from functools import cache

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


def _slope(smooth: Luminance, across: int) -> Luminance:
    """How much lighter a picture grows per pixel: ``across`` 1, or 0 for down."""
    return np.asarray(cv2.Sobel(smooth, cv2.CV_32F, across, 1 - across, ksize=1, scale=0.5))


def _slopes_at(
    smooth: Luminance, y: npt.NDArray[np.int64], x: npt.NDArray[np.int64]
) -> tuple[Array, Array]:
    """The same at some places only, none of them at a side: across and down."""
    across = 0.5 * (smooth[y, x + 1] - smooth[y, x - 1])
    down = 0.5 * (smooth[y + 1, x] - smooth[y - 1, x])
    return across.astype(np.float64), down.astype(np.float64)


def _noise(copy: Luminance) -> float:
    """The deviation of the noise of a pixel: half of a picture, at least, is no edge [noise]. Of a
    large one every fourth strip tells as much."""
    rows = len(copy) // 2 * 2
    tops = range(0, rows, 4 * _NOISE_ROWS if rows > 16 * _NOISE_ROWS else max(rows, 1))
    found = []
    for top in tops:
        strip = copy[top : top + _NOISE_ROWS] if len(tops) > 1 else copy[:rows]
        crossed = cv2.filter2D(strip, cv2.CV_32F, _CROSSED)
        found.append(np.abs(crossed[2:-2:3, 2:-2:3]).ravel())
    return 1.4826 * float(np.median(np.concatenate(found))) / 6.0


_NOISE_ROWS = 64
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
    is steepest. Strip by strip on two threads: a strip stays in a processor's own memory."""
    rows = copy.shape[0] // cell * cell
    tops = range(0, rows, max(_STRIP // cell, 1) * cell)
    with ThreadPoolExecutor(_THREADS) as threads:
        parts = list(threads.map(lambda top: _of_strip(copy, top, tops.step, least, cell), tops))
    return _Slopes(*(np.concatenate(each) for each in zip(*parts, strict=True)))


_STRIP = 128
_BESIDE = 12
"""Rows beside a strip that its Gaussians see, and its edges are compared with."""
_THREADS = 2


def _of_strip(
    copy: Luminance, top: int, height: int, least: float, cell: int
) -> tuple[npt.NDArray[np.int64], npt.NDArray[np.int64], Array, Array, Array]:
    """The fields of ``_Slopes`` of a strip. Looked for behind the wider Gaussian: noise that made
    the finer slope steep would be believed."""
    above = max(top - _BESIDE, 0)
    seen = copy[above : top + height + _BESIDE]
    finer, wider = (cv2.GaussianBlur(seen, (0, 0), width) for width in (FINE, WIDE))
    wide = cv2.magnitude(_slope(wider, 1), _slope(wider, 0))
    own = wide[top - above : top - above + height]
    down, along = (side // cell for side in own.shape)
    cells = own[: down * cell, : along * cell].reshape(down, cell, along, cell)
    cells = cells.transpose(0, 2, 1, 3).reshape(down, along, cell * cell)
    y, x = np.divmod(cells.argmax(axis=2), cell)
    first, left = np.mgrid[0:down, 0:along] * cell
    y, x = (first + y).ravel() + top - above, (left + x).ravel()
    beyond = wide[y, x]
    keep = (y + above > 1) & (y + above < copy.shape[0] - 2) & (x > 1) & (x < copy.shape[1] - 2)
    keep &= beyond > 0.3 * least  # the finer slope is at most twice that
    y, x, beyond = y[keep], x[keep], beyond[keep]
    steep = np.hypot(*_slopes_at(finer, y, x))
    grows, falls = _slopes_at(wider, y, x)
    dx = np.rint(1.3 * grows / beyond).astype(int)
    dy = np.rint(1.3 * falls / beyond).astype(int)
    top_of_edge = (wide[y + dy, x + dx] <= beyond) & (wide[y - dy, x - dx] <= beyond)
    good = top_of_edge & (steep > least)
    steep, beyond = steep[good].astype(float), beyond[good].astype(float)
    angle = np.arctan2(falls[good], grows[good]).astype(float)
    return x[good], y[good] + above, steep, steep / beyond, angle


@dataclass(frozen=True, slots=True)
class Directed:
    """Edges of a picture: the ``disc`` that each is blurred by across itself, pixels; the ``angle``
    in which its light grows, radians from the rows, downwards positive; and where it is, pixels
    from the left (``x``) and from above (``y``)."""

    disc: Array
    angle: Array
    x: npt.NDArray[np.int64]
    y: npt.NDArray[np.int64]


def directed(luminance: Luminance) -> Directed:
    """The clearest edges of a picture, each with its softness and which way it stands.

    ``luminance``: linear, 0 to 1. What is softer than some ten pixels is not told.
    """
    noise = _noise(luminance)
    slopes = _steepest(luminance, max(_CLEAR * _FINE_NOISE * noise, _LEAST_SLOPE), _LEAST_CELL)
    discs = _disc_of(slopes.ratio)
    use = np.isfinite(discs)
    return Directed(discs[use], slopes.angle[use], slopes.x[use], slopes.y[use])


def _at_level(copy: Luminance, patch: float, rows: int, columns: int, cell: int) -> Array:
    """The disc of each patch in pixels of a copy; nan where it cannot be told."""
    noise = _noise(copy)
    slopes = _steepest(copy, max(_CLEAR * _FINE_NOISE * noise, _LEAST_SLOPE), cell)
    discs = _disc_of(slopes.ratio)
    row, column = (slopes.y / patch).astype(int), (slopes.x / patch).astype(int)
    found = np.full((rows, columns), np.nan)
    inside = (row < rows) & (column < columns) & np.isfinite(discs)
    which = (row * columns + column)[inside]
    steepest = np.zeros(rows * columns)
    np.maximum.at(steepest, which, slopes.steep[inside])
    use = slopes.steep[inside] >= _STRONGEST * steepest[which]
    patches, agreed = _agreed(which[use], discs[inside][use])
    found.flat[patches] = agreed
    return found


_FINE_NOISE = 0.22
"""The deviation of a slope behind the finer Gaussian, in deviations of a pixel: worked out."""
_LEAST_SLOPE = 0.002


def _agreed(which: npt.NDArray[np.int64], discs: Array) -> tuple[npt.NDArray[np.int64], Array]:
    """Of each patch that edges are of: its number, and what they agree on; nan where they do not,
    or are too few."""
    patches, there, count = np.unique(which, return_inverse=True, return_counts=True)
    middle = _medians(there, discs, count)
    scatter = 1.4826 * _medians(there, np.abs(discs - middle[there]), count)
    good = (count >= _LEAST_EDGES) & (scatter <= _AGREE * middle + 0.25)
    return patches, np.where(good, middle, math.nan)


def _medians(there: npt.NDArray[np.int64], values: Array, count: npt.NDArray[np.int64]) -> Array:
    """The median of each group: ``there`` says which group a value is of, ``count`` how many."""
    ordered = values[np.lexsort((values, there))]
    first = np.cumsum(count) - count
    middle: Array = 0.5 * (ordered[first + (count - 1) // 2] + ordered[first + count // 2])
    return middle


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
