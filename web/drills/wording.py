"""What a drill says, in one record, and what several of them say alike."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass

from drills.tasks import Outcome, Task
from web.ui.templatetags import format


def nothing(task: Task, system: str) -> str:
    """Where nothing more is said."""
    return ""


def reading(task: Task, at: int, system: str) -> str:
    """A stop that is a distance."""
    return format.exactly(task.stops[at], system)


@dataclass(frozen=True, slots=True)
class Words:
    """What a drill says.

    ``name``; ``does``: what one does in it, a sentence. ``parts``: what each of them is called.
    ``asks``, ``hint``, ``after``  of a task; ``label`` of a stop; ``says`` of an outcome.
    """

    key: str
    name: str
    does: str
    parts: dict[str, str]
    asks: Callable[[Task, str], str]
    says: Callable[[Task, Outcome, int, str], str]
    label: Callable[[Task, int, str], str] = reading
    hint: Callable[[Task, str], str] = nothing
    after: Callable[[Task, str], str] = nothing


def far_off(off: float) -> str:
    """How far off a distance was judged, of ln(judged ÷ true)."""
    share = math.expm1(abs(off)) if off > 0 else -math.expm1(-abs(off))
    if share < 0.005:
        return "right on"
    return f"{format.share(share)} too {'far' if off > 0 else 'near'}"
