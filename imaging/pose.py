"""How the printed target stands before the lens, from where its spots are seen.

Its distance, its lean and the lens's distortion come from all spots together, by least squares; the
start is the homography taken apart [plane].
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import cv2
import numpy as np
import numpy.typing as npt
from scipy import optimize

from imaging.numbers import Array
from imaging.sheet import SPOTS


@dataclass(frozen=True, slots=True)
class Pose:
    """How the sheet stands before the lens.

    ``focal``     from the pupil to the picture, pixels: what makes things as large as they are.
    ``middle``    of the picture: (x, y).
    ``turn``      3 × 3, from the sheet's directions to the camera's (x right, y down, z away).
    ``place``     the sheet's middle from the entrance pupil, mm.
    ``bend``      the lens's distortion, as a share of the distance from the middle at its square.
    ``off``       how far spots are from where this puts them, pixels, on average.
    """

    focal: float
    middle: tuple[float, float]
    turn: Array
    place: Array
    bend: float
    off: float

    def depth(self, points: npt.ArrayLike) -> Array:
        """How far from the pupil points of the sheet are along the axis, mm."""
        flat = np.asarray(points, dtype=float)
        return np.asarray(flat @ self.turn[2, :2] + self.place[2])

    def at(self, points: npt.ArrayLike) -> Array:
        """Points of the sheet, n × 2, mm, in the picture."""
        flat = np.asarray(points, dtype=float)
        space = flat @ self.turn[:, :2].T + self.place
        return _bent(space[:, :2] / space[:, 2:], self.bend) * self.focal + self.middle

    @property
    def lean(self) -> float:
        """How much farther the sheet's far end is than if it faced the camera, radians."""
        return math.asin(float(np.clip(self.turn[2, 1], -1, 1)))

    @property
    def aside(self) -> float:
        """How much farther its right side is, radians."""
        return math.asin(float(np.clip(self.turn[2, 0], -1, 1)))


def _bent(flat: Array, bend: float) -> Array:
    return np.asarray(flat * (1.0 + bend * np.sum(flat**2, axis=1, keepdims=True)))


def pose_of(places: Array, size: tuple[int, int], focal: float) -> Pose:
    """How the sheet stands, from where its spots are seen.

    ``places``  n × 2, pixels, as of ``Seen``. ``size``  the picture's. ``focal``  pixels, above 0.
    """
    good = np.isfinite(places).all(axis=1)
    flat, seen = SPOTS[good], places[good]
    middle = np.array(((size[0] - 1) / 2, (size[1] - 1) / 2))
    matrix = np.array(((focal, 0, middle[0]), (0, focal, middle[1]), (0, 0, 1)))
    solid = np.column_stack((flat, np.zeros(len(flat))))
    starts = cv2.solvePnPGeneric(solid, seen, matrix, None, flags=cv2.SOLVEPNP_IPPE)
    tries = [
        _settled(flat, seen, middle, focal, np.concatenate((spin.ravel(), place.ravel())))
        for spin, place in zip(starts[1], starts[2], strict=True)
    ]
    return min(tries, key=lambda one: one.off)


def _settled(flat: Array, seen: Array, middle: Array, focal: float, start: Array) -> Pose:
    def posed(values: Array) -> Pose:
        turn = cv2.Rodrigues(values[:3])[0]
        return Pose(focal, (middle[0], middle[1]), turn, values[3:6], float(values[6]), 0.0)

    def left(values: Array) -> Array:
        return np.asarray((posed(values).at(flat) - seen).ravel())

    scale = np.array((0.01, 0.01, 0.01, 1, 1, 1, 0.01))
    done = optimize.least_squares(left, np.append(start, 0.0), x_scale=scale, loss="soft_l1")
    made = posed(done.x)
    off = float(np.sqrt(np.mean(np.sum((made.at(flat) - seen) ** 2, axis=1))))
    return Pose(focal, made.middle, made.turn, made.place, made.bend, off)


def together(frames: Sequence[Array], within: float) -> Array | None:
    """The places of spots in frames that show them at the same places, all laid together; None
    where the camera or the sheet moved between frames by more than ``within``, pixels."""
    held = np.stack(frames)
    seen = np.isfinite(held).all(axis=2).any(axis=0)
    laid = np.full(held.shape[1:], np.nan)
    middle = np.nanmedian(held[:, seen], axis=0)
    moved = [float(np.nanmedian(np.hypot(*(one[seen] - middle).T))) for one in held]
    laid[seen] = np.nanmean(held[:, seen], axis=0)
    return laid if max(moved) <= within else None
