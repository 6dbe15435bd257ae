"""Star trails: how long they are, and which way they go.

A star that moved while the shutter was open is a streak: its light spreads by L²/12 along its way
on top of what the lens spreads it by, alike both ways. So the difference of its two principal
moments is the streak's alone, whatever the blur.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
import sep

from imaging.errors import NoStars
from imaging.numbers import Luminance

_SIGMAS = 6.0
_LEAST_STARS = 4
_LEAST_PIXELS = 5
_MOST_STARS = 200
_BOX = 96
_LEAST_NOISE = 1e-4
_EDGE = 4
_FROM_CUT = 1.03
"""Moments above a threshold miss the faint ends of a trail: found by trails of known length."""


POINT_WIDTH = 1.66
"""Pixels: the width that is told of a star which is a point, for pixels gather its light."""


@dataclass(frozen=True, slots=True)
class Trails:
    """Trails of a sky, on the whole: ``length`` and its standard error, pixels; ``direction``,
    radians from the rows, downwards positive, −π/2 to π/2; ``width``, the full width at half
    maximum across them, pixels; how many stars; and by how much their directions ``agree``, 0 for
    not at all, 1 for all alike."""

    length: float
    error: float
    direction: float
    width: float
    count: int
    agree: float

    @property
    def moved(self) -> bool:
        """Whether they are trails, not points."""
        return (
            self.length > 3.0 * self.error and self.agree > 0.6 and self.length > 0.5 * self.width
        )


def trailed(luminance: Luminance) -> Trails:
    """How far the stars of a picture, or of a part of one, moved.

    ``luminance``: linear, 0 to 1. Raises NoStars where fewer than four stand clear.
    """
    light = np.ascontiguousarray(luminance, np.float32)
    sky = sep.Background(light, bw=_BOX, bh=_BOX, fw=3, fh=3)
    noise = max(float(sky.globalrms), _LEAST_NOISE)
    try:
        found = sep.extract(light - sky.back(), _SIGMAS, err=noise, minarea=_LEAST_PIXELS,
                            deblend_cont=1.0)  # fmt: skip
    except Exception as error:  # sep's own: more is lit than it holds
        raise NoStars("More than stars is lit in this picture: aim at open sky.") from error
    height, width = light.shape
    whole = (found["xmin"] > _EDGE) & (found["xmax"] < width - 1 - _EDGE)
    whole &= (found["ymin"] > _EDGE) & (found["ymax"] < height - 1 - _EDGE)
    found = found[whole]
    if len(found) < _LEAST_STARS:
        raise NoStars("Fewer than four stars stand clear of the noise.")
    found = found[np.argsort(-found["flux"])][:_MOST_STARS]
    a, b, theta = (found[name].astype(float) for name in ("a", "b", "theta"))
    square = np.maximum(a**2 - b**2, 0.0)
    # Directions double: a trail has no beginning. Weighed by how far from round each is.
    x, y = float(np.sum(square * np.cos(2 * theta))), float(np.sum(square * np.sin(2 * theta)))
    agree = math.hypot(x, y) / max(float(square.sum()), 1e-12)
    along = square * np.cos(2 * theta - math.atan2(y, x))
    lengths = np.sqrt(12.0 * np.maximum(along, 0.0)) * _FROM_CUT
    middle = float(np.median(lengths))
    scatter = 1.4826 * float(np.median(np.abs(lengths - middle)))
    unsure = math.hypot(scatter / math.sqrt(len(lengths)), 0.06 * middle + 0.2)
    return Trails(middle, unsure, 0.5 * math.atan2(y, x), 2.355 * float(np.median(b)), len(lengths),
                  agree)  # fmt: skip
