"""The profile of a star outwards from its middle, and the disc and Gaussian that make it."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
from scipy import optimize, special, stats

from imaging.numbers import Array
from imaging.spread import jinc

_FINEST_FREQUENCY = 2.5
"""To a pixel: finer waves no pixel passes on."""


@dataclass(frozen=True, slots=True)
class Around:
    """One star's pixels: where they stand about its middle, how light they are as shares of its
    light; how much it counts; and the variance of where its middle is taken to be, pixels²."""

    x: Array
    y: Array
    share: Array
    weight: float
    unsure: float


def unsure_of(stars: list[Around]) -> float:
    return sum(s.weight * s.unsure for s in stars) / sum(s.weight for s in stars)


def laid_over(stars: list[Around]) -> Rings:
    out = np.concatenate([np.hypot(s.x, s.y) for s in stars])
    share = np.concatenate([s.share for s in stars])
    weight = np.concatenate([np.full(len(s.x), s.weight) for s in stars])
    count = int(np.clip(len(out) / 8, 24, 360))
    bins = np.sqrt(np.linspace(0.0, float(out.max()) ** 2, count + 1))
    which = np.clip(np.searchsorted(bins, out, side="right") - 1, 0, count - 1)
    held = np.bincount(which, weight, minlength=count)
    good = held > 0
    level = np.bincount(which, weight * share, minlength=count)[good] / held[good]
    place = np.bincount(which, weight * out, minlength=count)[good] / held[good]
    return Rings(place, level, np.sqrt(held[good]))


def fwhm_of(stars: list[Around], width: float, near: tuple[float, float] | None = None) -> float:
    """The full width at half maximum of stars laid over each other. ``near``: what a disc and a
    Gaussian's square were for nearly the same stars."""
    disc, square = laid_over(stars).made_by(width, unsure_of(stars), near)
    return fwhm(disc, math.sqrt(square))


class Rings:
    """A profile outwards, and the search for the disc and the Gaussian that make it."""

    def __init__(self, place: Array, level: Array, weight: Array) -> None:
        self.place, self.level = place, level
        self.weight = weight / float(weight.max())
        reach = float(place.max())
        step = 1.0 / (5.0 * reach)
        self.frequency = (np.arange(math.ceil(_FINEST_FREQUENCY / step)) + 0.5) * step
        turns = np.linspace(0.0, math.pi / 4, 9)
        pixel = np.sinc(np.outer(self.frequency, np.cos(turns)))
        pixel *= np.sinc(np.outer(self.frequency, np.sin(turns)))
        self.base = 2 * math.pi * self.frequency * step * pixel.mean(axis=1)
        self.waves = special.j0(2 * math.pi * np.outer(place, self.frequency))
        self.unsure = 0.0

    def passed(self, disc: float, square: float) -> Array:
        fall = np.exp(-2.0 * (math.pi * self.frequency) ** 2 * square)
        return np.asarray(self.base * fall * jinc(math.pi * disc * self.frequency))

    def left(self, values: Array) -> Array:
        shape = self.waves @ self.passed(values[0], values[1] + self.unsure)
        columns = np.stack((shape, np.ones_like(shape)), axis=-1) * self.weight[:, None]
        wanted = self.level * self.weight
        levels, *_ = np.linalg.lstsq(columns, wanted, rcond=None)
        return np.asarray(wanted - columns @ levels)

    def made_by(
        self, start: float, unsure: float, near: tuple[float, float] | None = None
    ) -> tuple[float, float]:
        """The disc, and the Gaussian's square, whose middles were unsure by that variance; looked
        for ``near`` such a pair, or from a width to ``start`` with."""
        self.unsure = unsure
        tries = [
            optimize.least_squares(
                self.left, guess, x_scale=(start, (0.3 * start) ** 2), bounds=((0, 0), (1e3, 1e5))
            )
            for guess in (
                ((start, (0.1 * start) ** 2), (0.3 * start, (0.4 * start) ** 2))
                if near is None
                else (near,)
            )
        ]
        best = min(tries, key=lambda tried: float(tried.cost))
        return float(best.x[0]), float(best.x[1])

    def centred(self, star: Around, disc: float, square: float) -> Around:
        """A star laid anew by its whole picture, now that its form is known."""
        far = float(np.hypot(star.x, star.y).max()) + 1.5
        at = np.linspace(0.0, far, 400)
        passed = self.passed(disc, square)
        form = special.j0(2 * math.pi * np.outer(at, self.frequency)) @ passed
        slope = np.gradient(form, at)
        x, y, unsure = star.x, star.y, star.unsure
        for _ in range(4):
            out = np.hypot(x, y)
            steep = np.interp(out, at, slope) / np.maximum(out, 1e-6)
            columns = np.stack(
                (np.interp(out, at, form), np.ones_like(x), steep * x, steep * y), -1
            )
            levels, *_ = np.linalg.lstsq(columns, star.share, rcond=None)
            if levels[0] <= 0:
                return star
            dx, dy = float(levels[2] / levels[0]), float(levels[3] / levels[0])
            if math.hypot(dx, dy) > 1.0:
                return star
            x, y = x + dx, y + dy
            known = float(levels[0] ** 2 * ((steep * x) ** 2).sum()) * star.weight
            unsure = 1.0 / max(known, 1e-9)
        return Around(x, y, star.share, star.weight, unsure)


def fwhm(disc: float, gauss: float) -> float:
    """Full width at half maximum of a disc (diameter) behind a Gaussian (deviation), any one
    unit."""
    if gauss <= 0.02 * disc or disc <= 0:
        return max(disc, 2.0 * math.sqrt(2.0 * math.log(2.0)) * gauss)
    edge = (disc / 2 / gauss) ** 2

    def share(out: float) -> float:
        """How much of a Gaussian about a point that far out falls into the disc."""
        return float(stats.ncx2.cdf(edge, 2, (out / gauss) ** 2))

    half, low, high = share(0.0) / 2, 0.0, disc + 4 * gauss
    for _ in range(60):
        middle = (low + high) / 2
        low, high = (middle, high) if share(middle) > half else (low, middle)
    return low + high
