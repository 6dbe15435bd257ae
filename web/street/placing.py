"""Where the positions go on a band, what is left open, and which aperture would close it."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace

from optics import Setup
from optics.base import settable
from optics.base.settable import COARSE, FINE
from optics.lens.depth import limits
from optics.zones import from_list, joints, stretches, subjects, tiling
from web.street.streets import Street

SAME = 1e-6
_NEARLY = 1.05
"""Where a list comes as near as this to closing a band, positions that no hand can set may."""


@dataclass(frozen=True, slots=True)
class Band:
    """Distances worked at, mm. ``found``: whether both ends follow from the distance liked.

    ``from_``: how near of it can be had at all; beyond ``near`` where a part is too near for the
    lens.
    """

    near: float
    far: float
    found: bool
    from_: float

    @property
    def lost(self) -> bool:
        """Whether the nearest part cannot be had."""
        return self.from_ > self.near * (1 + SAME)


@dataclass(frozen=True, slots=True)
class Gap:
    """What no position holds, mm, and the widest aperture of this lens that would close it, the
    ring left as it is; None for none. ``told``: the gap as it is written beside what positions
    hold."""

    near: float
    far: float
    closed_at: float | None
    told: settable.Span


def band_of(street: Street) -> Band:
    """The band as typed, else as far as so many positions around the one liked reach; and in any
    case as far as the positions that are locked."""
    street = street.placed
    near, far = street.near, street.far
    nearest = nearest_held(street.setup, street.closest)
    found = near is None and far is None
    if near is None or far is None:
        seed = street.liked
        around = stretches.around(street.setup, seed, street.on_grid(COARSE), street.count)
        ends = limits(street.setup, (around[0], around[-1]))
        span = (float(ends.near[0]), float(ends.far[1]))  # type: ignore[index]
        if math.isnan(span[0]) or math.isnan(span[1]) or math.isinf(span[0]):
            span = (max(street.like / 2, nearest), math.inf)  # nothing holds, and a band is drawn
        written = settable.inside(*span, street.system)
        if near is None:
            near = written.near if far is None or written.near < far else max(nearest, far / 2)
        if far is None:
            far = written.far if written.far > max(near, nearest) else math.inf
    locked = street.locked if street.home is None else (*street.locked, street.home)
    near, far = min((near, *locked)), max((far, *locked))
    from_ = max(near, nearest)
    return Band(near, far if far > from_ else math.inf, found, from_)


def nearest_held(setup: Setup, closest: float) -> float:
    """The nearest that a lens holds when it focuses down to ``closest``, mm."""
    reached = limits(setup, closest)
    return closest if reached.empty else reached.near


@dataclass(frozen=True, slots=True)
class Chosen:
    """Ring positions for a band, nearest first, mm. ``fixed``: those that had to be among them."""

    focuses: tuple[float, ...]
    complete: bool
    held: bool
    fixed: tuple[float, ...]


def choose(street: Street, band: Band, count: int, *, home_free: bool = False) -> Chosen:
    """``count`` positions, or fewer where more would have nothing to hold: engraved ones if they
    will do, else on the coarse grid, else a finer. At the aperture that the ring is set for.
    ``home_free``: home need not be where it is liked."""
    street = street.placed
    fixed = _locked(street, count) if home_free else _fixed(street, band, count)
    setup, near, far = street.setup, band.from_, band.far
    fine = street.on_grid(FINE)
    reached = from_list.reach(setup, far, count, fine, fixed)
    if reached <= near * (1 + SAME):
        # The finest list has all of the others: one of them may do too.
        closed: list[Chosen] = []
        for wanted in (street.engraved, street.on_grid(COARSE), fine):
            tried = from_list.closing(setup, near, far, count, wanted, fixed)
            if tried is None:
                continue
            used = _used(street, band, tried.focuses, fixed)
            closed.append(Chosen(used, True, True, fixed))
            if len(used) == len(tried.focuses):
                return closed[-1]
        if closed:
            return max(closed, key=lambda one: len(one.focuses))
    elif reached <= near * _NEARLY:
        focuses = _ideal(street, band, count, fixed)
        if focuses is not None:
            return Chosen(focuses, True, False, fixed)
    found = from_list.choose(setup, near, far, count, street.on_grid(COARSE), fixed)
    return Chosen(_used(street, band, found.focuses, fixed), False, True, fixed)


def _ideal(
    street: Street, band: Band, count: int, fixed: tuple[float, ...]
) -> tuple[float, ...] | None:
    """Positions that no hand can set, with as many figures as it takes for them to leave no gap;
    None where the lens has none."""
    ideal = tiling.tile(street.setup, band.from_, band.far, count, fixed)
    if not ideal.complete or ideal.zones[0].focus < street.closest * (1 - SAME):
        return None
    for figures in range(FINE + 1, settable.MOST_FIGURES + 1):
        focuses = tuple(
            zone.focus
            if zone.focus in fixed
            else settable.reached(
                settable.nearest(zone.focus, street.system, figures), street.system, street.closest
            )
            for zone in ideal.zones
        )
        if not stretches.left_open(street.setup, focuses, band.from_, band.far):
            return focuses
    return None


def _used(
    street: Street, band: Band, focuses: tuple[float, ...], fixed: tuple[float, ...]
) -> tuple[float, ...]:
    """Those that some of the band falls to; fixed ones in any case, and one if nothing holds."""
    tiles = stretches.tiles(street.setup, focuses, band.from_, band.far)
    used = tuple(tile.focus for tile in tiles if tile.used or tile.focus in fixed)
    return used or focuses


def _locked(street: Street, count: int) -> tuple[float, ...]:
    locked = street.locked if street.home is None else (street.home, *street.locked)
    return tuple(sorted(tuple(dict.fromkeys(locked))[:count]))


def _fixed(street: Street, band: Band, count: int) -> tuple[float, ...]:
    """What must be among so many positions: those locked, and home where it is liked, if there is
    a place left for it, it lies in the band and holds any of it."""
    wanted, liked = _locked(street, count), street.liked
    held = band.from_ <= liked <= band.far and not limits(street.setup, liked).empty
    if len(wanted) < count and liked not in wanted and held:
        wanted = (*wanted, liked)
    return tuple(sorted(wanted))


def home_of(street: Street, focuses: tuple[float, ...]) -> float:
    """The position to return to: the one where it is liked, else the nearest to that."""
    liked = 1.0 / street.liked
    return min(focuses, key=lambda focus: abs(1.0 / focus - liked))


def shares_of(street: Street, focuses: tuple[float, ...]) -> tuple[float, ...]:
    """Of the people of a street, what share each position keeps."""
    return subjects.kept(street.setup, focuses, street.people, street.judging)


def left_open(street: Street, focuses: tuple[float, ...], band: Band) -> tuple[tiling.Gap, ...]:
    """What of a band the positions leave open, at the aperture in use."""
    return stretches.left_open(street.setup, focuses, band.from_, band.far)


def gaps_of(
    street: Street,
    tiles: Sequence[stretches.Tile],
    told: Sequence[joints.Stretches],
    band: Band,
) -> tuple[Gap, ...]:
    """The gaps of a band, each with the aperture that closes it. ``told``: the tiles as written."""
    focuses = tuple(tile.focus for tile in tiles)
    found = left_open(street, focuses, band)
    return tuple(
        Gap(
            gap.near,
            gap.far,
            _closes(street, focuses, gap),
            _told(gap, tiles, told, street.system),
        )
        for gap in found
    )


def _told(
    gap: tiling.Gap,
    tiles: Sequence[stretches.Tile],
    told: Sequence[joints.Stretches],
    system: str,
) -> settable.Span:
    """From where what one position is written to hold ends to where the next begins."""
    near, far = gap.near, gap.far
    for tile, said in zip(tiles, told, strict=True):
        if said.held is not None and math.isclose(tile.far, gap.near, rel_tol=SAME):
            near = said.held.far
        if said.held is not None and math.isclose(tile.near, gap.far, rel_tol=SAME):
            far = said.held.near
    if near == gap.near:
        near = settable.down(near, system, settable.FINE)
    if far == gap.far:
        far = settable.up(far, system, settable.FINE)
    return settable.Span(near, far)


def _closes(street: Street, focuses: tuple[float, ...], gap: tiling.Gap) -> float | None:
    for n in street.apertures:
        if n <= street.setup.f_number:
            continue
        setup = street.kit.at(n)
        worst = stretches.worst_blur(setup, focuses, gap.near, gap.far)
        if worst <= setup.coc * (1 + SAME):
            return n
    return None


def needed(street: Street, band: Band, fixed: tuple[float, ...]) -> int | None:
    counts = (
        from_list.count_needed(street.setup, band.from_, band.far, street.on_grid(figures), fixed)
        for figures in (COARSE, FINE)
    )
    return min((count for count in counts if count is not None), default=None)


def closes_with(street: Street, band: Band, count: int, fixed: tuple[float, ...]) -> bool:
    """Whether so many positions, set as finely as hands can, leave no gap."""
    grid = street.on_grid(FINE)
    return from_list.closes(street.setup, band.from_, band.far, count, grid, fixed)


def widest_complete(
    street: Street, band: Band, count: int, fixed: tuple[float, ...]
) -> float | None:
    """The widest aperture of this lens at which ``count`` positions leave no gap."""
    apertures = street.apertures
    plain = replace(street, kit=replace(street.kit, diffraction=False))

    def closes(seen: Street, at: int) -> bool:
        return closes_with(seen.at(apertures[at]), band, count, fixed)

    low, high = 0, len(apertures)
    while low < high:
        middle = (low + high) // 2
        low, high = (low, middle) if closes(plain, middle) else (middle + 1, high)
    if street.setup.diffraction:  # no wider one can; closing down helps, and then harms
        for at in range(low, len(apertures)):
            if limits(street.kit.at(apertures[at]), math.inf).empty:
                return None
            if closes(street, at):
                return apertures[at]
        return None
    return apertures[low] if low < len(apertures) else None
