"""Focus here: where in the picture does the focus point go, so that both ends hold?

The measure is how far the setting lies outside the window that holds both, in 1/distance, as a
share of that window: below 0 for too near, 0 inside it.
"""

from __future__ import annotations

import math
import random

from drills.tasks import Drill, Gear, Outcome, Stage, Task
from optics.base import settable
from optics.base.errors import OutOfRange
from optics.lens.aperture import widest_holding
from optics.lens.depth import counted_blur
from optics.lens.focus_window import Window, focus_window
from optics.lens.setup import Setup
from optics.scene.camera import Camera
from optics.scene.frame import ground, row_of_depth

RIDGE, WALL = "ridge", "wall"
ROWS = 61
THIRD = round((ROWS - 1) / 3)
"""The row a third of the way up."""
_ROOM = {1: 1.5, 2: 1.25, 3: 1.1}
"""By level: times the f-number that is needed, so that there is a window to hit."""


def make(gear: Gear, luck: random.Random, part: str, level: int) -> Task:
    """A slab on the ground near by, and a ridge or a wall behind."""
    for at in range(_TRIES):
        # A long lens holds a ridge from far away only, and so from higher up, or not at all.
        wanted = part if at < _TRIES / 2 else WALL
        least, most = (4.0, 9.0) if at < _TRIES / 4 else (1.2, 3.0)
        high = 1.0 if at < _TRIES / 4 else 2.5
        task = _tried(gear, luck, wanted, level, high, (least, most))
        if task is not None:
            return task
    raise OutOfRange("focal_length", gear.kit.focal_length, "No ground is held by this lens.")


_TRIES = 120


def _tried(
    gear: Gear, luck: random.Random, part: str, level: int, high: float, to: tuple[float, float]
) -> Task | None:
    """One that chance makes; None where it cannot be solved. ``high``: times the usual height; the
    wall stands so many times as far away as the slab."""
    frame, focal = gear.frame, gear.kit.focal_length
    half = math.atan(frame.height / 2 / focal)
    camera = Camera(
        luck.uniform(700, 1500) * high, luck.uniform(0.15, 0.55) * half, 0.0, focal,
        frame.height, frame.width,
    )  # fmt: skip
    depth = float(ground(camera, luck.uniform(0.04, 0.2)).depth)
    if not depth < _FARTHEST:
        return None
    near = settable.nearest(depth, gear.system)
    far = math.inf
    if part == WALL:
        far = settable.nearest(near * luck.uniform(*to), gear.system)
    if near < max(4.2 * focal, gear.closest) or far <= near:
        return None
    found = _setup(gear, near, far, level)
    if found is None:
        return None
    task = _task(gear, luck, part, level, camera, near, far, *found)
    return task if task.outcomes[task.best].right else None


_FARTHEST = 200_000.0
"""mm: a slab farther away is not seen."""


def _setup(gear: Gear, near: float, far: float, level: int) -> tuple[Setup, Window] | None:
    """An aperture that holds both, with some room; None where none does."""
    needed = widest_holding(gear.setup, near, far)
    if needed is None:
        return None
    setup = gear.kit.at(gear.closed(float(needed) * _ROOM[level]))
    window = focus_window(setup, near, far)
    return None if window is None else (setup, window)


def _task(gear: Gear, luck: random.Random, part: str, level: int, camera: Camera, near: float,
          far: float, setup: Setup, window: Window) -> Task:  # fmt: skip
    rows = tuple(at / (ROWS - 1) for at in range(ROWS))
    low, high = 1.0 / window.farthest, 1.0 / window.nearest

    def outcome(row: float) -> Outcome:
        depth = float(ground(camera, row).depth)
        back = math.inf if depth > far else depth
        focus = min(far, back) if math.isfinite(far) else depth
        focus = max(focus, gear.closest)
        inverse = 1.0 / focus
        off = max(inverse - high, 0.0) - max(low - inverse, 0.0)
        ends = [float(counted_blur(setup, end, focus)) / setup.coc for end in (near, far)]
        read = settable.nearest(focus, gear.system) if math.isfinite(focus) else focus
        facts = {"focus": read, "near": ends[0], "far": ends[1]}
        return Outcome(off == 0.0, -off / max(high - low, 1e-9), facts=facts)

    outcomes = tuple(outcome(row) for row in rows)
    middle = 0.5 * (low + high)
    best = min(range(ROWS), key=lambda at: _miss(camera, rows[at], far, middle))
    facts = {
        "f_number": setup.f_number, "near": near, "far": far, "third": THIRD,
        "holds": [at for at in range(ROWS) if outcomes[at].right],
        "height": camera.height, "tilt": camera.tilt,
    }  # fmt: skip
    return Task(
        "focus", part, level, Stage.ROW, rows, outcomes, best, 1, facts,
        picture={
            "of": "ground", "focal": camera.focal_length, "width": camera.frame_width,
            "height": camera.frame_height, "up": camera.height, "tilt": camera.tilt, "near": near,
            "far": far if math.isfinite(far) else 0.0, "aside": luck.uniform(-0.2, 0.2),
            "row": float(row_of_depth(camera, near)), "seed": luck.randrange(10**6),
        },
    )  # fmt: skip


def _miss(camera: Camera, row: float, far: float, wanted: float) -> float:
    """How far a row's depth is from a setting, in 1/distance."""
    return abs(1.0 / min(float(ground(camera, row).depth), far) - wanted)


DRILL = Drill("focus", (RIDGE, WALL), 12.0, 2, make)
