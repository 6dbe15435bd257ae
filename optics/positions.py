"""Ring positions a hand can find, and what each of them is used for.

``zones`` lays ideal positions end to end. A thumb finds other ones: a stop, a tab straight down, an
engraved figure. Here the positions are taken from a list of those, so that the band is tiled with
as little blur as that list and that many positions allow; and the band is shared out among them,
each depth to the position that has it sharpest.

Two neighbours, at magnifications m₁ > m₂, blur a depth d between them alike where, by equation (2)
of ``cone``, m₁ − q₁/(d − o₁) = q₂/(d − o₂) − m₂: a quadratic in d, whose larger root counts.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace
from itertools import pairwise

import numpy as np
import numpy.typing as npt

from optics.cone import Cone
from optics.depth import counted_blur, limits
from optics.errors import require_count, require_order, require_positive
from optics.lens import Array, magnification
from optics.setup import Setup
from optics.zones import MOST_POSITIONS, Gap, Zone, gaps, past, zone_at

_HAIR = 1e-9
_HALVINGS = 8
"""How often the circle is halved in: a position is moved for less than a 250th of the standard by
nobody."""


@dataclass(frozen=True, slots=True)
class Tile:
    """A ring position, what it holds, and the stretch of the band it is used for. mm.

    ``near``, ``far``: its limits by the standard; nan where nothing holds. ``start``, ``end``: of
    the stretch where it is the sharpest of the set and holds; nan where there is none.
    """

    focus: float
    near: float
    far: float
    start: float
    end: float

    @property
    def used(self) -> bool:
        """Whether any of the band falls to it."""
        return not math.isnan(self.start)

    @property
    def zone(self) -> Zone:
        """What it holds."""
        return Zone(self.focus, self.near, self.far)


def handover(setup: Setup, nearer: float, farther: float) -> float:
    """The depth, mm from the sensor, that two positions blur alike, geometrically.

    ``nearer`` < ``farther``: ring positions, mm from the sensor, up to inf. Plain numbers only.
    Raises NotANumber, WrongOrder, NoWidth, FocusTooNear.
    """
    require_order(nearer, farther, width=True)
    one, other = (Cone.at(setup, magnification(setup, focus)) for focus in (nearer, farther))
    total = one.sharp + other.sharp
    half = 0.5 * (total * (one.origin + other.origin) + one.reach + other.reach)
    product = (
        total * one.origin * other.origin + one.reach * other.origin + other.reach * one.origin
    )
    return float((half + math.sqrt(half * half - total * product)) / total)


def tiles(
    setup: Setup, focuses: Iterable[float], nearest: float, farthest: float
) -> tuple[Tile, ...]:
    """A band shared out among ring positions, nearest first.

    ``focuses``: mm from the sensor, up to inf, in any order. ``nearest`` < ``farthest``: mm.
    Neighbours meet where both blur alike, if both hold there; else each ends at its own limit.
    Raises NotANumber, WrongOrder, NoWidth, FocusTooNear.
    """
    require_order(nearest, farthest, width=True)
    zones = [zone_at(setup, focus) for focus in sorted(set(focuses))]
    ends = [handover(setup, one.focus, other.focus) for one, other in pairwise(zones)]
    found = []
    for zone, before, after in zip(zones, [nearest, *ends], [*ends, farthest], strict=True):
        start, end = max(before, zone.near, nearest), min(after, zone.far, farthest)
        used = start < end  # nan is not
        found.append(
            Tile(
                zone.focus,
                zone.near,
                zone.far,
                start if used else math.nan,
                end if used else math.nan,
            )
        )
    return tuple(found)


def worst_blur(setup: Setup, focuses: Sequence[float], nearest: float, farthest: float) -> float:
    """The largest blur in a band when each depth is taken with the position that has it sharpest.

    mm on the sensor, by what *holds* counts. It lies at an end of the band, or where two positions
    hand over. ``focuses``: one or more. As ``tiles``.
    """
    require_order(nearest, farthest, width=True)
    require_count("focuses", len(focuses), "positions")
    order = sorted(set(focuses))
    between = [handover(setup, one, other) for one, other in pairwise(order)]
    depths = np.array([nearest, *(d for d in between if nearest < d < farthest), farthest])
    blurs = [np.asarray(counted_blur(setup, depths, focus)) for focus in order]
    return float(np.min(blurs, axis=0).max())


@dataclass(frozen=True, slots=True)
class Chosen:
    """Ring positions from a list. ``focuses``: mm, nearest first; ``complete``: whether they leave
    no gap; ``coc``: about the smallest circle at which they would not, mm, else the standard's."""

    focuses: tuple[float, ...]
    complete: bool
    coc: float


