"""What Street works with, in core units."""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, field, replace
from functools import lru_cache

import numpy as np

from optics import Kit, Setup
from optics.base import settable
from optics.base.formats import Format
from optics.base.numbers import Array
from optics.base.systems import BY_KEY
from optics.base.units import METRES
from optics.zones.subjects import People, Spread
from web.hand.in_use import InUse
from web.people.models import USUAL_LAG

USUAL_SPEED = 1400.0
"""mm/s: somebody who walks with somewhere to go."""
USUAL_ANGLE = math.radians(15.0)
"""How far from straight on a passer-by comes: past one's shoulder, not into one's arms."""
USUAL_LIGHT = 12.0
USUAL_ISO_MOST = 6400.0
USUAL_SLOWEST = 1 / 250
BASE_ISO = 100.0
_FEW = 6.0
"""So many times as near, or as far, as the distance that people stand round, there are few."""
MOST_POSITIONS = 9
"""More no thumb learns."""
FARTHEST_SETTABLE = 100_000.0
"""mm: past that a ring is set to infinity."""


@dataclass(frozen=True, slots=True)
class Street:
    """A lens, an aperture, a distance one likes to work at, and what else was said. mm, s, mm/s.

    ``near``, ``far``  of the band; None where it is to follow from the distance liked.
    ``home``           a focus distance that stays, None to have it found; ``locked``: others.
    ``angle``          of a passer-by's way to the lens's axis, radians, 0 straight at it.
    ``bar``            the circle that a bar on the screen was made for, mm; None for no reading.
    ``touched``        the settings a thumb finds without looking, by their names.
    ``set_for``        the f-number that the ring was set for, where it stays as the aperture is
                       changed; None where the ring goes with the aperture.
    ``judging``        how far off distances are judged, as a share. ``spread``: how people spread
                       over the street.
    ``ev``             of the light, at ISO 100. ``slowest``: the longest time that will do.
    """

    kit: Kit
    f_number: float
    format: Format
    pixels_across: int | None
    upright: bool
    system: str
    like: float
    near: float | None
    far: float | None
    count: int
    home: float | None
    locked: tuple[float, ...]
    judging: float
    in_use: InUse
    touched: tuple[tuple[str, float], ...] = ()
    bar: float | None = None
    set_for: float | None = None
    spread: Spread = Spread.ROUND
    speed: float = USUAL_SPEED
    angle: float = USUAL_ANGLE
    lag: float = USUAL_LAG
    ev: float = USUAL_LIGHT
    iso_most: float = USUAL_ISO_MOST
    slowest: float = USUAL_SLOWEST
    setup: Setup = field(init=False, repr=False, compare=False)
    """The lens at its aperture, and the standard."""

    def __post_init__(self) -> None:
        object.__setattr__(self, "setup", self.kit.at(self.f_number))

    def at(self, f_number: float) -> Street:
        """The same street with the lens at another aperture."""
        return replace(self, f_number=f_number)

    @property
    def placed(self) -> Street:
        """The street with the lens at the aperture that the ring is set for."""
        return self if self.set_for is None else self.at(self.set_for)

    @property
    def liked(self) -> float:
        """Where home is wanted, mm: where it was put, else where somebody likes to work."""
        return self.worked_at if self.home is None else self.home

    @property
    def worked_at(self) -> float:
        """Where somebody likes to work, mm, as a ring can be set to it."""
        exactly = settable.typed(self.like, self.system, self.closest)
        as_said = math.isclose(exactly, self.like, rel_tol=1e-6)
        return exactly if as_said else self.settable(self.like)

    @property
    def people(self) -> People:
        """Who turns up: in the band as typed, else about the distance liked. The same for every
        aperture, number of positions and school."""
        least, most = (2.0, 4.0) if self.spread is Spread.STRIDE else (_FEW, _FEW)
        near, far = self.near, self.far
        if near is None:
            near = self.worked_at / least
            near = settable.nearest(near if far is None else min(near, far / 2), self.system)
        if far is None:
            far = settable.nearest(max(self.worked_at * most, 2 * near), self.system)
        return People(near, far, self.spread, self.worked_at)

    @property
    def closest(self) -> float:
        """The nearest that the lens focuses, mm."""
        return self.kit.closest

    @property
    def frame_height(self) -> float:
        """Of the picture as held, mm."""
        return self.format.width if self.upright else self.format.height

    @property
    def frame_width(self) -> float:
        """Of the picture as held, mm."""
        return self.format.height if self.upright else self.format.width

    @property
    def apertures(self) -> Sequence[float]:
        """What the lens can be set to, widest first."""
        return self.kit.apertures

    @property
    def engraved(self) -> Array:
        """Distances to set at a glance: those engraved, and those a thumb finds."""
        lens = self.in_use.lens
        marks = lens.engraved(self.system) if lens is not None and lens.has_scale else ()
        marks = marks or BY_KEY[self.system].ring
        return _engraved_reached(marks, self.system, self.closest, self.touched)

    def on_grid(self, figures: int) -> Array:
        """Distances that can be set between what is engraved, to so many figures."""
        return _grid_reached(self.system, figures, self.closest, self.touched)

    def settable(self, distance: float) -> float:
        """The nearest distance on the coarse grid that the lens reaches, mm."""
        return settable.reached(settable.nearest(distance, self.system), self.system, self.closest)


def _reached(
    distances: Iterable[float], closest: float, touched: tuple[tuple[str, float], ...]
) -> Array:
    """Those a lens reaches, with those a thumb finds and infinity, in order."""
    wanted = {*distances, math.inf, *(distance for _, distance in touched)}
    return np.array(sorted(d for d in wanted if d >= closest * (1 - 1e-9)))


@lru_cache(maxsize=64)
def _engraved_reached(
    marks: tuple[float, ...],
    system: str,
    closest: float,
    touched: tuple[tuple[str, float], ...],
) -> Array:
    fine = (settable.typed(mark, system, closest) for mark in marks)
    return _reached(fine, closest, touched)


@lru_cache(maxsize=64)
def _grid_reached(
    system: str, figures: int, closest: float, touched: tuple[tuple[str, float], ...]
) -> Array:
    return _reached(grid(system, figures), closest, touched)


@lru_cache(maxsize=8)
def grid(system: str = METRES, figures: int = settable.COARSE) -> tuple[float, ...]:
    """All distances of a grid from 10 cm to 100 m, and infinity."""
    found, at = [], settable.up(BY_KEY[system].closest, system, figures)
    while at <= FARTHEST_SETTABLE * (1 + 1e-9):
        found.append(at)
        at = settable.nearest(at + settable.grid_step(at, system, figures), system, figures)
    return (*found, math.inf)
