"""From light on the sensor to the file that a camera writes."""

from __future__ import annotations

import io
from functools import cache
from pathlib import Path

import numpy as np
import numpy.typing as npt
from PIL import Image as Pictures
from PIL.TiffImagePlugin import IFDRational

from simulator.body import Body
from simulator.camera import Camera

Pixels = npt.NDArray[np.uint8]

_TINT = np.array((0.98, 1.0, 0.97), np.float32)
_CODES = 4096
_QUALITY = 95


def exposed(
    light: npt.NDArray[np.float32], body: Body, iso: float, luck: np.random.Generator
) -> Pixels:
    """Light as a body records it: the noise of light and of reading it out, and sRGB's curve.

    ``light``: rows × columns, 1 for white.
    """
    held = body.full_well * 100.0 / iso
    result = np.empty((*light.shape, 3), np.uint8)
    curve = _curve()
    for channel, tint in enumerate(_TINT):
        signal = light * tint
        noise = np.sqrt(np.maximum(signal, 0.0) / held + (body.read_noise / held) ** 2)
        signal = signal + luck.standard_normal(light.shape, dtype=np.float32) * noise
        codes = np.clip(signal * (_CODES - 1) + 0.5, 0, _CODES - 1).astype(np.uint16)
        result[..., channel] = curve[codes]
    return result


@cache
def _curve() -> Pixels:
    light = np.arange(_CODES) / (_CODES - 1)
    coded = np.where(light <= 0.0031308, 12.92 * light, 1.055 * light ** (1 / 2.4) - 0.055)
    return np.asarray(np.rint(coded * 255), np.uint8)


_IFD = 0x8769


def file_of(pixels: Pixels, camera: Camera) -> bytes:
    """A frame as the JPEG that its camera writes, with what it says of how it was taken."""
    exif = Pictures.Exif()
    lens, body = camera.lens, camera.body
    exif[0x0110] = body.name
    exif[0x0132] = camera.taken
    exif[_IFD] = {
        0x829A: _rational(camera.time),
        0x829D: _rational(camera.f_number),
        0x8827: round(camera.iso),
        0x9003: camera.taken,
        0x920A: _rational(lens.focal_length),
        0xA405: round(lens.focal_length * 36.0 / body.frame_width),
        0xA20E: _rational(10.0 / body.pitch),
        0xA20F: _rational(10.0 / body.pitch),
        0xA210: 3,
        0x9206: _rational(min(_coarse(camera.reads) / 1000.0, 4e6)),
        0xA434: lens.name,
    }
    held = io.BytesIO()
    Pictures.fromarray(pixels).save(held, "JPEG", quality=_QUALITY, subsampling=0, exif=exif)
    return held.getvalue()


def _coarse(distance: float) -> float:
    """A distance as lenses tell it: in some dozens of steps, and so only roughly."""
    if distance == float("inf") or distance > 1e8:
        return 4e9
    return float(10.0 ** (round(np.log10(distance) * 24) / 24))


def _rational(value: float) -> IFDRational:
    return (
        IFDRational(round(value * 10_000), 10_000) if value < 1e5 else IFDRational(round(value), 1)
    )


def write(pixels: Pixels, camera: Camera, path: str | Path) -> None:
    """A frame, written as a file."""
    Path(path).write_bytes(file_of(pixels, camera))
