"""Which lens of the bag gathers most light before stars trail, and which for moving aurora."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import dataclass, replace

from optics.sky.gathered import gathered
from optics.sky.projection import Projection
from web.bag.lenses import Lens
from web.sky.skies import Sky
from web.sky.usecases import FOR_EVER


@dataclass(frozen=True, slots=True)
class Gatherer:
    """A lens of the bag at its widest, and what it gathers; the best of the bag is 1 in each.

    ``seconds``    the longest time before stars trail.
    ``of_sky``     light of the sky in that time: how bright the Milky Way comes out, time ÷ N².
    ``of_stars``   light of a star in that time: how faint a one is seen, time × area of the pupil.
    ``of_aurora``  light of the sky in a short time, the same for all: 1 ÷ N².
    """

    name: str
    zoom: bool
    focal_length: float
    f_number: float
    seconds: float
    of_sky: float
    of_stars: float
    of_aurora: float


def gatherers(sky: Sky, lenses: Iterable[Lens]) -> tuple[Gatherer, ...]:
    """The lenses of a bag, wide open, a zoom at either end; first what gathers most of the sky, or
    for an aurora what is widest."""
    found = []
    for lens in lenses:
        for f in sorted({float(lens.shortest_mm), float(lens.longest_mm)}):
            n = float(lens.widest_at(f))
            there = replace(
                sky,
                kit=replace(sky.kit, focal_length=f),
                ground_kit=replace(sky.ground_kit, focal_length=f),
                projection=Projection(lens.projection),
            )
            lasts = min(there.longest(f, sky.trail, sky.counts), FOR_EVER)
            light = gathered(f, n, lasts)
            amounts = (light.of_sky, light.of_star, light.of_aurora)
            found.append(Gatherer(lens.name, lens.is_zoom, f, n, lasts, *amounts))
    if not found:
        return ()
    sky_most = max(one.of_sky for one in found)
    star_most = max(one.of_stars for one in found)
    aurora_most = max(one.of_aurora for one in found)
    return tuple(
        replace(
            one,
            of_sky=one.of_sky / sky_most,
            of_stars=one.of_stars / star_most,
            of_aurora=one.of_aurora / aurora_most,
        )
        for one in sorted(found, key=_best_first(sky))
    )


def _best_first(sky: Sky) -> Callable[[Gatherer], float]:
    if sky.aurora is not None:
        return lambda one: -one.of_aurora
    return lambda one: -one.of_sky
