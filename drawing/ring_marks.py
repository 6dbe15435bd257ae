"""A ring with the depth-of-field marks of its lens, as it is read: the marks and the index stand
still, and the ring is turned under them."""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace

from drawing.ring import Placed, RingPicture, RingSize, draw
from optics.lens.ring import Ring

READ = RingSize(width=640, height=170, radius=620, spread=math.radians(86))
_INNER, _OUTER = 34.0, 46.0
"""px inside the engraved edge: where a mark begins and ends, on the part that does not turn."""
_LETTERS = 60.0


@dataclass(frozen=True, slots=True)
class Mark:
    """A depth-of-field mark: its line, the f-number at it, and where that stands."""

    path: str
    f_number: float
    x: float
    y: float


@dataclass(frozen=True, slots=True)
class RingMarks:
    """``picture``: the ring, drawn with its throw in the middle; ``marks`` on both sides of the
    ``index``; ``turns``: by how much the ring is turned about ``middle`` for each of some
    distances, degrees. ``true``: a line on
    the ring at one of them, empty for none."""

    picture: RingPicture
    marks: tuple[Mark, ...]
    index: str
    turns: tuple[float, ...]
    true: str
    middle: tuple[float, float]


def ring_marks(
    ring: Ring,
    closest: float,
    engraved: Iterable[float],
    system: str,
    marks: Sequence[tuple[float, float]],
    stops: Sequence[float],
    true: float | None = None,
    size: RingSize = READ,
) -> RingMarks:
    """``closest``: the nearest it goes to, mm. ``marks``: f-numbers, and how far from the index the
    mark of each stands, radians of the ring. ``stops``, ``true``: mm, up to inf."""
    place = Placed.of(size, ring, closest)
    still = replace(place, start=place.start)
    found: list[Mark] = []
    for f_number, angle in marks:
        off = abs(angle / place.turn)
        for share in (0.5 - off, 0.5 + off):
            if abs(share - 0.5) < _SEEN:
                x, y = still.point(share, -_LETTERS)
                path = still.line(share, _INNER, _OUTER)
                found.append(Mark(path, f_number, round(x, 1), round(y, 1)))
    spread = math.degrees(size.spread)
    turns = tuple(round((0.5 - share) * spread, 3) for share in place.shares(list(stops)))
    x, y = size.middle
    return RingMarks(
        draw(size, ring, closest, system, engraved), tuple(_apart(found)),
        still.line(0.5, -6.0, _OUTER + 4.0), turns,
        "" if true is None else place.line(place.share(true), 0.0, 27.0),
        (round(x, 1), round(y, 1)),
    )  # fmt: skip


_SEEN = 0.42
_APART = 20.0


def _apart(marks: Sequence[Mark]) -> Iterable[Mark]:
    """Marks whose numbers do not touch: those of small apertures first, which stand
    farthest out."""
    taken: list[float] = []
    for mark in sorted(marks, key=lambda one: -one.f_number):
        if all(abs(mark.x - x) >= _APART for x in taken):
            taken.append(mark.x)
            yield mark
