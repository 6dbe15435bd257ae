"""All that is measured in a frame at once, so that the file itself need not be kept: a map of how
soft it is, and which way it is drawn out in windows that overlap; of a sky, its stars' trails."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Any

import numpy as np

from imaging.errors import PictureError
from imaging.movement import Movement, movements
from imaging.numbers import Array, Luminance
from imaging.patches import LEAST_PATCH, MOST_PATCH, Map, mapped
from imaging.trails import Trails, trailed
from imaging.writing import as_jpeg

COLUMNS = 60
"""Patches of a map along the longer side of a frame, about."""
_STEP = 8
WINDOWS = 24
"""Steps of the windows along the longer side; each window is two of them wide and high."""


@dataclass(frozen=True, slots=True)
class Window:
    """A part of a frame: its middle, ``x`` and ``y``, shares of the width from the left and of the
    height from above; its ``movement``, None where that cannot be told; and its ``contrast``,
    (lightest − darkest) ÷ (lightest + darkest), 0 to 1."""

    x: float
    y: float
    movement: Movement | None
    contrast: float


@dataclass(frozen=True, slots=True)
class Whole:
    """What a frame shows. ``size``: width and height, pixels. ``trails``: of its stars; None where
    it has none."""

    size: tuple[int, int]
    map: Map
    windows: tuple[Window, ...]
    trails: Trails | None


def patch_of(width: int, height: int) -> int:
    """How large patches of a map of such a picture are, pixels."""
    side = max(width, height) // COLUMNS // _STEP * _STEP
    return int(np.clip(side, LEAST_PATCH, min(MOST_PATCH, width, height)))


def whole(luminance: Luminance, *, sky: bool = False) -> Whole:
    """Everything that is measured in a frame.

    ``luminance``: linear, 0 to 1. ``sky``: whether stars are looked for. Raises PictureError for
    one that is smaller than a patch.
    """
    height, width = luminance.shape
    found = mapped(luminance, patch_of(width, height))
    side = max(width, height) / WINDOWS
    across = [at * side for at in range(max(int(width / side) - 1, 1))]
    down = [at * side for at in range(max(int(height / side) - 1, 1))]
    parts = [
        (int(left), int(top), min(int(left + 2 * side), width), min(int(top + 2 * side), height))
        for top in down
        for left in across
    ]
    moved = movements(luminance, parts)
    windows = tuple(
        Window(
            (left + right) / 2 / width, (top + bottom) / 2 / height, one,
            _contrast(luminance[top:bottom:_SPARSE, left:right:_SPARSE]),
        )
        for (left, top, right, bottom), one in zip(parts, moved, strict=True)
    )  # fmt: skip
    return Whole((width, height), found, windows, _trails(luminance) if sky else None)


_SPARSE = 7


def _contrast(part: Array | Luminance) -> float:
    low, high = (float(value) for value in np.percentile(part, (2, 98)))
    return float(np.clip((high - low) / max(high + low, 1e-6), 0.0, 1.0))


def _trails(luminance: Luminance) -> Trails | None:
    try:
        found = trailed(luminance)
    except PictureError:
        return None
    return found if math.isfinite(found.length) else None


SMALL_SIDE = 560
_SMALL_QUALITY = 72


def small_of(luminance: Luminance, *, sky: bool = False) -> bytes:
    """A small picture of a frame, to lay its map over: a JPEG in grey, 560 pixels at the most.
    ``sky``: of a dark one, lifted so that its stars are seen, none of them lost."""
    if sky and float(np.median(luminance[::_SPARSE, ::_SPARSE])) < _DARK:
        luminance = _lifted(luminance)
    return as_jpeg(luminance, _SMALL_QUALITY, (SMALL_SIDE, SMALL_SIDE))


_DARK = 0.05
_LIFTED = (99.5, 99.97)
"""Per cent of blocks that are made black, and that are less than white: stars are few."""


def _lifted(luminance: Luminance) -> Luminance:
    """The lightest of each block, from the sky's own light up."""
    step = max(max(luminance.shape) // SMALL_SIDE, 1)
    rows, columns = (side // step for side in luminance.shape)
    blocks = luminance[: rows * step, : columns * step].reshape(rows, step, columns, step)
    lightest = blocks.max(axis=(1, 3))
    low, high = (float(value) for value in np.percentile(lightest, _LIFTED))
    return np.asarray(np.clip((lightest - low) / max(high - low, 1e-6), 0.0, 1.0), np.float32)


def plain(seen: Whole) -> dict[str, Any]:
    """What was seen in a file, as plain data: pixels to a tenth, None for what is not known."""
    disc = [[None if v != v else round(v, 1) for v in row] for row in seen.map.disc.tolist()]
    trails = seen.trails
    return {
        "size": list(seen.size),
        "patch": seen.map.patch,
        "disc": disc,
        "windows": [
            [round(w.x, 4), round(w.y, 4), round(w.contrast, 3), *_moved(w.movement)]
            for w in seen.windows
        ],
        "trails": None
        if trails is None
        else {
            "length": round(trails.length, 2), "error": round(trails.error, 2),
            "direction": round(trails.direction, 3), "width": round(trails.width, 2),
            "moved": trails.moved, "count": trails.count,
        },
    }  # fmt: skip


def _moved(found: Movement | None) -> list[Any]:
    """Disc, its error, length, its error, direction, and whether it moved; nothing where that is
    not known."""
    if found is None:
        return []
    return [
        round(found.disc, 2), round(found.disc_error, 2), round(found.length, 2),
        round(found.length_error, 2), round(found.direction, 3), found.moved,
    ]  # fmt: skip
