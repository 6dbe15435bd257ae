"""How well each way of focusing does, against the window in which the ring may stand.

What a way of focusing gets wrong is where the picture comes together behind the lens: so many mm
before or behind the sensor. In those terms a way is about as good with any lens. The window of ring
settings is the same kind of length there: the lens moves by f·m, m the magnification, so from one
setting to another it moves by f·(m₁ − m₂). Half of that, at most, may be got wrong.

The ranges are **usual ones, from experience, not from a standard**: blur that an eye, a sensor or
a scale lets pass, times the f-number it looks through. A test of one's own body and lens replaces
them.
"""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass
from enum import StrEnum

from optics.base.errors import require_finite, require_positive
from optics.lens.conjugates import focus_of, magnification
from optics.lens.focus_window import Window, near_rings
from optics.lens.ring import Ring
from optics.lens.setup import Setup


class Way(StrEnum):
    """Ways of focusing."""

    EYE = "eye"
    SCALE = "scale"
    LIGHT = "light"
    SPOT = "spot"
    MAGNIFIED = "magnified"


FINDER_F_NUMBER = 2.8
"""A finder's screen shows no more blur than this aperture makes, however wide the lens opens."""
_DISCS = {
    Way.EYE: (0.03, 0.08),
    Way.LIGHT: (0.02, 0.04),
    Way.SPOT: (0.008, 0.02),
}
"""The blur, mm on the sensor, that passes unseen: by eye in a finder, by a confirmation light, by
one small autofocus point."""
_PIXELS = (1.0, 2.0)
"""The same in pixels, of a magnified view."""
FILM_PIXEL = 0.008
"""mm: what a loupe on a screen shows, where there are no pixels."""
_DEGREES = (1.0, 3.0)
"""How far off a scale is read and set, of the ring's turn."""


@dataclass(frozen=True, slots=True)
class Error:
    """A way of focusing and what it gets wrong: mm to either side, behind the lens.

    ``best``, ``worst``: from a careful day to a hurried one.
    """

    way: Way
    best: float
    worst: float


@dataclass(frozen=True, slots=True)
class Tried:
    """How well a way of focusing did when it was tried: how far in front of the thing it puts the
    focus, mm behind the lens (below 0: behind it), and by how much it is off from one time to the
    next, a standard deviation, mm."""

    bias: float
    scatter: float


def errors(
    focal_length: float,
    widest: float,
    pitch: float | None,
    ring: Ring | None,
    tried: Mapping[str, Tried] | None = None,
) -> tuple[Error, ...]:
    """What each way of focusing gets wrong with a lens.

    ``focal_length``: mm. ``widest``: the f-number focused at. ``pitch``: of a pixel, mm; None on
    film. ``ring``: of the lens, for reading its scale; None leaves that way out. ``tried``: ways
    that were tried, which replaces what is usual: careful is within one deviation, hurried within
    two. Raises NotANumber, OutOfRange.
    """
    require_positive("focal_length", focal_length, "focal length")
    require_positive("widest", widest, "aperture")
    seen = max(widest, FINDER_F_NUMBER)
    found = []
    for way in Way:
        if tried and (known := tried.get(way)) is not None:
            bias = abs(known.bias)
            found.append(Error(way, bias + known.scatter, bias + 2.0 * known.scatter))
            continue
        if way is Way.SCALE:
            if ring is not None:
                per_degree = travel_per_degree(ring, focal_length)
                found.append(Error(way, *(per_degree * degrees for degrees in _DEGREES)))
            continue
        if way is Way.MAGNIFIED:
            low, high = (pixels * (pitch or FILM_PIXEL) for pixels in _PIXELS)
        else:
            low, high = _DISCS[way]
        through = seen if way is Way.EYE else widest
        found.append(Error(way, low * through, high * through))
    return tuple(found)


def travel_per_degree(ring: Ring, focal_length: float) -> float:
    """How far the lens moves for a degree of its ring's turn, near infinity, mm."""
    one = math.radians(1.0)
    towards_near = math.copysign(one, ring.marks[0][1] - ring.marks[-1][1])
    distance = ring.distance(ring.infinity + towards_near)
    return focal_length * magnification(_thin(focal_length), distance)


class Fit(StrEnum):
    """Whether a way of focusing is good enough for a window."""

    GOOD = "holds"
    CAREFUL = "just"
    NOT = "soft"


def room(setup: Setup, window: Window, focus: float, near: float) -> float:
    """How far the lens may be off to either side with the ring at ``focus``, mm behind the lens.

    ``near``: the nearest distance that the window keeps. 0 outside the window. Distances mm from
    the sensor, up to inf. A window that reaches infinity goes on past it, where rings show nothing
    any more: until ``near`` is lost, which goes before anything farther does.
    """
    nearer = travel(setup, window.nearest, focus)
    farther = travel(setup, focus, window.farthest)
    if math.isinf(window.farthest):
        farther -= setup.focal_length * near_rings(setup, near)[0]
    return max(min(nearer, farther), 0.0)


def travel(setup: Setup, near: float, far: float) -> float:
    """How much farther out the lens stands for ``near`` than for ``far``, mm."""
    return setup.focal_length * (magnification(setup, near) - magnification(setup, far))


def fit(error: Error, allowed: float) -> Fit:
    """Whether a way does, with ``allowed`` mm to either side."""
    if error.worst <= allowed:
        return Fit.GOOD
    return Fit.CAREFUL if error.best <= allowed else Fit.NOT


def in_distance(setup: Setup, focus: float, error: float) -> tuple[float, float]:
    """Where the ring may end up, mm from the sensor, if the lens is off by ``error`` mm."""
    require_positive("error", error, "error of focusing", zero=True)
    ring = magnification(setup, focus)
    share = error / setup.focal_length
    far = ring - share
    return _distance(setup, ring + share), math.inf if far <= 0 else _distance(setup, far)


def _distance(setup: Setup, ring: float) -> float:
    return focus_of(setup, min(ring, 1.0))


def _thin(focal_length: float) -> Setup:
    return Setup(focal_length, 1.0, 1.0)


def swung(distance: float, angle: float) -> float:
    """The depth that something has after focusing on it with the middle of the frame and swinging.

    The ring stands at its ``distance``, mm, straight through the middle; swung by ``angle``
    (radians) the thing lies only distance × cos(angle) deep. Equal but for where the sensor turns.
    """
    require_positive("distance", distance, "distance", finite=False)
    require_finite("angle", angle, "angle")
    return distance * math.cos(angle)
