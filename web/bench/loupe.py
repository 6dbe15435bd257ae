"""Two pictures under one loupe: what is said of them, and a pair by the made-up camera."""

from __future__ import annotations

import json
import math
from dataclasses import dataclass
from functools import lru_cache
from typing import Any

import numpy as np

from drawing.difference_map import Box, boxes
from imaging.beside import Beside, Says, compared
from imaging.numbers import Luminance
from imaging.reading import Picture
from imaging.writing import as_jpeg
from optics.base import units
from simulator.body import Body
from simulator.camera import Camera
from simulator.exposing import file_of
from simulator.frame import Scene, take
from simulator.lens import Lens as MadeUp
from simulator.things import Board

_COLUMNS = 60
_STEP = 32
_LEAST_PATCH, _MOST_PATCH = 64, 512
_PLAIN = frozenset((Says.SAME.value, Says.UNKNOWN.value))
_SHARPER, _ALIKE = 1.12, 0.08
"""One picture is called sharper that is so by that factor on the whole, or in that much more of
it."""
_QUALITY = 92


@dataclass(frozen=True, slots=True)
class Compared:
    """Two pictures compared. ``sharper``: "first", "second", or empty for neither; ``ratio``: how
    many times as soft the softer one is on the whole; shares in parts of what can be told."""

    size: tuple[int, int]
    sharper: str
    ratio: float
    first_softer: float
    second_softer: float
    moved: float
    boxes: tuple[Box, ...]
    lighter: float
    beside: float
    data: dict[str, Any]

    @property
    def said(self) -> str:
        """What the page needs to say of any point, as JSON."""
        return json.dumps(self.data, separators=(",", ":"))

    @property
    def mark(self) -> float:
        """How large hatching is drawn, so that it is as fine in any picture."""
        return round(self.size[0] / 2600.0, 3)

    @property
    def tells(self) -> bool:
        """Whether anything can be told."""
        return bool(self.data["says"]) and any(
            one != _CODES[Says.UNKNOWN] for row in self.data["says"] for one in row
        )


_CODES = {says: at for at, says in enumerate(Says)}


def beside(first: Picture, second: Picture) -> Compared:
    """Two pictures of one thing compared. Raises a PictureError."""
    one, other = first.luminance, second.luminance
    patch = int(np.clip(max(one.shape) // _COLUMNS // _STEP * _STEP, _LEAST_PATCH, _MOST_PATCH))
    found = compared(one, other, patch)
    ratio = found.ratio
    softer = found.share(Says.SECOND_SOFTER), found.share(Says.FIRST_SOFTER)
    sharper = ""
    if ratio > _SHARPER or softer[0] > softer[1] + _ALIKE:
        sharper = "first"
    if ratio < 1.0 / _SHARPER or softer[1] > softer[0] + _ALIKE:
        sharper = "" if sharper else "second"
    return Compared(
        size=(one.shape[1], one.shape[0]),
        sharper=sharper,
        ratio=units.significant(max(ratio, 1.0 / ratio), 2) if ratio == ratio else math.nan,
        first_softer=softer[1],
        second_softer=softer[0],
        moved=found.share(Says.MOVED),
        boxes=boxes(found.says.tolist(), patch, _PLAIN),
        lighter=units.significant(found.lighter, 2),
        beside=units.significant(math.hypot(found.across, found.down), 2),
        data=_data(found, one),
    )


def _data(found: Beside, one: Luminance) -> dict[str, Any]:
    """What the page needs to say of any point."""

    def told(values: np.ndarray) -> list[list[float | None]]:
        return [[round(v, 2) if math.isfinite(v) else None for v in row] for row in values.tolist()]

    return {
        "width": one.shape[1],
        "height": one.shape[0],
        "patch": found.patch,
        "across": round(found.across, 2),
        "down": round(found.down, 2),
        "says": [[_CODES[Says(one)] for one in row] for row in found.says.tolist()],
        "first": told(found.first),
        "second": told(found.second),
        "contrast": told(found.contrast),
    }


def developed(picture: Picture) -> bytes:
    """A picture that a browser cannot read, as a JPEG of its full size, in grey."""
    return as_jpeg(picture.luminance, _QUALITY)


_BODY = Body(width=1800, height=1200, light_off=0.1, light_scatter=0.02)
_LENS = MadeUp(50.0, 1.8, name="50 mm f/1.8")
_NEAR, _WALL = 1500.0, 4000.0
_WAVES = 60.0


@lru_cache(maxsize=4)  # a megabyte each: the page asks for a pair, and then compares it
def made_up(seed: int, which: str) -> bytes:
    """A file of a pair by the made-up camera: a board before a wall, focused by a confirmation
    light (``first``) and by the magnified view (``second``); a bush moves in the wind."""
    luck = np.random.default_rng(seed)
    off = _BODY.light_off + float(luck.normal(0.0, _BODY.light_scatter))
    wind = float(luck.uniform(0.4, 1.0)) * _WAVES
    first = which == "first"
    ring = _LENS.stands_for(_NEAR) + (off / _LENS.focal_length if first else 0.0)
    bush = Board(1450.0, 260.0, 420.0, 22.0, x=330.0 + (0.0 if first else wind), y=-90.0)
    board = Board(_NEAR, 620.0, 520.0, 26.0, x=-120.0, y=20.0)
    things = (bush, board, Board(_WALL, grain=70.0))
    camera = Camera(_LENS, _BODY, 1.8, ring, iso=200)
    return file_of(take(Scene(things, seed=seed), camera), camera)
