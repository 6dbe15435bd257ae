"""The short card of a zoom: the fewest ring positions, each for a stretch of the zoom.

The hyperfocal distance grows with the square of the focal length, and nobody sets that to a figure
while walking. One position holds infinity for every focal length up to some longest one; at a
shorter one it stands too far and gives foreground away, the more the shorter. Taking from the
shortest on, each time, the farthest position whose cost is still allowed there reaches farthest: no
other choice leaves less of the zoom, so no set of fewer positions serves it.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass

from optics.base import settable, units
from optics.base.errors import OutOfRange, require_finite, require_order, require_positive
from optics.base.search import crossing, least
from optics.lens.depth import hyperfocal, limits
from optics.lens.focus_window import focus_with_near_limit
from optics.lens.setup import Setup

_HAIR = 1e-9
_SURE = 1 - 1e-3
"""Of what is allowed at a focal length: a little longer it may cost a hair more."""


@dataclass(frozen=True, slots=True)
class Stretch:
    """A stretch of the zoom with one ring position. mm.

    ``start``, ``end``  focal lengths. ``focus``: where a hand sets the ring; inf for its end.
    ``nearest``  what holds over the whole stretch, from there to infinity.
    ``cost``     the worst near limit in it, in those of the exact setting: 1 or more.
    """

    start: float
    end: float
    focus: float
    nearest: float
    cost: float


def short_card(
    setup_of: Callable[[float], Setup],
    shortest: float,
    longest: float,
    give: float = 1.5,
    system: str = units.METRES,
    step: float = 0.0,
) -> tuple[Stretch, ...]:
    """The fewest positions that hold infinity over the whole zoom, none costing more than ``give``.

    ``setup_of``   the lens at a focal length, mm, with its aperture there.
    ``shortest``, ``longest``  focal lengths, mm, in order.
    ``give``       by how many times the near limit may be farther than at the exact setting, above
                   1. Positions are coarse where that serves, finer where only that does.
    ``step``       mm: stretches end on whole ones of it, as a zoom ring is read, where they are
                   longer; 0 for wherever they end.
    Empty where at either end of the zoom no setting holds infinity.
    Raises NotANumber, OutOfRange, WrongOrder.
    """
    require_positive("shortest", shortest, "shortest focal length")
    require_order(shortest, longest)
    require_positive("give", give, "what may be given away")
    if give <= 1:
        raise OutOfRange("give", give, "The exact setting gives away nothing: over 1.")
    require_finite("step", step, "step of a zoom ring")
    if step < 0:
        raise OutOfRange("step", step, "A step of a zoom ring is 0 mm or more.")
    if any(limits(setup_of(f), math.inf).empty for f in (shortest, longest)):
        return ()
    found = []
    start = shortest
    while True:
        focus = _farthest(setup_of(start), give, system)
        end = _reached(setup_of, focus, start, longest, give)
        if end >= longest:  # no farther than the rest of the zoom asks for
            focus = min(focus, _up(hyperfocal(setup_of(longest)), focus, system))
        whole = step * math.floor(end / step) if step > 0 else end
        stepped = end < longest and start < whole < end
        end = whole if stepped else end
        found.append(stretch(setup_of, start, end, focus))
        if end >= longest:
            return tuple(found)
        start = end if stepped else end * (1 + _HAIR)


def _farthest(setup: Setup, give: float, system: str) -> float:
    """The farthest position that costs no more than is allowed at a focal length."""
    exact = hyperfocal(setup)
    allowed = give * _SURE * limits(setup, exact).near
    most = focus_with_near_limit(setup, allowed)
    if math.isinf(most):
        return math.inf
    for figures in (settable.COARSE, settable.FINE):
        focus = settable.down(most, system, figures)
        if focus >= exact * (1 - _HAIR):
            return focus
    return settable.up(exact, system, settable.FINE)


def _up(distance: float, most: float, system: str) -> float:
    """A position no nearer than a distance, as coarse as one within ``most`` can be."""
    for figures in (settable.COARSE, settable.FINE):
        focus = settable.up(distance, system, figures)
        if focus <= most:
            return focus
    return most


def _reached(
    setup_of: Callable[[float], Setup], focus: float, start: float, longest: float, give: float
) -> float:
    """The longest focal length that a position serves: for which it holds infinity; and the end of
    the ring, which always does, costs no more than is allowed."""
    if math.isinf(focus):

        def dear(focal_length: float) -> float:
            return _cost(setup_of(focal_length), focus) - give

        return longest if dear(longest) <= 0 else crossing(dear, longest, start)
    if hyperfocal(setup_of(longest)) <= focus:
        return longest

    def over(focal_length: float) -> float:
        return hyperfocal(setup_of(focal_length)) - focus

    if over(start) >= 0:
        return start
    return crossing(over, longest, start)


def stretch(setup_of: Callable[[float], Setup], start: float, end: float, focus: float) -> Stretch:
    """A stretch of a zoom with a position that holds infinity all over it, and what it costs. As
    ``short_card``; ``focus``: mm from the sensor."""
    ends = setup_of(start), setup_of(end)
    nearest = max(limits(setup, focus).near for setup in ends)
    cost = max(_cost(setup, focus) for setup in ends)
    if start < end:  # it may rise a hair before it falls

        def cheap(focal_length: float) -> float:
            return -_cost(setup_of(focal_length), focus)

        cost = max(cost, -cheap(least(cheap, start, end, 1e-4 * end)))
    return Stretch(start, end, focus, nearest, cost)


def _cost(setup: Setup, focus: float) -> float:
    """How many times farther the near limit is than at the exact setting."""
    return max(limits(setup, focus).near / limits(setup, hyperfocal(setup)).near, 1.0)
