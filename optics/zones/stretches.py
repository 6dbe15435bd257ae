"""Ring positions in use: what each of them is for.

A band of distances is shared out among positions, each depth to the one that has it sharpest. Two
neighbours, at magnifications m₁ > m₂, blur a depth d between them alike where, by equation (2) of
``cone``, m₁ − q₁/(d − o₁) = q₂/(d − o₂) − m₂: a quadratic in d, whose larger root counts.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from itertools import pairwise

import numpy as np
import numpy.typing as npt

from optics.base.errors import require_count, require_order
from optics.base.search import crossing
from optics.lens.cone import Cone
from optics.lens.conjugates import magnification
from optics.lens.depth import counted_blur, limits
from optics.lens.setup import Setup
from optics.zones.tiling import Gap, Zone, gaps, zone_at

_HAIR = 1e-9
"""Relative: ends that meet but for rounding meet."""


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
    """The depth, mm from the sensor, that two positions blur alike, by what *holds* counts.

    ``nearer`` < ``farther``: ring positions, mm from the sensor, up to inf. Plain numbers only.
    Raises NotANumber, WrongOrder, NoWidth, FocusTooNear.
    """
    require_order(nearer, farther, width=True)
    one, other = (Cone.at(setup, magnification(setup, focus)) for focus in (nearer, farther))
    geometric = _geometric_handover(one, other)
    return _counted_handover(setup, nearer, farther, geometric) if setup.diffraction else geometric


def _geometric_handover(one: Cone, other: Cone) -> float:
    total = one.sharp + other.sharp
    half = 0.5 * (total * (one.origin + other.origin) + one.reach + other.reach)
    product = (
        total * one.origin * other.origin + one.reach * other.origin + other.reach * one.origin
    )
    return float((half + math.sqrt(half * half - total * product)) / total)


_ABOUT = 1.02
"""The working f-numbers of two positions differ little, and so does where they hand over."""


def _counted_handover(setup: Setup, nearer: float, farther: float, geometric: float) -> float:
    """With diffraction: near the geometric one, the nearer position working at more f/."""

    def excess(inverse: float) -> float:
        depth = 1.0 / inverse
        by_nearer, by_farther = (counted_blur(setup, depth, d) for d in (nearer, farther))
        return float(by_nearer) - float(by_farther)

    lost, held = 1.0 / (geometric * _ABOUT), _ABOUT / geometric
    if not (excess(lost) > 0 >= excess(held)):
        lost, held = max(1.0 / farther, 0.1 * lost), 1.0 / nearer
    return 1.0 / crossing(excess, lost, held)


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
        used = not math.isnan(zone.near) and start < end
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
    cones = [Cone.at(setup, magnification(setup, focus)) for focus in order]
    if setup.diffraction:
        met = [handover(setup, one, other) for one, other in pairwise(order)]
    else:
        met = [_geometric_handover(one, other) for one, other in pairwise(cones)]
    depths = (nearest, *(d for d in met if nearest < d < farthest), farthest)
    if not setup.diffraction:
        return float(max(min([cone.blur(depth) for cone in cones]) for depth in depths))
    return max(min(counted_blur(setup, depth, focus) for focus in order) for depth in depths)


def left_open(
    setup: Setup, focuses: Iterable[float], nearest: float, farthest: float
) -> tuple[Gap, ...]:
    """What of a band no position holds, nearest first. mm. As ``tiles``."""
    require_order(nearest, farthest, width=True)
    return gaps([zone_at(setup, focus) for focus in set(focuses)], nearest, farthest)


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
    row = np.unique(np.asarray(settable, dtype=np.float64))
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
