"""One straight edge in a picture: its profile, and how blurred it is."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from imaging.errors import BadLight, NoEdge, NotSlanted
from imaging.fitting import coarse, fitted
from imaging.numbers import Array, Luminance, median, straight
from imaging.spread import (
    BINS_IN_BLUR,
    ENOUGH_IN_BIN,
    FINEST_BIN,
    SIDES,
    SIDES_MORE,
    Blur,
    Profile,
)


@dataclass(frozen=True, slots=True)
class Line:
    """A stretch of a straight line in a picture: its middle (x, y), its direction as an angle from
    the rows, radians, and its length. Pixels; the middle of the first pixel is (0, 0)."""

    x: float
    y: float
    angle: float
    length: float

    @property
    def normal(self) -> tuple[float, float]:
        """At right angles to it."""
        return -math.sin(self.angle), math.cos(self.angle)

    @property
    def off_grid(self) -> float:
        """How far it is turned from the rows or columns of pixels, radians, 0 to π/4."""
        quarter = self.angle % (math.pi / 2)
        return min(quarter, math.pi / 2 - quarter)


@dataclass(frozen=True, slots=True)
class Edge:
    """A measured edge: its ``line``, ``blur``, and the levels of its darker and lighter side."""

    line: Line
    blur: Blur
    dark: float
    light: float


LEAST_TURN = math.radians(0.8)
"""Slanted less than this, an edge of usual length crosses no pixel boundary often enough."""
_COARSE_ENOUGH = 3.0
"""Discs, pixels, wide enough to be measured however an edge runs."""
_LEAST_CONTRAST = 0.02
_LEAST_PIXELS = 60
_ROUNDS, _MOST_ROUNDS = 3, 7
_STILL, _SETTLED = 0.05, 0.02
"""An edge is where it was taken to be, pixels, and as blurred as the window was made for."""
_ENDS = 0.12
"""How much of its room is left away at either end of an edge: corners are near."""
MOST_LENGTH = 900.0
"""Pixels of an edge that are looked at: longer ones are bent by a lens's distortion."""
_BLOWN = 0.997
_CUT_SHARE, _CUT_MISFIT, _CUT_OFF = 0.1, 8.0, 0.002
"""Light is cut off at white where more than that share of pixels is white, and the profile is off
by more than that: in variances of its noise, and as a share of the edge's contrast."""


@dataclass(frozen=True, slots=True)
class _Pixels:
    """Pixels about a line: how far across it and along it they stand, and how light they are."""

    across: Array
    along: Array
    level: Array


def _about(picture: Luminance, line: Line, half: float) -> _Pixels:
    """The pixels of a picture within ``half`` of a line."""
    c, s = math.cos(line.angle), math.sin(line.angle)
    reach_x = abs(c) * line.length / 2 + abs(s) * half
    reach_y = abs(s) * line.length / 2 + abs(c) * half
    height, width = picture.shape
    x0, x1 = max(math.floor(line.x - reach_x), 0), min(math.ceil(line.x + reach_x) + 1, width)
    y0, y1 = max(math.floor(line.y - reach_y), 0), min(math.ceil(line.y + reach_y) + 1, height)
    if x1 - x0 < 2 or y1 - y0 < 2:
        raise NoEdge("The edge lies outside the picture.")
    y, x = np.mgrid[y0:y1, x0:x1].astype(float)
    along = (x - line.x) * c + (y - line.y) * s
    across = -(x - line.x) * s + (y - line.y) * c
    inside = (np.abs(along) <= line.length / 2) & (np.abs(across) <= half)
    if int(inside.sum()) < _LEAST_PIXELS:
        raise NoEdge("The edge is too short to be measured.")
    level = picture[y0:y1, x0:x1][inside].astype(float)
    return _Pixels(across[inside], along[inside], level)


def profile_of(pixels: _Pixels, bin_width: float, half: float, angle: float) -> Profile:
    """Pixels about an edge in order of their distance from it, gathered in bins."""
    count = math.ceil(2 * half / bin_width)
    which = np.clip(((pixels.across + half) / bin_width).astype(int), 0, count - 1)
    held = np.bincount(which, minlength=count)
    sums = np.bincount(which, pixels.level, minlength=count)
    places = np.bincount(which, pixels.across, minlength=count)
    good = held >= ENOUGH_IN_BIN
    if int(good.sum()) < 12:
        raise NoEdge("The edge is too short to be measured.")
    level, place = sums[good] / held[good], places[good] / held[good]
    noise = _noise(pixels, level, place, half)
    return Profile(place, level, noise / held[good], bin_width, angle)


def _noise(pixels: _Pixels, level: Array, place: Array, half: float) -> Array:
    """The variance of a pixel at each level: straight between those of the two sides, as light's
    own noise is."""
    ends = []
    for side in (pixels.across < -0.7 * half, pixels.across > 0.7 * half):
        values, where = pixels.level[side], pixels.across[side]
        if len(values) < 8:
            raise NoEdge("The edge is too short to be measured.")
        slope, foot = straight(where, values)
        rest = values - (slope * where + foot)
        ends.append((median(values), max(float(np.var(rest)), 1e-8)))
    (low, at_low), (high, at_high) = sorted(ends)
    share = np.clip((level - low) / max(high - low, 1e-9), 0.0, 1.0)
    return np.asarray(at_low + share * (at_high - at_low))


