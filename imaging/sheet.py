"""The printed target in a picture: where it stands, how it leans, and which edge is which.

Its squares and marks are dark spots on white paper. All dark spots of about one size are
candidates; the four corners of the whole are tried as the four corner marks, all ways round, and
the way counts in which most of the other spots fall where the drawing has them. The drawing tells
its own upside down. Then the pose of the sheet before the lens follows from all spots together
[plane].
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from itertools import combinations

import cv2
import numpy as np
import numpy.typing as npt

from drawing import target
from imaging.errors import BadLight, NoTarget, PictureError
from imaging.numbers import Array, Luminance
from imaging.spots import dark_spots

_SIDE = 1500
"""Pixels along the longer side of the copy in which spots are looked for."""
_NEEDED = 0.72
"""The share of the drawing's spots that must be found where they belong."""
_NEAR = 0.28
"""Of the pitch of squares: how far a spot may lie from where it belongs while ways are tried."""
BLOWN_PAPER = "The paper is blown out: expose a stop or two less, and take the frame again."
_DARKEST, _BLOWN = 0.02, 0.995

SPOTS = np.array([(m.x, m.y) for m in target.MARKS] + [(s.x, s.y) for s in target.SQUARES])
"""The middles of all dark spots, mm, marks first."""
_CORNERS = np.array(
    [(x * target.MARK_X, y * target.MARK_Y) for x, y in ((-1, -1), (1, -1), (1, 1), (-1, 1))]
)


@dataclass(frozen=True, slots=True)
class Seen:
    """The target as it stands in a picture.

    ``places``  where each of ``SPOTS`` was seen, pixels, n × 2; nan for those that were not.
    ``across``  the 3 × 3 that takes the sheet's mm to pixels.
    """

    places: Array
    across: Array

    def at(self, points: npt.ArrayLike) -> Array:
        """Points of the sheet, n × 2, mm, in the picture."""
        return _through(self.across, np.asarray(points, dtype=float))

    @property
    def scale(self) -> float:
        """Pixels to a mm of the sheet along its x, in its middle."""
        ends = self.at([(-5.0, 0.0), (5.0, 0.0)])
        return float(np.hypot(*(ends[1] - ends[0]))) / 10.0


def _through(across: Array, points: Array) -> Array:
    seen = np.column_stack((points, np.ones(len(points)))) @ across.T
    return np.asarray(seen[:, :2] / seen[:, 2:])


def found(luminance: Luminance) -> Seen:
    """The target in a picture.

    ``luminance``: linear, 0 to 1. Raises NoTarget, BadLight.
    """
    height, width = luminance.shape
    step = max(max(height, width) / _SIDE, 1.0)
    small = luminance
    if step > 1:
        size = (round(width / step), round(height / step))
        small = cv2.resize(luminance, size, interpolation=cv2.INTER_AREA)
    light = float(np.percentile(small, 98))
    if light < _DARKEST:
        raise BadLight("The picture is too dark to find the target in it: expose longer.")
    groups = dark_spots(small)
    laid = next((pair for spots in groups if (pair := _laid(spots)) is not None), None)
    if laid is None:
        raise _why_not(small, light)
    ratio = np.array((width / small.shape[1], height / small.shape[0]))
    across, seen = laid
    places = np.full((len(SPOTS), 2), np.nan)
    for k, spot in seen.items():
        places[k] = (spot + 0.5) * ratio - 0.5
    grown = np.diag((ratio[0], ratio[1], 1.0)) @ across
    return _refined(luminance, places, grown)


def _why_not(small: Luminance, light: float) -> PictureError:
    if light > _BLOWN and float(np.mean(small > _BLOWN)) > 0.3:
        return BadLight(BLOWN_PAPER)
    return NoTarget(
        "The printed target was not found in this picture: all six round marks must be in the "
        "frame, and nothing may lie on it. Let it fill most of the frame, and focus on its middle."
    )


def _laid(spots: Array) -> tuple[Array, dict[int, Array]] | None:
    """The drawing laid over spots: the 3 × 3 from mm to pixels of the copy, and where each of
    ``SPOTS`` is; None where no way fits."""
    best: tuple[int, float, Array, dict[int, int]] | None = None
    for corners in _quadrangles(spots):
        for turn in range(4):
            across = cv2.getPerspectiveTransform(
                _CORNERS.astype(np.float32), np.roll(corners, turn, axis=0).astype(np.float32)
            ).astype(float)
            matched, off = _matched(across, spots)
            if best is None or (len(matched), -off) > (best[0], -best[1]):
                best = (len(matched), off, across, matched)
    if best is None or best[0] < _NEEDED * len(SPOTS):
        return None
    _, _, across, matched = best
    for _ in range(3):
        across = _homography(spots, matched)
        matched, _off = _matched(across, spots)
        if len(matched) < _NEEDED * len(SPOTS):
            return None
    return across, {k: spots[spot] for k, spot in matched.items()}


