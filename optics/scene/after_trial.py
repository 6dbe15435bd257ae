"""After a trial frame: what came out soft, and what that says of the scene and of the ring.

What is learnt is taken in: the scene that is answered has its marks where they now seem to be, and
a ring that is as far off as it now seems.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace

from optics.scene import trial_frame
from optics.scene.marks import Mark
from optics.scene.scenes import Scene


@dataclass(frozen=True, slots=True)
class Trial:
    """A frame taken to see.

    ``focus``   what the ring read, mm from the sensor; inf for infinity.
    ``f_number``  that it was taken at.
    ``soft``, ``sharp``  letters of the marks that came out so.
    """

    focus: float
    f_number: float
    soft: frozenset[str] = frozenset()
    sharp: frozenset[str] = frozenset()

    @property
    def looked_at(self) -> frozenset[str]:
        """Letters of all that somebody looked at."""
        return self.soft | self.sharp

    def came(self, letter: str) -> bool | None:
        """Whether a mark came out sharp; None if nobody looked."""
        return None if letter not in self.looked_at else letter not in self.soft


@dataclass(frozen=True, slots=True)
class RevisedMark:
    """A mark whose distance the frames have changed, mm."""

    letter: str
    name: str
    before: float
    now: float


@dataclass(frozen=True, slots=True)
class Learnt:
    """What trial frames say.

    ``scene``      with all that is learnt in it; as it was where the frames cannot be explained.
    ``explained``  whether the distances and the ring, within their doubts, can have made them.
    ``revised``    the marks that are likelier elsewhere.
    ``ring_off``   how far the lens stands out too much for what its ring reads, mm; below 0 too
                   little; 0 where that is not worth saying.
    ``read``, ``really``  what the ring read in the last frame, and where the lens was, mm.
    """

    scene: Scene
    explained: bool = True
    revised: tuple[RevisedMark, ...] = ()
    ring_off: float = 0.0
    read: float = math.inf
    really: float = math.inf


_WORTH_SAYING = 0.005
"""A change of distance smaller than this share of it is none."""
_WORTH_OF_ERROR = 0.1
"""Nor is one of the ring smaller than this share of what it may be off."""


def learn(scene: Scene, error: float, trials: Sequence[Trial]) -> Learnt | None:
    """The scene as trial frames leave it; None where nobody looked at anything.

    ``error``: what the way of focusing gets wrong, mm behind the lens to either side, 0 or more.
    Raises as ``trial_frame.revise``.
    """
    marks = [m for m in scene.marks if m.depth >= scene.closest]
    letters = {m.letter for m in marks}
    said = [trial for trial in trials if trial.looked_at & letters]
    if not said:
        return None
    frames = [
        trial_frame.Frame(
            scene.kit.at(trial.f_number), trial.focus, tuple(trial.came(m.letter) for m in marks)
        )
        for trial in said
    ]
    found = trial_frame.revise(frames, error, [(m.depth, m.uncertainty) for m in marks])
    if found is None:
        return Learnt(scene, explained=False)
    seen = {m.letter for m in marks if any(m.letter in trial.looked_at for trial in said)}
    moved = {
        mark.letter: replace(mark, depth=depth, uncertainty=doubt)
        for mark, depth, doubt in zip(marks, found.depths, found.doubts, strict=True)
        if mark.letter in seen
    }
    read = said[-1].focus
    is_off = abs(found.offset) > _WORTH_OF_ERROR * error and _differ(read, found.really)
    off = found.offset if is_off else 0.0
    now = tuple(moved.get(mark.letter, mark) for mark in scene.marks)
    return Learnt(
        scene=replace(scene, marks=now, kit=scene.kit.with_ring_off(off)),
        revised=tuple(_revised(scene.marks, now)),
        ring_off=off,
        read=read,
        really=found.really,
    )


def _revised(before: Sequence[Mark], now: Sequence[Mark]) -> list[RevisedMark]:
    return [
        RevisedMark(old.letter, old.name, old.depth, new.depth)
        for old, new in zip(before, now, strict=True)
        if _differ(old.depth, new.depth)
    ]


def _differ(one: float, other: float) -> bool:
    if math.isinf(one) or math.isinf(other):
        return one != other
    return abs(one - other) > _WORTH_SAYING * max(one, other)