def measured(picture: Luminance, line: Line, room: float) -> Edge:
    """How blurred an edge is.

    ``picture``  linear luminance, 0 to 1.
    ``line``     about where it runs: within some pixels, and within some degrees.
    ``room``     how far to each side nothing else stands, pixels.
    Raises NoEdge, NotSlanted, BadLight.
    """
    left_away = 2 * _ENDS * min(room, line.length)
    line = Line(line.x, line.y, line.angle, min(line.length - left_away, MOST_LENGTH))
    line, start = _settled(picture, line, room)
    shape: tuple[float, float] | None = None
    for turn in range(_MOST_ROUNDS):
        half = min(room, SIDES * start + SIDES_MORE)
        width = min(max(start / BINS_IN_BLUR, FINEST_BIN), 1.0)
        pixels = _about(picture, line, half)
        profile = profile_of(pixels, width, half, line.angle + math.pi / 2)
        found = fitted(profile, start, shape)
        shape = found.shape
        moved = _realigned(pixels, profile, found.off, line)
        turned = abs(moved.angle - line.angle) * line.length
        line, before = moved, start
        start = max(found.disc, 0.3)
        still = abs(found.off) < _STILL and (turned < _STILL if turn == 0 else True)
        if still and abs(start - before) < _SETTLED * start:
            break
    if line.off_grid < LEAST_TURN and found.disc < _COARSE_ENOUGH:
        raise NotSlanted(
            "The edge runs along the rows of pixels: turn it, or the camera, by some five degrees."
        )
    ends = _sides(pixels, half)
    cut = found.misfit > _CUT_MISFIT and found.left_over > _CUT_OFF * abs(ends[1] - ends[0])
    if cut and float(np.mean(pixels.level > _BLOWN)) > _CUT_SHARE:
        raise BadLight("The light side of the edge is blown out: expose a stop less.")
    return Edge(line, found.blur, min(ends), max(ends))


def _sides(pixels: _Pixels, half: float) -> tuple[float, float]:
    first = median(pixels.level[pixels.across < -0.7 * half])
    second = median(pixels.level[pixels.across > 0.7 * half])
    return first, second


def _settled(picture: Luminance, line: Line, half: float) -> tuple[Line, float]:
    """A line moved onto its edge, and the disc its profile is nearest to, pixels."""
    width = max(FINEST_BIN * 2, half / 60)
    for _ in range(_ROUNDS):
        pixels = _about(picture, line, half)
        first, second = _sides(pixels, half)
        if abs(second - first) < _LEAST_CONTRAST:
            raise NoEdge("There is too little contrast across the edge.")
        moved = _by_moments(pixels, line, half)
        settled = math.hypot(moved.x - line.x, moved.y - line.y) < 0.3
        turned = abs(moved.angle - line.angle) * line.length < 0.3
        line = moved
        if settled and turned:
            break
    pixels = _about(picture, line, half)
    start = coarse(profile_of(pixels, width, half, line.angle + math.pi / 2))
    return line, start


def _by_moments(pixels: _Pixels, line: Line, half: float) -> Line:
    """A line put where its edge stands: how much light lies on either side of it, slice by slice
    along it, tells how far it is off."""
    first, second = _sides(pixels, half)
    slices = int(np.clip(line.length / 4, 4, 60))
    which = np.clip(((pixels.along / line.length + 0.5) * slices).astype(int), 0, slices - 1)
    share = np.clip((pixels.level - first) / (second - first), -0.5, 1.5)
    held = np.bincount(which, minlength=slices)
    mean = np.bincount(which, share, minlength=slices) / np.maximum(held, 1)
    middle = np.bincount(which, pixels.across, minlength=slices) / np.maximum(held, 1)
    along = np.bincount(which, pixels.along, minlength=slices) / np.maximum(held, 1)
    good = held > 8
    if int(good.sum()) < 3:
        return line
    off = (0.5 - mean[good]) * 2.0 * half + middle[good]
    keep = np.ones(len(off), dtype=bool)
    slope, place = 0.0, 0.0
    for _ in range(3):
        slope, place = straight(along[good][keep], off[keep])
        rest = np.abs(off - (slope * along[good] + place))
        limit = max(3.0 * median(rest) * 1.4826, 0.2)
        keep = rest <= limit
        if int(keep.sum()) < 3:
            break
    return _moved(line, float(place), float(slope))


def _moved(line: Line, off: float, slope: float) -> Line:
    nx, ny = line.normal
    turned = line.angle + math.atan(slope)
    return Line(line.x + off * nx, line.y + off * ny, turned, line.length)


def _realigned(pixels: _Pixels, profile: Profile, off: float, line: Line) -> Line:
    """A line moved by ``off`` and turned to lie along its edge, found from how pixels either side
    of it deviate from the profile along it; light that falls off along the edge turns nothing."""
    place, level = profile.place, profile.level
    expected = np.interp(pixels.across, place, level)
    steep = np.interp(pixels.across, place, np.gradient(level, place))
    columns = np.stack((steep, steep * pixels.along, expected * pixels.along), axis=-1)
    normal = columns.T @ columns
    normal.flat[::4] *= 1.0 + 1e-9
    if not np.all(np.diag(normal) > 0):
        return _moved(line, off, 0.0)
    _, turn, _ = np.linalg.solve(normal, columns.T @ (expected - pixels.level))
    return _moved(line, off, float(turn))
