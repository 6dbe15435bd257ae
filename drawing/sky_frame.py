"""The frame under the turning sky: the ways of stars over it, the horizon, and places marked in it.

As the finder shows it, to scale. Lengths come in mm from the frame's middle, x right and y up.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass

LONG = 300.0
"""How long the frame's long side is drawn."""
_LETTER = 11.0
"""How far a letter stands from the point it names."""
_MARGIN = 5.0
_FAR = 2.0
"""Frames' widths: farther from the middle nothing is drawn."""
_EDGE = 9.0
"""How near to the frame's edge a letter may stand."""


@dataclass(frozen=True, slots=True)
class Named:
    """A place in the frame and the letter that names it."""

    letter: str
    x: float
    y: float


@dataclass(frozen=True, slots=True)
class Letter:
    """A place as drawn: its point, and where its letter stands."""

    letter: str
    x: float
    y: float
    letter_x: float
    letter_y: float


@dataclass(frozen=True, slots=True)
class SkyFrame:
    """Drawing units.

    ``box``     what the picture shows: the frame and a margin.
    ``ways``    one path for all trails; ``starts``: where each begins.
    ``ground``  what is below the horizon, or nothing.
    ``pole``    where all turns, if that is in the frame. ``rim``: how far a fisheye's picture
                reaches from the middle, 0 where it fills the frame.
    """

    width: float
    height: float
    box: str
    ways: str
    starts: str
    ground: str
    letters: tuple[Letter, ...]
    pole: tuple[float, float] | None
    rim: float

    @property
    def middle(self) -> tuple[float, float]:
        """Of the frame."""
        return self.width / 2, self.height / 2


def draw(
    width: float,
    height: float,
    ways: Iterable[Sequence[tuple[float, float]]],
    *,
    horizon: float,
    named: Iterable[Named],
    pole: tuple[float, float] | None,
    bent: Sequence[tuple[float, float]] = (),
    rim: float = math.inf,
) -> SkyFrame:
    """A frame of so many mm.

    ``ways``     each star's places in order of time; what leaves the frame is cut by its edge.
    ``horizon``  its height from the middle, mm; −inf for none. ``bent``: its way through the
                 picture of a fisheye, mm, from left to right; ``rim``: that picture's radius, mm.
    """
    unit = LONG / max(width, height)
    across, up = width * unit, height * unit

    def point(x: float, y: float) -> tuple[float, float]:
        return across / 2 + x * unit, up / 2 - y * unit

    paths, dots = [], []
    for way in ways:
        if way and math.hypot(*way[0]) > rim:
            continue
        shown = min(rim, _FAR * max(width, height))
        places = [point(*place) for place in way if math.hypot(*place) <= shown]
        if len(places) < 2:
            continue
        steps = "L".join(f"{x:.1f} {y:.1f}" for x, y in places)
        paths.append(f"M{steps}")
        dots.append(f"M{places[0][0]:.1f} {places[0][1]:.1f}h0.01")
    ground = ""
    if bent:
        steps = "L".join(f"{x:.1f} {y:.1f}" for x, y in (point(*place) for place in bent))
        ground = f"M{steps}A{rim * unit:.1f} {rim * unit:.1f} 0 0 1 {steps.split('L')[0]}Z"
    elif horizon > -height / 2:
        top = max(point(0.0, horizon)[1], 0.0)
        ground = f"M0 {top:.1f}H{across:.1f}V{up:.1f}H0Z"
    letters = []
    for one in named:
        x, y = point(one.x, one.y)
        inwards = -1.0 if x > across / 2 else 1.0
        letters.append(
            Letter(
                one.letter,
                x,
                y,
                min(max(x + inwards * _LETTER, _EDGE), across - _EDGE),
                min(max(y - _LETTER / 2, 2 * _EDGE), up - _EDGE / 2),
            )
        )
    inside = pole is not None and abs(pole[0]) <= width / 2 and abs(pole[1]) <= height / 2
    return SkyFrame(
        across,
        up,
        f"{-_MARGIN:g} {-_MARGIN:g} {across + 2 * _MARGIN:g} {up + 2 * _MARGIN:g}",
        "".join(paths),
        "".join(dots),
        ground,
        tuple(letters),
        point(*pole) if inside and pole is not None else None,
        rim * unit if rim < math.hypot(width, height) / 2 else 0.0,
    )


def starts(width: float, height: float, across: int) -> list[tuple[float, float]]:
    """Points spread evenly over a frame, so many along its long side, mm."""
    cell = max(width, height) / across
    columns, rows = max(round(width / cell), 1), max(round(height / cell), 1)
    return [
        (width * ((column + 0.5) / columns - 0.5), height * ((row + 0.5) / rows - 0.5))
        for row in range(rows)
        for column in range(columns)
    ]


_TIMES = (10.0, 20.0, 30.0, 60.0, 120.0, 300.0, 600.0, 1200.0, 1800.0, 3600.0, 7200.0)


def telling_time(seconds_per_cell: float) -> float:
    """The plain time, s, whose trails are about as long as stars stand apart."""
    return min(_TIMES, key=lambda named: abs(math.log(named / seconds_per_cell)))
