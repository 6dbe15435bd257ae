"""Where a ring stands, in words for a hand that cannot see it."""

from __future__ import annotations

import math

from web.bag.models import RingKind
from web.hand.in_use import InUse

FINGER_MM, BARREL_MM = 16.0, 65.0
"""A finger's width, and the diameter of a usual barrel: a guess, for words only."""
FINGER = FINGER_MM / (0.5 * BARREL_MM)
"""A finger's width on the barrel, radians."""


def fingers(turned: float) -> str:
    """How far before infinity, in fingers: for a hand that cannot see. Radians."""
    if turned < 0.02:
        return "at infinity"
    return f"{width_in_fingers(turned)} before infinity"


def width_in_fingers(turned: float) -> str:
    """An angle of the ring, radians, as a hand feels it."""
    count = turned / FINGER
    if count < 0.2:
        return "a hair"
    if count < 0.75:
        return "half a finger’s width"
    if count < 1.25:
        return "a finger’s width"
    halves = round(count * 2) / 2
    whole, half = divmod(halves, 1)
    return f"{whole:.0f}{'½' if half else ''} fingers’ widths"


def touched_on(in_use: InUse) -> tuple[tuple[str, float], ...]:
    """The settings of the lens in hand that a thumb finds without looking, by their names: stops,
    and a tab straight down. mm."""
    lens, hands = in_use.lens, in_use.hands
    if lens is None or hands is None or lens.closest_mm is None:
        return ()
    found = []
    stops = lens.ring_kind == RingKind.STOPS
    if stops:
        found.append(("near stop", float(lens.closest_mm)))
    if lens.tab_at_infinity_hours is not None:
        down = hands.distance_where(math.pi)
        if down is not None and down >= lens.closest_mm * (1 - 1e-9):
            found.append(("tab straight down", down))
    if stops:
        found.append(("infinity stop", math.inf))
    return tuple(found)


_FELT = 0.004
"""Closer to what a thumb finds than this share of the distance is there."""


def touch_of(
    in_use: InUse, focus: float, touched: tuple[tuple[str, float], ...] | None = None
) -> str:
    """Where a thumb finds a ring setting, mm, in words; empty where nobody knows the ring.

    ``touched``: what ``touched_on`` gives, if it is known already.
    """
    lens, hands = in_use.lens, in_use.hands
    if lens is None or hands is None:
        return ""
    for name, at in touched_on(in_use) if touched is None else touched:
        if at == focus or (math.isfinite(focus) and abs(at - focus) <= _FELT * focus):
            return name
    if lens.tab_at_infinity_hours is not None:
        return f"tab at {_clock(hands.clock(focus))}"
    return fingers(abs(hands.ring.turn(math.inf, focus)))


def _clock(hours: float) -> str:
    """To a quarter of an hour: a hand knows no better."""
    quarters = round(hours * 4) % 48
    return f"{quarters // 4 or 12}:{quarters % 4 * 15:02d}"
