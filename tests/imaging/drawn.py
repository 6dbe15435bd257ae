"""Pictures whose blur is known, drawn here from closed forms and by nothing that is under test.

An edge behind a uniform disc of diameter d has the profile ½ + (u√(1−u²) + arcsin u)/π, u = 2t/d:
the share of a disc that a straight line cuts off. Pixels are means over many points of their area.
"""

from __future__ import annotations

import io
import math

import numpy as np
import numpy.typing as npt
from PIL import Image

Picture = npt.NDArray[np.float64]

ISO_100, ISO_6400 = 0.004, 0.035
"""Deviation of noise at white, of a body of today; it falls with the root of the light."""


_FINE = 256
"""Places to a pixel at which an edge is worked out; straight between them."""


def cut_off(t: Picture, disc: float) -> Picture:
    """The share of a disc on one side of a line at t from its middle."""
    u = np.clip(2.0 * t / disc, -1.0, 1.0)
    return 0.5 + (u * np.sqrt(1.0 - u * u) + np.arcsin(u)) / math.pi


def edge(
    disc: float,
    degrees: float = 5.3,
    size: tuple[int, int] = (200, 240),
    noise: float = 0.0,
    seed: int = 0,
    levels: tuple[float, float] = (0.06, 0.7),
    parts: int = 10,
) -> Picture:
    """A slanted edge, its normal that many degrees from the columns. ``size``: width, height."""
    width, height = size
    angle = math.radians(degrees)
    y, x = np.mgrid[0:height, 0:width].astype(float)
    t = (y - height / 2) * math.cos(angle) - (x - width / 2) * math.sin(angle)
    # A pixel's light depends on how far its middle is from the edge, and on nothing else.
    far = disc / 2 + 1.0
    fine = np.linspace(-far, far, math.ceil(2 * far * _FINE) + 1)
    places = (np.arange(parts) + 0.5) / parts - 0.5
    seen = np.zeros_like(fine)
    for dx in places:
        for dy in places:
            seen += cut_off(fine + dy * math.cos(angle) - dx * math.sin(angle), disc)
    light = np.interp(t, fine, seen)
    dark, bright = levels
    return noisy(dark + (bright - dark) * light / parts**2, noise, seed)


def noisy(light: Picture, noise: float, seed: int) -> Picture:
    """Light with the noise of light."""
    luck = np.random.default_rng(seed)
    return light + luck.normal(size=light.shape) * noise * np.sqrt(np.maximum(light, 0.0) + 1e-3)


def stars(
    width: float,
    noise: float,
    seed: int,
    *,
    gauss: bool = False,
    size: tuple[int, int] = (700, 500),
) -> Picture:
    """Stars on a grid that luck has shaken: discs of a diameter, or Gaussians of a full width at
    half maximum, pixels."""
    luck = np.random.default_rng(seed)
    light = np.full((size[1], size[0]), 0.02)
    gap, parts = int(4 * width + 16), 11
    reach = int(2 * width + 8) if gauss else int(width / 2) + 3  # beyond, a disc has nothing
    places = (np.arange(parts) + 0.5) / parts - 0.5
    for column in range(gap, size[0] - gap, gap):
        for row in range(gap, size[1] - gap, gap):
            cx, cy = column + luck.uniform(-2, 2), row + luck.uniform(-2, 2)
            left, top = int(cx) - reach, int(cy) - reach
            y, x = np.mgrid[top : top + 2 * reach + 1, left : left + 2 * reach + 1].astype(float)
            if gauss:  # across and down apart: their product is the star
                across, down = (
                    np.exp(-((at + places[:, None] - c) ** 2) / 2 / (width / 2.354820045) ** 2)
                    for at, c in ((x[0], cx), (y[:, 0], cy))
                )
                one = np.outer(down.sum(axis=0), across.sum(axis=0))
            else:
                one = np.zeros_like(x)
                for dx in places:
                    for dy in places:
                        one += (x + dx - cx) ** 2 + (y + dy - cy) ** 2 < width**2 / 4
            part = light[max(top, 0) : top + 2 * reach + 1, max(left, 0) : left + 2 * reach + 1]
            part += 0.5 * luck.uniform(0.6, 1) / parts**2 * one[-part.shape[0] :, -part.shape[1] :]
    return noisy(light, noise, seed)


def coded(light: Picture) -> npt.NDArray[np.uint8]:
    """Light as sRGB's codes, three alike to a pixel."""
    light = np.clip(light, 0.0, 1.0)
    curve = np.where(light <= 0.0031308, 12.92 * light, 1.055 * light ** (1 / 2.4) - 0.055)
    return np.repeat(np.rint(curve * 255).astype(np.uint8)[..., None], 3, axis=-1)


def file(light: Picture, kind: str = "JPEG", **how: object) -> bytes:
    """A picture as a file."""
    held = io.BytesIO()
    options = {"quality": 95, "subsampling": 0} if kind == "JPEG" else {}
    Image.fromarray(coded(light)).save(held, kind, **{**options, **how})
    return held.getvalue()
