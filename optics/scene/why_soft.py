"""Why a mark came out soft: the budget of its blur, by the plan and by what the picture shows.

What the picture shows of each mark is how wide its edges are blurred alike all round, and how long
they were drawn out and in which direction. What is known beforehand is the lens at its aperture,
where the ring was meant to be, how deep the marks stand, and how long the shutter was open. From
the round blurs of marks at known depths together follows where the focus really fell: one number,
the ring's magnification. A single mark tells how far it was missed, and not which way.

Blurs are equivalent discs on the sensor, mm; those of different origin add as squares [gauss].
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum

import numpy as np

from optics.base.errors import require_finite, require_positive
from optics.base.numbers import Array
from optics.lens.cone import Cone
from optics.lens.conjugates import focus_of, magnification
from optics.lens.diffraction import combine
from optics.lens.setup import Setup
from optics.light.motion import streak_as_disc


class Cause(StrEnum):
    """What makes a mark soft."""

    NEAR = "focused too near"
    FAR = "focused too far"
    MISSED = "missed focus"
    DEPTH = "too little depth of field"
    DIFFRACTION = "diffraction"
    LENS = "the lens"
    MOVING = "it moved"
    SHAKE = "the camera moved"
    DRIFT = "the stars moved on"
    HAZE = "haze"


CLEAR = 2.0
"""Standard errors by which something must stand out to be said."""
_ALIKE_TURN, _ALIKE_LENGTH = math.radians(25.0), 1.6
"""Two movements are one if they go the same way within that, and are as long within that factor."""
_ENOUGH = 0.4
"""Of the marks that could tell: as many must have moved alike for the camera to have moved."""
_HAZY, _CLEAR_AIR = 0.5, 1.6
"""Contrast that a mark must have less of, and by that factor less than the clearest, for haze."""
_TRIED = 400
_KNOWN_DEPTH = 0.02
"""Of a depth: what a mark's place is unsure by at the best."""


@dataclass(frozen=True, slots=True)
class Shown:
    """What a picture shows of a mark.

    ``letter``    of the mark; ``depth`` mm from the sensor, up to inf; nan where it is not known.
    ``disc``      how wide it is blurred alike all round, mm, with its standard error.
    ``length``    how long it was drawn out, mm, with its standard error, and its ``direction``,
                  radians.
    ``contrast``  (lightest − darkest) ÷ (lightest + darkest), 0 to 1.
    ``star``      whether it is one, or a field of them.
    Raises NotANumber, OutOfRange.
    """

    letter: str
    depth: float
    disc: float
    disc_error: float
    length: float = 0.0
    length_error: float = 1e-6
    direction: float = 0.0
    contrast: float = 1.0
    star: bool = False

    def __post_init__(self) -> None:
        require_positive("disc", self.disc, "blur", zero=True)
        require_positive("disc_error", self.disc_error, "error of the blur")
        require_positive("length", self.length, "length of the streak", zero=True)
        require_positive("length_error", self.length_error, "error of the length")
        require_finite("direction", self.direction, "direction")

    @property
    def moved(self) -> bool:
        """Whether it was drawn out, more than chance makes of nothing."""
        return self.length > CLEAR * self.length_error

    @property
    def total(self) -> float:
        """All of its blur."""
        return math.hypot(self.disc, streak_as_disc(self.length) if self.moved else 0.0)

    @property
    def error(self) -> float:
        """Of that, a standard error."""
        return math.hypot(self.disc_error, streak_as_disc(self.length_error) if self.moved else 0.0)

    def moved_with(self, other: Shown) -> bool:
        """Whether both moved as one."""
        turned = abs(math.remainder(self.direction - other.direction, math.pi))
        longer = max(self.length, other.length) / max(min(self.length, other.length), 1e-9)
        return self.moved and other.moved and turned < _ALIKE_TURN and longer < _ALIKE_LENGTH


@dataclass(frozen=True, slots=True)
class Fell:
    """Where the focus fell: the ring's magnification and its standard error; ``sure``: whether no
    other place explains the picture as well."""

    ring: float
    error: float
    sure: bool


@dataclass(frozen=True, slots=True)
class Part:
    """A part of a mark's blur: its cause and how much, an equivalent disc, mm; for haze the share
    of contrast that is lost."""

    cause: Cause
    blur: float