def choose(
    setup: Setup,
    nearest: float,
    farthest: float,
    count: int,
    settable: npt.ArrayLike,
    fixed: Iterable[float] = (),
) -> Chosen:
    """``count`` positions out of ``settable`` that tile a band as sharply as that list allows.

    Where no choice closes the band, as much of it as can be is covered from the far end.
    ``settable``: mm from the sensor, up to inf, each no nearer than the lens focuses; one or more.
    An array must be in order, each distance once.
    ``fixed``: positions that must be among the ``count``, wherever they lie. As ``zones.zone_set``.
    """
    require_order(nearest, farthest, width=True)
    require_positive("nearest", nearest, "near end")
    kept = tuple(sorted(set(map(float, fixed))))
    require_count("count", count, f"positions, with {len(kept)} of them fixed,", max(len(kept), 1))
    row = _Row(setup, nearest, farthest, count, _sorted(settable), kept)
    circle = float(setup.coc)
    picked = row.at(circle)
    if not picked.complete:
        return Chosen(row.filled(picked.focuses), False, circle)
    lost, held = 0.0, circle
    for _ in range(_HALVINGS):
        middle = 0.5 * (lost + held)
        tried = row.at(middle)
        if tried.complete:
            picked, held = tried, middle
        else:
            lost = middle
    return Chosen(row.filled(picked.focuses), True, held)


def count_needed(
    setup: Setup,
    nearest: float,
    farthest: float,
    settable: npt.ArrayLike,
    fixed: Iterable[float] = (),
) -> int | None:
    """How few positions out of a list leave no gap; None if no number does. As ``choose``."""
    require_order(nearest, farthest, width=True)
    kept = tuple(sorted(set(map(float, fixed))))
    row = _Row(setup, nearest, farthest, MOST_POSITIONS, _sorted(settable), kept)
    picked = row.at(float(setup.coc))
    return len(picked.focuses) if picked.complete else None


def reach(
    setup: Setup,
    farthest: float,
    count: int,
    settable: npt.ArrayLike,
    fixed: Iterable[float] = (),
) -> float:
    """How near ``count`` positions come from the far end without a gap, mm; ``farthest`` if they
    hold nothing there. As ``choose``."""
    kept = tuple(sorted(set(map(float, fixed))))
    row = _Row(setup, 0.0, farthest, count, _sorted(settable), kept)
    return row.at(float(setup.coc)).reached


@dataclass(frozen=True, slots=True)
class _Picked:
    focuses: tuple[float, ...]
    complete: bool
    reached: float


