"""Distance judged by the frame, by the arm and by the pace; and numbers for autofocus."""

from __future__ import annotations

import math
from dataclasses import dataclass

from optics.base import settable
from optics.base.units import Measures
from optics.zones import people
from web.street.streets import FARTHEST_SETTABLE
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
    used = [(one, one.used) for one in answer.positions if one.used is not None]
    found: list[Edge] = []
    for at, (one, span) in enumerate(used):
        before = used[at - 1] if at else None
        joined = before is not None and before[1].far >= span.near
        says = f"{before[0].name} meets {one.name}" if before and joined else f"{one.name} begins"
        found.append(_edge(answer, measures, one, span.near, says))
        if at + 1 == len(used) or used[at + 1][1].near > span.far:
            found.append(_edge(answer, measures, one, span.far, f"{one.name} ends"))
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
    as well; None for none."""

    position: Position
    window: settable.Span | None


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
        window, span = one.window, None
        if window is not None:
            span = settable.inside(window.nearest, window.farthest, street.system)
        # Narrower than that, nothing else is as good.
        found.append(StandIn(one, None if span is None or span.reach else span))
    return Limiter(
        near=settable.down(max(answer.band.from_, street.closest), street.system),
        far=settable.up(answer.band.far, street.system)
        if answer.band.far <= FARTHEST_SETTABLE
        else math.inf,
        stand_ins=tuple(found),
    )
