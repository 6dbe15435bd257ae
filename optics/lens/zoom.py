"""Walking about with a zoom at one aperture and a few numbers in the head.

As the focal length turns, the hyperfocal distance runs away with its square. Nobody sets that to
a figure while walking: what can be kept in the head is a few ring positions, each good for a range
of the zoom, and how near a thing may come in that range.
"""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import dataclass, replace

from optics.base.errors import require_order, require_positive
from optics.base.settable import RING_METRES, ring_at_least
from optics.lens.depth import hyperfocal, limits
from optics.lens.setup import Setup


@dataclass(frozen=True, slots=True)
class Roam:
    """Where to focus at one focal length, and how near things may come. mm from the sensor.

    ``ideal``: the hyperfocal distance. ``focus``: what a hand sets, never nearer than that; inf
    where even the ring's last mark is too near. ``nearest``: the near limit there.
    """

    focal_length: float
    ideal: float
    focus: float
    nearest: float


@dataclass(frozen=True, slots=True)
class Band:
    """One number in the head: a range of the zoom with one ring position. mm.

    ``nearest``: what holds over the whole of the range, so that of its longest focal length, where
    a zoom holds least.
    """

    shortest: float
    longest: float
    focus: float
    nearest: float


def roam(
    setup: Setup, focal_lengths: Iterable[float], ring: tuple[float, ...] = RING_METRES
) -> tuple[Roam, ...]:
    """At each focal length: where to focus for infinity to hold, and how near things may come.

    ``setup.focal_length`` is not used. ``ring``: what is engraved, mm, rising.
    Raises NotANumber, OutOfRange.
    """
    found = []
    for focal_length in focal_lengths:
        at = replace(setup, focal_length=focal_length)
        ideal = hyperfocal(at)
        focus = ring_at_least(ideal, ring)
        found.append(Roam(float(focal_length), ideal, focus, limits(at, focus).near))
    return tuple(found)


def bands(
    setup: Setup,
    shortest: float,
    longest: float,
    most: int = 3,
    ring: tuple[float, ...] = RING_METRES,
) -> tuple[Band, ...]:
    """The zoom in at most ``most`` ranges, each with one ring position, shortest first.

    Of all ways to cut it at the places where another engraved number becomes necessary, the one
    whose worst band gives away least: near limit over that of the ideal focus at the same focal
    length. ``shortest`` ≤ ``longest``: mm. Raises NotANumber, OutOfRange, WrongOrder.
    """
    require_positive("shortest", shortest, "shortest focal length")
    require_order(shortest, longest)
    require_positive("most", most, "number of ranges")
    pieces = _pieces(setup, shortest, longest, ring)
    whole = _joined(setup, pieces, max(1, min(int(most), len(pieces))))
    return tuple(_band(setup, start, end, focus) for start, end, focus in whole)


def _pieces(
    setup: Setup, shortest: float, longest: float, ring: tuple[float, ...]
) -> list[tuple[float, float, float]]:
    """The zoom cut where the next engraved number is needed: start, end, ring position."""
    pieces = []
    start = shortest
    while True:
        focus = ring_at_least(hyperfocal(replace(setup, focal_length=start)), ring)
        end = (
            longest
            if math.isinf(focus)
            else min(_longest_for(setup, focus, start, longest), longest)
        )
        pieces.append((start, end, focus))
        if end >= longest:
            return pieces
        start = end * (1 + 1e-9)


def _longest_for(setup: Setup, focus: float, low: float, high: float) -> float:
    """The longest focal length whose hyperfocal distance is still within ``focus``."""
    if hyperfocal(replace(setup, focal_length=high)) <= focus:
        return high
    for _ in range(80):
        middle = 0.5 * (low + high)
        within = hyperfocal(replace(setup, focal_length=middle)) <= focus
        low, high = (middle, high) if within else (low, middle)
    return low


def _joined(
    setup: Setup, pieces: list[tuple[float, float, float]], most: int
) -> list[tuple[float, float, float]]:
    """Neighbouring pieces joined, by dynamic programming on the worst that a join gives away."""
    size = len(pieces)

    def given_away(first: int, last: int) -> float:
        at = replace(setup, focal_length=pieces[first][0])
        ideal = hyperfocal(at)
        near_ideal, near = (limits(at, focus).near for focus in (ideal, pieces[last][2]))
        return near / near_ideal if near_ideal > 0 else math.inf

    best: dict[tuple[int, int], tuple[float, int]] = {}
    for count in range(1, most + 1):
        for end in range(size):
            options = [
                (max(best[count - 1, cut - 1][0] if cut else 1.0, given_away(cut, end)), cut)
                for cut in range(end + 1)
                if (count == 1 and cut == 0)
                or (count > 1 and cut > 0 and (count - 1, cut - 1) in best)
            ]
            if options:
                best[count, end] = min(options)
    count = min(
        (c for c in range(1, most + 1) if (c, size - 1) in best), key=lambda c: best[c, size - 1]
    )
    joined: list[tuple[float, float, float]] = []
    end = size - 1
    while end >= 0:
        cut = best[count, end][1]
        joined.append((pieces[cut][0], pieces[end][1], pieces[end][2]))
        end, count = cut - 1, count - 1
    return joined[::-1]


def _band(setup: Setup, start: float, end: float, focus: float) -> Band:
    ends = [limits(replace(setup, focal_length=f), focus).near for f in (start, end)]
    return Band(start, end, focus, max(ends))
