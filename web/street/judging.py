"""Distance judged by the frame, by the arm and by the pace; and numbers for autofocus."""

from __future__ import annotations

import math
import re
from dataclasses import dataclass

from optics.base import settable, units
from optics.base.errors import OpticsError
from optics.base.units import USUAL, Measures
from optics.lens.focus_window import focus_window
from optics.zones import people
from web.street.position import Position
from web.street.streets import FARTHEST_SETTABLE, Street
from web.street.usecases import Answer

ARM_TO = 2500.0
"""mm: past that nobody measures in arm's lengths."""


@dataclass(frozen=True, slots=True)
class Edge:
    """A distance to know by sight, mm: home's, and where a stretch begins or ends; how much of the
    frame's height an adult, a head and a door fill there, and how many arm's lengths and paces it
    is. ``says``: which it is; ``cut``: where the frame cuts an adult who does not fit."""

    depth: float
    says: str
    adult: float
    head: float
    door: float
    cut: str
    arms: float | None
    paces: float
    home: bool = False


@dataclass(frozen=True, slots=True)
class Sighted:
    """The distances, nearest first. ``own_arm``, ``own_pace``: whether somebody's own are known.
    ``adult``, ``head``, ``door``: how high those are taken to be, mm."""

    edges: tuple[Edge, ...]
    own_arm: bool
    own_pace: bool
    adult: float = people.ADULT
    head: float = people.HEAD
    door: float = people.DOOR


def sighted(answer: Answer, measures: Measures) -> Sighted:
    """Home and every edge of the stretches in use; infinity is none."""
    used = [(one, one.used) for one in answer.positions if one.used is not None]
    found: list[Edge] = []
    for at, (one, span) in enumerate(used):
        before = used[at - 1] if at else None
        joined = before is not None and before[1].far >= span.near
        says = f"{before[0].name} meets {one.name}" if before and joined else f"{one.name} begins"
        found.append(_edge(answer, measures, one, span.near, says))
        if one.home:
            found.append(_edge(answer, measures, one, one.focus, "home", home=True))
        if at + 1 == len(used) or used[at + 1][1].near > span.far:
            found.append(_edge(answer, measures, one, span.far, f"{one.name} ends"))
    edges = tuple(edge for edge in found if math.isfinite(edge.depth))
    return Sighted(edges, measures.arm != USUAL.arm, measures.pace != USUAL.pace)


def _edge(
    answer: Answer,
    measures: Measures,
    one: Position,
    depth: float,
    says: str,
    *,
    home: bool = False,
) -> Edge:
    street = answer.street
    adult, head, door = (
        people.share_filled(street.setup, street.frame_height, height, depth, one.focus)
        for height in (people.ADULT, people.HEAD, people.DOOR)
    )
    arms = depth / measures.arm if depth <= ARM_TO else None
    cut = str(people.framing(people.ADULT / adult)) if adult > 1 else ""
    return Edge(depth, says, adult, head, door, cut, arms, depth / measures.pace, home)


@dataclass(frozen=True, slots=True)
class StandIn:
    """What to lock autofocus on for a position: from where to where anything does; None where that
    is too little to find anything in."""

    position: Position
    window: settable.Span | None


@dataclass(frozen=True, slots=True)
class BodyWords:
    """What is noted of the body in hand: its key, its name, what its focusing button is called."""

    key: int
    name: str
    button: str


@dataclass(frozen=True, slots=True)
class Limiter:
    """The two numbers for a camera's focus limiter, mm, rounded so that the band stays inside; and
    what to lock on for each position. ``steps``: the body's own, in its words, and ``step`` the
    tightest of them that has the band in it; empty where nobody noted any."""

    near: float
    far: float
    stand_ins: tuple[StandIn, ...]
    steps: str
    step: str
    body: BodyWords | None


def limiter(answer: Answer) -> Limiter:
    """For those who leave focusing to the camera, inside the band."""
    street = answer.street
    near = _limiter_near(street, answer.band.from_)
    far = settable.up(max(answer.band.far, near * _NEXT), street.system)
    far = far if answer.band.far <= FARTHEST_SETTABLE else math.inf
    body = street.in_use.body
    steps = "" if body is None else body.limiter
    return Limiter(
        near=near,
        far=far,
        stand_ins=tuple(StandIn(one, _room(answer, at)) for at, one in enumerate(answer.positions)),
        steps=steps,
        step=_tightest(steps, street, near, far),
        body=None if body is None else BodyWords(body.pk, body.name, body.button),
    )


def _room(answer: Answer, at: int) -> settable.Span | None:
    """From where to where one position may stand, the others as they are, and still leave the band
    without a gap that was none; None where that is too little."""
    street, positions = answer.street, answer.positions
    one = positions[at]
    if not one.tile.used:
        return None
    near, far = one.tile.start, one.tile.end
    if at and positions[at - 1].tile.far > near:
        near = positions[at - 1].tile.far
    if at + 1 < len(positions) and positions[at + 1].tile.near < far:
        far = positions[at + 1].tile.near
    if near >= far:  # its neighbours hold all of it
        near = far = one.tile.focus
    window = focus_window(street.setup, near, far)
    if window is None:
        return None
    nearest = max(window.nearest, street.closest)
    if window.farthest <= nearest * _FINDABLE:
        return None
    span = settable.inside(nearest, window.farthest, street.system)
    return None if span.reach or span.far <= span.near * _FINDABLE else span


_FINDABLE = 1.05
"""In less than a twentieth of its distance nobody finds something to lock on."""
_NEXT = 1.001
"""A band that ends nearer than the lens focuses still takes two numbers."""


def _limiter_near(street: Street, from_: float) -> float:
    """Rounded down so that the band stays inside, yet not under what the lens reaches."""
    near = settable.down(max(from_, street.closest), street.system)
    return settable.reached(near, street.system, street.closest)


_STEP = re.compile(r"(?P<near>.+?)\s*(?:\bto\b|–|-)\s*(?P<far>.+)", re.IGNORECASE)


def _tightest(steps: str, street: Street, near: float, far: float) -> str:
    """Of a limiter's steps, such as *0.5 to 3 m; 3 m to inf*, the tightest that has the band in
    it; empty where none can be read so."""
    found: list[tuple[float, str]] = []
    for text in re.split(r"\s*[;,/]\s*", steps):
        matched = _STEP.fullmatch(text.strip())
        if matched is None:
            continue
        try:
            ends = [units.parse(matched[end], street.system) for end in ("near", "far")]
        except OpticsError:
            continue
        if ends[0] <= near * (1 + 1e-6) and ends[1] >= far * (1 - 1e-6):
            found.append((1 / ends[0] - 1 / ends[1] if ends[0] else math.inf, text.strip()))
    return min(found, default=(0.0, ""))[1]
