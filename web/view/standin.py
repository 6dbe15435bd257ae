"""Focusing on something else: what stands in the window, what the autofocus box covers, and what
swinging back to the composition costs."""

from __future__ import annotations

import math
from dataclasses import dataclass

from optics.base import settable
from optics.base.errors import OpticsError
from optics.lens import focusing
from optics.scene import frame
from optics.scene.answer import Answer
from optics.scene.camera import Camera
from web.view.panels import Panels

BOX_SHAPE = 1.5
"""How much wider than high an autofocus box is, in the frame as held."""


@dataclass(frozen=True, slots=True)
class Box:
    """The autofocus box in the frame: shares from the left and from below, and its ground.

    ``near``, ``far``: the depths of the ground in it, mm; None where it shows none. ``warning``:
    empty if it is safe to focus with.
    """

    left: float
    bottom: float
    width: float
    height: float
    near: float | None
    far: float | None
    over: tuple[str, ...]
    warning: str
    placed: bool

    @property
    def fits(self) -> bool:
        """Whether all of its ground lies in the window, and nothing nearer in front."""
        return not self.warning


@dataclass(frozen=True, slots=True)
class Swing:
    """Focusing with the middle of the frame on the ground to focus on, and swinging back.

    ``angle``: degrees. ``depth``: what the thing is deep after the swing, mm; ``reads``: what the
    ring reads then. ``holds``: whether the ring is still in the window.
    """

    angle: float
    depth: float
    reads: float
    holds: bool


@dataclass(frozen=True, slots=True)
class StandIn:
    """``inside``: names of marks in the window, for sure; ``maybe``: those only at their depth."""

    inside: tuple[str, ...]
    maybe: tuple[str, ...]
    box: Box | None
    swing: Swing | None


def stand_in(answer: Answer, panels: Panels) -> StandIn:
    """What can stand in for the ring's distance in this scene."""
    window = answer.given_window
    inside: list[str] = []
    maybe: list[str] = []
    if window is not None:
        for mark in answer.scene.marks:
            if not window.holds(mark.depth) or mark.depth < answer.scene.closest:
                continue
            sure = window.holds(mark.depth - mark.uncertainty) and window.holds(
                mark.depth + mark.uncertainty
            )
            (inside if sure else maybe).append(mark.name)
    box = _box(answer, panels)
    return StandIn(tuple(inside), tuple(maybe), box, _swing(answer, box))


def _box(answer: Answer, panels: Panels) -> Box | None:
    camera = answer.scene.camera
    if camera is None:
        return None
    height = panels.box
    width = min(height * BOX_SHAPE * camera.frame_height / camera.frame_width, 1.0)
    across, up = panels.box_at or (0.5, _row_of(camera, answer.ring.focus))
    left = min(max(across - width / 2, 0.0), 1.0 - width)
    bottom = min(max(up - height / 2, 0.0), 1.0 - height)
    near = float(frame.ground(camera, bottom).depth)
    far = float(frame.ground(camera, bottom + height).depth)
    over = _covered(answer, left, bottom, width, height)
    warning = _warning(answer, near, far, over)
    return Box(
        left=left,
        bottom=bottom,
        width=width,
        height=height,
        near=near if math.isfinite(near) else None,
        far=far,
        over=tuple(letter for letter, _ in over),
        warning=warning,
        placed=panels.box_at is not None,
    )


def _row_of(camera: Camera, depth: float) -> float:
    try:
        row = frame.row_of_depth(camera, depth)
    except OpticsError:
        return 0.5
    return min(max(row, 0.0), 1.0) if math.isfinite(row) else 0.5


def _covered(
    answer: Answer, left: float, bottom: float, width: float, height: float
) -> list[tuple[str, float]]:
    """Marks in the box that were put into the frame, and so have a place across it."""
    camera = answer.scene.camera
    assert camera is not None
    found = []
    for mark in answer.scene.marks:
        if mark.at is None:
            continue
        up = mark.at[1]
        if math.isfinite(mark.rise):
            try:
                up = frame.row_of_depth(camera, mark.depth, mark.rise)
            except OpticsError:
                continue
        if left <= mark.at[0] <= left + width and bottom <= up <= bottom + height:
            found.append((mark.letter, mark.depth))
    return found


def _warning(answer: Answer, near: float, far: float, over: list[tuple[str, float]]) -> str:
    window = answer.given_window
    if answer.more_frames:
        return ""
    if window is None:
        return "There is no window to focus in: nothing in the box can be right."
    for letter, depth in over:
        if depth < window.nearest:
            return f"It reaches over {letter}, which is nearer: autofocus may take that instead."
    if over and all(window.holds(depth) for _, depth in over):
        return ""
    if math.isinf(near):
        return "" if math.isinf(window.farthest) else "It sees only sky, or what stands up in it."
    if near < window.nearest and far > window.farthest:
        return "It spans more than the window, nearer and farther: a smaller box, or a stand-in."
    if near < window.nearest:
        return "Its lower part reaches ground nearer than the window: put it higher."
    if far > window.farthest:
        return "Its upper part reaches ground beyond the window: put it lower."
    return ""


def _swing(answer: Answer, box: Box | None) -> Swing | None:
    camera, window, focus = answer.scene.camera, answer.given_window, answer.ring.focus
    if camera is None or box is None or window is None or math.isinf(focus):
        return None
    across, up = box.left + box.width / 2, box.bottom + box.height / 2
    t, s = float(camera.below_axis(up)), float(camera.beside_axis(across))
    angle = math.atan(math.hypot(t, s))
    system = answer.scene.system
    reads = settable.nearest(focus / math.cos(angle), system, settable.FINE)
    return Swing(
        angle=math.degrees(angle),
        depth=focusing.swung(reads, angle),
        reads=reads,
        holds=window.holds(reads),
    )
