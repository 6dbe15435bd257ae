"""After a trial frame, in words: how far to turn the ring in hand, and which way."""

from __future__ import annotations

import math
from dataclasses import dataclass

from optics.lens import focusing
from optics.scene.after_trial import AfterTrial, after_trial
from optics.scene.answer import Answer
from web.hand.in_use import InUse
from web.view.panels import Panels
from web.view.tolerance import errors_of, tolerance

UNKNOWN_ERROR = focusing.Way.SPOT
"""Where nobody said how it was focused, the ring may be off by what this way gets wrong."""


@dataclass(frozen=True, slots=True)
class Turn:
    """What to do now, and the turn that is on the ring in hand: ``degrees``, None where it is not
    known, and its ``direction`` seen from behind the camera, empty likewise."""

    advice: AfterTrial
    degrees: float | None = None
    direction: str = ""


def after(answer: Answer, in_use: InUse, panels: Panels) -> Turn:
    """What a trial frame says of the plan, as typed into the panel."""
    by_way = {error.way.value: error.worst for error in errors_of(answer, in_use)}
    error = by_way.get(panels.focus_by, by_way[UNKNOWN_ERROR])
    soft, sharp = panels.trial_soft, panels.trial_sharp - panels.trial_soft
    advice = after_trial(answer, error, soft, sharp)
    on_ring = tolerance(answer, in_use, panels.focus_by).on_ring
    if advice.setting is None or on_ring is None:
        return Turn(advice)
    turn = on_ring.ring.turn(answer.ring.focus, advice.setting.focus)
    direction = on_ring.from_infinity if advice.turn > 0 else on_ring.towards_infinity
    return Turn(advice, abs(math.degrees(turn)), direction)
