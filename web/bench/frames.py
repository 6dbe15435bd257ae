"""A frame of a test from its file: what is seen in it is kept, and a small picture of it."""

from __future__ import annotations

import math
from typing import Any

import numpy as np

from imaging.errors import NotKnown, PictureError
from imaging.exif import Exif
from imaging.looked import Looked, Taken, one_lens
from imaging.reading import read
from imaging.writing import as_jpeg
from web.bench.models import MOST_FRAMES, Frame, Test
from web.ui.text import cleaned

_SMALL = (180, 120)
_QUALITY = 70
_LONGEST_NAME = 120


class NoRoom(Exception):
    """A test has as many frames as it can. ``sentence``: what to do."""

    sentence = f"A test has room for {MOST_FRAMES} frames: take some out first."


def take_in(test: Test, name: str, raw: bytes, way: str = "") -> Frame:
    """Read a file into a test, and look at it; one that is there already is left as it is.
    ``way``: that it was focused by, where that is what is tested. Raises NoRoom."""
    name = (cleaned(name) or "a frame")[-_LONGEST_NAME:]
    there = test.frames.filter(name=name, bytes=len(raw)).first()
    if there is not None:
        return there
    if test.frames.count() >= MOST_FRAMES:
        raise NoRoom
    frame = Frame(test=test, name=name, bytes=len(raw), way=way)
    try:
        picture = read(raw)
    except PictureError as error:
        frame.wrong = error.sentence
    else:
        _said(frame, picture.exif, test, picture.size)
        frame.small = as_jpeg(picture.luminance, _QUALITY, _SMALL)
        try:
            seen = Looked.at(taken_of(frame, test, guessed=True), picture)
        except PictureError as error:
            frame.wrong = error.sentence
        else:
            frame.seen = plain(seen)
    frame.save()
    return frame


def _said(frame: Frame, exif: Exif, test: Test, size: tuple[int, int]) -> None:
    frame.f_number, frame.focal_length_mm = exif.f_number, exif.focal_length
    frame.lens_named, frame.pitch_mm = exif.lens, exif.pitch
    if exif.pitch is None and exif.focal_length and exif.focal_length_35:
        frame.pitch_mm = 36.0 * exif.focal_length / exif.focal_length_35 / max(size)


def missing(frame: Frame, test: Test) -> tuple[str, ...]:
    """What neither its file nor anybody has said: f_number, focal_length_mm, pitch_mm."""
    have = {
        "f_number": frame.f_number,
        "focal_length_mm": frame.focal_length_mm or test.focal_length_mm,
        "pitch_mm": frame.pitch_mm or test.pitch_mm,
    }
    return tuple(name for name, value in have.items() if value is None)


def taken_of(frame: Frame, test: Test, *, guessed: bool = False) -> Taken:
    """How a frame was taken. ``guessed``: with anything for what is not known, where it does not
    matter yet. Raises NotKnown."""
    lacks = missing(frame, test)
    if lacks and not guessed:
        raise NotKnown("It is not known how this frame was taken.", frame.name)
    return Taken(
        frame.name,
        frame.f_number or 1.0,
        frame.focal_length_mm or test.focal_length_mm or 50.0,
        frame.pitch_mm or test.pitch_mm or 0.006,
    )


def seen_of(test: Test, frames: list[Frame]) -> list[Looked]:
    """What was seen in frames that tell something, of one lens and one size. Raises a
    PictureError whose ``place`` is the frame at fault."""
    seen = [looked(frame, test) for frame in frames]
    one_lens([(s.taken, s.size, f.lens_named) for s, f in zip(seen, frames, strict=True)])
    return seen


def plain(seen: Looked) -> dict[str, Any]:
    """What was seen, as plain data."""
    places = [
        None if not np.isfinite(place).all() else [round(float(at), 3) for at in place]
        for place in seen.places
    ]
    edges = [[n, side, round(disc, 4), round(error, 4)] for n, side, disc, error in seen.edges]
    return {"size": list(seen.size), "places": places, "edges": edges}


def looked(frame: Frame, test: Test) -> Looked:
    """What was seen in a frame, back from plain data. Raises NotKnown."""
    seen = frame.seen
    assert seen is not None
    places = np.array([place or (math.nan, math.nan) for place in seen["places"]], float)
    edges = tuple((int(n), int(side), float(d), float(e)) for n, side, d, e in seen["edges"])
    width, height = seen["size"]
    return Looked(taken_of(frame, test), (int(width), int(height)), places, edges)
