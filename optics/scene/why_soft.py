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
from dataclasses import dataclass, replace
from enum import StrEnum

from optics.lens.cone import Cone
from optics.lens.conjugates import magnification
from optics.lens.diffraction import combine
from optics.lens.setup import Setup
from optics.light.motion import streak_as_disc
from optics.scene.fell import CLEAR, Fell, Shown, where_it_fell


class Cause(StrEnum):
    """What makes a mark soft."""

    NEAR = "focused too near"
    FAR = "focused too far"
    MISSED = "missed focus"
    DEPTH = "too little depth of field"
    DIFFRACTION = "diffraction"
    LENS = "the lens"
    SHIFT = "focus shift"
    MOVING = "it moved"
    SHAKE = "the camera moved"
    DRIFT = "the stars moved on"
    HAZE = "haze"


_ENOUGH = 0.4
"""Of the marks that could tell: as many must have moved alike for the camera to have moved."""
_HAZY, _CLEAR_AIR = 0.5, 1.6
"""Contrast that a mark must have less of, and by that factor less than the clearest, for haze."""


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
    parts += _of_shift(setup, ring, one.depth)
    shifted = math.hypot(*(part.blur for part in parts if part.cause is Cause.SHIFT), 0.0)
    really = _without(float(Cone.at(setup, ring).blur(one.depth)), shifted)
    by_plan = _without(by_plan, shifted)
    off = abs(ring - meant) * setup.focal_length / setup.f_number
    missed = abs(ring - meant) > CLEAR * fell.error and off > 0.3 * setup.coc
    if not missed or by_plan > really:
        return [*parts, Part(Cause.DEPTH, really)]
    more = _without(really, by_plan)
    way = Cause.MISSED if not fell.sure else Cause.NEAR if ring > meant else Cause.FAR
    return [*parts, Part(way, more), Part(Cause.DEPTH, by_plan)]


def _of_shift(setup: Setup, ring: float, depth: float) -> list[Part]:
    """What a lens that is known to shift its focus as it closes adds to the blur of a mark, beyond
    what there would be without."""
    if not setup.focus_shift:
        return []
    still = replace(setup, focus_shift=0.0)
    with_it, without = (float(Cone.at(one, ring).blur(depth)) for one in (setup, still))
    return [Part(Cause.SHIFT, _without(with_it, without))] if with_it > without else []


def _without(whole: float, part: float) -> float:
    """What is left of a blur without a part of it: they add as squares."""
    return math.sqrt(max(whole**2 - part**2, 0.0))


def _of_air(one: Shown, marks: Sequence[Shown]) -> list[Part]:
    clearest = max(other.contrast for other in marks)
    farther = one.depth > min((o.depth for o in marks if o.depth == o.depth), default=math.inf)
    if farther and one.contrast < _HAZY and clearest > _CLEAR_AIR * one.contrast:
        return [Part(Cause.HAZE, 1.0 - one.contrast / clearest)]
    return []
