"""How far away something of known size is, by how much of the frame it fills; and back."""

from __future__ import annotations

from typing import overload

import numpy as np
import numpy.typing as npt

from optics.base.errors import (
    OutOfRange,
    require,
    require_positive,
)
from optics.base.numbers import Array, Numbers, plain
from optics.lens.conjugates import focus_of, magnification
from optics.lens.setup import Setup


@overload
def distance_from_size(
    focal_length: float, frame_height: float, real_height: float, fraction: float
) -> float: ...
@overload
def distance_from_size(
    focal_length: npt.ArrayLike,
    frame_height: npt.ArrayLike,
    real_height: npt.ArrayLike,
    fraction: npt.ArrayLike,
) -> Array | float: ...
def distance_from_size(
    focal_length: npt.ArrayLike,
    frame_height: npt.ArrayLike,
    real_height: npt.ArrayLike,
    fraction: npt.ArrayLike,
) -> Array | float:
    """How far away something of known size is, from how much of the frame's height it fills.

    The lens is focused on it, and it stands upright across a level axis. Lengths in mm, above 0;
    ``fraction`` above 0 (over 1 is larger than the frame), the magnification at most 1.
    Returns mm from the sensor. Broadcasts. Raises NotANumber, OutOfRange.
    """
    require_positive("frame_height", frame_height, "height of the frame")
    require_positive("real_height", real_height, "real height")
    require_positive("fraction", fraction, "share of the frame")
    ring = np.asarray(fraction) * np.asarray(frame_height) / np.asarray(real_height)
    require(
        ring <= 1.0, OutOfRange, "fraction", fraction, "Larger than life: no lens focuses that."
    )
    return focus_of(_thin(focal_length), ring)


@overload
def share_of_frame(
    focal_length: float, frame_height: float, real_height: float, distance: float
) -> float: ...
@overload
def share_of_frame(
    focal_length: npt.ArrayLike,
    frame_height: npt.ArrayLike,
    real_height: npt.ArrayLike,
    distance: npt.ArrayLike,
) -> Array | float: ...
def share_of_frame(
    focal_length: npt.ArrayLike,
    frame_height: npt.ArrayLike,
    real_height: npt.ArrayLike,
    distance: npt.ArrayLike,
) -> Array | float:
    """How much of the frame's height something fills when focused on; ``distance_from_size``
    backwards. 0 at infinity. ``distance``: mm from the sensor, at least 4f. Broadcasts."""
    require_positive("frame_height", frame_height, "height of the frame")
    require_positive("real_height", real_height, "real height")
    ring = np.asarray(magnification(_thin(focal_length), distance))
    return plain(ring * np.asarray(real_height) / np.asarray(frame_height))


def _thin(focal_length: npt.ArrayLike) -> Setup[Numbers]:
    return Setup[Numbers](np.asarray(focal_length, dtype=np.float64), 1.0, 1.0)
