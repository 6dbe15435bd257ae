"""Stars: points at infinity, each spread into its disc, and drawn out if the sky turned."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from simulator.shapes import fill_round
from simulator.view import View

Image = npt.NDArray[np.float32]


@dataclass(frozen=True, slots=True)
class Stars:
    """A sky of stars.

    ``count``      of them in the frame.
    ``brightest``  the light of the brightest, in pixels full of it; each next one has a little
                   less.
    ``sky``        the sky's own light, 0 to 1.
    ``drift``      how far they move while the shutter is open, mm on the sensor, to the right.
    ``at``         where they stand, the brightest first, as shares of the frame, −1 to 1 at its
                   sides; empty for anywhere, each well apart from the others.
    """

    count: int = 60
    brightest: float = 3.0
    sky: float = 0.01
    drift: float = 0.0
    at: tuple[tuple[float, float], ...] = ()


_FAINTEST = 0.12
_APART = 3.0
"""Widths that stars are kept apart: one that is measured stands alone."""


def lit(stars: Stars, view: View, luck: np.random.Generator) -> Image:
    """The light of the stars over a picture, without the sky's own."""
    light = np.zeros(view.shape, np.float32)
    rows, columns = view.shape
    x0, y0 = view.middle
    margin = view.extra + 12 * view.samples
    half_x, half_y = columns / 2 - view.extra, rows / 2 - view.extra
    trail = stars.drift / view.body.pitch * view.samples
    placed: list[tuple[float, float, float]] = []
    count = len(stars.at) or stars.count
    for at in range(count):
        share = _FAINTEST ** (at / max(count - 1, 1))
        for _ in range(60):
            x = float(luck.uniform(margin, columns - margin))
            y = float(luck.uniform(margin, rows - margin))
            if stars.at:
                x, y = x0 + stars.at[at][0] * half_x, y0 + stars.at[at][1] * half_y
            out = math.hypot((x - x0) / half_x, (y - y0) / half_y) / math.sqrt(2)
            width = abs(float(view.signed_disc(0.0, (x - x0) / half_x, out)))
            apart = _APART * width + 16 * view.samples + trail
            if stars.at or all(math.hypot(x - a, y - b) > apart + c for a, b, c in placed):
                break
        else:
            continue
        placed.append((x, y, _APART * width))
        _spread(light, x, y, width, share * stars.brightest * view.samples**2, trail)
    return light


def _spread(light: Image, x: float, y: float, width: float, amount: float, trail: float) -> None:
    """One star: all its light, in its disc, at each place that it stood at."""
    stood = max(1, math.ceil(trail / max(0.2 * width, 0.5)))
    width = max(width, 0.3)
    reach = math.ceil(width / 2 + trail / 2 + 3)
    left, top = math.floor(x) - reach, math.floor(y) - reach
    fine = 6
    cut = np.zeros(((2 * reach + 2) * fine,) * 2, np.float32)
    for k in range(stood):
        along = (k + 0.5) / stood * trail - trail / 2
        middle = np.array(((x + along - left + 0.5) * fine - 0.5, (y - top + 0.5) * fine - 0.5))
        one = np.zeros_like(cut)
        fill_round(one, middle, np.eye(2) * width / 2 * fine, 1.0)
        cut += one
    side = 2 * reach + 2
    small = cut.reshape(side, fine, side, fine).sum(axis=(1, 3))
    small *= amount / float(small.sum())
    rows, columns = light.shape
    y0, y1, x0, x1 = max(top, 0), min(top + side, rows), max(left, 0), min(left + side, columns)
    if y0 < y1 and x0 < x1:
        light[y0:y1, x0:x1] += small[y0 - top : y1 - top, x0 - left : x1 - left]
