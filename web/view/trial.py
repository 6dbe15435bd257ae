"""Trial frames as they are typed, and what they say, in words: how far to turn the ring in hand."""

from __future__ import annotations

import math
import re
from collections.abc import Callable
from dataclasses import dataclass, replace

from django.core.exceptions import ValidationError

from optics.base import units
from optics.lens import focusing
from optics.scene.after_trial import Learnt, Trial, learn
from optics.scene.answer import Answer
from optics.scene.scenes import Scene
from web.hand.in_use import InUse
from web.hand.typed import ring_text
from web.view.tolerance import errors_of, tolerance

UNKNOWN_ERROR = focusing.Way.SPOT
"""Where nobody said how it was focused, the ring may be off by what this way gets wrong."""
MOST_FRAMES = 5
_FRAME = re.compile(
    r"^(?P<ring>.+?)\s+f/(?P<number>[\d.,]+)(?P<came>(?:\s+(?:soft|sharp)\s+[a-z]+)*)$"
)
_CAME = re.compile(r"(soft|sharp)\s+([a-z]+)")
EXAMPLE = "Write a frame as 2.6 m f/11 soft A sharp C, and a ; between two."


def read_trials(text: str, ring: Callable[[str], float]) -> tuple[Trial, ...]:
    """Frames as typed. ``ring``: reads a setting of the ring. Raises ValidationError."""
    found = []
    for part in filter(None, (part.strip() for part in text.split(";"))):
        match = _FRAME.fullmatch(part.lower())
        if match is None:
            raise ValidationError(EXAMPLE)
        number = float(match["number"].replace(",", "."))
        if not 0.5 <= number <= 128:
            raise ValidationError(f"An aperture is from f/0.5 to f/128. {EXAMPLE}")
        came = {"soft": set[str](), "sharp": set[str]()}
        for word, letters in _CAME.findall(match["came"]):
            came[word] |= set(letters.upper())
        soft = frozenset(came["soft"])
        found.append(Trial(ring(match["ring"]), number, soft, frozenset(came["sharp"]) - soft))
    if len(found) > MOST_FRAMES:
        raise ValidationError(f"Up to {MOST_FRAMES} trial frames are counted.")
    return tuple(found)


def trials_text(trials: tuple[Trial, ...], system: str) -> str:
    """The same, to be typed."""
    return "; ".join(
        f"{ring_text(trial.focus, system)} f/{units.significant(trial.f_number, 3):g}"
        + "".join(
            f" {word} {''.join(sorted(letters))}"
            for word, letters in (("soft", trial.soft), ("sharp", trial.sharp))
            if letters
        )
        for trial in trials
    )


def tapped(
    trials: tuple[Trial, ...], at: int, letter: str, came: str, now: Answer
) -> tuple[Trial, ...]:
    """The frames after a tap: mark ``letter`` of frame ``at`` came out ``soft`` or ``sharp``, or is
    not said to have any more. The one after the last is taken with the ring as it is ``now``."""
    setup = now.scene.setup
    frames = [*trials, Trial(now.ring.focus, setup.f_number)][:MOST_FRAMES]
    at = min(max(at, 0), len(frames) - 1)
    one = frames[at]
    was = "soft" if letter in one.soft else "sharp" if letter in one.sharp else ""
    soft, sharp = one.soft - {letter}, one.sharp - {letter}
    if letter and came == "soft" != was:
        soft |= {letter}
    elif letter and came == "sharp" != was:
        sharp |= {letter}
    frames[at] = replace(one, soft=soft, sharp=sharp)
    return tuple(frames[: max(len(trials), at + 1)])


def error_of(scene: Scene, in_use: InUse, focus_by: str) -> float:
    """How far off the ring may be by the way it is focused, mm behind the lens to either side."""
    by_way = {error.way.value: error.worst for error in errors_of(scene, in_use)}
    return by_way.get(focus_by, by_way[UNKNOWN_ERROR])


def learnt(scene: Scene, in_use: InUse, focus_by: str, trials: tuple[Trial, ...]) -> Learnt | None:
    """What trial frames say of a scene."""
    return learn(scene, error_of(scene, in_use, focus_by), trials) if trials else None


@dataclass(frozen=True, slots=True)
class Turn:
    """From the ring of the last trial frame to the answer: ``way`` 1 towards near, −1 towards
    infinity, 0 for none; ``degrees``, None where they are not known, and its ``direction`` seen
    from behind the camera, empty likewise."""

    way: int = 0
    degrees: float | None = None
    direction: str = ""


def turn_from(trial: Trial, answer: Answer, in_use: InUse, focus_by: str) -> Turn:
    """How to turn the ring that was at a trial frame's."""
    focus = answer.ring.focus
    travel = focusing.travel(answer.scene.setup, focus, trial.focus)
    way = (travel > 0) - (travel < 0)
    on_ring = tolerance(answer, in_use, focus_by).on_ring
    if not way or on_ring is None:
        return Turn(way)
    direction = on_ring.from_infinity if way > 0 else on_ring.towards_infinity
    return Turn(way, abs(math.degrees(on_ring.ring.turn(trial.focus, focus))), direction)
