"""A mount that follows the sky: what its axis, a little off the pole, leaves of the stars' drift.

The sky turns about the pole and the mount about its own axis, at the same rate. For times short
against a day the two leave a turn about an axis that stands at right angles to both, slower by
2 sin(ε/2) for an angle ε between them [tracking]. Where that axis lies nobody knows: the worst is a
lens at right angles to it. The gears' own error is in none of this.
"""

from __future__ import annotations

import math

from optics.base.errors import OutOfRange, require_positive

MOST_OFF = math.radians(10.0)


def pace_left(off_pole: float) -> float:
    """The share of the sky's pace that is left. ``off_pole``: radians, above 0, at most 10°. Plain
    numbers only. Raises NotANumber, OutOfRange."""
    require_positive("off_pole", off_pole, "angle off the pole")
    if off_pole > MOST_OFF:
        said = "A mount more than 10° off the pole follows nothing."
        raise OutOfRange("off_pole", off_pole, said)
    return 2.0 * math.sin(0.5 * off_pole)
