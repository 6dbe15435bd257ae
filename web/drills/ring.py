"""A ring to be read, as a page shows it."""

from __future__ import annotations

import math
from typing import Any

from django.template.loader import render_to_string

from drawing.ring_marks import RingMarks, ring_marks
from drills.tasks import Gear, Task
from optics.lens.depth import hyperfocal
from optics.lens.setup import Setup
from optics.lens.touch import mark_angle


def marked(gear: Gear, stops: tuple[float, ...], true: float | None) -> RingMarks:
    """The ring of a lens, with its marks; ``true``: what is to stand under the index, mm."""
    marks = []
    for f_number in gear.scale:
        setup = Setup(gear.kit.focal_length, f_number, gear.scale_circle)
        angle = mark_angle(gear.ring, setup, max(hyperfocal(setup), gear.closest))
        if not math.isnan(angle):
            marks.append((f_number, angle))
    return ring_marks(gear.ring, gear.closest, gear.engraved, gear.system, marks, stops, true)


def ring_shown(gear: Gear, task: Task) -> dict[str, Any]:
    """It as plain data: what stands still and what turns, and by how much for each answer."""
    assert task.picture is not None
    live = bool(task.picture["turns"])
    true = task.stops[task.best] if live else None
    drawn = marked(gear, task.stops if live else (task.picture["focus"],), true)
    return {
        "kind": "ring",
        "svg": render_to_string("drills/ring.svg", {"ring": drawn}),
        "turns": drawn.turns,
        "middle": drawn.middle,
        "live": live,
    }
