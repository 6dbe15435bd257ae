"""The drawn axis that planners share: its sizes by screen, and its ends while a hand holds it."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass

from drawing import sightline
from optics.base import settable


@dataclass(frozen=True, slots=True)
class Axis:
    """The ends of a drawn axis, mm: what a picture in the hand of the user must keep."""

    near: float
    far: float


SIZES = {size.name: size for size in (sightline.WIDE, sightline.NARROW)}
"""A picture for each kind of screen: letters keep their size, the axis its room."""


def axis_from(data: Mapping[str, object]) -> Axis | None:
    """The axis a page says it shows; None if it says nothing that can be used."""
    try:
        axis = Axis(float(str(data["axis_near_mm"])), float(str(data["axis_far_mm"])))
    except (KeyError, ValueError):
        return None
    drawn = axis.far <= FARTHEST or math.isinf(axis.far)
    usable = axis.near >= NEAREST and axis.near * _LEAST_RATIO <= axis.far and drawn
    return axis if usable else None


@dataclass(frozen=True, slots=True)
class Step:
    """A move of the ring: to a distance on the axis, mm, or by so many steps of the keyboard."""

    to: float | None
    by: int


NEAREST, FARTHEST = 1.0, 1e9
"""mm: what a picture shows, and a hand moves to; beyond is infinity."""
_LEAST_RATIO = 1 + 1e-6
MOST_STEPS = 100
STEPS_ACROSS = 80
"""Arrow presses from one end of the axis to the other."""


def step_from(data: Mapping[str, object]) -> Step | None:
    """The move a page asks for; None for none."""
    try:
        if "drag_mm" in data:
            distance = float(str(data["drag_mm"]))
            if math.isnan(distance) or distance <= 0:
                return None
            reached = distance if distance <= FARTHEST else math.inf
            return Step(to=max(reached, NEAREST), by=0)
        if "ring_step" in data:
            steps = int(str(data["ring_step"]))
            return Step(to=None, by=max(-MOST_STEPS, min(steps, MOST_STEPS)))
    except ValueError:
        return None
    return None


def turned(start: float, step: Step, axis: Axis, system: str, least: float) -> float:
    """Where the ring stands after a move from ``start``, mm, on a distance that a hand can set.

    Positive steps go towards infinity. On a short axis the steps are fine ones. ``least``: the
    nearest the ring goes, mm.
    """
    span = 1 / axis.near - 1 / axis.far
    if step.to is not None:
        figures = figures_on(step.to, span, system)
        return settable.reached(settable.nearest(step.to, system, figures), system, least)
    figures = figures_on(start, span, system)
    move = -step.by * span / STEPS_ACROSS
    return settable.shift(start, move, system, figures, least)


def figures_on(distance: float, span: float, system: str) -> int:
    """Coarse figures, unless one coarse step would be more than a fortieth of the axis."""
    if math.isinf(distance):
        return settable.COARSE
    step = settable.grid_step(distance, system, settable.COARSE) / distance**2
    return settable.COARSE if step < span / 40 else settable.FINE
