"""The focus ring: between distances and how far it is turned.

A lens that focuses by moving as a whole moves out by f²/(u − f) from where infinity is sharp, and
a helicoid turns in proportion (with (1) of ``lens``, that extension is f·m). Past infinity the
extension is negative: most rings go on a little, and infinity is not at the stop. Marks read off
a real ring are therefore interpolated in extension, where a unit-focusing ring is a straight
line and others bend least; in 1/distance even it bends close up.

Angles are radians, growing in whatever sense the marks have; a lens's throw may run either way.
"""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import dataclass
from typing import overload

import numpy as np
import numpy.typing as npt

from optics.base.errors import (
    OutOfRange,
    WrongOrder,
    require,
    require_count,
    require_finite,
    require_positive,
)
from optics.base.numbers import Array, plain
from optics.base.search import least
from optics.lens.conjugates import focus_of, magnification
from optics.lens.setup import Setup


class Ring:
    """A focus ring known by marks on it.

    ``marks``         pairs of distance (mm from the sensor, up to inf) and angle (radians): two or
                      more, in any order, of different distances, the angle always growing or
                      always falling with distance. Where infinity is not among them it is found by
                      extrapolation; past the outermost marks the last stretch goes on straight.
    ``focal_length``  mm. Where it is not given, the one with which the marks come closest to a
                      straight line is used; between two marks there is nothing to choose by, and
                      1/distance is.
    ``hiatus``        of the lens, mm: only with a focal length given.

    Raises NotANumber, OutOfRange, WrongOrder.
    """

    __slots__ = ("_angles", "_extensions", "focal_length", "hiatus", "marks")

    def __init__(
        self,
        marks: Iterable[tuple[float, float]],
        focal_length: float | None = None,
        hiatus: float = 0.0,
    ) -> None:
        pairs = sorted((float(distance), float(angle)) for distance, angle in marks)
        require_count("marks", len(pairs), "marks on the ring", 2)
        distances, angles = np.array(pairs).T
        require_positive("marks", distances, "distance of a mark", finite=False)
        require_finite("marks", angles, "angle of a mark")
        turned = np.diff(angles)
        if not (np.all(turned > 0) or np.all(turned < 0)) or np.any(
            distances[1:] == distances[:-1]
        ):
            sentence = "The angles of the marks must always grow, or always fall, with distance."
            at = int(np.argmax(turned * np.sign(angles[-1] - angles[0]) <= 0)) + 1
            raise WrongOrder("marks", pairs[at], sentence)
        require_finite("hiatus", hiatus, "hiatus")
        if focal_length is not None:
            require_positive("focal_length", focal_length, "focal length")
        self.hiatus: float = float(hiatus)
        self.marks: tuple[tuple[float, float], ...] = tuple(pairs)
        self.focal_length: float = (
            _straightest(distances, angles) if focal_length is None else float(focal_length)
        )
        # np.interp wants rising places: extension falls with distance.
        self._extensions: Array = self._extension_of(distances)[::-1]
        self._angles: Array = angles[::-1]

    @classmethod
    def unit_focusing(
        cls,
        focal_length: float,
        throw: float,
        closest: float,
        infinity_at: float = 0.0,
        hiatus: float = 0.0,
    ) -> Ring:
        """The ring of a lens that moves as a whole: ``throw`` (radians, either sense) from
        infinity to ``closest`` (mm from the sensor, at least 4f + hiatus).

        Raises NotANumber, OutOfRange, FocusTooNear.
        """
        require_finite("throw", throw, "throw")
        require(throw != 0, OutOfRange, "throw", throw, "A ring that does not turn has no scale.")
        require_finite("closest", closest, "closest focus")
        return cls(((closest, infinity_at + throw), (math.inf, infinity_at)), focal_length, hiatus)

    @overload
    def angle(self, distance: float) -> float: ...
    @overload
    def angle(self, distance: npt.ArrayLike) -> Array | float: ...
    def angle(self, distance: npt.ArrayLike) -> Array | float:
        """Where the ring stands for a distance, mm from the sensor. Radians. Broadcasts.

        Raises NotANumber, OutOfRange (no distance at all), FocusTooNear.
        """
        places = np.asarray(distance, dtype=np.float64)
        require_positive("distance", places, "distance", finite=False)
        return plain(_through(self._extension_of(places), self._extensions, self._angles))

    @overload
    def distance(self, angle: float) -> float: ...
    @overload
    def distance(self, angle: npt.ArrayLike) -> Array | float: ...
    def distance(self, angle: npt.ArrayLike) -> Array | float:
        """What the ring is set to, mm from the sensor; inf at infinity and past it. Broadcasts.

        ``angle``: radians, finite. Raises NotANumber, OutOfRange.
        """
        turned = np.asarray(angle, dtype=np.float64)
        require_finite("angle", turned, "angle")
        return plain(self._distance_of(self._extension_at(turned)))

    def _extension_of(self, places: Array) -> Array:
        return _extension(places - self.hiatus, self.focal_length)

    def _distance_of(self, extension: Array) -> Array:
        return _distance(extension, self.focal_length) + self.hiatus

    def _extension_at(self, turned: Array) -> Array:
        angles, extensions = self._angles, self._extensions
        if angles[0] > angles[-1]:
            angles, extensions = angles[::-1], extensions[::-1]
        return _through(turned, angles, extensions)

    def halfway(self, one: float, other: float) -> float:
        """The distance half way, in extension, between two angles, mm.

        Equal blur on both, but for the scale of the picture, which changes as the lens moves:
        the place ``placement.between`` gives lies under 1 % of the distance farther.
        """
        angles = np.array((one, other), dtype=np.float64)
        require_finite("angle", angles, "angle")
        extension = self._extension_at(angles).mean()
        return float(self._distance_of(extension))

    @property
    def infinity(self) -> float:
        """The angle at which infinity is sharp."""
        return self.angle(math.inf)

    @overload
    def past_infinity(self, angle: float) -> float: ...
    @overload
    def past_infinity(self, angle: npt.ArrayLike) -> Array | float: ...
    def past_infinity(self, angle: npt.ArrayLike) -> Array | float:
        """How far past infinity an angle is, radians; below 0 on this side of it. Broadcasts."""
        require_finite("angle", angle, "angle")
        towards = math.copysign(1.0, self.marks[-1][1] - self.marks[0][1])
        return plain((np.asarray(angle, dtype=np.float64) - self.infinity) * towards)

    @overload
    def turn(self, start: float, end: float) -> float: ...
    @overload
    def turn(self, start: npt.ArrayLike, end: npt.ArrayLike) -> Array | float: ...
    def turn(self, start: npt.ArrayLike, end: npt.ArrayLike) -> Array | float:
        """How far to turn from one distance to another, radians, in the sense of the marks."""
        return plain(np.asarray(self.angle(end)) - np.asarray(self.angle(start)))

    @overload
    def along_barrel(self, start: float, end: float, diameter: float) -> float: ...
    @overload
    def along_barrel(
        self, start: npt.ArrayLike, end: npt.ArrayLike, diameter: float
    ) -> Array | float: ...
    def along_barrel(
        self, start: npt.ArrayLike, end: npt.ArrayLike, diameter: float
    ) -> Array | float:
        """The same as a length along a barrel of that diameter, mm."""
        require_positive("diameter", diameter, "diameter of the barrel")
        return plain(np.asarray(self.turn(start, end)) * 0.5 * diameter)

    def under_mark(self, focus: float, mark_angle: float) -> Under:
        """What lies under the pair of depth-of-field marks ``mark_angle`` to either side of the
        index (radians, 0 or more), with the ring at ``focus``."""
        require_positive("mark_angle", mark_angle, "angle of the mark", zero=True)
        index = self.angle(focus)
        towards_near = math.copysign(mark_angle, self.marks[0][1] - self.marks[-1][1])
        near, far = (self.distance(index + turn) for turn in (towards_near, -towards_near))
        return Under(near, far)


