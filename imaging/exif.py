"""What a file says of how its picture was taken, believed only as far as a camera could say it."""

from __future__ import annotations

import io
import logging
import math
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

import exifread

INCH = 25.4
_UNITS_MM = {2: 25.4, 3: 10.0, 4: 1.0, 5: 0.001}
"""EXIF's units of the focal plane's resolution, mm."""

logging.getLogger("exifread").setLevel(logging.CRITICAL)


@dataclass(frozen=True, slots=True)
class Exif:
    """What a file says. None for what it does not say, or says so that it cannot be.

    ``f_number``, ``focal_length`` (mm), ``focal_length_35`` (mm, as if on a frame 36 × 24 mm),
    ``exposure`` (s), ``iso``, ``taken`` (as written, year:month:day hour:minute:second), ``body``,
    ``lens``, ``focus_distance`` (mm from the sensor, as the lens told the body: coarse),
    ``pitch`` (mm between pixels as stored), ``orientation`` (1 to 8), and ``doubts``: what it says
    that cannot be, a sentence each.
    """

    f_number: float | None = None
    focal_length: float | None = None
    focal_length_35: float | None = None
    exposure: float | None = None
    iso: float | None = None
    taken: str = ""
    body: str = ""
    lens: str = ""
    focus_distance: float | None = None
    pitch: float | None = None
    orientation: int = 1
    doubts: tuple[str, ...] = ()


@dataclass(frozen=True, slots=True)
class _Field:
    name: str
    tags: tuple[str, ...]
    low: float
    high: float
    said: str
    factor: float = 1.0


_FIELDS = (
    _Field("f_number", ("EXIF FNumber",), 0.5, 128, "aperture"),
    _Field("focal_length", ("EXIF FocalLength",), 1, 3000, "focal length"),
    _Field("focal_length_35", ("EXIF FocalLengthIn35mmFilm",), 1, 5000, "focal length for 35 mm"),
    _Field("exposure", ("EXIF ExposureTime",), 1e-6, 1e5, "exposure time"),
    _Field("iso", ("EXIF ISOSpeedRatings", "EXIF PhotographicSensitivity"), 1, 1e7, "ISO"),
    _Field(
        "focus_distance",
        ("MakerNote FocusDistance", "MakerNote SubjectDistance", "EXIF SubjectDistance"),
        10,
        1e7,
        "focus distance",
        1000.0,
    ),
)
_TEXTS = {
    "taken": ("EXIF DateTimeOriginal", "Image DateTime"),
    "body": ("Image Model",),
    "lens": ("EXIF LensModel",),
}
_LONGEST_TEXT = 80


def exif_of(raw: bytes) -> Exif:
    """What a file's bytes say; an empty one where there is nothing, or nothing that can be read."""
    try:
        tags = exifread.process_file(io.BytesIO(raw), details=True, strict=False)
    except Exception:  # whatever a broken file makes a reader do, it says nothing
        return Exif(doubts=("What the file says of how it was taken cannot be read.",))
    return _believed(tags or {})


def _believed(tags: Mapping[str, Any]) -> Exif:
    found: dict[str, Any] = {}
    doubts: list[str] = []
    for one in _FIELDS:
        value = next((v for tag in one.tags if (v := _number(tags.get(tag))) is not None), None)
        if value is None or value == 0:
            continue
        if one.name == "focus_distance" and math.isinf(value):
            found[one.name] = math.inf
        elif one.low <= value * one.factor <= one.high:
            found[one.name] = value * one.factor
        else:
            doubts.append(f"It says {one.said} {value:g}, which cannot be.")
    for name, names in _TEXTS.items():
        found[name] = next((text for tag in names if (text := _text(tags.get(tag)))), "")
    pitch = _pitch(tags)
    if pitch is not None and not 3e-4 <= pitch <= 0.1:
        doubts.append(f"It says {1 / pitch:.3g} pixels to the millimetre, which cannot be.")
        pitch = None
    turned = _number(tags.get("Image Orientation"))
    turned = int(turned) if turned is not None and turned in range(1, 9) else 1
    return Exif(**found, pitch=pitch, orientation=turned, doubts=tuple(doubts))


def _pitch(tags: Mapping[str, Any]) -> float | None:
    across = _number(tags.get("EXIF FocalPlaneXResolution"))
    unit = _number(tags.get("EXIF FocalPlaneResolutionUnit")) or 2
    if not across or across <= 0 or unit not in _UNITS_MM:
        return None
    return _UNITS_MM[int(unit)] / across


def _number(tag: Any) -> float | None:
    """The first value of a tag; None for none, or one that is no number."""
    values = getattr(tag, "values", None)
    if isinstance(values, (list, tuple)):
        values = values[0] if values else None
    if isinstance(values, str):
        return None
    try:
        value = float(values)  # type: ignore[arg-type]
    except (TypeError, ValueError, ZeroDivisionError, OverflowError):
        return None
    return None if math.isnan(value) else value


def _text(tag: Any) -> str:
    if tag is None:
        return ""
    words = "".join(c if c.isprintable() else " " for c in str(tag))
    return " ".join(words.split())[:_LONGEST_TEXT]
