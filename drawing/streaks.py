"""Stars as the sensor sees them: a patch of pixels, and the streak a star draws over it.

All patches are to one scale, in pixels (or circles, on film), so that they can be compared.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

SIDE, GAP, _FOOT = 150.0, 22.0, 40.0
_LEAST, _MOST = 8, 60
"""How many pixels a patch shows across, at least and at most."""


@dataclass(frozen=True, slots=True)
class Trace:
    """A star's way, in pixels: ``dx`` along the motion of the stars, ``dy`` north. ``wide``: the
    star's own width."""

    name: str
    dx: float
    dy: float
    wide: float


@dataclass(frozen=True, slots=True)
class Patch:
    """A patch as drawn: where it stands, its grid and its streak; ``cut`` if the streak is longer
    than the patch."""

    name: str
    x: float
    grid: str
    streak: str
    wide: float
    cut: bool
    middle: float


@dataclass(frozen=True, slots=True)
class Streaks:
    """Patches side by side. ``across``: how many pixels each shows."""

    width: float
    height: float
    across: int
    patches: tuple[Patch, ...]
    label_y: float


def draw(traces: Sequence[Trace]) -> Streaks:
    """One patch for each trace, the streak in its middle."""
    longest = max((math.hypot(t.dx, t.dy) + t.wide for t in traces), default=0.0)
    across = min(max(math.ceil(longest) + 3, _LEAST), _MOST)
    per = SIDE / across
    patches = []
    for at, trace in enumerate(traces):
        left = at * (SIDE + GAP)
        length = math.hypot(trace.dx, trace.dy)
        fits = min(1.0, (across - 1) / length) if length > 0 else 1.0
        x, y = left + SIDE / 2, SIDE / 2
        half_x, half_y = 0.5 * trace.dx * fits * per, 0.5 * trace.dy * fits * per
        patches.append(
            Patch(
                name=trace.name,
                x=left,
                grid=grid(left, across),
                streak=f"M{x - half_x:.1f} {y + half_y:.1f}"
                f"L{x + half_x + 0.01:.2f} {y - half_y:.1f}",
                wide=round(max(trace.wide * per, 1.0), 1),
                cut=fits < 1.0,
                middle=x,
            )
        )
    width = len(traces) * (SIDE + GAP) - GAP
    return Streaks(width, SIDE + _FOOT, across, tuple(patches), SIDE + 18.0)


def grid(left: float, across: int, side: float = SIDE, top: float = 0.0) -> str:
    """The lines of a patch of so many pixels each way."""
    per = side / across
    lines = [f"M{left + per * k:.1f} {top:g}v{side:g}" for k in range(across + 1)]
    return "".join(lines + [f"M{left:g} {top + per * k:.1f}h{side:g}" for k in range(across + 1)])
