"""Two pictures of one thing: where one is softer than the other, and where something moved.

The second is laid over the first: shifted as a whole, and its light made as strong as the first's,
so that neither a touched tripod nor another exposure counts as a difference. What is left is
looked at patch by patch. Behind a Gaussian as wide as the softer of the two, a thing that is
merely out of focus looks the same in both; what still differs there has moved: leaves, water,
people. Where nothing moved, the discs of ``patches`` tell which is softer, whatever its contrast.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from enum import StrEnum

import cv2
import numpy as np
import numpy.typing as npt

from imaging.errors import Mixed
from imaging.numbers import Array, Luminance
from imaging.patches import mapped

SOFTER = 1.25
"""One is called softer whose disc is that many times the other's, at least."""
_MOVED = 0.4
"""What differs behind the Gaussian, as a share of what there is to see: more has moved."""
_LEAST_SEEN = 0.01
"""Deviations of the light of a patch: with less there is nothing to see in it."""
_GAUSS_OF_DISC = 0.45
_LEAST_GAUSS = 2.0
_SIDE = 1024
"""Pixels along the longer side of the copies by which the pictures are laid over each other."""


class Says(StrEnum):
    """What is said of a patch."""

    SAME = "same"
    FIRST_SOFTER = "first softer"
    SECOND_SOFTER = "second softer"
    MOVED = "moved"
    UNKNOWN = "not known"


@dataclass(frozen=True, slots=True)
class Beside:
    """Two pictures compared.

    ``says``    rows × columns of ``Says``, by patch from the upper left.
    ``first``, ``second``  discs of each, pixels; nan where they cannot be told.
    ``across``, ``down``  how far the second stands beside the first, pixels.
    ``lighter`` how many times as much light the second has.
    """

    patch: int
    says: npt.NDArray[np.str_]
    first: Array
    second: Array
    across: float
    down: float
    lighter: float


def compared(first: Luminance, second: Luminance, patch: int = 64) -> Beside:
    """Two pictures of one size, linear, 0 to 1. ``patch``: pixels. Raises Mixed, PictureError."""
    if first.shape != second.shape:
        raise Mixed("The two pictures are not of one size: compare frames of one camera.")
    across, down = _beside(first, second)
    back = np.array(((1.0, 0.0, across), (0.0, 1.0, down)))
    laid = cv2.warpAffine(
        second, back, (first.shape[1], first.shape[0]),
        flags=cv2.INTER_LINEAR | cv2.WARP_INVERSE_MAP, borderMode=cv2.BORDER_REPLICATE,
    )  # fmt: skip
    lighter = float(np.median(laid[::5, ::5])) / max(float(np.median(first[::5, ::5])), 1e-6)
    own, other = mapped(first, patch).disc, mapped(second, patch).disc
    says = np.full(own.shape, Says.UNKNOWN.value, dtype="<U13")
    for row, column in np.ndindex(own.shape):
        here = (slice(row * patch, (row + 1) * patch), slice(column * patch, (column + 1) * patch))
        pair = first[here], laid[here] / max(lighter, 1e-6)
        says[row, column] = _said(*pair, float(own[row, column]), float(other[row, column]))
    return Beside(patch, says, own, other, across, down, lighter)


def _beside(first: Luminance, second: Luminance) -> tuple[float, float]:
    """How far the second stands beside the first, pixels: by the phases of their waves."""
    step = max(max(first.shape) / _SIDE, 1.0)
    size = (round(first.shape[1] / step), round(first.shape[0] / step))
    copies = [
        cv2.GaussianBlur(
            np.log(cv2.resize(one, size, interpolation=cv2.INTER_AREA) + 0.01), (0, 0), 1.5
        ).astype(np.float64)
        for one in (first, second)
    ]
    window = cv2.createHanningWindow(size, cv2.CV_64F)
    (across, down), _ = cv2.phaseCorrelate(*copies, window)
    return float(across) * step, float(down) * step


def _said(first: Luminance, second: Luminance, own: float, other: float) -> Says:
    softest = np.nanmax((own, other)) if math.isfinite(own) or math.isfinite(other) else 0.0
    width = max(_GAUSS_OF_DISC * float(softest), _LEAST_GAUSS)
    one, two = (cv2.GaussianBlur(part, (0, 0), width) for part in (first, second))
    inner = (slice(min(8, len(one) // 4), -min(8, len(one) // 4)),) * 2
    one, two = one[inner], two[inner]
    seen = max(float(one.std()), float(two.std()))
    if seen > _LEAST_SEEN:
        off = (one - one.mean()) - (two - two.mean())
        if float(off.std()) > _MOVED * seen:
            return Says.MOVED
    if not (math.isfinite(own) and math.isfinite(other)):
        return Says.UNKNOWN
    if own > SOFTER * other:
        return Says.FIRST_SOFTER
    return Says.SECOND_SOFTER if other > SOFTER * own else Says.SAME