@dataclass(frozen=True, slots=True)
class Under:
    """The distances under a pair of depth-of-field marks, mm from the sensor."""

    near: float
    far: float


def _extension(distance: npt.ArrayLike, focal_length: float) -> Array:
    """f·m for a ring at a distance; for f = 0 its limit per f², 1/distance."""
    places = np.asarray(distance, dtype=np.float64)
    if focal_length == 0:
        return np.asarray(1.0 / places)
    return np.asarray(
        np.asarray(magnification(Setup(focal_length, 1.0, 1.0), places)) * focal_length
    )


def _distance(extension: Array, focal_length: float) -> Array:
    if focal_length == 0:
        with np.errstate(divide="ignore"):
            return np.asarray(1.0 / np.maximum(extension, 0.0))
    ring = np.minimum(extension / focal_length, 1.0)
    return np.asarray(focus_of(Setup(focal_length, 1.0, 1.0), ring))


def _through(at: Array, places: Array, values: Array) -> Array:
    """Straight from mark to mark, and on past the outermost. ``places`` rising."""
    stretch = np.clip(np.searchsorted(places, at) - 1, 0, len(places) - 2)
    low, high = places[stretch], places[stretch + 1]
    share = (at - low) / (high - low)
    # From the nearer end, so that a mark gives its own value to the last figure.
    from_low = values[stretch] + share * (values[stretch + 1] - values[stretch])
    from_high = values[stretch + 1] - (1 - share) * (values[stretch + 1] - values[stretch])
    return np.asarray(np.where(share < 0.5, from_low, from_high))


_TRIED = 200


def _straightest(distances: Array, angles: Array) -> float:
    """The focal length for which angle against extension is nearest to a straight line.

    From 0 (1/distance) to a quarter of the nearest mark, the longest that could focus there.
    """
    if len(distances) < 3:
        return 0.0

    def bend(focal_length: float) -> float:
        x = _extension(distances, focal_length)
        x = (x - x.mean()) / x.std()
        y = angles - angles.mean()
        return float(np.sum(np.square(y - x * np.mean(x * y))))

    longest = float(distances[0]) / 4.0
    tried = np.linspace(0.0, longest, _TRIED)
    at = int(np.argmin([bend(float(f)) for f in tried]))
    low, high = float(tried[max(at - 1, 0)]), float(tried[min(at + 1, _TRIED - 1)])
    return least(bend, low, high, 1e-9 * longest)
