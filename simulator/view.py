"""What the camera sees: a plane in space as it stands in the picture.

Space is measured from the entrance pupil: x to the right, y down, z away from the camera, mm.
Pictures are measured in samples; a sample is a pixel, or one of its equal parts.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from optics.lens.cone import Cone
from optics.lens.diffraction import combine
from optics.lens.setup import Setup
from simulator.body import Body
from simulator.lens import Lens

Array = npt.NDArray[np.float64]

EVERY = 8
"""Samples: depth and disc change so slowly that they are worked out at every so many."""


@dataclass(frozen=True, slots=True)
class View:
    """A camera set up: what stands where in its picture, and how blurred.

    ``setup``, ``cone``  the lens at its aperture, focused; ``ring`` the magnification that it truly
                         stands at.
    ``samples``          to a pixel, each way. ``extra`` more of the scene than the frame shows, on
                         every side, samples: what lies just outside is spread into it.
    """

    setup: Setup
    cone: Cone
    ring: float
    lens: Lens
    body: Body
    samples: int
    extra: int

    @classmethod
    def of(cls, lens: Lens, body: Body, f_number: float, ring: float, samples: int) -> View:
        """``ring``: the magnification that the lens truly stands at."""
        setup = lens.kit.at(f_number)
        return cls(setup, Cone.at(setup, ring), ring, lens, body, samples, 8 * samples)

    @property
    def distance(self) -> float:
        """From the pupil to the picture that it throws, in samples: the scale of the picture."""
        length = self.setup.focal_length * (1.0 + self.ring)
        return length / self.body.pitch * self.samples

    @property
    def shape(self) -> tuple[int, int]:
        """Rows and columns of samples."""
        return (
            self.body.height * self.samples + 2 * self.extra,
            self.body.width * self.samples + 2 * self.extra,
        )

    @property
    def middle(self) -> tuple[float, float]:
        """Where the axis meets the picture: (x, y), samples."""
        rows, columns = self.shape
        return (columns - 1) / 2, (rows - 1) / 2

    def depth(self, from_sensor: float) -> float:
        """A depth from the sensor as one from the pupil, mm."""
        return from_sensor - float(self.cone.origin)

    def seen(self, points: Array) -> Array:
        """Points in space, n × 3, in the picture: n × 2."""
        x, y = self.middle
        scale = self.distance / points[:, 2]
        return np.stack((points[:, 0] * scale + x, points[:, 1] * scale + y), axis=-1)

    def _grid(self) -> tuple[Array, Array]:
        """Columns and rows at ``EVERY`` so many, from the middle: samples, one step past the
        last."""
        rows, columns = self.shape
        x, y = self.middle
        across: Array = np.arange(0.0, columns + EVERY, EVERY) - x
        down: Array = np.arange(0.0, rows + EVERY, EVERY) - y
        return across, down

    def directions(self) -> tuple[Array, Array]:
        """What x/z and y/z are seen at every so many columns and rows."""
        across, down = self._grid()
        return across / self.distance, down / self.distance

    def places(self) -> tuple[Array, Array]:
        """The same columns and rows as shares of the frame, −1 to 1 at its sides."""
        across, down = self._grid()
        rows, columns = self.shape
        return across / (columns / 2 - self.extra), down / (rows / 2 - self.extra)

    def signed_disc(
        self, inverse_depth: npt.ArrayLike, across: npt.ArrayLike, out: npt.ArrayLike
    ) -> Array:
        """The disc, samples, of what stands at 1/z; below 0 where that is nearer than the focus.

        ``across``  how far right of the middle it is seen, −1 to 1 at the frame's sides.
        ``out``     how far from the middle, 1 at the frame's corners.
        Defocus and diffraction as ``optics`` has them, the lens's own blur on top.
        """
        faults = self.lens.faults
        tipped = faults.decentring / self.setup.focal_length * np.asarray(across)
        sharp = self.cone.sharp - tipped
        defocus = self.cone.pupil * (sharp - self.cone.reach * np.asarray(inverse_depth))
        working = self.setup.f_number * (1.0 + max(float(self.cone.sharp), 0.0))
        spread = np.asarray(combine(np.abs(defocus), working))
        own = np.hypot(self.setup.lens_disc, faults.corner * np.square(out))
        total = np.hypot(spread, own) / self.body.pitch * self.samples
        return np.asarray(np.where(defocus < 0, -total, total), float)


@dataclass(frozen=True, slots=True)
class Plane:
    """A flat thing: where its middle stands from the pupil, and the directions of its x and its y,
    both of length 1, mm."""

    middle: Array
    right: Array
    up: Array

    @classmethod
    def facing(
        cls, x: float, y: float, z: float, lean: float = 0.0, turn: float = 0.0, roll: float = 0.0
    ) -> Plane:
        """One that faces the camera, and then: rolled about its middle, leant back by ``lean`` so
        that its upper side is farther, turned by ``turn`` so that its right side is; radians."""
        right, up = np.array((1.0, 0.0, 0.0)), np.array((0.0, -1.0, 0.0))
        c, s = math.cos(roll), math.sin(roll)
        right, up = c * right - s * up, s * right + c * up
        spin = _about_x(lean) @ np.eye(3)
        spin = _about_y(turn) @ spin
        return cls(np.array((x, y, z)), spin @ right, spin @ up)

    def at(self, points: npt.ArrayLike) -> Array:
        """Points of the plane, n × 2, mm, in space."""
        flat = np.asarray(points, dtype=float)
        return self.middle + flat[:, :1] * self.right + flat[:, 1:] * self.up

    def inverse_depth(self, view: View) -> Array:
        """1/z at every so many rows and columns of a view, or a single number where it is the same
        all over."""
        normal = np.cross(self.right, self.up)
        normal = normal / float(normal @ self.middle)
        if abs(normal[0]) + abs(normal[1]) < 1e-12:
            return np.array(normal[2])
        across, down = view.directions()
        return np.asarray(normal[0] * across[None, :] + normal[1] * down[:, None] + normal[2])


def _about_x(angle: float) -> Array:
    """Leans what faces the camera back: what is up (−y) goes away (+z)."""
    c, s = math.cos(angle), math.sin(angle)
    return np.array(((1, 0, 0), (0, c, s), (0, -s, c)))


def _about_y(angle: float) -> Array:
    c, s = math.cos(angle), math.sin(angle)
    return np.array(((c, 0, -s), (0, 1, 0), (s, 0, c)))
