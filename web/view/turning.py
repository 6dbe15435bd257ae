"""The ring turned by hand: dragged along the axis, or stepped by the keyboard."""

from __future__ import annotations

from optics.lens.conjugates import nearest_focus
from optics.scene.answer import answer
from optics.scene.scenes import Scene
from web.planner.axis import Axis, Step
from web.planner.axis import turned as turned_on


def turned(scene: Scene, step: Step, axis: Axis) -> float:
    """Where the ring stands after a move, mm, on a distance that a hand can set."""
    least = nearest_focus(scene.setup)
    start = scene.ring
    if start is None:
        start = least if step.to is not None else answer(scene).ring.focus
    return turned_on(start, step, axis, scene.system, least)
