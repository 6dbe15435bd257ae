"""Frames in tests of pages: of a smaller sensor than the made-up camera's own, as coarsely drawn as
large ones are, and each looked at once, however often it is brought, by half of its edges. How they
are taken and looked at is tested in ``tests/simulator`` and ``tests/imaging``."""

from __future__ import annotations

import hashlib
from dataclasses import replace
from unittest import TestCase, mock

from imaging.errors import PictureError
from imaging.looked import Looked, Taken
from imaging.reading import Picture
from simulator import frame
from simulator.body import Body
from tests.imaging.half import half_of_the_edges
from web.bench.kinds import made_up

_BODY = Body(width=1050, height=700)
_SMALL_BODY = Body(width=1500, height=1000, frame_width=14.4)
_look = Looked.at
_seen: dict[str, Looked | PictureError] = {}


def _once(taken: Taken, picture: Picture) -> Looked:
    key = hashlib.sha256(picture.luminance.tobytes()).hexdigest()
    if key not in _seen:
        try:
            _seen[key] = _look(taken, picture)
        except PictureError as error:
            _seen[key] = error
    found = _seen[key]
    if isinstance(found, PictureError):
        found.place = taken.name
        raise found
    return replace(found, taken=taken)


def small_frames_once(test: TestCase) -> None:
    """For the length of a test."""
    test.enterContext(mock.patch.object(made_up, "_BODY", _BODY))
    test.enterContext(mock.patch.object(made_up, "_SMALL_BODY", _SMALL_BODY))
    test.enterContext(mock.patch.object(frame, "_FINE_PIXELS", 0))
    test.enterContext(half_of_the_edges())
    test.enterContext(mock.patch.object(Looked, "at", _once))