@dataclass(frozen=True, slots=True)
class _Row:
    """Lays positions out of a list from the far end, for one circle or another."""

    setup: Setup
    nearest: float
    farthest: float
    count: int
    settable: Array
    fixed: tuple[float, ...]

    def at(self, circle: float) -> _Picked:
        setup = replace(self.setup, coc=circle)
        held = limits(setup, self.settable)
        far = np.nan_to_num(np.asarray(held.far), nan=0.0, posinf=math.inf)
        near = np.asarray(held.near).tolist()
        kept = tuple(zone_at(setup, focus) for focus in self.fixed)
        picked: list[float] = []
        boundary, broken = past(kept, self.farthest), False
        while len(picked) + len(kept) < self.count and boundary > self.nearest * (1 + _HAIR):
            # The nearest position that still holds the boundary; far limits grow with the focus.
            at = int(np.searchsorted(far, boundary * (1 - _HAIR)))
            if at == len(far) or not near[at] < boundary:  # the list has nothing there
                broken, at = True, at - 1
                if at < 0 or not near[at] < boundary:
                    break
            picked.append(float(self.settable[at]))
            boundary = past(kept, near[at])
        focuses = tuple(sorted({*self.fixed, *picked}))
        return _Picked(focuses, not broken and boundary <= self.nearest * (1 + _HAIR), boundary)

    def filled(self, focuses: tuple[float, ...]) -> tuple[float, ...]:
        """Positions left over go where the blur is worst."""
        found = list(focuses)
        while len(found) < min(self.count, len({*found, *self.settable.tolist()})):
            found.append(self._where_worst(sorted(found)))
        return tuple(sorted(found))

    def _where_worst(self, focuses: list[float]) -> float:
        free = [d for d in self.settable.tolist() if d not in focuses]
        if not focuses:
            near, far = self.nearest, self.farthest
            return float(min(free, key=lambda d: worst_blur(self.setup, (d,), near, far)))
        between = [handover(self.setup, one, other) for one, other in pairwise(focuses)]
        inside = [d for d in between if self.nearest < d < self.farthest]
        depths = np.array([self.nearest, *inside, self.farthest])
        blurs = np.min(
            [np.asarray(counted_blur(self.setup, depths, focus)) for focus in focuses], axis=0
        )
        worst = float(depths[int(np.argmax(blurs))])
        return float(min(free, key=lambda d: abs(1 / d - 1 / worst)))


def _sorted(settable: npt.ArrayLike) -> Array:
    """Distances to choose from in order, each once; an array is taken to be so already."""
    if isinstance(settable, np.ndarray):
        return settable
    found: Array = np.unique(np.asarray(settable, dtype=np.float64))
    require_count("settable", found.size, "distances to choose from")
    return found


def around(
    setup: Setup, focus: float, settable: npt.ArrayLike, count: int = 3
) -> tuple[float, ...]:
    """The next positions on both sides of one, out of a list: farther, nearer, and so on in turn.

    Each is as far away as it can be without a gap to what is held already. ``focus``: mm from the
    sensor. Nearest first; fewer than ``count`` where nothing is left to hold, or the list leaves a
    gap. Raises as ``depth.limits``.
    """
    held = zone_at(setup, focus)
    found = [float(focus)]
    near, far = held.near, held.far
    row = _sorted(settable)
    all_held = limits(setup, row)
    nears, fars = (
        np.asarray(all_held.near),
        np.nan_to_num(np.asarray(all_held.far), posinf=math.inf),
    )
    stuck = False
    while len(found) < count and not stuck and not math.isnan(near):
        stuck = True
        joined = np.flatnonzero((nears <= far * (1 + _HAIR)) & (fars > far))
        if joined.size:
            endless = joined[np.isinf(fars[joined])]
            at = int(endless[0]) if endless.size else int(joined[-1])
            found.append(float(row[at]))
            far, stuck = float(fars[at]), False
        if len(found) == count:
            break
        joined = np.flatnonzero((fars >= near * (1 - _HAIR)) & (nears < near))
        if joined.size:
            at = int(joined[0])
            found.append(float(row[at]))
            near, stuck = float(nears[at]), False
    return tuple(sorted(found))


def left_open(
    setup: Setup, focuses: Iterable[float], nearest: float, farthest: float
) -> tuple[Gap, ...]:
    """What of a band no position holds, nearest first. mm. As ``tiles``."""
    return gaps([zone_at(setup, focus) for focus in set(focuses)], nearest, farthest)
