"""All that is measured in a frame at once, so that the file itself need not be kept: a map of how
soft it is, and which way it is drawn out in windows that overlap; of a sky, its stars' trails."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from imaging.errors import PictureError
from imaging.movement import Movement, movements
from imaging.numbers import Array, Luminance
from imaging.patches import LEAST_PATCH, MOST_PATCH, Map, mapped
from imaging.trails import Trails, trailed

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
