"""Ring positions whose zones of sharpness, laid end to end, tile a band of distances.

In 1/distance every zone of one lens at one aperture is equally wide (but for the lens's own
breathing), so tiling is laying equal bricks. They are laid from the far end, where a gap would
cost most: the last position is the nearest setting whose far limit is still the far end, its near
limit is the far limit of the next, and so on. With fewer bricks than the band needs the near end
stays uncovered; with more than it needs the circle is made smaller until they fit exactly, so
that everything is as sharp as that many positions can make it.

Positions that the user has fixed (a tab at six o'clock, a mark of tape) are used where they lie:
the free ones fill what they leave.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Iterable, Iterator, Sequence
from dataclasses import dataclass, replace
from itertools import pairwise

from optics.base.errors import require_count, require_order, require_positive
from optics.base.search import crossing
from optics.lens.aperture import WIDEST, narrowest_useful
from optics.lens.conjugates import nearest_focus
from optics.lens.depth import limits
from optics.lens.focus_window import focus_with_far_limit
from optics.lens.setup import Setup

MOST_POSITIONS = 200
"""No band is tiled with more: nobody turns a ring that often."""


@dataclass(frozen=True, slots=True)
class Zone:
    """A ring position and what it holds, mm from the sensor."""

    focus: float
    near: float
    far: float


@dataclass(frozen=True, slots=True)
class Gap:
    """A stretch of the band that no zone holds, mm from the sensor."""

    near: float
    far: float


@dataclass(frozen=True, slots=True)
class Tiling:
    """Zones that tile a band, nearest first.

    ``coc``: the circle that they meet exactly end to end at, mm; ``complete``: whether it could be
    kept within the standard. Where not, it is the standard's own and ``gaps`` says what is left.
    """

    zones: tuple[Zone, ...]
    coc: float
    complete: bool
    gaps: tuple[Gap, ...]


def zone_at(setup: Setup, focus: float) -> Zone:
    """What one position holds; near and far nan where nothing does. Raises as ``depth.limits``."""
    held = limits(setup, focus)
    return Zone(float(focus), held.near, held.far)


def zone_set(
    setup: Setup, nearest: float, farthest: float, count: int, fixed: Iterable[float] = ()
) -> tuple[Zone, ...]:
    """``count`` positions that tile nearest…farthest, at the smallest circle that lets them.

    The zones are those of that circle, c′ ≤ ``setup.coc``: they meet end to end. If even the
    standard's circle cannot close the band, they cover as much as can be from the far end, and
    the first zone's near limit lies beyond ``nearest``. Nearest first. With an infinite far end
    the last position is the hyperfocal distance of c′.

    ``nearest`` < ``farthest``: mm from the sensor, up to inf. ``fixed``: focus positions that must
    be among the ``count``. Plain numbers only. Raises NotANumber, WrongOrder, NoWidth, OutOfRange
    (fewer than one position, or more fixed ones than positions), FocusTooNear, SubjectTooNear.
    """
    return tile(setup, nearest, farthest, count, fixed).zones


def tile(
    setup: Setup, nearest: float, farthest: float, count: int, fixed: Iterable[float] = ()
) -> Tiling:
    """``zone_set`` with the circle it found and the gaps it leaves."""
    kept = _checked(nearest, farthest, count, fixed)
    layer = _Layer(setup, nearest, farthest, count, kept)
    circle = setup.coc
    complete = layer.reach(circle) <= nearest * (1 + _HAIR)
    if complete:
        circle = layer.smallest_circle(circle)
    zones = layer.zones(circle)
    return Tiling(zones, circle, complete, gaps(zones, nearest, farthest))


_HAIR = 1e-9
"""Relative: ends that meet but for rounding meet."""


def _checked(
    nearest: float, farthest: float, count: int, fixed: Iterable[float]
) -> tuple[float, ...]:
    require_order(nearest, farthest, width=True)
    require_positive("nearest", nearest, "near end")
    require_count("count", count, "positions")
    kept = tuple(sorted(float(focus) for focus in fixed))
    require_count("count", count, f"positions, with {len(kept)} of them fixed,", max(len(kept), 1))
    return kept


def gaps(zones: Iterable[Zone], nearest: float, farthest: float) -> tuple[Gap, ...]:
    """What of nearest…farthest no zone holds, nearest first. mm. Zones in any order."""
    left = []
    reached = nearest
    held = sorted((z for z in zones if not math.isnan(z.near)), key=lambda zone: zone.near)
    for zone in held:
        if zone.near >= farthest:
            break
        if zone.near > reached * (1 + _HAIR):
            left.append(Gap(reached, zone.near))
        reached = max(reached, zone.far)
    if reached < farthest * (1 - _HAIR):
        left.append(Gap(reached, farthest))
    return tuple(left)


def covered(zones: Sequence[Zone], nearest: float, farthest: float, overlap: float = 0.0) -> bool:
    """Whether zones hold all of nearest…farthest, each sharing ``overlap`` of itself, in
    1/distance, with the next. mm. ``zones``: nearest first."""
    if any(math.isnan(zone.near) for zone in zones) or gaps(zones, nearest, farthest):
        return False
    for one, other in pairwise(zones):
        width = min(1.0 / z.near - 1.0 / z.far for z in (one, other))
        if 1.0 / other.near - 1.0 / one.far < overlap * width - _HAIR / one.near:
            return False
    return True


@dataclass(frozen=True, slots=True)
class _Layer:
    """Lays the bricks, for one circle or another."""

    setup: Setup
    nearest: float
    farthest: float
    count: int
    fixed: tuple[float, ...]
    overlap: float = 0.0

    def at(self, circle: float) -> Setup:
        return replace(self.setup, coc=circle)

    def zones(self, circle: float) -> tuple[Zone, ...]:
        """All positions, nearest first; ``reach`` says where they come to."""
        setup = self.at(circle)
        kept = tuple(zone_at(setup, focus) for focus in self.fixed)
        return tuple(sorted((*kept, *self.chain(setup, kept)), key=lambda zone: zone.focus))

    def chain(self, setup: Setup, kept: tuple[Zone, ...] = ()) -> Iterator[Zone]:
        """The free positions from the far end, as many as there are, round those kept."""
        boundary = self.farthest
        for _ in range(self.count - len(kept)):
            boundary = past(kept, boundary)
            zone = self._next(setup, boundary)
            if zone is None:
                return
            yield zone
            boundary = self._overlapped(zone)

    def reach(self, circle: float) -> float:
        """How near the unbroken tiling comes from the far end; ``farthest`` if it holds nothing."""
        reached = past(self.zones(circle), self.farthest)
        return math.inf if math.isnan(reached) else reached

    def _next(self, setup: Setup, boundary: float) -> Zone | None:
        """The position whose far limit is the boundary; the closest one if none is near enough."""
        if boundary <= nearest_focus(setup):
            return None
        focus = focus_with_far_limit(setup, boundary)
        if math.isnan(focus):
            return None
        zone = zone_at(setup, focus)
        # Its own far limit, but for rounding: so that chains of zones meet to the last figure.
        return None if math.isnan(zone.near) else replace(zone, far=max(boundary, zone.far * _KEEP))

    def _overlapped(self, zone: Zone) -> float:
        if not self.overlap:
            return zone.near
        inverse = (1 - self.overlap) / zone.near + self.overlap / zone.far
        return 1.0 / inverse

    def smallest_circle(self, largest: float) -> float:
        """The circle with which the tiling just reaches the near end. ``largest`` does."""

        def excess(circle: float) -> float:
            return 1.0 / self.nearest - 1.0 / self.reach(circle)

        # Zones are as wide as the circle, in 1/distance, to first order.
        last = 0.0 if math.isinf(self.farthest) else 1.0 / self.farthest
        share = (1.0 / self.nearest - last) / (1.0 / self.reach(largest) - last)
        return _smallest(excess, largest, largest * min(max(share, _LEAST_SHARE), 1.0))


_FIRST_STEP, _LEAST_SHARE = 0.01, 1e-9
_KEEP = 1 - 1e-6


def past(zones: Iterable[Zone], boundary: float) -> float:
    """Where a boundary, mm, moves to that some zones reach over, going nearer and nearer."""
    for zone in sorted(zones, key=lambda zone: -zone.far if zone.far == zone.far else 0.0):
        if zone.far >= boundary * (1 - _HAIR) and zone.near < boundary:
            boundary = zone.near
    return boundary


def _smallest(excess: Callable[[float], float], largest: float, guess: float) -> float:
    """The smallest circle at which ``excess`` is at most 0; it is so at ``largest``. Bracketed
    about the guess first. Where fixed positions join the tiling the function jumps there."""
    held, step = largest, _FIRST_STEP
    lost = min(guess, largest) * (1 - step)
    while excess(lost) <= 0:
        held, step = lost, min(4 * step, 0.5)
        lost *= 1 - step
    above = guess * (1 + _FIRST_STEP)
    if lost < above < held and excess(above) <= 0:
        held = above
    return crossing(excess, lost, held)


def f_number_needed(
    setup: Setup, nearest: float, farthest: float, count: int, fixed: Iterable[float] = ()
) -> float | None:
    """The smallest f-number, not under 0.7, that tiles the band with ``count`` positions.

    Without diffraction only circle × f-number counts, so it follows at once from the circle that
    closes the band at the present f-number. With it, closing down helps only so far: None where no
    f-number will do. As ``zone_set``; ``setup.f_number`` is not otherwise used.
    """
    kept = _checked(nearest, farthest, count, fixed)
    plain = replace(setup, diffraction=False)
    layer = _Layer(plain, nearest, farthest, count, kept)
    largest = setup.focal_length  # no wish is looser than a blur as long as the lens
    if layer.reach(largest) > nearest * (1 + _HAIR):
        return None
    needed = setup.f_number * layer.smallest_circle(largest) / setup.coc
    needed = max(needed, WIDEST)
    return needed if not setup.diffraction else _needed_counting(setup, layer, needed)


def _needed_counting(setup: Setup, layer: _Layer, geometric: float) -> float | None:
    """With diffraction: from a little wider than the geometric answer, close down until it does."""

    def open_at(f_number: float) -> float:
        tried = replace(layer, setup=replace(setup, f_number=f_number))
        return 1.0 / (layer.nearest * (1 + _HAIR)) - 1.0 / tried.reach(setup.coc)

    step = math.sqrt(2.0) ** (1.0 / _STEPS_PER_STOP)  # more than light can help: MOST_ALLOWED
    wider = narrower = max(geometric / step, WIDEST)
    last = narrowest_useful(setup, math.inf)
    while open_at(narrower) > 0:
        if narrower > last:
            return None
        wider, narrower = narrower, narrower * step
    return crossing(open_at, wider, narrower, 1e-9)


_STEPS_PER_STOP = 16


def steps(
    setup: Setup, nearest: float, farthest: float, overlap: float = 0.0, more: int = 0
) -> tuple[Zone, ...] | None:
    """The fewest frames that cover a band, each overlapping the next, at the smallest circle.

    ``overlap``: the share of a zone, measured in 1/distance, that its neighbour holds too; 0 up
    to 0.9. ``more``: frames over the fewest. Nearest first. None where more than 200 would be
    needed, or nothing holds.
    ``nearest`` ≤ ``farthest``. Raises as ``zone_set``.
    """
    require_order(nearest, farthest)
    require_positive("overlap", overlap, "overlap", zero=True)
    share = min(float(overlap), _MOST_OVERLAP)
    if nearest == farthest:
        return (zone_at(setup, max(nearest, nearest_focus(setup))),)
    layer = _Layer(setup, nearest, farthest, MOST_POSITIONS, (), share)
    for count, zone in enumerate(layer.chain(setup), 1):
        if zone.near <= nearest * (1 + _HAIR):
            layer = replace(layer, count=count + more)
            return layer.zones(layer.smallest_circle(setup.coc))
    return None


_MOST_OVERLAP = 0.9
