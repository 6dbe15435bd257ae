"""What a focus ring really does, from readings by hand.

A lens stands out f·m from where infinity is sharp, m the magnification of what is sharp. What its
ring says stands for an f·m of its own. The difference is how far the ring is off, mm: the same kind
of length everywhere along it, so that readings at any distances can be laid together. Against how
far the ring is turned, f·m of a helicoid is a straight line: its slope is the throw, where it meets
0 is infinity, and what is left over is how far the ring may be trusted.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from optics.base.errors import require_count, require_finite, require_positive
from optics.lens.aperture import exact
from optics.lens.conjugates import magnification
from optics.lens.found import Found
from optics.lens.readings import LEAST, widened
from optics.lens.setup import Setup


def ring_off(focal_length: float, says: float, sharp: float = math.inf) -> float:
    """How much more a lens stands out than its ring says, mm; below 0 less.

    ``focal_length`` mm; ``says``: the distance its ring is set to, ``sharp``: that where it is
    sharp, both mm from the sensor, from 4 focal lengths to inf. Raises NotANumber, OutOfRange,
    FocusTooNear.
    """
    setup = Setup(focal_length, 1.0, 1.0)
    return focal_length * (float(magnification(setup, sharp)) - float(magnification(setup, says)))


@dataclass(frozen=True, slots=True)
class Line:
    """A straight line through readings: value at 0, slope, each with its standard error; the
    standard deviation of a reading from it, ``band``; and what is left over at each reading."""

    at_zero: Found
    slope: Found
    band: float
    left: tuple[float, ...]


def line(places: Sequence[float], values: Sequence[float], finest: float) -> Line:
    """The straight line through three readings or more, at two places at least.

    ``finest``: what a value can be read to, above 0. Raises NotANumber, OutOfRange.
    """
    require_count("places", len(set(places)), "different places", 2)
    require_count("values", len(values), "readings", LEAST)
    require_finite("places", places, "place")
    require_finite("values", values, "reading")
    require_positive("finest", finest, "step of reading")
    x, y = np.asarray(places, np.float64), np.asarray(values, np.float64)
    middle = float(x.mean())
    spread = float(np.sum((x - middle) ** 2))
    slope = float(np.sum((x - middle) * y)) / spread
    left = y - y.mean() - slope * (x - middle)
    degrees = len(x) - 2
    band = max(math.sqrt(float(np.sum(left**2)) / degrees), finest / math.sqrt(3.0))
    wide = widened(degrees) * band
    return Line(
        Found(float(y.mean()) - slope * middle, wide * math.sqrt(1 / len(x) + middle**2 / spread)),
        Found(slope, wide / math.sqrt(spread)),
        band,
        tuple(float(rest) for rest in left),
    )


@dataclass(frozen=True, slots=True)
class RingLaw:
    """How a ring turns. ``infinity``: where it stands for infinity, ``throw``: from there to its
    closest focus; radians as the readings were. ``travel``: mm for a radian. ``band``: the standard
    deviation of a reading, radians, and ``off`` the same, mm. ``left``: at each reading, radians.
    """

    infinity: Found
    throw: Found
    travel: float
    band: float
    off: float
    left: tuple[float, ...]


def ring_law(
    focal_length: float, turned: Sequence[tuple[float, float]], closest: float, finest: float
) -> RingLaw:
    """The law of a ring from distances, mm from the sensor, and how far it was turned for each,
    radians in any sense: three or more, at two distances or more.

    ``closest``: the nearest that it goes, mm; ``finest``: what an angle can be read to, above 0.
    Raises NotANumber, OutOfRange, FocusTooNear.
    """
    setup = Setup(focal_length, 1.0, 1.0)
    places = [focal_length * float(magnification(setup, distance)) for distance, _ in turned]
    found = line(places, [angle for _, angle in turned], finest)
    reach = focal_length * float(magnification(setup, closest))
    slope = found.slope.value or 1e-12
    return RingLaw(
        found.at_zero,
        Found(found.slope.value * reach, max(found.slope.error * reach, 1e-9)),
        abs(1.0 / slope),
        found.band,
        abs(found.band / slope),
        found.left,
    )


@dataclass(frozen=True, slots=True)
class MarkRead:
    """An engraved depth-of-field mark as the aperture of a picture: the blur that reading this very
    mark lets pass, mm; and the f-number of the mark to read instead, None where none is safe."""

    f_number: float
    blur: float
    instead: float | None

    @property
    def trusted(self) -> bool:
        """Whether the mark itself may be read."""
        return self.instead == self.f_number


def marks_read(
    marks: Sequence[float], engraved: float, wanted: float, off: float
) -> tuple[MarkRead, ...]:
    """What engraved marks are worth on a ring that may be off.

    The marks of f/N stand N·c to either side of the index, in mm behind the lens, for the circle c
    they were made for. On a ring that is ``off`` by δ one of them promises N·c + δ, at f/N a blur
    of c + δ/N.

    ``marks``: f-numbers; ``engraved``, ``wanted``: circles, mm, above 0; ``off``: mm, 0 or more.
    Raises NotANumber, OutOfRange.
    """
    require_positive("engraved", engraved, "circle of confusion")
    require_positive("wanted", wanted, "circle of confusion")
    require_positive("off", off, "error of the ring", zero=True)
    found = []
    for f_number in sorted(marks):
        number = float(exact(f_number))
        room = (number * wanted - off) / engraved
        good = [mark for mark in marks if float(exact(mark)) <= room * (1 + 1e-9)]
        best = min(max(good), f_number) if good else None
        found.append(MarkRead(f_number, engraved + off / number, best))
    return tuple(found)
