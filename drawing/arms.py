"""The arms of a sightline: blur over distance, so sampled that straight lines draw it true."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace

import numpy as np

from drawing.scale import DistanceScale
from optics import Setup
from optics.lens import depth
from optics.lens.cone import nearest_subject

STRAIGHT, ROUNDED = 6, 24
"""Pieces in which each arm is drawn: straight in 1/distance from the pupil, nearly so here; rounded
towards the focus where diffraction counts."""


@dataclass(frozen=True, slots=True)
class Arms:
    """The blur of the lens over distance: depths in mm and blurs in circles, near to far."""

    depths: tuple[float, ...]
    circles: tuple[float, ...]


def arms(
    setup: Setup,
    scale: DistanceScale,
    focuses: Sequence[float],
    top: float,
    corners: Iterable[float] = (),
    *,
    through: bool = False,
) -> Arms:
    """The blur that *holds* is judged by, over distance; of several ring settings, the least.

    ``focuses``  the settings, nearest first, mm. ``top``: of the picture, in circles of confusion.
    ``corners``  depths where one setting takes over from the next, mm.
    ``through``  whether the arms of each are drawn through all that any of them has in the picture.
    """
    circle = setup.coc
    pieces = ROUNDED if setup.diffraction else STRAIGHT
    geometric = replace(setup, coc=circle * top, diffraction=False)
    shown = [depth.limits(geometric, focus) for focus in focuses]
    depths = set(corners)
    for focus, own in zip(focuses, shown, strict=True):
        near, far = (shown[0].near, shown[-1].far) if through else (own.near, own.far)
        sharp = depth.sharp_distance(setup, focus) if setup.focus_shift else focus
        depths.update(sample_depths(scale, near, far, sharp, pieces))
    least = nearest_subject(setup)
    seen = np.array(sorted(max(d, least) for d in depths if d <= scale.far))
    blurs = [np.asarray(depth.counted_blur(setup, seen, focus)) for focus in focuses]
    return Arms(tuple(seen.tolist()), tuple((np.min(blurs, axis=0) / circle).tolist()))


def sample_depths(
    scale: DistanceScale, near: float, far: float, focus: float, pieces: int = STRAIGHT
) -> list[float]:
    """Depths at which to evaluate the blur so that its arms draw true: near to far, mm.

    From the nearer of what the picture shows to the farther, with the focus itself as the
    vertex; ``near`` and ``far`` are where the blur leaves the top of the picture.
    """
    start, end = max(scale.near, near), min(scale.far, far)
    vertex = min(max(focus, start), end)
    a, b, c = 1.0 / start, 1.0 / vertex, 1.0 / end
    rising = [1.0 / (a + (b - a) * k / pieces) for k in range(1, pieces)] if a > b else []
    falling = [1.0 / (b + (c - b) * k / pieces) for k in range(1, pieces)] if b > c else []
    return [start, *rising, vertex, *falling, end]