@dataclass(frozen=True, slots=True)
class Why:
    """What is said of a mark.

    ``soft``    whether it is softer than the standard, more than its error; ``known`` whether that
                can be told at all.
    ``parts``   its causes, the largest first; of a sharp mark what little there is.
    ``fell``    where the focus fell; None where nothing tells it.
    ``left``    blur that no cause explains, mm; 0 where all is explained.
    ``wanted``  the widest blur that is called sharp, mm.
    """

    letter: str
    soft: bool
    known: bool
    total: float
    parts: tuple[Part, ...]
    fell: Fell | None
    left: float
    wanted: float

    @property
    def first(self) -> Cause | None:
        """What made it soft most of all; None where it is not, or nothing can be said."""
        return self.parts[0].cause if self.soft and self.parts else None


def why_soft(setup: Setup, planned: float, marks: Sequence[Shown]) -> tuple[Why, ...]:
    """Why each mark came out as it did.

    ``setup``    the lens at the aperture taken, with what is known of its faults; its standard is
                 what is called sharp.
    ``planned``  where the ring was meant to be, mm from the sensor, up to inf.
    Raises NotANumber, OutOfRange, FocusTooNear, SubjectTooNear.
    """
    fell = where_it_fell(setup, planned, marks)
    meant = float(magnification(setup, planned))
    return tuple(_why(setup, meant, one, marks, fell) for one in marks)


def where_it_fell(setup: Setup, planned: float, marks: Sequence[Shown]) -> Fell | None:
    """Where the focus fell, from the round blurs of marks whose depths are known; None where none
    is. Of two places that explain the picture as well, the one nearer to ``planned`` is told, and
    that it is not sure."""
    told = [one for one in marks if one.depth == one.depth and one.disc_error < 0.5 * one.disc + 1]
    if not told:
        return None
    meant = float(magnification(setup, planned))
    rings = _tried(setup, meant, told)
    misfit = np.array([_misfit(setup, float(ring), told) for ring in rings])
    best = int(np.argmin(misfit))
    scale = max(float(misfit[best]) / max(len(told) - 1, 1), 1.0)
    within = misfit <= misfit[best] + scale
    also = (misfit <= misfit[best] + CLEAR**2 * scale) & ~_next_to(within, best)
    valleys = [k for k in _valleys(misfit) if also[k] or k == best]
    chosen = min(valleys, key=lambda k: abs(float(rings[k]) - meant)) if valleys else best
    near_best = _next_to(misfit <= misfit[chosen] + scale, chosen)
    low, high = float(rings[near_best].min()), float(rings[near_best].max())
    step = float(rings[1] - rings[0])
    return Fell(float(rings[chosen]), max(0.5 * (high - low), step), len(valleys) < 2)


def _tried(setup: Setup, meant: float, told: Sequence[Shown]) -> Array:
    """Rings that may be: from past infinity to nearer than the nearest mark."""
    nearest = min((one.depth for one in told), default=math.inf)
    ring = max(meant, float(magnification(setup, max(nearest, 4.2 * setup.focal_length))))
    reach = 3.0 * max(one.disc for one in told) * setup.f_number / setup.focal_length
    return np.linspace(-reach, min(ring + reach + 1e-6, 0.9), _TRIED)


def _misfit(setup: Setup, ring: float, told: Sequence[Shown]) -> float:
    total = 0.0
    for one in told:
        # A mark's depth is never known exactly: what its blur would change by counts as error.
        blur = predicted(setup, ring, one.depth)
        nearer = one.depth * (1 - _KNOWN_DEPTH) if math.isfinite(one.depth) else one.depth
        unsure = math.hypot(one.disc_error, predicted(setup, ring, nearer) - blur)
        total += ((blur - one.disc) / unsure) ** 2
    return total


def predicted(setup: Setup, ring: float, depth: float) -> float:
    """The round blur of something at a depth, with the ring truly at a magnification, mm."""
    cone = Cone.at(setup, ring)
    working = setup.f_number * (1.0 + max(ring, 0.0) / setup.pupil_ratio)
    return math.hypot(float(combine(float(cone.blur(depth)), float(working))), setup.lens_disc)


def _valleys(misfit: Array) -> list[int]:
    """Where a misfit is lower than on both sides."""
    inner = (misfit[1:-1] <= misfit[:-2]) & (misfit[1:-1] < misfit[2:])
    return [int(k) + 1 for k in np.flatnonzero(inner)]


