"""After a trial frame: what came out soft, what that says of the scene, and what to do now."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

from optics.lens import focusing
from optics.scene import trial_frame
from web.bag.in_use import InUse
from web.view import placing
from web.view.panels import Panels
from web.view.scenes import Mark, Ring
from web.view.tolerance import OnRing, errors_of, tolerance
from web.view.usecases import Answer

UNKNOWN_ERROR = focusing.Way.SPOT
"""Where nobody said how it was focused, the ring may be off by what this way gets wrong."""


@dataclass(frozen=True, slots=True)
class Revision:
    """A mark whose distance the frame has changed, mm."""

    letter: str
    name: str
    before: float
    now: float


@dataclass(frozen=True, slots=True)
class Trial:
    """What to do after a trial frame.

    ``said``       whether anybody said how anything came out.
    ``explained``  whether the distances and the ring, within their doubts, can have made it.
    ``ring``       what to set now; None where no setting holds it all.
    ``nearer``     whether that is a turn towards near. ``degrees``: how far; None: ring not known.
    ``direction``  seen from behind the camera; empty if the lens is not known.
    ``f_number``   the widest of the lens that holds all now; None if none does.
    ``close_by``   how many stops that is to close; 0 if the aperture does as it is.
    ``really``     where the lens was really focused, mm.
    """

    said: bool
    explained: bool = True
    revised: tuple[Revision, ...] = ()
    ring: Ring | None = None
    nearer: bool = False
    degrees: float | None = None
    direction: str = ""
    f_number: float | None = None
    close_by: float = 0.0
    really: float = math.nan
    off: bool = False


def after_trial(answer: Answer, in_use: InUse, panels: Panels) -> Trial:
    """The plan revised from how the marks came out. Of several frames only the first is judged."""
    scene, soft, sharp = answer.scene, panels.trial_soft, panels.trial_sharp - panels.trial_soft
    marks = [m for m in scene.marks if m.depth >= scene.closest]
    if not any(m.letter in soft | sharp for m in marks):
        return Trial(said=False)
    found = tolerance(answer, in_use, panels.focus_by)
    error = _error(answer, in_use, panels.focus_by)
    seen = [
        trial_frame.Seen(
            m.depth, m.error, None if m.letter not in soft | sharp else m.letter in sharp
        )
        for m in marks
    ]
    focus = answer.ring.focus
    revised = trial_frame.revise(scene.setup, focus, error, seen)
    if revised is None:
        return Trial(said=True, explained=False)
    moved = [replace(m, depth=d, error=0.0) for m, d in zip(marks, revised.depths, strict=True)]
    must = tuple(m for m in moved if m.must)
    changes = tuple(
        Revision(old.letter, old.name, old.depth, new.depth)
        for old, new in zip(marks, moved, strict=True)
        if _differ(old.depth, new.depth)
    )
    base = Trial(
        said=True,
        revised=changes,
        really=revised.really,
        off=abs(revised.offset) > 0.1 * error and _differ(focus, revised.really),
    )
    return _advice(base, answer, must, revised.offset, found.on_ring) if must else base


def _differ(one: float, other: float) -> bool:
    if math.isinf(one) or math.isinf(other):
        return one != other
    return abs(one - other) > 0.005 * max(one, other)


def _error(answer: Answer, in_use: InUse, focus_by: str) -> float:
    by_way = {error.way.value: error.worst for error in errors_of(answer, in_use)}
    return by_way.get(focus_by, by_way[UNKNOWN_ERROR])


def _advice(
    base: Trial, answer: Answer, must: tuple[Mark, ...], offset: float, on_ring: OnRing | None
) -> Trial:
    """Where to turn the ring for the marks as they now seem, the ring being off as it was."""
    scene = answer.scene
    ends = placing.ends_of(must)
    assert ends is not None
    held = [
        n
        for n in scene.apertures
        if placing.window_for(placing.at_aperture(scene, n), ends) is not None
    ]
    now = float(scene.setup.f_number)
    does = placing.window_for(scene, ends) is not None
    wider = held[0] if held else None
    f_number = now if does else next((n for n in held if n > now), wider)
    wanted = placing.between(scene, ends)
    focus = _with_offset(answer, wanted, offset)
    ring = placing.rounded(scene, focus, None)
    nearer = focusing.travel(scene.setup, ring.focus, answer.ring.focus) > 0
    degrees, direction = None, ""
    if on_ring is not None:
        turn = float(on_ring.ring.turn(answer.ring.focus, ring.focus))
        degrees = abs(math.degrees(turn))
        direction = on_ring.from_infinity if nearer else on_ring.towards_infinity
    return replace(
        base,
        ring=ring,
        nearer=nearer,
        degrees=degrees,
        direction=direction,
        f_number=f_number,
        close_by=2 * math.log2(f_number / now) if f_number and not does else 0.0,
    )


def _with_offset(answer: Answer, wanted: float, offset: float) -> float:
    """What the ring must read for the lens to stand at ``wanted``, off as it is."""
    low, high = focusing.in_distance(answer.scene.setup, wanted, abs(offset))
    reads = high if offset > 0 else low
    return max(reads, answer.scene.closest)
