"""Which stretches hold most of a band together, where none of them closes it.

Everything is measured in ln distance, as subjects are spread (``keepers``). Each free stretch in
turn is put where it adds most, again and again: from nothing, and from a start; the better counts.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence

import numpy as np

from optics.base.numbers import Array
from optics.zones.hit_rate import END_OF_STREET
from optics.zones.tiling import Zone

_HAIR = 1e-9
_ROUNDS = 3
"""How often each is tried anew."""


def holding_most(
    limits: tuple[Array, Array],
    band: tuple[float, float],
    kept: Sequence[Zone],
    free: int,
    start: Sequence[int],
) -> list[int]:
    """Which ``free`` of some stretches to take beside those ``kept``, by their places in the list.

    ``limits``: near and far of each, mm, in order; far 0 for what holds nothing. ``band``: mm, the
    far end up to inf, which counts to 30 m. ``start``: places to begin from.
    """
    low = math.log(band[0])
    high = math.log(band[1] if band[1] < math.inf else max(END_OF_STREET, 2.0 * band[0]))
    near = np.clip(np.log(np.nan_to_num(limits[0], nan=math.inf, posinf=math.inf)), low, high)
    far = np.clip(np.log(np.maximum(limits[1], 1.0)), low, high)
    given = [_span(zone, low, high) for zone in kept]

    def span(at: int) -> tuple[float, float]:
        return float(near[at]), float(far[at])

    def added(spans: list[tuple[float, float]]) -> Array:
        """How much each of the list adds to some stretches."""
        gain: Array = np.maximum(far - near, 0.0)
        for one, other in _joined(spans):
            gain = gain - np.maximum(np.minimum(far, other) - np.maximum(near, one), 0.0)
        return gain

    def improved(chosen: list[int]) -> tuple[float, list[int]]:
        for _ in range(_ROUNDS):
            for place in range(len(chosen)):
                others = [span(at) for at in chosen[:place] + chosen[place + 1 :]]
                gain = added([*given, *others])
                best = int(np.argmax(gain))
                if gain[best] > gain[chosen[place]] + _HAIR:
                    chosen[place] = best
        spans = _joined([*given, *(span(at) for at in chosen)])
        return sum(end - begin for begin, end in spans), chosen

    one_by_one: list[int] = []
    for _ in range(free):
        one_by_one.append(int(np.argmax(added([*given, *map(span, one_by_one)]))))
    return max((improved(list(start)), improved(one_by_one)), key=lambda found: found[0])[1]


def _span(zone: Zone, low: float, high: float) -> tuple[float, float]:
    """What a zone holds, cut to the band; no width where it holds nothing."""
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
