"""Distance judged by the frame, by the arm and by the pace; and numbers for autofocus."""

from __future__ import annotations

import math
from dataclasses import dataclass

from optics.base import settable
from optics.base.units import Measures
from optics.lens.depth import focus_window
from optics.zones import people
from web.street.usecases import Answer, Position

ARM_TO = 2500.0
"""mm: past that nobody measures in arm's lengths."""


@dataclass(frozen=True, slots=True)
class Edge:
    """An edge of a stretch, mm: how much of the frame's height an adult, a head and a door fill
    there, and how many arm's lengths and paces it is. ``says``: which stretch begins or ends."""

    depth: float
    says: str
    adult: float
    head: float
    door: float
    arms: float | None
    paces: float


def edges(answer: Answer, measures: Measures) -> tuple[Edge, ...]:
    """Every edge of the stretches in use, nearest first; infinity is none."""
    used = [one for one in answer.positions if one.tile.used]
    found: list[Edge] = []
    for at, one in enumerate(used):
        before = used[at - 1] if at else None
        joined = before is not None and before.tile.end >= one.tile.start * (1 - 1e-9)
        says = f"{before.name} meets {one.name}" if before and joined else f"{one.name} begins"
        found.append(_edge(answer, measures, one, one.tile.start, says))
        after = used[at + 1] if at + 1 < len(used) else None
        if after is None or after.tile.start > one.tile.end * (1 + 1e-9):
            found.append(_edge(answer, measures, one, one.tile.end, f"{one.name} ends"))
    return tuple(edge for edge in found if math.isfinite(edge.depth))


def _edge(answer: Answer, measures: Measures, one: Position, depth: float, says: str) -> Edge:
    street = answer.street
    adult, head, door = (
        people.share_filled(street.setup, street.frame_height, height, depth, one.focus)
        for height in (people.ADULT, people.HEAD, people.DOOR)
    )
    arms = depth / measures.arm if depth <= ARM_TO else None
    return Edge(depth, says, adult, head, door, arms, depth / measures.pace)


@dataclass(frozen=True, slots=True)
class StandIn:
    """What to lock autofocus on for a position: its distance, and from where to where another does
    as well, mm; None for none."""

    position: Position
    near: float | None
    far: float | None


@dataclass(frozen=True, slots=True)
class Limiter:
    """The two numbers for a camera's focus limiter, mm, rounded so that the band stays inside; and
    what to lock on for each position."""

    near: float
    far: float
    stand_ins: tuple[StandIn, ...]


def limiter(answer: Answer) -> Limiter:
    """For those who leave focusing to the camera, inside the band."""
    street = answer.street
    found = []
    for one in answer.positions:
        window = None
        if one.tile.used:
            window = focus_window(street.setup, one.tile.start, one.tile.end)
        near = far = None
        if window is not None:
            near = settable.up(window.nearest, street.system, settable.FINE)
            far = settable.down(window.farthest, street.system, settable.FINE)
            near, far = (near, far) if near <= far else (None, None)
        found.append(StandIn(one, near, far))
    return Limiter(
        near=settable.down(max(answer.band.from_, street.closest), street.system),
        far=settable.up(answer.band.far, street.system),
        stand_ins=tuple(found),
    )
