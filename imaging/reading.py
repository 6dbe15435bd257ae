"""Files of pictures, read as linear luminance; and never trusted.

JPEG, TIFF, PNG, WebP and HEIC are decoded, raw files developed without tone curve. Values as
written are undone by the curve of sRGB, whatever a profile says: cameras' own curves differ from
it most in the shadows, where little is measured. docs/imaging.md says what that costs.
"""

from __future__ import annotations

import io
import warnings
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from functools import cache
from pathlib import Path

import cv2
import numpy as np
import numpy.typing as npt
from PIL import Image, UnidentifiedImageError

from imaging.errors import CutShort, NotAPicture, PictureError, TooLarge
from imaging.exif import Exif, exif_of
from imaging.numbers import Luminance

MOST_BYTES = 200_000_000
MOST_PIXELS = 150_000_000
LEAST_SIDE, MOST_SIDE = 16, 30_000
_FORMATS = ("JPEG", "TIFF", "PNG", "WEBP", "HEIF")
RAW = (".dng", ".nef", ".cr2", ".cr3", ".arw", ".raf", ".rw2", ".orf", ".pef", ".srw")
_WEIGHTS = np.array((0.2126, 0.7152, 0.0722))
"""Red, green and blue in luminance, as sRGB's primaries have it [srgb]."""
_ROWS = 128
_THREADS = 2


@dataclass(frozen=True, slots=True)
class Picture:
    """A picture as read.

    ``luminance``  linear, float32, rows × columns, 0 to 1; upright as the camera says it was held.
    ``exif``       what the file says of how it was taken.
    """

    luminance: Luminance
    exif: Exif

    @property
    def size(self) -> tuple[int, int]:
        """Width and height, pixels."""
        height, width = self.luminance.shape
        return width, height


def read(source: str | Path | bytes) -> Picture:
    """A file, or its bytes, as a picture.

    Raises NotAPicture, CutShort, TooLarge; OSError for a file that cannot be opened.
    """
    raw = bytes_of(source)
    exif = exif_of(raw)
    if _is_raw(source, raw):
        return Picture(_developed(raw), exif)  # turned by its own reader
    return Picture(_upright(_decoded(raw), exif.orientation), exif)


def bytes_of(source: str | Path | bytes) -> bytes:
    """A file whole, if it can be a picture's. Raises NotAPicture, TooLarge, OSError."""
    if not isinstance(source, bytes):
        path = Path(source)
        if path.stat().st_size > MOST_BYTES:
            raise TooLarge("The file is larger than 200 MB: no picture of one frame is.")
        source = path.read_bytes()
    if len(source) > MOST_BYTES:
        raise TooLarge("The file is larger than 200 MB: no picture of one frame is.")
    if not source:
        raise NotAPicture("The file is empty.")
    return source


_SAYS_DNG = (b"\x12\xc6\x01\x00\x04\x00\x00\x00", b"\xc6\x12\x00\x01\x00\x00\x00\x04")
"""The tag with which a file says that it is a digital negative: little and big end first."""


def _is_raw(source: str | Path | bytes, raw: bytes) -> bool:
    """Whether a file holds what the sensor saw, undeveloped: by its name, or because it says so."""
    named = not isinstance(source, bytes) and Path(source).suffix.lower() in RAW
    return named or (raw[:2] in (b"II", b"MM") and any(tag in raw[:4096] for tag in _SAYS_DNG))


def _checked(width: int, height: int) -> None:
    if min(width, height) < LEAST_SIDE:
        raise PictureError(f"The picture is {width} × {height} pixels: too small to measure.")
    if max(width, height) > MOST_SIDE or width * height > MOST_PIXELS:
        raise TooLarge(f"The picture claims {width} × {height} pixels: more than a camera has.")


def _guarded(decode: Callable[[], Luminance]) -> Luminance:
    """What a decoder gives, its many ways to fail said in one of ours."""
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("ignore")
            return decode()
    except PictureError:
        raise
    except Image.DecompressionBombError as error:
        raise TooLarge("The picture claims more pixels than a camera has.") from error
    except UnidentifiedImageError as error:
        raise NotAPicture(
            "This is no picture that can be read: JPEG, TIFF, PNG, WebP, HEIC or a raw file."
        ) from error
    except MemoryError as error:
        raise TooLarge("The picture is too large for this machine's memory.") from error
    except Exception as error:  # decoders raise whatever they like at broken files
        raise CutShort("The file is cut short or damaged: copy it from the card again.") from error


