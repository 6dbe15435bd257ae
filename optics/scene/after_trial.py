"""After a trial frame: what came out soft, what that says of the scene, and what to set now."""

from __future__ import annotations

import math
from collections.abc import Set
from dataclasses import dataclass, replace

from optics.base.settable import Setting
from optics.lens import focusing
from optics.lens.aperture import stops_between
from optics.scene import placing, trial_frame
from optics.scene.answer import Answer
from optics.scene.choosing import widest
from optics.scene.marks import Mark, ends
from optics.scene.schools import BETWEEN


@dataclass(frozen=True, slots=True)
class RevisedMark:
    """A mark whose distance the frame has changed, mm."""

    letter: str
    name: str
    before: float
    now: float


@dataclass(frozen=True, slots=True)
class AfterTrial:
    """What to do after a trial frame.

    ``said``       whether anybody said how anything came out.
    ``explained``  whether the distances and the ring, within their doubts, can have made it.
    ``setting``    what to set now; None where nothing must be sharp.
    ``turn``       1 if that is a turn towards near, −1 towards infinity, 0 if it is none.
    ``f_number``   the one in force if it holds all now, else the widest that does; None if none
                   does.
    ``close_by``   how many stops that is to close, below 0 to open; 0 if the aperture does as it
                   is.
    ``really``     where the lens was really focused, mm; ``off``: whether that is worth saying.
    """

    said: bool
    explained: bool = True
    revised: tuple[RevisedMark, ...] = ()
    setting: Setting | None = None
    turn: int = 0
    f_number: float | None = None
    close_by: float = 0.0
    really: float = math.nan
    off: bool = False


_WORTH_SAYING = 0.005
"""A change of distance smaller than this share of it is none."""
_WORTH_OF_ERROR = 0.1
"""Nor is one of the ring smaller than this share of what it may be off."""


def after_trial(answer: Answer, error: float, soft: Set[str], sharp: Set[str]) -> AfterTrial:
    """The plan revised from how the marks came out. Of several frames only the first is judged.

    ``error``: what the way of focusing gets wrong, mm behind the lens to either side, 0 or more.
    ``soft``, ``sharp``: letters of the marks that came out so. Raises as ``trial_frame.revise``.
    """
    scene = answer.scene
    marks = [m for m in scene.marks if m.depth >= scene.closest]
    looked_at = soft | sharp
    if not any(m.letter in looked_at for m in marks):
        return AfterTrial(said=False)
    seen = [
        trial_frame.Seen(
            m.depth, m.uncertainty, None if m.letter not in looked_at else m.letter in sharp
        )
        for m in marks
    ]
    focus = answer.ring.focus
    revised = trial_frame.revise(scene.setup, focus, error, seen)
    if revised is None:
        return AfterTrial(said=True, explained=False)
    moved = [
        replace(m, depth=d, uncertainty=0.0) for m, d in zip(marks, revised.depths, strict=True)
    ]
    changes = tuple(
        RevisedMark(old.letter, old.name, old.depth, new.depth)
        for old, new in zip(marks, moved, strict=True)
        if _differ(old.depth, new.depth)
    )
    base = AfterTrial(
        said=True,
        revised=changes,
        really=revised.really,
        off=abs(revised.offset) > _WORTH_OF_ERROR * error and _differ(focus, revised.really),
    )
    return _advised(base, answer, moved, revised.offset)


def _differ(one: float, other: float) -> bool:
    if math.isinf(one) or math.isinf(other):
        return one != other
    return abs(one - other) > _WORTH_SAYING * max(one, other)


def _advised(base: AfterTrial, answer: Answer, marks: list[Mark], offset: float) -> AfterTrial:
    """Where to turn the ring for the marks as they now seem, the ring being off as it was."""
    scene, two = answer.scene, ends(marks)
    if two is None:
        return base
    revised = replace(scene, marks=tuple(marks), school=BETWEEN.key, ring=None)
    now = scene.f_number
    does = placing.window_for(revised, two) is not None
    found = None if does else widest(revised)
    f_number = now if does else None if found is None else found.f_number
    focus = _with_offset(answer, placing.between(scene, two), offset)
    setting = placing.rounded(scene, focus, None)
    turn = focusing.travel(scene.setup, setting.focus, answer.ring.focus)
    return replace(
        base,
        setting=setting,
        turn=(turn > 0) - (turn < 0),
        f_number=f_number,
        close_by=stops_between(now, f_number) if f_number and not does else 0.0,
    )


def _with_offset(answer: Answer, wanted: float, offset: float) -> float:
    """What the ring must read for the lens to stand at ``wanted``, off as it is."""
    low, high = focusing.in_distance(answer.scene.setup, wanted, abs(offset))
    return max(high if offset > 0 else low, answer.scene.closest)
