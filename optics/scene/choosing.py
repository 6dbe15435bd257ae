"""The aperture, chosen: the widest that holds, the sharpest, or the one at which what should fall
soft does. And all of them beside each other, for a chart.

Only f-numbers that the lens can be set to are ever looked at, and each is judged as the answer
would judge it: with the ring where the chosen school puts it, rounded.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass, replace

from optics.base.writing import circles
from optics.lens import diffraction
from optics.lens.aperture import widest_holding
from optics.lens.cone import Cone
from optics.lens.conjugates import magnification, nearest_focus
from optics.lens.depth import working_f_number
from optics.scene.marks import Verdict, Wish, Word, ends
from optics.scene.placing import place, taken, verdicts
from optics.scene.scenes import Choose, Scene
from optics.scene.schools import FRAMES

WORTH_IT = 0.9
"""Closing by a stop more is worth it while it makes the worst blur a tenth smaller."""
_STOP = 2**0.5


@dataclass(frozen=True, slots=True)
class TriedAperture:
    """One aperture tried. Blurs in circles of confusion, over the marks that must be sharp.

    ``ring``   where the ring stands, mm; of several frames, the nearest.
    ``worst``  the largest, as the standard counts it. ``total``: with diffraction, whether that
               counts or not. ``defocus``, ``waves``: the two causes on their own.
    ``holds``, ``just``  whether every mark that must be sharp is, for sure or at its depth.
    ``soft_enough``  whether all that should fall soft does.
    """

    f_number: float
    ring: float
    worst: float
    total: float
    defocus: float
    waves: float
    holds: bool
    just: bool
    soft_enough: bool

    @property
    def unseen(self) -> bool:
        """Whether diffraction makes it softer than the standard says, as it is written."""
        return self.total > self.worst and circles(self.total) != circles(self.worst)


@dataclass(frozen=True, slots=True)
class ChosenAperture:
    """The aperture to set, and a sentence if it could not be what was asked for."""

    f_number: float
    says: str = ""


NOTHING_MUST = "Nothing must be sharp: the aperture stays as it was."
ONLY_JUST = "It only just holds: no aperture covers how unsure the distances are."
NONE_HOLDS = "No aperture of this lens holds all of it; this comes closest."
NOTHING_SOFT = "No mark should fall soft: give one that role."
NOT_SOFT_ENOUGH = "Not even wide open does everything that should fall soft."
NOT_SHARP_THERE = "What must be sharp does not hold there."


def choose(scene: Scene) -> ChosenAperture:
    """The aperture that the scene asks for. ``scene.choose`` says how."""
    fixed = ChosenAperture(scene.f_number)
    if scene.choose == Choose.FIXED:
        return fixed
    if scene.choose == Choose.SOFTENS:
        return _softening(scene)
    if not scene.must:
        return replace(fixed, says=NOTHING_MUST)
    if scene.choose == Choose.SHARPEST:
        return ChosenAperture(sharpest(tuple(tried(scene, scene.apertures))).f_number)
    found = widest(scene)
    if found is not None:
        return ChosenAperture(found.f_number, "" if found.surely else ONLY_JUST)
    closest = min(tried(scene, scene.apertures), key=lambda one: one.worst)
    return ChosenAperture(closest.f_number, NONE_HOLDS)


@dataclass(frozen=True, slots=True)
class Widest:
    """An aperture that holds all that must be sharp, judged as the answer would be there.

    ``surely``: wherever in their doubts the marks are; else only where they are said to be, and no
    aperture does more.
    """

    f_number: float
    surely: bool


def widest(scene: Scene) -> Widest | None:
    """The widest of the lens that holds; None for none. The only *widest that holds* there is."""
    just: Widest | None = None
    for f_number in _may_hold(scene):
        found = holding(scene, f_number)
        if found is not None and found.surely:
            return found
        just = just or found
    return just


def holding(scene: Scene, f_number: float) -> Widest | None:
    """Whether an aperture holds all that must be sharp, and how surely; None if it does not."""
    found = _judged(scene.at(f_number))
    if any(v.word is Word.SOFT for v in found):
        return None
    return Widest(f_number, surely=all(v.word is Word.HOLDS for v in found))


def _may_hold(scene: Scene) -> Sequence[float]:
    """The apertures without those at which no setting of the ring could hold both ends."""
    two = ends(scene.marks)
    if two is None or scene.setup.diffraction or scene.kit.faults or scene.school == FRAMES.key:
        return scene.apertures
    if two.near < nearest_focus(scene.setup):
        return scene.apertures
    needed = widest_holding(scene.setup, two.near, two.far) or math.inf
    return tuple(n for n in scene.apertures if n >= needed * (1 - 1e-6))


def sharpest(found: Sequence[TriedAperture]) -> TriedAperture:
    """The sharpest of those that hold, if any do: diffraction always tells between them, so that a
    standard that leaves it out is not followed down to where everything softens."""
    held = [one for one in found if one.holds] or [one for one in found if one.just] or found
    return min(held, key=lambda one: one.total)


def _judged(scene: Scene) -> list[Verdict]:
    settings = tuple(setting.focus for setting in taken(scene, place(scene)))
    return [v for v in verdicts(scene, settings) if v.mark.must]


def _softening(scene: Scene) -> ChosenAperture:
    if not any(mark.wish is Wish.SOFT for mark in scene.marks):
        return ChosenAperture(scene.f_number, NOTHING_SOFT)
    soft = [one for one in tried(scene, scene.apertures) if one.soft_enough]
    if not soft:
        return ChosenAperture(scene.apertures[0], NOT_SOFT_ENOUGH)
    held = [one for one in soft if one.just]
    lost = bool(scene.must) and not held
    return ChosenAperture((held or soft)[-1].f_number, NOT_SHARP_THERE if lost else "")


_JUDGED = (Wish.SHARP, Wish.NICE, Wish.SOFT)
"""The wishes that an aperture is chosen by."""


def tried(scene: Scene, f_numbers: Iterable[float]) -> Iterator[TriedAperture]:
    """Apertures tried, one after the other."""
    circle = scene.setup.coc
    judged = tuple(mark for mark in scene.marks if mark.wish in _JUDGED)
    scene = replace(scene, marks=judged)
    for f_number in f_numbers:
        at = scene.at(f_number)
        settings = tuple(setting.focus for setting in taken(at, place(at)))
        said = verdicts(at, settings)
        must = [v for v in said if v.mark.must]
        seen = [_Seen.at(at, focus) for focus in settings]
        parts = [min(frame.parts(v.mark.depth) for frame in seen) for v in must]
        yield TriedAperture(
            f_number=f_number,
            ring=settings[0],
            worst=max((v.circles for v in must), default=0.0),
            total=max((total for _, total in parts), default=0.0) / circle,
            defocus=max((defocus for defocus, _ in parts), default=0.0) / circle,
            waves=diffraction.disc(seen[0].working) / circle,
            holds=all(v.word is Word.HOLDS for v in must),
            just=all(v.word is not Word.SOFT for v in must),
            soft_enough=all(v.met for v in said if v.mark.wish is Wish.SOFT),
        )


@dataclass(frozen=True, slots=True)
class _Seen:
    """The lens with its ring set, ready to look at one mark after the other."""

    cone: Cone
    working: float

    @classmethod
    def at(cls, scene: Scene, focus: float) -> _Seen:
        cone = Cone.at(scene.setup, magnification(scene.setup, focus))
        return cls(cone, working_f_number(scene.setup, focus))

    def parts(self, depth: float) -> tuple[float, float]:
        """The blur of a depth by defocus alone, and by everything, mm."""
        defocus = float(self.cone.blur(depth))
        return defocus, diffraction.combine_plain(defocus, self.working)


@dataclass(frozen=True, slots=True)
class Chart:
    """Every aperture, and those that matter among them; None where none is it.

    ``widest``: the widest that holds, surely if any does. ``worth``: the smallest aperture that is
    still worth closing to, diffraction counted.
    """

    tried: tuple[TriedAperture, ...]
    now: TriedAperture
    widest: TriedAperture | None
    sharpest: TriedAperture | None
    worth: TriedAperture | None


def chart(scene: Scene) -> Chart:
    """Worst blur over aperture. ``scene``: at the aperture in force."""
    in_force = scene.f_number
    found = tuple(tried(scene, scene.apertures))
    now = next((one for one in found if one.f_number == in_force), None)
    now = now or next(tried(scene, (in_force,)))
    best = sharpest(found) if scene.must else None
    holding = next((one for one in found if one.holds), None)
    holding = holding or next((one for one in found if one.just), None)
    worth = None
    if best is not None:
        worth = found[0]
        for one in found:
            stop_before = [o for o in found if o.f_number <= one.f_number / _STOP * 1.03]
            if stop_before and one.total > WORTH_IT * stop_before[-1].total:
                break
            worth = one
    return Chart(found, now, holding if scene.must else None, best, worth)
