"""Whether two small pictures show the same view: by their light, coarsely."""

from __future__ import annotations

import io

import numpy as np
from PIL import Image

from imaging.numbers import Array

_SIDE = 48
"""Pixels along the longer side at which they are compared: what is coarser than leaves."""
_FLAT = 2.0
"""Deviations of an eight-bit picture: with less there is nothing to compare by."""


def alike(first: bytes, second: bytes) -> float:
    """How much alike two pictures are, −1 to 1: the correlation of their coarse light; 0 where one
    is flat, or they are not of one shape. ``first``, ``second``: files that PIL reads."""
    one, other = _coarse(first), _coarse(second)
    if one.shape != other.shape or min(one.std(), other.std()) < _FLAT:
        return 0.0
    return float(np.corrcoef(one.ravel(), other.ravel())[0, 1])


def _coarse(raw: bytes) -> Array:
    with Image.open(io.BytesIO(raw)) as image:
        width, height = (max(round(side * _SIDE / max(image.size)), 1) for side in image.size)
        small = image.convert("L").resize((width, height), Image.Resampling.BOX)
        return np.asarray(small, float)