def _homography(spots: Array, matched: dict[int, int]) -> Array:
    from_ = SPOTS[list(matched)]
    to = spots[list(matched.values())]
    return np.asarray(cv2.findHomography(from_, to, cv2.RANSAC, 3.0)[0], float)


def _quadrangles(spots: Array) -> list[Array]:
    """The four outermost spots, and the next likely fours: each going round as the drawing does."""
    hull = cv2.convexHull(spots.astype(np.float32)).reshape(-1, 2).astype(float)
    if len(hull) > 11:
        hull = _sharpest(hull, 11)
    fours = []
    for chosen in combinations(range(len(hull)), 4):
        corners = hull[list(chosen)]
        fours.append((_area(corners), corners))
    fours.sort(key=lambda pair: -abs(pair[0]))
    return [c[::-1] if area > 0 else c for area, c in fours[:40]]


def _sharpest(hull: Array, count: int) -> Array:
    """The corners of a hull that turn most."""
    before, after = hull - np.roll(hull, 1, axis=0), np.roll(hull, -1, axis=0) - hull
    turn = np.abs(before[:, 0] * after[:, 1] - before[:, 1] * after[:, 0])
    return np.asarray(hull[np.sort(np.argsort(-turn)[:count])])


def _area(corners: Array) -> float:
    after = np.roll(corners, -1, axis=0)
    return 0.5 * float(np.sum(corners[:, 0] * after[:, 1] - after[:, 0] * corners[:, 1]))


def _matched(across: Array, spots: Array) -> tuple[dict[int, int], float]:
    """Which spot stands where the drawing has each of its own; and how far off they are,
    squared."""
    with np.errstate(all="ignore"):
        expected = _through(across, SPOTS)
        beside = _through(across, SPOTS + np.array((target.PITCH * _NEAR, 0.0))) - expected
        along = _through(across, SPOTS + np.array((0.0, target.PITCH * _NEAR))) - expected
    if not np.isfinite(expected).all():
        return {}, math.inf
    reach = np.minimum(np.hypot(*beside.T), np.hypot(*along.T))
    apart = np.hypot(
        expected[:, None, 0] - spots[None, :, 0], expected[:, None, 1] - spots[None, :, 1]
    )
    nearest = apart.argmin(axis=1)
    off = apart[np.arange(len(SPOTS)), nearest]
    good = off < np.maximum(reach, 2.0)
    matched: dict[int, int] = {}
    taken: set[int] = set()
    for k in np.argsort(off):
        if good[k] and int(nearest[k]) not in taken:
            matched[int(k)] = int(nearest[k])
            taken.add(int(nearest[k]))
    return matched, float(np.sum(off[good] ** 2))


def _refined(luminance: Luminance, places: Array, across: Array) -> Seen:
    """The same, each spot's middle weighed by its own darkness at full size."""
    seen = Seen(places, across)
    better = np.full_like(places, np.nan)
    half = 0.5 * (target.SIDE + target.PITCH) / 2
    for k, (x, y) in enumerate(SPOTS):
        if not np.isfinite(places[k]).all():
            continue
        reach = half if k >= len(target.MARKS) else target.MARK_RADIUS * 1.45
        box = seen.at([(x - reach, y - reach), (x + reach, y + reach), (x - reach, y + reach),
                       (x + reach, y - reach)])  # fmt: skip
        better[k] = _darkest(luminance, box)
    good = np.isfinite(better).all(axis=1)
    if int(good.sum()) < _NEEDED * len(SPOTS):
        raise NoTarget(
            "The target is not whole in the picture: all six round marks must be in the frame."
        )
    across = np.asarray(cv2.findHomography(SPOTS[good], better[good], 0)[0], float)
    return Seen(better, across)


def _darkest(luminance: Luminance, box: Array) -> Array:
    """Where the darkness in a box has its middle; nan where the box leaves the picture."""
    height, width = luminance.shape
    x0, y0 = np.floor(box.min(axis=0)).astype(int)
    x1, y1 = np.ceil(box.max(axis=0)).astype(int) + 1
    if x0 < 0 or y0 < 0 or x1 > width or y1 > height or x1 - x0 < 4 or y1 - y0 < 4:
        return np.full(2, np.nan)
    cut = luminance[y0:y1, x0:x1].astype(float)
    inside = np.zeros(cut.shape, np.uint8)
    cv2.fillConvexPoly(
        inside, cv2.convexHull((box - (x0, y0)).astype(np.float32)).astype(np.int32), 1
    )
    paper = float(np.percentile(cut[inside > 0], 92))
    dark = np.clip(paper - cut, 0.0, None) * inside
    dark[dark < 0.2 * float(dark.max())] = 0.0
    total = float(dark.sum())
    if total <= 0:
        return np.full(2, np.nan)
    y, x = np.mgrid[y0:y1, x0:x1]
    return np.array((float((dark * x).sum()) / total, float((dark * y).sum()) / total))
