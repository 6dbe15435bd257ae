"""Luminance written as a picture that any browser shows."""

from __future__ import annotations

import io
import math

import numpy as np
from PIL import Image

from imaging.numbers import Luminance


def as_jpeg(luminance: Luminance, quality: int, box: tuple[int, int] | None = None) -> bytes:
    """A JPEG in grey, by the curve of sRGB [srgb].

    ``luminance``: linear; what lies outside 0 to 1 is cut off. ``quality``: 1 to 95. ``box``: the
    width and height, pixels, that it is made small enough for; None for its full size.
    """
    if box is not None:
        height, width = luminance.shape
        step = max(1, math.ceil(max(width / (2 * box[0]), height / (2 * box[1]))))
        luminance = luminance[::step, ::step]
    light = np.clip(luminance, 0.0, 1.0)
    curve = np.where(light <= 0.0031308, 12.92 * light, 1.055 * light ** (1 / 2.4) - 0.055)
    image = Image.fromarray(np.rint(curve * 255).astype(np.uint8))
    if box is not None:
        image.thumbnail(box)
    held = io.BytesIO()
    image.save(held, "JPEG", quality=quality)
    return held.getvalue()
