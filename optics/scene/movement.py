"""Movement in the verdict: what a mark's own motion does to it while the shutter is open.

Defocus and motion stand on one scale, in the equivalent disc (``light.motion``), and add about in
quadrature. What must be sharp *smears* where both together exceed the standard; what should smear
does so from where its streak reads as one, two hundredths of the frame's height, and is mist from
two tenths on.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

from optics.lens.setup import Setup
from optics.light import dial, motion

SMEAR_LEAST, SMEAR_MOST = 0.02, 0.2
"""How long a streak reads as a smear, as shares of the frame's height: from silk to mist."""
_EDGE = 1.0 + 1e-9


@dataclass(frozen=True, slots=True)
class Movement:
    """Of a mark, in circles of confusion. ``streak``: its motion, ``together``: with its defocus,
    which is ``blur``, mm on the sensor, and ``pixels``; None on film.

    ``seconds``: the time it moves for. ``still``: the longest time on a dial that keeps it within
    the standard, s; 0 where none does. ``smears``: the time of a dial from which it reads as a
    smear, and that up to which it is not all mist; None for what does not move.
    """

    seconds: float
    streak: float
    together: float
    blur: float
    pixels: float | None
    still: float
    smears: motion.Times | None

    @property
    def holds(self) -> bool:
        """Whether motion and defocus together stay within the standard."""
        return self.together <= _EDGE

    @property
    def as_a_smear(self) -> bool:
        """Whether the time is long enough to smear it."""
        return self.smears is not None and self.smears.shortest <= self.seconds


def movement(
    setup: Setup,
    depth: float,
    speed: float,
    seconds: float,
    focus: float,
    circles: float,
    height: float,
    pitch: float | None = None,
) -> Movement:
    """How a mark moves that crosses the picture.

    ``depth``, ``focus``: mm from the sensor, up to inf. ``speed``: mm/s, 0 or more. ``seconds``:
    above 0. ``circles``: its defocus, in circles, 0 or more. ``height``: of the frame, mm;
    ``pitch``: of its pixels, mm. Raises as ``motion.crossing``.
    """
    per_second = 0.0 if math.isinf(depth) else motion.per_second(setup, depth, speed, focus)
    coc = setup.coc
    streak = motion.streak_as_disc(per_second * seconds) / coc
    together = motion.together(circles, streak)
    return Movement(
        seconds=seconds,
        streak=streak,
        together=together,
        blur=together * coc,
        pixels=together * coc / pitch if pitch else None,
        still=longest_still(per_second, coc, circles),
        smears=_smears(per_second, height),
    )


def longest_still(per_second: float, coc: float, circles: float) -> float:
    """The longest time on a dial, s, in which motion stays within what defocus leaves of the
    standard; 0 where it leaves nothing, inf for what does not move. ``per_second``: mm/s on the
    sensor, 0 or more; ``coc``: mm, above 0; ``circles``: the defocus in circles, 0 or more."""
    left = 1.0 - circles * circles
    if left <= 0:
        return 0.0
    longest = motion.longest_still(per_second, coc * math.sqrt(left))
    return longest if math.isinf(longest) else dial.longest_named(longest)


def _smears(per_second: float, height: float) -> motion.Times | None:
    if per_second <= 0:
        return None
    found = motion.times_to_smear(per_second, SMEAR_LEAST * height, SMEAR_MOST * height)
    shortest, longest = dial.shortest_named(found.shortest), dial.longest_named(found.longest)
    return motion.Times(shortest, longest) if shortest <= longest else None
