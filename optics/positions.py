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
from optics.keepers import END_OF_STREET
from optics.lens import Array, magnification
from optics.setup import Setup
from optics.zones import MOST_POSITIONS, Gap, Zone, gaps, past, zone_at

_HAIR = 1e-9
_HALVINGS = 5
"""How often the circle is halved in, from about where it must be: to a hundredth of it."""
_ABOUT = (0.94, 1.03)
"""Where to look for it first, by its estimate."""


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
    met = [handover(setup, one, other) for one, other in pairwise(order)]
    depths = np.array([nearest, *(d for d in met if nearest < d < farthest), farthest])
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

    Where no choice closes the band, the one is taken that holds most of it, measured in ln distance
    as subjects are spread (``keepers``).
    ``settable``: mm from the sensor, up to inf, each no nearer than the lens focuses; one or more.
    An array must be in order, each distance once.
    ``fixed``: positions that must be among the ``count``, wherever they lie. As ``zones.zone_set``.
    """
    require_order(nearest, farthest, width=True)
    require_positive("nearest", nearest, "near end")
    row = _Row.of(setup, nearest, farthest, count, settable, fixed)
    found = row.closing()
    if found is None:
        filled = row.filled(row.at(float(setup.coc)).focuses)
        return Chosen(row.holding_most(filled), False, float(setup.coc))
    return found


def closing(
    setup: Setup,
    nearest: float,
    farthest: float,
    count: int,
    settable: npt.ArrayLike,
    fixed: Iterable[float] = (),
) -> Chosen | None:
    """As ``choose``; None where no choice closes the band."""
    require_order(nearest, farthest, width=True)
    return _Row.of(setup, nearest, farthest, count, settable, fixed).closing()


def closes(
    setup: Setup,
    nearest: float,
    farthest: float,
    count: int,
    settable: npt.ArrayLike,
    fixed: Iterable[float] = (),
) -> bool:
    """Whether some ``count`` positions out of a list leave no gap. As ``choose``."""
    require_order(nearest, farthest, width=True)
    row = _Row.of(setup, nearest, farthest, count, settable, fixed)
    return row.at(float(setup.coc)).complete


def count_needed(
    setup: Setup,
    nearest: float,
    farthest: float,
    settable: npt.ArrayLike,
    fixed: Iterable[float] = (),
) -> int | None:
    """How few positions out of a list leave no gap; None if no number does. As ``choose``."""
    require_order(nearest, farthest, width=True)
    row = _Row.of(setup, nearest, farthest, MOST_POSITIONS, settable, fixed)
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
    row = _Row.of(setup, 0.0, farthest, count, settable, fixed)
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
    cone: Cone

    @classmethod
    def of(
        cls,
        setup: Setup,
        nearest: float,
        farthest: float,
        count: int,
        settable: npt.ArrayLike,
        fixed: Iterable[float],
    ) -> _Row:
        """Everything checked and in order."""
        kept = tuple(sorted(set(map(float, fixed))))
        least = max(len(kept), 1)
        require_count("count", count, f"positions, with {len(kept)} of them fixed,", least)
        row = _sorted(settable)
        return cls(
            setup, nearest, farthest, count, row, kept, Cone.at(setup, magnification(setup, row))
        )

    def limits(self, setup: Setup) -> tuple[Array, Array]:
        """Of every position of the list: ``depth.limits``, but for what does not change with the
        circle. 0 for the far limit of what holds nothing."""
        if setup.diffraction:
            held = limits(setup, self.settable)
            return np.asarray(held.near), np.nan_to_num(np.asarray(held.far), posinf=math.inf)
        near, far = self.cone.near_limit(setup.coc), self.cone.far_limit(setup.coc)
        return np.asarray(near), np.asarray(far)

    def at(self, circle: float) -> _Picked:
        setup = replace(self.setup, coc=circle)
        near, far = self.limits(setup)
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
            boundary = past(kept, float(near[at]))
        focuses = tuple(sorted({*self.fixed, *picked}))
        return _Picked(focuses, not broken and boundary <= self.nearest * (1 + _HAIR), boundary)

    def closing(self) -> Chosen | None:
        """The choice that closes the band with about the smallest circle; None if none does."""
        circle = float(self.setup.coc)
        picked = self.at(circle)
        if not picked.complete:
            return None
        lost, held, about = 0.0, circle, self.estimate()
        trials = [about * share for share in _ABOUT]
        for _ in range(_HALVINGS):
            middle = trials.pop() if trials else 0.5 * (lost + held)
            if not lost < middle < held:
                continue
            tried = self.at(middle)
            if tried.complete:
                picked, held = tried, middle
            else:
                lost = middle
        return Chosen(self.evened(self.filled(picked.focuses)), True, held)

    def estimate(self) -> float:
        """About the smallest circle that closes the band: zones are as wide as it, in 1/distance,
        and about as wide as that of the hyperfocal distance."""
        hyperfocal = float(self.setup.f_number) / float(self.setup.focal_length) ** 2
        width = 1.0 / self.nearest - 1.0 / self.farthest
        return width / (2.0 * self.count * hyperfocal)

    def filled(self, focuses: tuple[float, ...]) -> tuple[float, ...]:
        """Positions left over go where the blur is worst."""
        found = list(focuses)
        while len(found) < min(self.count, len({*found, *self.settable.tolist()})):
            found.append(self._where_worst(sorted(found)))
        return tuple(sorted(found))

    def evened(self, focuses: tuple[float, ...]) -> tuple[float, ...]:
        """The free positions spread evenly, in 1/distance, between those that are fixed and the
        ends of the band, if that makes nothing worse: laid from the far end, those next to a fixed
        one can stand at its heels."""
        if not self.fixed:
            return focuses
        stops = [(1.0 / d, 1.0) for d in self.fixed if self.nearest < d < self.farthest]
        found = {*self.fixed}
        # A fixed position holds half a step on its own side, an end of the band none.
        ends = [(1.0 / self.nearest, 0.5), *stops, (1.0 / self.farthest, 0.5)]
        most = 0
        for (start, before), (end, after) in pairwise(ends):
            free = sum(end < 1.0 / d < start for d in focuses)
            most = max(most, free)
            for k in range(free):
                step = (start - end) / (free - 1 + before + after)
                found.add(self.nearest_settable(start - step * (before + k)))
        if most < 2:  # one between two ends stands where the circle put it
            return focuses
        spread = tuple(sorted(found | {d for d in focuses if not self.inside(d)}))
        if len(spread) != len(focuses) or self.worst(spread) > self.worst(focuses):
            return focuses
        return spread

    def inside(self, focus: float) -> bool:
        """Whether a position stands inside the band."""
        return self.nearest < focus < self.farthest

    def nearest_settable(self, inverse: float) -> float:
        """The position of the list nearest to a 1/distance."""
        at = int(np.argmin(np.abs(1.0 / self.settable - inverse)))
        return float(self.settable[at])

    def worst(self, focuses: tuple[float, ...]) -> float:
        """The largest blur in the band."""
        return worst_blur(self.setup, focuses, self.nearest, self.farthest)

    def holding_most(self, start: tuple[float, ...]) -> tuple[float, ...]:
        """Positions that hold most of the band: each free one in turn is put where it adds most, to
        begin with one after the other, and again from ``start``; the better of the two."""
        low = math.log(self.nearest)
        high = math.log(self.farthest if self.farthest < math.inf else _end(self.nearest))
        near, far = self.limits(self.setup)
        near = np.log(np.nan_to_num(near, nan=math.inf, posinf=math.inf))
        far = np.log(np.maximum(far, 1.0))
        near, far = np.clip(near, low, high), np.clip(far, low, high)
        kept = [_span(zone_at(self.setup, focus), low, high) for focus in self.fixed]
        free = self.count - len(self.fixed)

        def added(spans: list[tuple[float, float]]) -> Array:
            """How much each position of the list adds to some stretches."""
            gain: Array = np.maximum(far - near, 0.0)
            for start, end in _joined(spans):
                gain = gain - np.maximum(np.minimum(far, end) - np.maximum(near, start), 0.0)
            return gain

        def span(at: int) -> tuple[float, float]:
            return float(near[at]), float(far[at])

        def improved(chosen: list[int]) -> tuple[float, list[int]]:
            for _ in range(_ROUNDS):
                for place in range(len(chosen)):
                    others = [span(at) for at in chosen[:place] + chosen[place + 1 :]]
                    gain = added([*kept, *others])
                    best = int(np.argmax(gain))
                    if gain[best] > gain[chosen[place]] + _HAIR:
                        chosen[place] = best
            spans = _joined([*kept, *(span(at) for at in chosen)])
            return sum(end - start for start, end in spans), chosen

        one_by_one: list[int] = []
        for _ in range(free):
            one_by_one.append(int(np.argmax(added([*kept, *map(span, one_by_one)]))))
        given = [int(np.searchsorted(self.settable, d)) for d in start if d not in self.fixed]
        _, chosen = max((improved(given), improved(one_by_one)), key=lambda pair: pair[0])
        return tuple(sorted({*self.fixed, *(float(self.settable[at]) for at in chosen)}))

    def _where_worst(self, focuses: list[float]) -> float:
        free = [d for d in self.settable.tolist() if d not in focuses]
        if not focuses:
            middle = 2.0 / (1.0 / self.nearest + 1.0 / self.farthest)
            return float(min(free, key=lambda d: abs(1 / d - 1 / middle)))
        met = [handover(self.setup, one, other) for one, other in pairwise(focuses)]
        inside = [d for d in met if self.nearest < d < self.farthest]
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


_ROUNDS = 3
"""How often each position is tried anew when none closes the band."""


def _end(nearest: float) -> float:
    """Where an endless band ends for counting what is held of it."""
    return max(END_OF_STREET, 2.0 * nearest)


def _span(zone: Zone, low: float, high: float) -> tuple[float, float]:
    """What a zone holds, in ln distance, cut to a band; no width where it holds nothing."""
    if math.isnan(zone.near) or math.isinf(zone.near):
        return high, high
    near = min(max(math.log(zone.near), low), high)
    return near, min(max(math.log(zone.far), low), high) if zone.far < math.inf else high


def _joined(spans: Iterable[tuple[float, float]]) -> list[tuple[float, float]]:
    """Stretches that overlap, as one."""
    found: list[tuple[float, float]] = []
    for start, end in sorted(spans):
        if found and start <= found[-1][1]:
            found[-1] = (found[-1][0], max(found[-1][1], end))
        elif end > start:
            found.append((start, end))
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
