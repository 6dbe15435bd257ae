"""The ring turned by hand: dragged along the axis, or stepped by the keyboard."""

from __future__ import annotations

import math
from dataclasses import dataclass

from optics import settable
from optics.lens import nearest_focus
from web.view.scenes import Ring, Scene
from web.view.usecases import answer


@dataclass(frozen=True, slots=True)
class Step:
    """A move of the ring: to a distance on the axis, or by so many steps of the keyboard."""

    to: float | None
    by: int


STEPS_ACROSS = 80
"""Arrow presses from one end of the axis to the other."""


def turned(scene: Scene, step: Step, axis_near: float, axis_far: float) -> Ring:
    """Where the ring stands after a move, on a distance that a hand can set.

    ``axis_near``, ``axis_far``: mm, the ends of the drawn axis. Positive steps go towards
    infinity. On a short axis the steps are fine ones.
    """
    span = 1 / axis_near - 1 / axis_far
    least = float(nearest_focus(scene.setup))
    if step.to is not None:
        figures = figures_on(step.to, span, scene.system)
        return Ring(max(settable.nearest(step.to, scene.system, figures), least), figures)
    start = scene.ring if scene.ring is not None else answer(scene).ring.focus
    figures = figures_on(start, span, scene.system)
    move = -step.by * span / STEPS_ACROSS
    return Ring(settable.shift(start, move, scene.system, figures, least), figures)


def figures_on(distance: float, span: float, system: str) -> int:
    """Coarse figures, unless one coarse step would be more than a fortieth of the axis."""
    if math.isinf(distance):
        return settable.COARSE
    step = settable.grid_step(distance, system, settable.COARSE) / distance**2
    return settable.COARSE if step < span / 40 else settable.FINE
