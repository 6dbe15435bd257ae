"""Tasks: a question, the answers that can be given, and what is true of each."""

from __future__ import annotations

import math
import random
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field
from enum import StrEnum
from typing import Any

from optics.base import settable
from optics.base.formats import Format
from optics.base.units import METRES
from optics.lens.kit import Kit
from optics.lens.ring import Ring
from optics.lens.setup import Setup

Facts = Mapping[str, Any]
"""Numbers in core units, and words that are keys: what a sentence about something needs."""


class Stage(StrEnum):
    """How a task is answered: one of some distances or settings in a row, which a picture may go
    with; one of some words; a row of a picture; a ring that is not seen; a moment."""

    DIAL = "dial"
    CHOICE = "choice"
    ROW = "row"
    TOUCH = "touch"
    MOMENT = "moment"


@dataclass(frozen=True, slots=True)
class Called:
    """A position that is called by its name: where its ring goes, and what it holds, mm."""

    name: str
    focus: float
    near: float
    far: float
    home: bool = False
    touch: str = ""


@dataclass(frozen=True, slots=True)
class Gear:
    """The lens that a drill is done with.

    ``kit``, ``f_number``  as of a planner; ``frame``: the format; ``pixel``: how wide one is, mm.
    ``ring``      its ring; ``closest``: the nearest that it goes to, mm.
    ``engraved``  what is on it, mm; empty for what rings usually carry.
    ``scale``     its depth-of-field marks, f-numbers, made for ``scale_circle``, mm.
    ``positions`` that a thumb is to find, one at least.
    ``turns``     1 where it is turned clockwise to infinity as seen from behind, else −1.
    """

    kit: Kit
    f_number: float
    frame: Format
    pixel: float
    ring: Ring
    closest: float
    engraved: tuple[float, ...] = ()
    scale: tuple[float, ...] = (4.0, 8.0, 11.0, 16.0)
    scale_circle: float = 0.033
    system: str = METRES
    turns: int = 1
    positions: tuple[Called, ...] = ()

    @property
    def setup(self) -> Setup:
        """At the aperture in hand."""
        return self.kit.at(self.f_number)

    @property
    def widest(self) -> float:
        """The widest of its apertures."""
        return float(self.kit.apertures[0])

    def closed(self, least: float) -> float:
        """The widest of its apertures that is ``least`` or smaller; its smallest if none is."""
        there = [float(n) for n in self.kit.apertures if n >= least * 0.97]
        return there[0] if there else float(self.kit.apertures[-1])


@dataclass(frozen=True, slots=True)
class Outcome:
    """What is true of an answer.

    ``right``  whether it is good enough. ``off``: how far it is off, in the drill's own measure,
               signed; 0 for what is right on.
    ``said``, ``was``  distances as judged and as they are, mm; nan where none was asked for.
    """

    right: bool
    off: float
    said: float = math.nan
    was: float = math.nan
    facts: Facts = field(default_factory=dict)


@dataclass(frozen=True, slots=True)
class Task:
    """One question.

    ``drill``, ``part``  the keys of its drill and of what of it this asks; ``level`` 1 to 3.
    ``stops``     what can be answered: distances in mm, or keys of words, or rows.
    ``outcomes``  what is true of each, in the same order. ``best``: which of them is right on.
    ``start``     where a dial stands at first.
    ``picture``, ``after``  how a picture of it is made, and of the truth: ``pictures``.
    ``facts``     of the question.
    """

    drill: str
    part: str
    level: int
    stage: Stage
    stops: tuple[Any, ...]
    outcomes: tuple[Outcome, ...]
    best: int
    start: int = 0
    facts: Facts = field(default_factory=dict)
    picture: Facts | None = None
    after: Facts | None = None


@dataclass(frozen=True, slots=True)
class Drill:
    """A drill. ``parts``: what it asks, in order, the easiest first. ``seconds`` that one takes,
    and ``unit``: how many are done in one go. ``make``: a task of a lens, chance, a part and a
    level."""

    key: str
    parts: tuple[str, ...]
    seconds: float
    unit: int
    make: Callable[[Gear, random.Random, str, int], Task]


LEVELS = (1, 2, 3)


def along(near: float, far: float, system: str, *, endless: bool = False) -> tuple[float, ...]:
    """Distances to choose from, mm, each one that is said or set without thinking, 5 % apart or as
    close to it as that allows. ``endless``: infinity at the end."""
    count = math.ceil(math.log(far / near) / _APART)
    rising = (near * (far / near) ** (at / count) for at in range(count + 1))
    found = sorted({settable.nearest(one, system) for one in rising})
    return (*found, math.inf) if endless else tuple(found)


_APART = math.log(1.05)


def nearest_stop(stops: Sequence[float], wanted: float) -> int:
    """Which of some distances, mm, up to inf, is nearest to one: in 1/distance."""
    inverse = 0.0 if math.isinf(wanted) else 1.0 / wanted
    return min(range(len(stops)), key=lambda at: abs(1.0 / stops[at] - inverse))
