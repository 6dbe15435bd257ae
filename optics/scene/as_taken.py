"""A picture as another lens would take it from where a snapshot was taken: its frame in the
snapshot, and how far each row of the ground would be blurred.

Both look the same way from the same place, so a row shows the same ground to both, and only what
of it is in the frame differs: by the tangents of the angles that lenses and formats take in.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

import numpy as np

from optics.base.errors import require_positive
from optics.lens.cone import Cone, nearest_subject
from optics.lens.conjugates import magnification
from optics.lens.diffraction import combine_plain
from optics.lens.setup import Setup
from optics.scene.camera import MIDDLE, Camera
from optics.scene.frame import ground, row_of_depth

_ROWS = 96
"""Rows of which it is said how blurred they are, from the bottom of the frame up."""


@dataclass(frozen=True, slots=True)
class Band:
    """A row of the ground: where it is in the snapshot, 0 bottom to 1 top; how deep, mm from the
    sensor, inf for what is at the horizon or over it; and how wide its blur is, as a share of the
    width of the picture taken."""

    row: float
    depth: float
    disc: float


@dataclass(frozen=True, slots=True)
class AsTaken:
    """The picture in the snapshot.

    ``left``, ``bottom``, ``right``, ``top``  its frame, shares of the snapshot; outside 0 to 1 the
    snapshot does not show what would be in it. ``bands``: from the bottom up. ``soft``: stretches
    of rows that are blurred more than the standard. ``focus_row``: where the ground that is focused
    on is seen; nan for none.
    """

    left: float
    bottom: float
    right: float
    top: float
    bands: tuple[Band, ...]
    soft: tuple[tuple[float, float], ...]
    focus_row: float

    @property
    def whole(self) -> bool:
        """Whether the snapshot shows all of it."""
        return min(self.left, self.bottom) >= -1e-9 and max(self.right, self.top) <= 1 + 1e-9


def as_taken(snapshot: Camera, setup: Setup, focus: float, width: float, height: float) -> AsTaken:
    """What a lens would make of a snapshot's view.

    ``snapshot``       the camera that took the snapshot, with its own lens and frame.
    ``setup``          the lens to take the picture with, and what is called sharp.
    ``focus``          where its ring is, mm from the sensor, up to inf.
    ``width``, ``height``  its picture, mm, above 0.
    Raises NotANumber, OutOfRange, FocusTooNear.
    """
    require_positive("width", width, "width of the frame")
    require_positive("height", height, "height of the frame")
    ring = float(magnification(setup, focus))
    taking = setup.focal_length * (1.0 + ring)
    across = (width / taking) / (snapshot.frame_width / snapshot.image_distance)
    up = (height / taking) / (snapshot.frame_height / snapshot.image_distance)
    bottom, top = MIDDLE - up / 2, MIDDLE + up / 2
    rows = np.linspace(max(bottom, 0.0), min(top, 1.0), _ROWS)
    depths = np.atleast_1d(np.asarray(ground(snapshot, rows).depth, float))
    cone, least = Cone.at(setup, ring), nearest_subject(setup)
    working = setup.f_number * (1.0 + max(ring, 0.0) / setup.pupil_ratio)
    bands, flags = [], []
    for row, depth in zip(rows, depths, strict=True):
        blur = float(cone.blur(max(float(depth), least)))
        counted = combine_plain(blur, working) if setup.diffraction else blur
        flags.append(counted > setup.coc)
        bands.append(Band(float(row), float(depth), combine_plain(blur, working) / width))
    focus_row = math.nan
    if math.isfinite(focus):
        focus_row = float(row_of_depth(replace(snapshot, focus=math.inf), focus))
    return AsTaken(MIDDLE - across / 2, bottom, MIDDLE + across / 2, top, tuple(bands),
                   _spans(rows.tolist(), flags), focus_row)  # fmt: skip


def _spans(rows: list[float], flags: list[bool]) -> tuple[tuple[float, float], ...]:
    """Stretches of rows that are flagged, each to half way to its neighbour."""
    spans: list[tuple[float, float]] = []
    half = (rows[1] - rows[0]) / 2
    for row, flag in zip(rows, flags, strict=True):
        if not flag:
            continue
        if spans and row - half - spans[-1][1] < half:
            spans[-1] = (spans[-1][0], row + half)
        else:
            spans.append((row - half, row + half))
    return tuple(spans)