def _decoded(raw: bytes) -> Luminance:
    def decode() -> Luminance:
        _with_readers()
        with Image.open(io.BytesIO(raw), formats=_FORMATS) as image:
            _checked(*image.size)
            image.load()
            if image.mode.startswith(("I;16", "I", "F")):
                return _of_grey(np.asarray(image))
            if image.mode == "L":
                return _of_eight_bits(image, np.ones(1))
            return _of_eight_bits(image if image.mode == "RGB" else image.convert("RGB"), _WEIGHTS)

    return _guarded(decode)


@cache
def _with_readers() -> None:
    import pillow_heif  # a picture of another kind needs it not

    Image.init()
    pillow_heif.register_heif_opener()


def _developed(raw: bytes) -> Luminance:
    def decode() -> Luminance:
        import rawpy  # as above

        try:
            opened = rawpy.imread(io.BytesIO(raw))
        except rawpy.LibRawFileUnsupportedError as error:
            raise NotAPicture(
                "This raw file is of a kind that cannot be developed here."
            ) from error
        with opened:
            sizes = opened.sizes
            _checked(sizes.width, sizes.height)
            colours = opened.postprocess(
                gamma=(1, 1), no_auto_bright=True, output_bps=16, use_camera_wb=True
            )
        return _weighed(np.asarray(colours, np.uint16), 1.0 / 65535.0)

    return _guarded(decode)


def _weighed(colours: npt.NDArray[np.uint16], unit: float) -> Luminance:
    found = np.empty(colours.shape[:2], np.float32)
    weights = (_WEIGHTS * unit).astype(np.float32)
    for top in range(0, len(found), _ROWS):
        found[top : top + _ROWS] = colours[top : top + _ROWS].astype(np.float32) @ weights
    return found


def linear(values: npt.ArrayLike) -> npt.NDArray[np.float64]:
    """Values as written, 0 to 1, as light: the curve of sRGB undone [srgb]."""
    values = np.asarray(values, dtype=float)
    return np.where(values <= 0.04045, values / 12.92, ((values + 0.055) / 1.055) ** 2.4)


@cache
def _curve() -> npt.NDArray[np.float64]:
    return linear(np.arange(256) / 255.0)


def _of_eight_bits(image: Image.Image, weights: npt.NDArray[np.float64]) -> Luminance:
    """Strip by strip, so that a large picture is never there thrice, and on two threads."""
    channels = len(weights)
    tables = np.stack([_curve() * weight for weight in weights], axis=-1)
    table = tables.astype(np.float32).reshape(1, 256, channels)
    found = np.empty((image.height, image.width), np.float32)
    summing = np.ones((1, channels), np.float32)

    def strip(top: int) -> None:
        below = min(top + _ROWS, image.height)
        part = cv2.LUT(np.asarray(image.crop((0, top, image.width, below))), table)
        found[top:below] = part if channels == 1 else cv2.transform(part, summing)

    with ThreadPoolExecutor(_THREADS) as threads:
        list(threads.map(strip, range(0, image.height, _ROWS)))
    return found


def _of_grey(values: npt.NDArray[np.generic]) -> Luminance:
    if values.dtype == np.uint16 or np.issubdtype(values.dtype, np.integer):
        return linear(np.clip(values.astype(float), 0, 65535) / 65535.0).astype(np.float32)
    return np.clip(np.nan_to_num(values.astype(np.float32)), 0.0, 1.0)


def _upright(luminance: Luminance, orientation: int) -> Luminance:
    """A picture turned as its file says (tag 274, 1 to 8)."""
    if orientation in (2, 4, 5, 7):  # mirrored: no camera does, but some software
        luminance = luminance[:, ::-1]
    turns = {3: 2, 4: 2, 6: 3, 7: 3, 8: 1, 5: 1}.get(orientation, 0)
    return np.ascontiguousarray(np.rot90(luminance, turns))
