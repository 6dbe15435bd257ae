"""How much of a softness has a direction: movement and shake told from what is round.

Blur by a missed focus is as wide across every edge. Blur by movement in a line is widest across
edges that stand at right angles to it, and nothing across edges along it: b² = a² + (L cos(θ −
φ))², for an edge whose light grows in the direction θ, behind a round disc a and a movement of
length L in the direction φ. Squares add because they are variances; a movement of length L counts
as a disc of 4/√12 of it, whose variance is the same. So the edges of a patch, each with its own θ,
tell a, L and φ together: they are the straight line of b² against cos 2θ and sin 2θ.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import cv2
import numpy as np

from imaging.errors import NoEdge
from imaging.numbers import Array, Luminance
from imaging.patches import directed

_DISC_OF_LENGTH = 4.0 / math.sqrt(12.0)
_LEAST_EDGES = 12
_MOST_EDGES = 800
"""Of more, as many spread over all: neighbours say the same."""
_SYSTEMATIC = 0.12
"""Of a length or a disc: what edges behind both are right within, however many there are."""
_CLEAR = 3.0
_MOST_IN_COPY = 6.0
"""Pixels of a copy: a softness that is more is looked at in a smaller one."""
_LEVELS = 5
_ROUNDS = 6
_SPREAD = 0.25
"""How far to both sides of the middle edges must be turned, as the least share of what is known of
B and C, to tell a direction."""


@dataclass(frozen=True, slots=True)
class Movement:
    """What a region's edges say.

    ``disc``       of the round part, pixels, and ``length`` of the movement, with standard errors.
    ``direction``  of the movement, radians from the rows, downwards positive, −π/2 to π/2.
    ``count``      of edges that it was told from.
    """

    disc: float
    disc_error: float
    length: float
    length_error: float
    direction: float
    count: int

    @property
    def moved(self) -> bool:
        """Whether there is a movement, more than chance makes of none."""
        return self.length > _CLEAR * self.length_error and self.length > 0.5 * max(self.disc, 1.0)


def movement(luminance: Luminance) -> Movement:
    """The round part and the movement in a picture, or in a part cut out of one.

    ``luminance``: linear, 0 to 1, 32 pixels each way at least. Raises NoEdge where there are too
    few edges, or all of them stand one way.
    """
    height, width = luminance.shape
    (found,) = movements(luminance, [(0, 0, width, height)])
    if found is None:
        raise NoEdge("There are too few edges here to tell movement from a missed focus.")
    return found


Box = tuple[int, int, int, int]
"""A part of a picture, pixels: left, top, right, bottom."""


def movements(luminance: Luminance, parts: Sequence[Box]) -> list[Movement | None]:
    """The round part and the movement in each of several parts of a picture, which may overlap;
    None where its edges do not tell. ``luminance``: linear, 0 to 1."""
    found: list[Movement | None] = [None] * len(parts)
    open_ = set(range(len(parts)))
    copy, factor = luminance, 1
    for _ in range(_LEVELS):
        if min(copy.shape) < _LEAST_COPY or not open_:
            break
        edges = directed(copy)
        order = np.argsort(edges.y, kind="stable")
        x, y = edges.x[order] * factor, edges.y[order] * factor
        discs, angles = edges.disc[order], edges.angle[order]
        for at in sorted(open_):
            left, top, right, bottom = parts[at]
            if min(right - left, bottom - top) < _LEAST_COPY * factor:
                open_.discard(at)
                continue
            rows = slice(*np.searchsorted(y, (top, bottom)))
            inside = (x[rows] >= left) & (x[rows] < right)
            told = _told(discs[rows][inside], angles[rows][inside], factor)
            if told is None:
                continue
            found[at] = told
            if math.hypot(told.disc, _DISC_OF_LENGTH * told.length) <= _MOST_IN_COPY * factor:
                open_.discard(at)
        copy = cv2.resize(
            copy[: copy.shape[0] // 2 * 2, : copy.shape[1] // 2 * 2], None, fx=0.5, fy=0.5,
            interpolation=cv2.INTER_AREA,
        )  # fmt: skip
        factor *= 2
    return found


_LEAST_COPY = 24


def _told(discs: Array, angles: Array, factor: int) -> Movement | None:
    """What edges say, in pixels of the picture; None where they do not."""
    if len(discs) < _LEAST_EDGES:
        return None
    step = max(len(discs) // _MOST_EDGES, 1)
    discs, angles = discs[::step], angles[::step]
    square = discs**2
    columns = np.stack((np.ones_like(square), np.cos(2 * angles), np.sin(2 * angles)), axis=-1)
    weight = np.ones_like(square)
    solved = np.zeros(3)
    if float(np.linalg.eigvalsh(columns.T @ columns / len(square))[0]) < _SPREAD**2 / 4:
        return None
    for _ in range(_ROUNDS):
        normal = (columns * weight[:, None]).T @ columns
        solved = np.linalg.solve(normal, (columns * weight[:, None]).T @ square)
        fitted = np.maximum(columns @ solved, 0.0) + 1.0
        left = (square - columns @ solved) / fitted
        scale = max(1.4826 * float(np.median(np.abs(left))), 0.05)
        # Edges tell their disc to within a share of it, and some are no edges at all.
        weight = 1.0 / fitted**2 / (1.0 + (left / (2.5 * scale)) ** 2) ** 2
    spread = scale**2 * np.linalg.inv((columns / fitted[:, None]).T @ (columns / fitted[:, None]))
    return _movement(solved, np.asarray(spread * _CORRELATED, float), len(square), factor)


_CORRELATED = 3.0
"""Neighbours along one edge are no readings of their own: so many times the variance."""


def _movement(solved: Array, spread: Array, count: int, factor: int) -> Movement:
    mean, b, c = (float(value) for value in solved)
    size = math.hypot(b, c)
    along = np.array((b, c)) / max(size, 1e-9)
    size_error = math.sqrt(max(float(along @ spread[1:, 1:] @ along), 1e-12))
    round_square = mean - size
    round_error = math.sqrt(max(float(spread[0, 0]), 0.0) + size_error**2)
    disc = math.sqrt(max(round_square, 0.0))
    length = math.sqrt(2.0 * size) / _DISC_OF_LENGTH
    # b² = 2R/k², so its error is that of R over k²·length; of nothing it is the root of the error.
    length_error = min(
        size_error / _DISC_OF_LENGTH**2 / max(length, 1e-6),
        math.sqrt(2.0 * size_error) / _DISC_OF_LENGTH,
    )
    disc_error = min(round_error / max(2.0 * disc, 1e-6), math.sqrt(round_error))
    disc_error = math.hypot(disc_error, _SYSTEMATIC * max(disc, length))
    length_error = math.hypot(length_error, _SYSTEMATIC * length)
    direction = 0.5 * math.atan2(c, b)
    return Movement(
        disc * factor, disc_error * factor, length * factor, length_error * factor, direction, count
    )
