"""Where the ring goes: for the stars with a margin, by hand, or so that the ground is sharp too."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

from optics.base import settable
from optics.lens.depth import hyperfocal, limits, total_blur
from optics.lens.focus_window import Window, focus_with_near_limit
from optics.lens.shot import Shot
from optics.scene import focus_distances
from web.planner.axis import Axis, Step
from web.planner.axis import turned as turned_on
from web.sky.skies import Sky

_ROUNDED = 1 + 1e-9


@dataclass(frozen=True, slots=True, kw_only=True)
class AtInfinity(Shot):
    """A frame of the stars, its ring rounded away so that it is safe.

    ``margin``  by how much a star is smaller than the standard, as asked for, or as it comes out
                of a ring set by hand or for the ground.
    ``star``    how wide a star is there, mm on the sensor.
    ``now``     whether it is the one in hand.
    ``window``  where the ring may stand for stars and ground; None where only stars count.
    """

    margin: float
    star: float
    now: bool
    window: Window | None = None


def at_margin(sky: Sky, margin: float) -> AtInfinity:
    """Where the ring goes for a margin, mm, on a distance that a hand can set."""
    ideal = max(focus_distances.infinity(sky.setup, margin), sky.closest)
    shot = _of_stars(sky, settable.up(ideal, sky.system), ideal)
    return replace(shot, margin=margin, now=False)


def computed(sky: Sky) -> AtInfinity:
    """Where the ring goes: for the margin asked for; nearer, if that and only that has a foreground
    sharp in the same frame."""
    there = replace(at_margin(sky, sky.margin), now=True)
    if sky.foreground is None or sky.tracked:
        return there
    return with_ground(sky, there, max(sky.foreground, sky.closest)) or there


def with_ground(sky: Sky, kept: AtInfinity, start: float) -> AtInfinity | None:
    """The ring for stars and the ground from ``start`` on, mm, in one frame: ``kept`` where that
    does; else as far as the ground lets it, for the stars' sake; None where no ring has both."""
    nearest = max(hyperfocal(sky.setup), sky.closest)
    if reaches(sky, kept.focus, start) and kept.focus >= nearest / _ROUNDED:
        return kept
    if not (math.isfinite(nearest) and reaches(sky, nearest, start)):
        return None
    window = Window(nearest, focus_with_near_limit(sky.ground, start))
    for figures in (settable.COARSE, settable.FINE):
        ring = settable.down(window.farthest, sky.system, figures)
        if ring >= nearest and reaches(sky, ring, start):
            return replace(_of_stars(sky, ring, ring), window=window)
    return None


def reaches(sky: Sky, focus: float, start: float) -> bool:
    """Whether the ground is sharp from ``start`` on with the ring there, mm."""
    near = limits(sky.ground, focus).near
    return near <= start * _ROUNDED  # nan, nothing sharp, is not


def by_hand(sky: Sky) -> AtInfinity:
    """Where a hand has set it."""
    assert sky.ring is not None
    return _of_stars(sky, settable.typed(sky.ring, sky.system, sky.closest))


def _of_stars(sky: Sky, focus: float, ideal: float = math.nan) -> AtInfinity:
    held = limits(sky.setup, focus)
    star = total_blur(sky.setup, math.inf, focus)
    return AtInfinity(
        name="Stars",
        focus=focus,
        exact=ideal,
        f_number=sky.f_number,
        near=held.near,
        far=held.far,
        held=None if held.empty else settable.inside(held.near, held.far, sky.system),
        margin=sky.setup.coc / star,
        star=star,
        now=True,
    )


def turned(sky: Sky, step: Step, axis: Axis) -> float:
    """Where the ring stands after a move, mm, where a hand can set it."""
    start = sky.ring
    if start is None:
        start = sky.closest if step.to is not None else computed(sky).focus
    return turned_on(start, step, axis, sky.system, sky.closest)