def _next_to(those: np.ndarray, at: int) -> np.ndarray:
    """Of flags, those that hang together with the one at a place."""
    kept = np.zeros_like(those)
    for step in (1, -1):
        k = at
        while 0 <= k < len(those) and (those[k] or k == at):
            kept[k] = True
            k += step
    return kept


def _why(setup: Setup, meant: float, one: Shown, marks: Sequence[Shown], fell: Fell | None) -> Why:
    parts = [*_of_movement(one, marks), *_of_focus(setup, meant, one, fell), *_of_air(one, marks)]
    total, wanted = one.total, setup.coc
    hazy = any(part.cause is Cause.HAZE for part in parts)
    soft = total - CLEAR * one.error > wanted or (total > wanted and one.error < 0.1 * wanted)
    known = soft or total + CLEAR * one.error <= wanted or one.error < 0.25 * wanted
    explained = math.hypot(*(p.blur for p in parts if p.cause is not Cause.HAZE), 0.0)
    left = math.sqrt(max((total - CLEAR * one.error) ** 2 - explained**2, 0.0))
    parts = [part for part in parts if part.cause is Cause.HAZE or part.blur > 0.15 * total]
    parts.sort(key=lambda part: -part.blur if part.cause is not Cause.HAZE else 0.0)
    if hazy and not soft:
        parts.sort(key=lambda part: part.cause is not Cause.HAZE)
    left = left if left > max(explained, 0.5 * wanted) else 0.0
    return Why(one.letter, soft or hazy, known or hazy, total, tuple(parts), fell, left, wanted)


def _of_movement(one: Shown, marks: Sequence[Shown]) -> list[Part]:
    if not one.moved:
        return []
    others = [other for other in marks if other is not one]
    with_it = [other for other in others if one.moved_with(other)]
    blur = streak_as_disc(one.length)
    if one.star and all(not other.moved for other in others if not other.star):
        return [Part(Cause.DRIFT, blur)]
    if others and len(with_it) >= max(_ENOUGH * len(others), 1):
        return [Part(Cause.SHAKE, blur)]
    return [Part(Cause.MOVING, blur)]


def _of_focus(setup: Setup, meant: float, one: Shown, fell: Fell | None) -> list[Part]:
    """What the round part of a mark's blur comes from."""
    ring = meant if fell is None else fell.ring
    working = setup.f_number * (1.0 + max(ring, 0.0) / setup.pupil_ratio)
    parts = [
        Part(Cause.DIFFRACTION, float(combine(0.0, float(working)))),
        Part(Cause.LENS, setup.lens_disc),
    ]
    if one.depth != one.depth:
        rest = math.sqrt(max(one.disc**2 - sum(part.blur**2 for part in parts), 0.0))
        return [*parts, Part(Cause.MISSED, rest)]
    by_plan = float(Cone.at(setup, meant).blur(one.depth))
    if fell is None:
        return [*parts, Part(Cause.DEPTH, by_plan)]
    really = float(Cone.at(setup, ring).blur(one.depth))
    off = abs(ring - meant) * setup.focal_length / setup.f_number
    missed = abs(ring - meant) > CLEAR * fell.error and off > 0.3 * setup.coc
    if not missed or by_plan > really:
        return [*parts, Part(Cause.DEPTH, really)]
    more = math.sqrt(max(really**2 - by_plan**2, 0.0))
    way = Cause.MISSED if not fell.sure else Cause.NEAR if ring > meant else Cause.FAR
    return [*parts, Part(way, more), Part(Cause.DEPTH, by_plan)]


def _of_air(one: Shown, marks: Sequence[Shown]) -> list[Part]:
    clearest = max(other.contrast for other in marks)
    farther = one.depth > min((o.depth for o in marks if o.depth == o.depth), default=math.inf)
    if farther and one.contrast < _HAZY and clearest > _CLEAR_AIR * one.contrast:
        return [Part(Cause.HAZE, 1.0 - one.contrast / clearest)]
    return []


def fell_on(setup: Setup, fell: Fell) -> float:
    """The distance that a ring where the focus fell is set to, mm from the sensor; inf at infinity
    and past it."""
    return math.inf if fell.ring <= 0 else float(focus_of(setup, min(fell.ring, 1.0)))
