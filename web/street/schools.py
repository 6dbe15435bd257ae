"""The schools of zone focusing beside each other, and what another aperture or number does."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

from optics.base import settable
from optics.lens.aperture import FULL
from optics.lens.depth import hyperfocal, limits
from optics.zones import from_list, joints, stretches
from web.street.placing import (
    SAME,
    Band,
    Gap,
    choose,
    gaps_of,
    home_of,
    shares_of,
    widest_complete,
)
from web.street.reading import listed, said
from web.street.streets import Street
from web.street.usecases import Answer

_SAME_APERTURE = 0.04


@dataclass(frozen=True, slots=True)
class School:
    """A way of choosing positions on this band. ``count``, ``home``, ``locked``: what to type for
    it. ``tiles``: the stretches, nearest first; ``used``: those as they are written, None for
    nothing; ``share``: of subjects kept."""

    key: str
    tiles: tuple[stretches.Tile, ...]
    used: tuple[settable.Span | None, ...]
    gaps: tuple[Gap, ...]
    share: float
    count: int
    home: str
    locked: str
    now: bool


def schools(answer: Answer) -> tuple[School, ...]:
    """One position and move yourself; far and one close; close, home and far. Each with what of it
    has something to hold on this band; those with nothing are none."""
    street, band = answer.street, answer.band
    liked = street.liked
    three = choose(replace(street, count=3, locked=(), set_for=None), band, 3)
    found = (
        ("one", _with_a_share(street, band, (liked,))),
        ("two", _with_a_share(street, band, _far_and_close(street))),
        ("three", _with_a_share(street, band, three.focuses)),
    )
    return tuple(_school(answer, key, focuses) for key, focuses in found if focuses)


def _with_a_share(street: Street, band: Band, focuses: tuple[float, ...]) -> tuple[float, ...]:
    found = stretches.tiles(street.setup, focuses, band.from_, band.far)
    return tuple(tile.focus for tile in found if tile.used)


def _far_and_close(street: Street) -> tuple[float, ...]:
    """Far from the hyperfocal distance, and the close position that joins it: home where it is
    liked, if that joins it, else the one that comes closest."""
    far = settable.up(hyperfocal(street.setup), street.system)
    far = max(far, street.closest)
    near = limits(street.setup, far).near
    if math.isnan(near) or near <= street.closest:
        return (far,)

    def joins(focus: float) -> bool:
        return focus < far and limits(street.setup, focus).far >= near * (1 - 1e-9)

    liked = street.liked
    if liked < near and joins(liked):
        return (liked, far)
    joined = (float(d) for d in street.on_grid(settable.COARSE) if joins(float(d)))
    close = next(joined, None)
    return (far,) if close is None else (close, far)


def _school(answer: Answer, key: str, focuses: tuple[float, ...]) -> School:
    street, band = answer.street, answer.band
    tiles = stretches.tiles(street.setup, focuses, band.from_, band.far)
    told = joints.written(tiles, street.system)
    home = home_of(street, focuses)
    wanted = street.home if key != "two" or home == street.liked else home
    others = tuple(d for d in focuses if d != home)
    return School(
        key=key,
        tiles=tiles,
        used=tuple(said.used for said in told),
        gaps=gaps_of(street, tiles, told, band),
        share=sum(shares_of(street, focuses)),
        count=len(focuses),
        home="" if wanted is None else said(wanted, street.system),
        locked=listed(others, street.system) if key == "two" else "",
        now=focuses == answer.focuses,
    )


@dataclass(frozen=True, slots=True)
class Reach:
    """How near so many positions come without a gap, mm; ``closes`` if that covers the band,
    ``short`` if they do not hold even its far end, whatever they hold before it."""

    count: int
    near: float
    closes: bool
    short: bool


@dataclass(frozen=True, slots=True)
class AtAperture:
    """One aperture: what each number of positions reaches, and how many the band takes (None: no
    number does). ``now``: the one in use."""

    f_number: float
    reaches: tuple[Reach, ...]
    needed: int | None
    now: bool


@dataclass(frozen=True, slots=True)
class Trade:
    """Apertures against numbers of positions, and the widest aperture for each number."""

    counts: tuple[int, ...]
    rows: tuple[AtAperture, ...]
    widest: tuple[tuple[int, float | None], ...]


def trade(answer: Answer) -> Trade:
    """What a stop more or less does, and what another position does. The aperture is the same for
    all positions; home and what is locked stay, and all others move."""
    street, band = answer.street, answer.band
    fixed = answer.fixed
    least = max(1, len(fixed))
    counts = tuple(range(least, max(least + 3, len(answer.positions) + 1)))
    now = street.setup.f_number
    has = street.apertures
    near_now = sorted(FULL.names, key=lambda n: abs(math.log(n / now)))[:5]
    has_it = (n for n in near_now if has[0] * 0.97 <= n <= has[-1] * 1.03)
    wanted = [n for n in has_it if abs(n / now - 1) > _SAME_APERTURE]
    rows = [_row(street.at(n), answer, counts, n == now) for n in sorted({*wanted, now})]
    widest = tuple((count, widest_complete(street, band, count, fixed)) for count in counts)
    return Trade(counts, tuple(rows), widest)


def _row(street: Street, answer: Answer, counts: tuple[int, ...], now: bool) -> AtAperture:
    band, fixed = answer.band, answer.fixed
    grid = street.on_grid(settable.FINE)
    reaches = []
    for count in counts:
        near = from_list.reach(street.setup, band.far, count, grid, fixed)
        short = near >= band.far * (1 - SAME)
        reaches.append(Reach(count, near, near <= band.from_ * (1 + SAME), short))
    needed = from_list.count_needed(street.setup, band.from_, band.far, grid, fixed)
    return AtAperture(street.setup.f_number, tuple(reaches), needed, now)
