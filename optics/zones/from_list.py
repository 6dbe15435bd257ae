"""Ring positions out of a list: those a hand can find.

``zones`` lays ideal positions end to end. A thumb finds other ones: a stop, a tab straight down, an
engraved figure. Here the positions are taken from a list of those, so that the band is tiled with
as little blur as that list and that many positions allow; or, where they cannot close it, so that
they hold as much of it as can be.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from itertools import pairwise

import numpy as np
import numpy.typing as npt

from optics.base.errors import require_count, require_number, require_order, require_positive
from optics.lens.depth import counted_blur
from optics.lens.setup import Setup
from optics.zones.coverage import holding_most
from optics.zones.listed import Listed
from optics.zones.stretches import handover, worst_blur
from optics.zones.tiling import MOST_POSITIONS, past

_HAIR = 1e-9
_CLOSE = 0.015
"""A circle known so closely may be the best there is: that is tried too."""
_ROUNDS = 3
"""How often each free position is moved between its neighbours."""
_ABOUT = (0.94, 1.03)
"""Where to look for it first, by its estimate."""


@dataclass(frozen=True, slots=True)
class Chosen:
    """Ring positions from a list. ``focuses``: mm, nearest first; ``complete``: whether they leave
    no gap; ``coc``: the smallest circle at which the list leaves none, mm, else the standard's."""

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
        filled = row.filled(row.at(setup.coc).focuses)
        return Chosen(row.holding_most(filled), False, setup.coc)
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
    return row.at(setup.coc).complete


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
    picked = row.at(setup.coc)
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
    require_number("farthest", farthest, "far end")
    row = _Row.of(setup, 0.0, farthest, count, settable, fixed)
    return row.at(setup.coc).reached


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
    listed: Listed

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
        listed = Listed.of(setup, settable, fixed)
        kept = len(listed.fixed)
        require_count("count", count, f"positions, with {kept} of them fixed,", max(kept, 1))
        return cls(setup, nearest, farthest, count, listed)

    def at(self, circle: float) -> _Picked:
        near, far = self.listed.limits(circle)
        kept = self.listed.kept(circle)
        picked: list[float] = []
        boundary, broken = past(kept, self.farthest), False
        while len(picked) + len(kept) < self.count and boundary > self.nearest * (1 + _HAIR):
            # The nearest position that still holds the boundary; far limits grow with the focus.
            at = int(np.searchsorted(far, boundary * (1 - _HAIR)))
            if at == len(far) or not near[at] < boundary:  # the list has nothing there
                broken, at = True, at - 1
                if at < 0 or not near[at] < boundary:
                    break
            picked.append(float(self.listed.settable[at]))
            boundary = past(kept, float(near[at]))
        focuses = tuple(sorted({*self.listed.fixed, *picked}))
        return _Picked(focuses, not broken and boundary <= self.nearest * (1 + _HAIR), boundary)

    def closing(self) -> Chosen | None:
        """The choice that closes the band with the least worst blur; None if none does."""
        circle = self.setup.coc
        picked = self.at(circle)
        if not picked.complete:
            return None
        lost, held, about = 0.0, circle, self.estimate()
        trials = [about * share for share in _ABOUT]
        closely = False
        while held > lost * (1 + 2 * _HAIR):
            # Somewhere between, and once that is close, every other time just under the best there
            # is so far: where nothing closes the band at that, there is nothing better in the list.
            middle = trials.pop() if trials else 0.5 * (lost + held)
            if held - lost < _CLOSE * held:
                worst = self.worst(picked.focuses)
                if worst > held * (1 + 2 * _HAIR):
                    break  # so narrow a band that a hair of distance closes it: none is better
                held, closely = min(held, worst), not closely
                middle = held * (1 - _HAIR) if closely else 0.5 * (lost + held)
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
        hyperfocal = self.setup.f_number / self.setup.focal_length**2
        width = 1.0 / self.nearest - 1.0 / self.farthest
        return width / (2.0 * self.count * hyperfocal)

    def filled(self, focuses: tuple[float, ...]) -> tuple[float, ...]:
        """Positions left over go where the blur is worst."""
        found = list(focuses)
        while len(found) < min(self.count, len({*found, *self.listed.settable.tolist()})):
            found.append(self._where_worst(sorted(found)))
        return tuple(sorted(found))

    def evened(self, focuses: tuple[float, ...]) -> tuple[float, ...]:
        """The free positions, each in turn, put evenly in 1/distance between their neighbours or
        the ends of the band, where that makes nothing worse: laid from the far end, one next to a
        fixed one can stand at its heels."""
        if not self.listed.fixed:
            return focuses
        found = list(focuses)
        worst = self.worst(found)
        for _ in range(_ROUNDS):
            before = found
            for place, focus in enumerate(found):
                between = self._between(found, place)
                if focus in self.listed.fixed or between in found:
                    continue
                tried = sorted([*found[:place], between, *found[place + 1 :]])
                if (blur := self.worst(tried)) <= worst * (1 + _HAIR):
                    found, worst = tried, min(worst, blur)
            if found == before:
                break
        return tuple(found)

    def _between(self, focuses: list[float], place: int) -> float:
        """The position of the list evenly between the neighbours of one; an end of the band counts
        half a step."""
        last = len(focuses) - 1
        nearer = 1.0 / (focuses[place - 1] if place else self.nearest)
        farther = 1.0 / (focuses[place + 1] if place < last else self.farthest)
        before, after = (1.0 if place else 0.5), (1.0 if place < last else 0.5)
        return self.listed.nearest((nearer * after + farther * before) / (before + after))

    def worst(self, focuses: Sequence[float]) -> float:
        """The largest blur in the band."""
        return worst_blur(self.setup, focuses, self.nearest, self.farthest)

    def holding_most(self, start: tuple[float, ...]) -> tuple[float, ...]:
        """Positions that hold most of the band, sought from ``start`` too."""
        near, far = self.listed.limits(self.setup.coc)
        free = self.count - len(self.listed.fixed)
        kept = self.listed.kept(self.setup.coc)
        given = [
            int(np.searchsorted(self.listed.settable, d))
            for d in start
            if d not in self.listed.fixed
        ]
        chosen = holding_most((near, far), (self.nearest, self.farthest), kept, free, given)
        return tuple(
            sorted({*self.listed.fixed, *(float(self.listed.settable[at]) for at in chosen)})
        )

    def _where_worst(self, focuses: list[float]) -> float:
        free = [d for d in self.listed.settable.tolist() if d not in focuses]
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
