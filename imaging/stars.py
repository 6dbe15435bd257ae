"""Stars in a picture: how wide they are.

Stars are points, so a star's picture is the blur itself. They are found against the sky's own light
[sep]; those that are blown out, not alone or cut by the frame are left out. What is left is laid
over each other, each by its own middle and its own light, and the profile outwards is fitted by
that of a disc and a Gaussian behind one pixel, as in ``spread``. Told is the full width at half
maximum of the light that fell on the sensor: the pixel is not in it.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import cv2
import numpy as np
import numpy.typing as npt
import sep

from imaging.errors import BadLight, NoStars, Shaken
from imaging.numbers import Array, Flags, Luminance
from imaging.rings import Around, fwhm_of, laid_over, unsure_of

_SIGMAS = 6.0
_MOST_STARS = 150
_LEAST_STARS = 3
_BLOWN = 0.98
_GROUPS = 8
_UNLIKE = 0.07
_ROUNDS = 2
_FAINTEST = 8.0
_LONGEST_STRETCH = 1.3
"""Longer than wide by more, all in one direction, stars are trails."""
_BOX = 96
_LEAST_NOISE = 1e-4
_MOST_LIT = 5_000_000
_WIDTHS = (2.5, 7.0, 18.0)
"""Pixels: widths of the filters that stars are looked for with."""
_WIDE_ENOUGH = 1.5
MODEL_SHARE = 0.01


@dataclass(frozen=True, slots=True)
class Stars:
    """Measured stars: full width at half maximum and its standard error, pixels; how many; and how
    much longer than wide most of them are, 1 for round."""

    fwhm: float
    error: float
    count: int
    stretch: float


@dataclass(frozen=True, slots=True)
class _Found:
    x: Array
    y: Array
    a: Array
    b: Array
    peak: Array
    flux: Array


def measured(luminance: Luminance) -> Stars:
    """How wide the stars of a picture are.

    ``luminance``: linear, 0 to 1. Raises NoStars, BadLight, Shaken (for trails).
    """
    sky, noise = _without_sky(luminance)
    found = _looked_for(sky, noise)
    good = _measurable(found, luminance)
    if int(good.sum()) < _LEAST_STARS:
        blown = len(found.x) - int(good.sum()) >= _LEAST_STARS
        if blown and float(np.median(found.peak)) > 0.8:
            raise BadLight("The stars are blown out: expose for less long, or at a lower ISO.")
        raise NoStars("Fewer than three stars stand clear of the noise: expose longer.")
    order = np.flatnonzero(good)[np.argsort(-found.flux[good])][:_MOST_STARS]
    width = float(np.median(found.a[order])) * 2.355
    profiles = [_around(sky, found.x[i], found.y[i], width, noise) for i in order]
    kept = [p for p in profiles if p is not None]
    if len(kept) < _LEAST_STARS:
        raise NoStars("Fewer than three stars stand alone: expose longer, or aim at more of them.")
    stretch = _stretch(kept, width)
    if stretch > _LONGEST_STRETCH:
        raise Shaken("The stars are trails, not points: expose for less long, and touch nothing.")
    for _ in range(_ROUNDS):
        rings = laid_over(kept)
        disc, square = rings.made_by(width, unsure_of(kept))
        kept = [rings.centred(star, disc, square) for star in kept]
    size = fwhm_of(kept, width, (disc, square))
    groups = min(_GROUPS, len(kept))
    parts = [
        fwhm_of([p for k, p in enumerate(kept) if k % groups != part], width, (disc, square))
        for part in range(groups)
    ]
    jackknife = math.sqrt((groups - 1) / groups * sum((p - np.mean(parts)) ** 2 for p in parts))
    if jackknife > _UNLIKE * size:
        raise NoStars("What is lit in this picture is not alike, as stars are: aim at open sky.")
    return Stars(size, math.hypot(jackknife, MODEL_SHARE * size), len(kept), stretch)


def _without_sky(luminance: Luminance) -> tuple[Luminance, float]:
    """The light of the stars alone, and the deviation of the noise of a pixel."""
    sky = sep.Background(np.ascontiguousarray(luminance), bw=_BOX, bh=_BOX, fw=3, fh=3)
    return np.asarray(luminance - sky.back(), np.float32), max(float(sky.globalrms), _LEAST_NOISE)


def _looked_for(sky: Luminance, noise: float) -> _Found:
    """Points of light, found with the filter that suits their width."""
    found = None
    sep.set_extract_pixstack(_MOST_LIT)
    for width in _WIDTHS:
        kernel = cv2.getGaussianKernel(2 * math.ceil(width) + 1, width / 2.355)
        objects = _extracted(sky, noise, (kernel @ kernel.T).astype(np.float32))
        here = _Found(*(objects[k].astype(float) for k in ("x", "y", "a", "b", "peak", "flux")))
        if found is None or float(here.flux.sum()) > _WIDE_ENOUGH * float(found.flux.sum()):
            found = here
        narrow = not len(here.x) or 2.355 * float(np.median(here.a)) < 2 * width
        if narrow and len(found.x) >= _LEAST_STARS:
            break
    if found is None or not len(found.x):
        raise NoStars("There are no points of light in the picture: expose longer.")
    return found


def _extracted(sky: Luminance, noise: float, kernel: Luminance) -> npt.NDArray[np.void]:
    try:
        return np.asarray(
            sep.extract(sky, _SIGMAS, err=noise, minarea=3, filter_kernel=kernel, deblend_cont=1.0)
        )
    except Exception as error:  # sep's own: more is lit than it holds
        raise NoStars("More than stars is lit in this picture: aim at open sky.") from error


def _measurable(found: _Found, luminance: Luminance) -> Flags:
    """Which are whole, alone, no larger than most, and not blown out."""
    height, width = luminance.shape
    typical = float(np.median(found.a))
    apart = 6.0 * max(typical, 1.0)
    inside = (found.x > apart) & (found.x < width - apart)
    inside &= (found.y > apart) & (found.y < height - apart)
    like = (found.a < 1.8 * typical) & (found.a > 0.4 * typical)
    alone = np.ones(len(found.x), dtype=bool)
    for at in range(len(found.x)):
        near = np.hypot(found.x - found.x[at], found.y - found.y[at]) < apart
        alone[at] = not np.any(
            near & (found.flux > 0.05 * found.flux[at]) & (np.arange(len(near)) != at)
        )
    peaks = np.array(
        [
            luminance[round(y) - 1 : round(y) + 2, round(x) - 1 : round(x) + 2].max(initial=0.0)
            for x, y in zip(found.x, found.y, strict=True)
        ]
    )
    return np.asarray(inside & like & alone & (peaks < _BLOWN))


def _around(sky: Luminance, x: float, y: float, width: float, noise: float) -> Around | None:
    reach = math.ceil(1.3 * width + 5)
    left, top = round(x) - reach, round(y) - reach
    if left < 0 or top < 0 or left + 2 * reach >= sky.shape[1] or top + 2 * reach >= sky.shape[0]:
        return None
    cut = sky[top : top + 2 * reach + 1, left : left + 2 * reach + 1].astype(float)
    rows, columns = np.mgrid[0 : len(cut), 0 : len(cut)].astype(float)
    cx, cy = x - left, y - top
    window = max(width / 2.355, 0.9)
    for _ in range(12):  # the middle, as light weighs it, seen through a window that follows it
        looked = np.exp(-((columns - cx) ** 2 + (rows - cy) ** 2) / (2 * window**2)) * cut
        total = float(looked.sum())
        if total <= 0:
            return None
        dx = 2 * (float((looked * columns).sum()) / total - cx)
        dy = 2 * (float((looked * rows).sum()) / total - cy)
        if math.hypot(dx, dy) > reach / 2:
            return None
        cx, cy = cx + dx, cy + dy
        if math.hypot(dx, dy) < 1e-3:
            break
    out = np.hypot(columns - cx, rows - cy)
    within, ring = out <= 0.95 * width + 3, (out > 0.95 * width + 3) & (out <= reach)
    level = float(np.median(cut[ring]))
    flux = float((cut[within] - level).sum())
    if flux <= _FAINTEST * noise * math.sqrt(within.sum()):
        return None
    off = 4 * math.sqrt(math.pi) * noise * window**2 / flux
    near = out <= reach
    return Around(
        columns[near] - cx, rows[near] - cy, (cut[near] - level) / flux, (flux / noise) ** 2, off**2
    )


def _stretch(stars: list[Around], width: float) -> float:
    """How much longer than wide the stars are together, seen through a round window."""
    window = max(width / 1.6, 1.2)
    moments = np.zeros(3)
    for star in stars:
        seen = np.exp(-(star.x**2 + star.y**2) / (2 * window**2)) * star.share
        these = [float((seen * by).sum()) for by in (star.x**2, star.y**2, star.x * star.y)]
        moments += star.weight * np.array(these)
    across, down, both = moments
    uneven = min(math.hypot(across - down, 2 * both) / max(across + down, 1e-12), 0.95)
    return math.sqrt((1 + uneven) / (1 - uneven))
