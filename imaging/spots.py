"""Dark, compact things on something light: what the squares and marks of the printed target are."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

import cv2
import numpy as np
import numpy.typing as npt
import scipy.sparse.csgraph

from drawing import target
from imaging.numbers import Array, Luminance

LEAST_SPOTS = 20
"""Fewer are not the target."""
_DRAWN = len(target.MARKS) + len(target.SQUARES)


def dark_spots(small: Luminance) -> list[Array]:
    """The middles of dark, compact things on something light, in groups of about one size that
    stand near each other; first those that are nearest to the drawing in number. Each n × 2."""
    grey = (np.sqrt(np.clip(small, 0.0, 1.0)) * 255).astype(np.uint8)
    groups: list[Array] = []
    for share in (0.04, 0.09, 0.18):
        block = max(int(max(small.shape) * share) | 1, 15)
        mean = cv2.blur(grey, (block, block)).astype(np.int16)
        dark = ((grey.astype(np.int16) < mean - 10) * 255).astype(np.uint8)
        contours, nested = cv2.findContours(dark, cv2.RETR_CCOMP, cv2.CHAIN_APPROX_NONE)
        trees = nested[0] if contours else ()
        outer = [contour for contour, tree in zip(contours, trees, strict=True) if tree[3] < 0]
        spots = [spot for contour in outer if (spot := _spot(contour, small.shape)) is not None]
        held = np.array([(s.x, s.y, s.area) for s in spots if _on_paper(small, s)])
        if len(held) < LEAST_SPOTS:
            continue
        for sheet in _light_areas(small):
            inside = sheet[held[:, 1].astype(int), held[:, 0].astype(int)] > 0
            groups += [held[inside, :2]] if int(inside.sum()) >= LEAST_SPOTS else []
        groups += _groups(held)
    return sorted(groups, key=lambda spots: abs(len(spots) - _DRAWN))


_WHITER = 0.4
"""By what share the paper about a spot is lighter than the spot, at least, however soft it is."""
_STEPS_APART = 3.2
"""Spots stand so many times as far from each other, at most, as the nearest do."""


def _on_paper(small: Luminance, spot: _Spot) -> bool:
    """Whether what is about a spot is much lighter than it, on two sides at least: leaning away, it
    has others close on the other two."""
    x, y, w, h = spot.box
    darkest = float(np.percentile(small[y : y + h, x : x + w], 10))
    out_x, out_y = max(2, round(0.2 * w)), max(2, round(0.2 * h))
    columns = np.clip((x - out_x, x + w - 1 + out_x, x + w // 2, x + w // 2), 0, small.shape[1] - 1)
    rows = np.clip((y + h // 2, y + h // 2, y - out_y, y + h - 1 + out_y), 0, small.shape[0] - 1)
    around = np.sort(small[rows, columns])
    return float(around[2]) * (1.0 - _WHITER) > darkest


def _light_areas(small: Luminance) -> Iterator[npt.NDArray[np.uint8]]:
    """Where something large and light is, with all that lies on it: it may be the sheet. Light
    specks beside it are no part of it: what is narrow is taken away first."""
    lightest, side = float(np.percentile(small, 98)), max(3, int(_NARROW * max(small.shape)))
    round_ = cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (side, side))
    for share in _PAPER:
        light = (small > share * lightest).astype(np.uint8)
        for mask in (cv2.morphologyEx(light, cv2.MORPH_OPEN, round_), light):
            contours, _ = cv2.findContours(mask, cv2.RETR_EXTERNAL, cv2.CHAIN_APPROX_NONE)
            for contour in sorted(contours, key=cv2.contourArea, reverse=True)[:2]:
                if cv2.contourArea(contour) > _LEAST_SHEET * small.size:
                    filled = np.zeros(small.shape, np.uint8)
                    yield cv2.drawContours(filled, [contour], -1, 1, cv2.FILLED)


_PAPER, _LEAST_SHEET, _NARROW = (0.5, 0.72), 0.02, 0.011
"""How light paper is, of the lightest in a picture; how much of the picture it fills, at least; and
what is narrow, of the picture's longer side."""


def _groups(spots: Array) -> list[Array]:
    """Spots that stand near each other, as near as each has its nearest, and are of one size."""
    apart = np.hypot(spots[:, None, 0] - spots[None, :, 0], spots[:, None, 1] - spots[None, :, 1])
    np.fill_diagonal(apart, np.inf)
    nearest = apart.min(axis=1)
    near = apart < _STEPS_APART * np.minimum(nearest[:, None], nearest[None, :])
    count, group = scipy.sparse.csgraph.connected_components(scipy.sparse.csr_matrix(near))
    found_ = []
    for one in range(count):
        held = spots[group == one]
        usual = float(np.median(held[:, 2]))
        held = held[(held[:, 2] > usual / 4) & (held[:, 2] < usual * 6)]
        if len(held) >= LEAST_SPOTS:
            found_.append(held[:, :2])
    return found_


@dataclass(frozen=True, slots=True)
class _Spot:
    """A dark, compact thing: its middle, its area, and the box about it (x, y, width, height)."""

    x: float
    y: float
    area: float
    box: tuple[int, int, int, int]


def _spot(contour: npt.NDArray[np.int32], shape: tuple[int, ...]) -> _Spot | None:
    """A compact thing; None for any other."""
    if len(contour) < 8:
        return None
    x, y, w, h = cv2.boundingRect(contour)
    if x <= 0 or y <= 0 or x + w >= shape[1] or y + h >= shape[0]:
        return None
    area = float(cv2.contourArea(contour))
    hull = float(cv2.contourArea(cv2.convexHull(contour)))
    if area < 12 or area < 0.82 * hull or not 0.22 < w / h < 4.5:
        return None
    moments = cv2.moments(contour)
    middle = moments["m10"] / moments["m00"], moments["m01"] / moments["m00"]
    return _Spot(*middle, area, (x, y, w, h))
