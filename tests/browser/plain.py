"""Grey pictures in place of those that the made-up camera takes for drills, where nothing is looked
for in them. How they are drawn is tested in ``tests/drills``."""

from __future__ import annotations

import io
from functools import cache
from unittest import TestCase, mock

from django.core import signing
from PIL import Image

from drills.pictures import ACROSS, STACK, File
from web.drills import pictures

_ROWS = 40
"""Of pictures in a stack: more than any has."""


@cache
def _grey(said: str) -> File:
    of = signing.loads(said, salt="drills")["of"]
    stack = of in ("stars", "far")
    size = (STACK[0] * ACROSS, STACK[1] * _ROWS) if stack else (600, 400)
    held = io.BytesIO()
    Image.new("L", size, 90).save(held, "PNG")
    return File("image/png", held.getvalue())


def grey_pictures(tests: type[TestCase]) -> None:
    """For all tests of a class."""
    tests.enterClassContext(mock.patch.object(pictures, "_file", _grey))
