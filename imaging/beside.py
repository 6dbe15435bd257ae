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
"""What differs behind the Gaussian, but for contrast, as a share of what there is to see: more has
moved."""
_LEAST_GAIN = 0.2
"""A veil of light may take that much of a contrast away; what is not even that alike has moved."""
_LEAST_SEEN = 0.01
"""Deviations of the light of a patch: with less there is nothing to see in it."""
_STEEPER = 1.1
"""The sharper one's slopes are that many times as steep, at least."""
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
    ``contrast`` how many times as much contrast the second has behind the same Gaussian, by patch;
                 nan where there is nothing to see, or where something moved.
    ``across``, ``down``  how far the second stands beside the first, pixels.
    ``lighter`` how many times as much light the second has.
    """

    patch: int
    says: npt.NDArray[np.str_]
    first: Array
    second: Array
    contrast: Array
    across: float
    down: float
    lighter: float

    @property
    def told(self) -> int:
        """Of how many patches something is said."""
        return int(np.sum(self.says != Says.UNKNOWN.value))

    def share(self, says: Says) -> float:
        """Of those, the share of which that is said, 0 to 1; 0 of none."""
        return float(np.sum(self.says == says.value)) / max(self.told, 1)

    @property
    def ratio(self) -> float:
        """How many times as soft the second is as the first, on the whole: the median where both
        are known and nothing moved; nan where that is nowhere."""
        both = np.isfinite(self.first) & np.isfinite(self.second)
        both &= self.says != Says.MOVED.value
        return float(np.median(self.second[both] / self.first[both])) if both.any() else math.nan


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
    contrast = np.full(own.shape, math.nan)
    for row, column in np.ndindex(own.shape):
        here = (slice(row * patch, (row + 1) * patch), slice(column * patch, (column + 1) * patch))
        pair = first[here], laid[here] / max(lighter, 1e-6)
        said, more = _said(*pair, float(own[row, column]), float(other[row, column]))
        says[row, column] = said
        contrast[row, column] = more
    return Beside(patch, says, own, other, contrast, across, down, lighter)


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


def _said(first: Luminance, second: Luminance, own: float, other: float) -> tuple[Says, float]:
    """What is said of a patch, and how many times as much contrast the second has."""
    softest = np.nanmax((own, other)) if math.isfinite(own) or math.isfinite(other) else 0.0
    width = max(_GAUSS_OF_DISC * float(softest), _LEAST_GAUSS)
    one, two = (cv2.GaussianBlur(part, (0, 0), width) for part in (first, second))
    inner = (slice(min(8, len(one) // 4), -min(8, len(one) // 4)),) * 2
    one, two = one[inner], two[inner]
    deviations = float(one.std()), float(two.std())
    seen, more = max(deviations), math.nan
    if seen > _LEAST_SEEN:
        one, two = one - one.mean(), two - two.mean()
        gain = float(np.sum(one * two)) / max(float(np.sum(one * one)), 1e-12)
        left = float((two - gain * one).std())
        if gain < _LEAST_GAIN or left > _MOVED * deviations[1]:
            return Says.MOVED, math.nan
        more = deviations[1] / max(deviations[0], 1e-6)
    if not (math.isfinite(own) and math.isfinite(other)):
        return Says.UNKNOWN, more
    if own <= SOFTER * other and other <= SOFTER * own:
        return Says.SAME, more
    steep, steeper = _steepest(first), _steepest(second)
    if own > other:
        return (Says.FIRST_SOFTER if steeper > _STEEPER * steep else Says.UNKNOWN), more
    return (Says.SECOND_SOFTER if steep > _STEEPER * steeper else Says.UNKNOWN), more


def _steepest(patch: Luminance) -> float:
    """The steepest slopes of a patch, for its contrast: what is sharper has steeper ones, and noise
    or a file's own blocks, taken for edges, have not."""
    smooth = cv2.GaussianBlur(patch, (0, 0), 0.8)
    slopes = np.hypot(cv2.Sobel(smooth, cv2.CV_32F, 1, 0), cv2.Sobel(smooth, cv2.CV_32F, 0, 1))
    return float(np.percentile(slopes, 99)) / max(float(smooth.std()), 1e-6)
