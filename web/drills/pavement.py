"""Somebody who comes on, as a page shows it."""

from __future__ import annotations

import math
from typing import Any

from django.template.loader import render_to_string

from drawing.coming import Along, coming
from drills import moment
from drills.tasks import Gear, Task


def _line(along: Along) -> list[float]:
    return [float(f"{along.at:.6g}"), float(f"{along.per_mm:.6g}")]


def shown(gear: Gear, task: Task) -> dict[str, Any]:
    """What a moment needs, as plain data."""
    facts = task.facts
    if task.part == moment.SEEN:
        return {"wait": facts["wait_ms"], "step": facts["step_ms"], "side": facts["side"]}
    lens = (gear.kit.focal_length, gear.frame.width, gear.frame.height)
    drawn = coming(facts["near"], facts["far"], facts["begins"], facts["angle"], lens, gear.system)
    return {
        "step": facts["step_ms"],
        "plan": facts["plan"],
        "svg": render_to_string("drills/coming.svg", {"it": drawn, "name": facts["name"]}),
        "begins": facts["begins"],
        "closing": facts["speed"] * math.cos(facts["angle"]) / 1000.0,
        "x": _line(drawn.x),
        "y": _line(drawn.y),
        "frame": drawn.frame,
        "finder": [drawn.grows, drawn.foot, drawn.across, drawn.slope],
    }
