"""Where a ring stands, in words for a hand that cannot see it."""

from __future__ import annotations

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
