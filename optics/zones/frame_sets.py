"""Several frames that a hand can take: on settings that it can set, and without a gap.

Ideal settings laid end to end leave no room to round: a set is rounded, and what it then holds is
looked at. Where a gap has opened, one frame more gives the room.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

from optics.base.errors import require_order, require_positive
from optics.base.settable import COARSE, FINE, nearest, up
from optics.base.units import METRES
from optics.lens.conjugates import nearest_focus
from optics.lens.depth import limits
from optics.lens.equal_blur import between
from optics.lens.focus_window import focus_window
from optics.lens.setup import Setup
from optics.zones.tiling import Zone, covered, steps, zone_at

MOST_BY_HAND = 30
"""Frames: nobody turns a ring on and on in the field, and looks at each."""
_SURELY_TOO_MANY = 1.5 * MOST_BY_HAND
_UNCOUNTED = 1e6
_MOST_OVERLAP = 0.9
_MORE = 3
"""So many frames more than it takes are tried for the room they give."""
_OVERLAP_KEPT = 0.5
"""How much of the overlap asked for rounding may leave."""


@dataclass(frozen=True, slots=True)
class NoSet:
    """Why there is none. ``count``: how many frames it would take; None where no number does."""

    count: int | None
    sentence: str


NOTHING_HOLDS = "At this aperture diffraction alone is more than the standard."
NO_JOB = "no job for turning the ring by hand"


def frame_set(
    setup: Setup, near: float, far: float, overlap: float, closest: float, system: str = METRES
) -> tuple[Zone, ...] | NoSet:
    """The fewest settings a hand can set that together hold near…far, nearest first.

    ``near`` ≤ ``far``: mm, far up to inf; what is nearer than the lens can hold is left out.
    ``overlap``: the share of each frame, in 1/distance, that its neighbour should hold too.
    ``closest``: the nearest that the lens focuses, mm. One frame alone is where it holds most of
    the ends alike, not yet on a setting for a hand. Raises NotANumber, WrongOrder, OutOfRange.
    """
    require_order(near, far)
    require_positive("overlap", overlap, "overlap", zero=True)
    reached = limits(setup, closest)
    start = near if math.isnan(reached.near) else min(max(near, reached.near), far)
    if math.isnan(limits(setup, math.inf).near):
        return NoSet(None, NOTHING_HOLDS)
    if start >= closest and focus_window(setup, start, far) is not None:
        return (zone_at(setup, max(between(setup, start, far), closest)),)
    about = 1 if start == far else _about(setup, start, far, overlap)
    if about > _SURELY_TOO_MANY:
        return NoSet(about, f"That would take about {about} frames: {NO_JOB}.")
    ideal = steps(setup, start, far, overlap)
    if ideal is None or any(math.isnan(zone.near) for zone in ideal):
        return NoSet(None, NOTHING_HOLDS)
    count = len(ideal)
    if count > MOST_BY_HAND:
        return NoSet(count, f"That would take {count} frames: {NO_JOB}.")
    if count == 1:
        return ideal
    for more in range(_MORE + 1):
        found = _rounded(setup, ideal, (start, far), overlap, up(closest, system, FINE), system)
        if found is not None:
            return found
        ideal = steps(setup, start, far, overlap, more + 1) or ideal
    sentence = f"That would take {count} frames, closer together than a hand can set: {NO_JOB}."
    return NoSet(count, sentence)


def _about(setup: Setup, start: float, far: float, overlap: float) -> int:
    """How many frames it takes, to two figures: in 1/distance all zones are about as wide."""
    band = 1.0 / start - 1.0 / far
    focus = max(2.0 / (1.0 / start + 1.0 / far), nearest_focus(setup))
    zone = zone_at(setup, focus)
    if math.isnan(zone.near):
        return 1
    width = 1.0 / zone.near - 1.0 / zone.far
    count = 1 + max(band - width, 0.0) / (width * (1.0 - min(overlap, _MOST_OVERLAP)))
    return round(float(f"{min(count, _UNCOUNTED):.2g}"))


def _rounded(
    setup: Setup,
    ideal: tuple[Zone, ...],
    band: tuple[float, float],
    overlap: float,
    least: float,
    system: str,
) -> tuple[Zone, ...] | None:
    """Those settings where a hand can set them, ``least`` or farther, if that leaves no gap."""
    for figures in (COARSE, FINE):
        settings = {max(nearest(zone.focus, system, figures), least) for zone in ideal}
        zones = tuple(zone_at(setup, focus) for focus in sorted(settings))
        if len(zones) == len(ideal) and covered(zones, *band, _OVERLAP_KEPT * overlap):
            return zones
    return None
