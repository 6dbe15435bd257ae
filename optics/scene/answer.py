"""One scene, one answer: the ring, how wrong it may be, what holds, and what every school would do.

This is the order in which a photographer reads: what to set, its tolerance, then why.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

from optics.base import settable
from optics.base.errors import FocusTooNear
from optics.base.settable import Setting, Span
from optics.base.units import METRES
from optics.lens.aperture import ForEnds, for_ends
from optics.lens.conjugates import nearest_focus
from optics.lens.depth import hyperfocal
from optics.lens.focus_window import Window, focus_window
from optics.scene.marks import ends
from optics.scene.schools import Placed, Scene, School, at_setting, compare

UNPLACED_TOLERANCE = 0.01
"""How far a setting may be rounded when no setting holds all: a share of its distance."""


@dataclass(frozen=True, slots=True)
class Aim:
    """The answer.

    ``setting``    the ring, rounded so that a hand can set it and the scene still holds; None where
                   the chosen school has no answer (``chosen.why_not``).
    ``placed``     what that rounded setting holds and costs; None with ``setting``.
    ``window``     where the ring may stand for all that must be sharp; None if nowhere. With
                   nothing that must, from the hyperfocal distance on.
    ``tolerance``  the same rounded inwards, to say; ``sharp``, what is sharp, rounded inwards.
    ``chosen``     the chosen school's unrounded answer; ``schools``, all of them.
    ``apertures``  None where nothing must be sharp, or no focus lies between.
    """

    scene: Scene
    setting: Setting | None
    placed: Placed | None
    window: Window | None
    tolerance: Span | None
    sharp: Span | None
    chosen: Placed
    schools: tuple[Placed, ...]
    apertures: ForEnds | None


def aim(scene: Scene, school: School = School.BETWEEN, system: str = METRES) -> Aim:
    """Answer one scene. With nothing that must be sharp, *between* is taken as hyperfocal.

    Raises SubjectTooNear for a mark inside the lens.
    """
    schools = compare(scene)
    two = ends(scene.marks)
    if two is None and school is School.BETWEEN:
        school = School.HYPERFOCAL
    chosen = next(placed for placed in schools if placed.school is school)
    if two is None:
        window: Window | None = Window(float(hyperfocal(scene.setup)), math.inf)
    else:
        window = focus_window(scene.setup, two.near, two.far)
    setting = None if chosen.focus is None else _settable(scene, chosen, window, system)
    placed = None if setting is None else at_setting(scene, setting.focus, school)
    if placed is not None and len(chosen.settings) > 1:
        placed = replace(chosen, focus=setting.focus if setting else None)
    sharp = None
    if placed is not None and placed.limits is not None and not placed.limits.empty:
        sharp = settable.inside(float(placed.limits.near), float(placed.limits.far), system)
    return Aim(
        scene=scene,
        setting=setting,
        placed=placed,
        window=window,
        tolerance=settable.inside(window.nearest, window.farthest, system) if window else None,
        sharp=sharp,
        chosen=chosen,
        schools=schools,
        apertures=None if two is None else _apertures(scene, two.near, two.far),
    )


def _settable(scene: Scene, chosen: Placed, window: Window | None, system: str) -> Setting:
    """The chosen focus on what a hand can set: inside the window if it lies there."""
    focus = chosen.focus
    assert focus is not None
    inside = window is not None and window.holds(focus)
    if chosen.school in (School.HYPERFOCAL, School.INFINITY):  # infinity first: never nearer
        farthest = window.farthest if window is not None and inside else math.inf
        return settable.within(focus, focus, farthest, system)
    if window is not None and inside:
        return settable.within(focus, window.nearest, window.farthest, system)
    least = float(nearest_focus(scene.setup))
    low, high = focus * (1 - UNPLACED_TOLERANCE), focus * (1 + UNPLACED_TOLERANCE)
    return settable.within(focus, max(low, least), high, system)


def _apertures(scene: Scene, near: float, far: float) -> ForEnds | None:
    try:
        return for_ends(scene.setup, near, far)
    except FocusTooNear:
        return None
