"""Blur by true discs: what a plane out of focus does to its own picture, place by place.

The disc of a plane that leans changes across the picture. It changes slowly, so the picture is
blurred whole by some discs that lie close to each other, each only where it is needed, and between
two of them by a mixture of both, in proportion to the squares of their diameters: so the mixture's
width is right, and its form very nearly.
"""

from __future__ import annotations

import math
from functools import lru_cache

import cv2
import numpy as np
import numpy.typing as npt

Image = npt.NDArray[np.float32]
Array = npt.NDArray[np.float64]

_STEP = 1.12
"""From one disc to the next."""
_LEAST_STEP = 0.35
"""Samples: the same, where discs are small."""
_FINE = 9
"""Each sample of a disc is weighed by that many places, each way."""
_LARGE = 14.0
"""Samples: discs larger than that are laid over a copy half as fine."""
_NONE = 0.75
"""Samples: a smaller disc is none that the samples could show."""


@lru_cache(maxsize=512)
def disc(diameter: float) -> Image:
    """A disc as weights of samples, which sum to one. ``diameter``: samples.

    Weights stand on a grid, which widens a disc as if each point of it were a sample wide: it is
    drawn that much smaller, so that its second moment is right.
    """
    shrunk = math.sqrt(max(diameter**2 - 16.0 / 12.0, 0.0))
    if diameter < _NONE or shrunk == 0.0:
        return _between(diameter)
    reach = math.ceil(shrunk / 2 + 0.5)
    place = (np.arange((2 * reach + 1) * _FINE) + 0.5) / _FINE - reach - 0.5
    inside = np.hypot(*np.meshgrid(place, place)) <= shrunk / 2
    side = 2 * reach + 1
    weights = inside.reshape(side, _FINE, side, _FINE).mean(axis=(1, 3))
    if not weights.any():
        return _between(diameter)
    return np.asarray(weights / weights.sum(), np.float32)


def _between(diameter: float) -> Image:
    """A disc smaller than its samples show: its second moment, on the nearest samples."""
    moment = min(diameter**2 / 16.0, 0.5)
    side = np.array((moment / 2, 1 - moment, moment / 2))
    return np.outer(side, side).astype(np.float32)


def blurred(image: Image, signed: Array, every: int) -> Image:
    """An image blurred at each place by the disc of that place.

    ``image``   rows × columns, or rows × columns × channels.
    ``signed``  diameters, samples, at every so many rows and columns, to past the last; or one
                number. Below 0 on the near side of the plane of focus, so that a disc means one
                stretch of a leaning plane and not two.
    """
    if signed.ndim == 0 or float(np.ptp(signed)) < 0.02:
        return laid(image, abs(float(np.mean(signed))))
    result = np.zeros_like(image)
    squares = _square(signed)
    for low, middle, high in _bands(float(signed.min()), float(signed.max())):
        share = np.interp(squares, (_square(low), _square(middle), _square(high)), (0, 1, 0))
        rows, columns = _where(share > 0.0, every, image.shape)
        if rows is None or columns is None:
            continue
        wide = math.ceil(abs(middle) / 2) + 4
        top, left = max(rows.start - wide, 0), max(columns.start - wide, 0)
        part = image[top : rows.stop + wide, left : columns.stop + wide]
        soft = laid(part, abs(middle))[
            rows.start - top : rows.stop - top, columns.start - left : columns.stop - left
        ]
        back = np.array(((1, 0, columns.start), (0, 1, rows.start)), float) / every
        fine = cv2.warpAffine(
            share.astype(np.float32), back, (soft.shape[1], soft.shape[0]),
            flags=cv2.INTER_LINEAR | cv2.WARP_INVERSE_MAP, borderMode=cv2.BORDER_REPLICATE,
        )  # fmt: skip
        result[rows, columns] += soft * (fine if image.ndim == 2 else fine[..., None])
    return result


def _square(signed: npt.ArrayLike) -> Array:
    return np.asarray(np.sign(signed) * np.square(signed))


def _bands(least: float, most: float) -> list[tuple[float, float, float]]:
    """Discs from ``least`` to ``most``, signed, each with the one before and the one after it."""
    sizes = [0.0]
    while sizes[-1] < max(abs(least), abs(most)):
        sizes.append(max(sizes[-1] * _STEP, sizes[-1] + _LEAST_STEP))
    nodes = sorted({sign * size for sign in (-1.0, 1.0) for size in sizes})
    first = max(k for k, node in enumerate(nodes) if node <= least or k == 0)
    last = min(k for k, node in enumerate(nodes) if node >= most or k == len(nodes) - 1)
    held = nodes[first : last + 1]
    outer = (held[0] - 1.0, *held, held[-1] + 1.0)
    return [(outer[k], outer[k + 1], outer[k + 2]) for k in range(len(held))]


def _where(
    inside: npt.NDArray[np.bool_], every: int, shape: tuple[int, ...]
) -> tuple[slice | None, slice | None]:
    """The rows and columns of samples that places at every so many of them have a part in."""
    rows, columns = np.flatnonzero(inside.any(axis=1)), np.flatnonzero(inside.any(axis=0))
    if not len(rows):
        return None, None
    ends = [
        slice(max((int(at[0]) - 1) * every, 0), min((int(at[-1]) + 1) * every, limit))
        for at, limit in ((rows, shape[0]), (columns, shape[1]))
    ]
    return (ends[0], ends[1]) if all(end.start < end.stop for end in ends) else (None, None)


def laid(image: Image, diameter: float) -> Image:
    """An image with every point of it spread into a disc of one diameter, samples."""
    if diameter <= 0.05:
        return image
    if diameter > _LARGE and min(image.shape[:2]) > 8:
        height, width = image.shape[:2]
        small = cv2.resize(
            image, ((width + 1) // 2, (height + 1) // 2), interpolation=cv2.INTER_AREA
        )
        # Made small and large again, the image is widened by about half a sample each way.
        narrower = math.sqrt(max(diameter**2 - 16 * _HALVING, 1.0)) / 2
        return np.asarray(
            cv2.resize(laid(small, narrower), (width, height), interpolation=cv2.INTER_LINEAR)
        )
    return np.asarray(
        cv2.filter2D(image, cv2.CV_32F, disc(round(diameter, 2)), borderType=cv2.BORDER_REPLICATE)
    )


_HALVING = (4 - 1) / 12 + 4 / 6 - 0.0
"""Samples², along each axis: what taking means of two by two, and going straight between them
again, adds to a blur's second moment."""
