"""A file of an outing, read once: what it says of itself, a small picture, what is measured in it.
The file itself is not kept."""

from __future__ import annotations

import hashlib
import math
import threading
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from datetime import UTC, datetime

from django.db import IntegrityError, transaction

from imaging.errors import PictureError
from imaging.exif import Exif
from imaging.numbers import Luminance
from imaging.reading import read
from imaging.whole import plain, small_of, whole
from web.outings.models import Frame, Look, Outing
from web.people import quota
from web.people.models import Owner
from web.ui.text import cleaned

MOST_OF_A_GUEST, MOST_OF_AN_ACCOUNT = 2_000, 120_000
LONGEST_NAME = 120
_A_NIGHTS = 1.0
"""s: frames exposed for longer are looked through for stars."""
_LAST = 2**60
_ONE = threading.Semaphore(1)
"""One file at a time is measured in a process: a large one takes half a gigabyte."""
WAITS_FOR = 50.0


class Busy(Exception):
    """Others' files are being measured, and it took too long to wait for them."""


@dataclass(frozen=True, slots=True)
class Read:
    """What became of a file: ``new``, ``same`` for one that is there already, ``broken``; and what
    there is to say of it."""

    state: str
    says: str
    frame: Frame


def take_in(outing: Outing, name: str, raw: bytes) -> Read:
    """Read a file into an outing. One that is there already is left as it is. Raises quota.Full,
    Busy."""
    name = cleaned(name).replace("\\", "/").rsplit("/", 1)[-1].strip()[-LONGEST_NAME:] or "a frame"
    there = outing.frames.filter(name=name, bytes=len(raw)).first()
    if there is not None:
        return Read("same", "It was read already.", there)
    digest = hashlib.sha256(raw).hexdigest()
    twin = outing.frames.filter(look__digest=digest).first()
    if twin is not None:
        return Read("same", f"It is the same picture as {twin.name}.", twin)
    _check_room(outing.owner)
    frame = Frame(outing=outing, name=name, bytes=len(raw), order=_LAST)
    try:
        with _one_at_a_time():
            picture = read(raw)
            _said(frame, picture.exif, picture.size)
            look = Look.objects.filter(digest=digest).first() or _looked(
                digest, picture.luminance, sky=(frame.exposure_s or 0.0) >= _A_NIGHTS
            )
    except PictureError as error:
        frame.wrong = error.sentence
        return Read("broken", error.sentence, _saved(frame))
    frame.look = look
    return Read("new", _doubt(frame), _saved(frame))


def _saved(frame: Frame) -> Frame:
    frame.settle()
    try:
        with transaction.atomic():
            frame.save()
    except IntegrityError:  # another window read it at the same moment
        return Frame.objects.get(outing=frame.outing, name=frame.name, bytes=frame.bytes)
    return frame


@contextmanager
def _one_at_a_time() -> Iterator[None]:
    if not _ONE.acquire(timeout=WAITS_FOR):
        raise Busy
    try:
        yield
    finally:
        _ONE.release()


def _check_room(owner: Owner) -> None:
    most = MOST_OF_A_GUEST if owner.person_id is None else MOST_OF_AN_ACCOUNT
    if Frame.objects.filter(outing__owner=owner).count() >= most:
        raise quota.Full(f"There is room for {most} frames: delete outings you need no more first.")


def _doubt(frame: Frame) -> str:
    if frame.at is None:
        return "It does not say when it was taken."
    if frame.focal_length_mm is None or frame.f_number is None:
        return "It does not say its focal length and aperture."
    return " ".join(frame.doubts)


def _said(frame: Frame, exif: Exif, size: tuple[int, int]) -> None:
    frame.width, frame.height = size
    frame.f_number, frame.focal_length_mm = exif.f_number, exif.focal_length
    frame.exposure_s, frame.iso = exif.exposure, exif.iso
    frame.body, frame.lens = exif.body, exif.lens
    if exif.focus_distance is not None and math.isfinite(exif.focus_distance):
        frame.focus_mm = exif.focus_distance
    frame.pitch_mm = exif.pitch
    if exif.pitch is None and exif.focal_length and exif.focal_length_35:
        frame.pitch_mm = 36.0 * exif.focal_length / exif.focal_length_35 / max(size)
    frame.doubts = list(exif.doubts)
    frame.at = _time(exif.taken)
    if frame.at is not None:
        frame.order = int(frame.at.timestamp() * 1000)


def _time(text: str) -> datetime | None:
    """A camera's time, as if it were UTC; None for none, or one that no camera was there at."""
    try:
        found = datetime.strptime(text[:19], "%Y:%m:%d %H:%M:%S").replace(tzinfo=UTC)
    except ValueError:
        return None
    return found if 1990 < found.year < 2100 else None


def _looked(digest: str, luminance: Luminance, *, sky: bool) -> Look:
    look, _ = Look.objects.get_or_create(
        digest=digest,
        defaults={"small": small_of(luminance, sky=sky), "whole": plain(whole(luminance, sky=sky))},
    )
    return look
