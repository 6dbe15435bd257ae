"""Where in a picture the clearest slanted edge stands."""

from __future__ import annotations

import math
from collections.abc import Iterator

import cv2
import numpy as np
import numpy.typing as npt

from imaging.edges import MOST_LENGTH, Edge, Line, measured
from imaging.errors import BadLight, NoEdge, NotSlanted, PictureError
from imaging.numbers import Flags, Luminance

_FINEST = 1400
"""Pixels along the longer side of the finest copy that is looked through."""
_COARSEST = 90
_TRIED = 6
_SHORTEST = 14
"""Pixels of a copy."""
_ENDS = 0.12
"""How much of either end of a stretch is left away: corners are near."""
_ALONG_ROWS = 0.1
"""What an edge along rows or columns of pixels counts for, against one that is slanted."""
_MOST_ROOM, _LEAST_ROOM = 110.0, 6.0
_STRAY = 0.12
"""How much of an edge's own contrast may stand beside it before it counts as another thing."""


def clearest_edge(luminance: Luminance) -> Edge:
    """The edge of a picture that is measured best.

    ``luminance``: linear, 0 to 1, rows × columns. Raises NoEdge, NotSlanted, BadLight.
    """
    if float(np.percentile(luminance[::7, ::7], 99)) < 0.004:
        raise BadLight("The picture is black: expose it longer.")
    failed: PictureError | None = None
    found: Edge | None = None
    for line in _candidates(luminance):
        try:
            edge = measured(luminance, line, _room(luminance, line))
        except PictureError as error:
            failed = _telling(failed, error)
            continue
        if found is None or _share(edge) < 0.7 * _share(found):
            found = edge
        if _share(found) < 0.02:
            break
    if found is not None:
        return found
    raise failed or NoEdge(
        "There is no straight edge in the picture: photograph a dark sheet on a light one, slanted."
    )


def _share(edge: Edge) -> float:
    return edge.blur.error / max(edge.blur.disc, 1e-6)


def _telling(one: PictureError | None, other: PictureError) -> PictureError:
    """Of two failures the one that helps more."""
    if one is None or (
        isinstance(other, (NotSlanted, BadLight)) and not isinstance(one, NotSlanted)
    ):
        return other
    return one


def _candidates(luminance: Luminance) -> list[Line]:
    """Straight stretches, the longest and clearest first, each edge once."""
    scored = []
    height, width = luminance.shape
    step = max(1, math.ceil(max(height, width) / _FINEST))
    small = luminance
    while max(height, width) / step >= _COARSEST:
        if step > 1:  # each copy from the one before
            size = (width // step, height // step)
            small = cv2.resize(small, size, interpolation=cv2.INTER_AREA)
        for line, contrast in _stretches(small):
            larger = Line(
                (line.x + 0.5) * step - 0.5, (line.y + 0.5) * step - 0.5,
                line.angle, line.length * step,
            )  # fmt: skip
            slanted = 1.0 if larger.off_grid > math.radians(1.5) else _ALONG_ROWS
            scored.append((min(larger.length, MOST_LENGTH) * contrast * slanted, larger))
        step *= 2
    scored.sort(key=lambda pair: -pair[0])
    lines: list[Line] = []
    for _, line in scored:
        if not any(_alike(line, other) for other in lines):
            lines.append(line)
        if len(lines) == _TRIED:
            break
    return lines


def _stretches(small: Luminance) -> Iterator[tuple[Line, float]]:
    low, high = (float(v) for v in np.percentile(small[::2, ::2], (1, 99)))
    if high - low < 0.01:
        return
    grey = np.sqrt(np.clip((small - low) / (high - low), 0.0, 1.0))
    grey = cv2.GaussianBlur(grey, (0, 0), 0.8)
    segments = cv2.createLineSegmentDetector(cv2.LSD_REFINE_STD).detect(
        (grey * 255).astype(np.uint8)
    )[0]
    for x1, y1, x2, y2 in () if segments is None else segments.reshape(-1, 4).astype(float):
        length = math.hypot(x2 - x1, y2 - y1)
        if length < _SHORTEST:
            continue
        line = Line((x1 + x2) / 2, (y1 + y2) / 2, math.atan2(y2 - y1, x2 - x1), length)
        contrast = _contrast(small, line)
        if contrast > 0.02:
            yield line, contrast


def _contrast(small: Luminance, line: Line) -> float:
    nx, ny = line.normal
    sides = []
    for off in (-5.0, 5.0):
        along = np.linspace(-0.4, 0.4, 9) * line.length
        x = line.x + along * math.cos(line.angle) + off * nx
        y = line.y + along * math.sin(line.angle) + off * ny
        columns = np.clip(x.round().astype(int), 0, small.shape[1] - 1)
        rows = np.clip(y.round().astype(int), 0, small.shape[0] - 1)
        sides.append(float(np.median(small[rows, columns])))
    return abs(sides[1] - sides[0])


def _alike(one: Line, other: Line) -> bool:
    turn = abs(math.remainder(one.angle - other.angle, math.pi))
    nx, ny = other.normal
    beside = abs((one.x - other.x) * nx + (one.y - other.y) * ny)
    along = math.hypot(one.x - other.x, one.y - other.y)
    reach = max(one.length, other.length)
    return turn < 0.06 and beside < 0.04 * reach + 6 and along < reach


def _room(luminance: Luminance, line: Line) -> float:
    """How far to both sides of a line its picture stays plain, pixels."""
    nx, ny = line.normal
    reach = int(_MOST_ROOM)
    along = np.linspace(-0.5 + _ENDS, 0.5 - _ENDS, 64) * min(line.length, MOST_LENGTH)
    off = np.arange(-reach, reach + 1)
    x = line.x + along[None, :] * math.cos(line.angle) + off[:, None] * nx
    y = line.y + along[None, :] * math.sin(line.angle) + off[:, None] * ny
    inside = ((x >= 0) & (x < luminance.shape[1]) & (y >= 0) & (y < luminance.shape[0])).all(axis=1)
    levels = cv2.remap(luminance, x.astype(np.float32), y.astype(np.float32), cv2.INTER_LINEAR)
    profile = np.median(levels, axis=1)
    room = float(reach)
    for side in (1, -1):
        half = profile[reach::side]
        there = inside[reach::side]
        room = min(room, _plain_for(half, there, float(profile[reach])))
    return max(room, _LEAST_ROOM)


def _plain_for(half: npt.NDArray[np.floating], there: Flags, middle: float) -> float:
    """How far a half profile, from an edge outwards, goes on rising to its plateau and stays on
    it."""
    until = len(half) if there.all() else int(np.argmin(there))
    half = half[:until]
    if len(half) < 4:
        return _LEAST_ROOM
    away = np.abs(half - middle)
    best = np.maximum.accumulate(away)
    back = np.flatnonzero(best - away > _STRAY * np.maximum(best, 1e-6) + 0.01)
    return float(back[0] - 2 if len(back) else until - 1)
