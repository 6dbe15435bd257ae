"""Where the chosen school of placing focus puts the ring, on a distance that a hand can set."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from optics.base.errors import FocusTooNear
from optics.base.settable import FINE, Setting, nearest, within
from optics.lens.depth import hyperfocal
from optics.lens.equal_blur import between as equal_blur
from optics.lens.focus_window import Window, focus_window
from optics.scene.marks import Ends, Mark, Verdict, Wish, ends, judge_best
from optics.scene.scenes import Scene
from optics.scene.schools import BETWEEN, BY_KEY, HYPERFOCAL, Seen

UNPLACED_TOLERANCE = 0.01
"""How far a setting may be rounded when no setting holds all: a share of its distance."""
_HAIR = 1e-9


@dataclass(frozen=True, slots=True)
class Placement:
    """The ring, placed.

    ``ends``      of what must be sharp; None where nothing must.
    ``equal``     where both ends are equally sharp, mm, the nice marks counted in where that costs
                  nothing that must be sharp; None without ends.
    ``window``    the settings that keep what must be sharp; None for none. With no marks, infinity.
    ``settings``  where the ring goes, nearest first: one, unless several frames are taken.
    ``exact``     the same before rounding, mm.
    ``hyperfocal``  mm.
    ``why_not``   why the chosen school has no answer here; the ends are used in its place.
    """

    ends: Ends | None
    equal: float | None
    window: Window | None
    settings: tuple[Setting, ...]
    exact: tuple[float, ...]
    hyperfocal: float
    why_not: str


def place(scene: Scene) -> Placement:
    """Where the scene's school puts the ring at its aperture."""
    distance = hyperfocal(scene.setup)
    two = ends(scene.marks)
    # With no marks, infinity is what is kept.
    window = _reached(scene, Window(distance, math.inf))
    if two is not None:
        window = window_for(scene, two)
    equal = between(scene, _with_nice(scene, two)) if two else None
    wanted, why_not = _wanted(scene, equal, distance)
    inside = window
    if scene.school == BETWEEN.key and two is not None and not why_not:
        wanted, inside = _surer(scene, wanted, two, window)
    settings = _settings(scene, wanted, inside)
    return Placement(two, equal, window, settings, wanted.settings, distance, why_not)


@dataclass(frozen=True, slots=True)
class _Wanted:
    """Where a school wants the ring, mm, and whether it may only be farther."""

    settings: tuple[float, ...]
    or_farther: bool = False


def _surer(
    scene: Scene, wanted: _Wanted, two: Ends | None, window: Window | None
) -> tuple[_Wanted, Window | None]:
    """Between the ends, moved by what it takes to keep them wherever in their doubts they are; as
    it is where no setting does that. ``two``: the ends; ``window``: where the ring keeps them."""
    sure = ends(scene.marks, surely=True)
    safe = window
    if sure != two:
        safe = window_for(scene, sure) if sure is not None else None
    if safe is None:
        return wanted, window
    return _Wanted((min(max(wanted.settings[0], safe.nearest), safe.farthest),)), safe


def window_for(scene: Scene, two: Ends) -> Window | None:
    """Where the ring may stand to keep both ends, as far as this lens's ring goes."""
    return _reached(scene, focus_window(scene.setup, two.near, two.far))


def _reached(scene: Scene, window: Window | None) -> Window | None:
    if window is None or window.farthest < scene.closest * (1 - _HAIR):
        return None
    return Window(max(window.nearest, scene.closest), max(window.farthest, scene.closest))


def between(scene: Scene, two: Ends) -> float:
    """Where both ends are equally sharp, or as near to it as the ring goes, mm."""
    try:
        return max(equal_blur(scene.setup, two.near, two.far), scene.closest)
    except FocusTooNear:
        return scene.closest


def _with_nice(scene: Scene, two: Ends) -> Ends:
    """The ends widened by each nice mark in turn, where one setting still keeps everything."""
    for mark in scene.marks:
        if mark.wish is Wish.NICE:
            wider = Ends(min(two.near, mark.depth), max(two.far, mark.depth))
            if wider != two and window_for(scene, wider) is not None:
                two = wider
    return two


def _wanted(scene: Scene, equal: float | None, distance: float) -> tuple[_Wanted, str]:
    """The school's focus; where it has none, that of the ends or of infinity, and why."""
    infinity = _Wanted((distance,), or_farther=True)
    usual = infinity if equal is None else _Wanted((equal,))
    school = BY_KEY[scene.school]
    if school is HYPERFOCAL:
        return infinity, ""
    if school is BETWEEN:
        return usual, ""
    found = school.focus_on(Seen.of(scene))
    if isinstance(found, str):
        return usual, found
    settings = found.settings if found.chosen is None else (found.settings[found.chosen],)
    return _Wanted(settings, school.or_farther), ""


def _settings(scene: Scene, wanted: _Wanted, window: Window | None) -> tuple[Setting, ...]:
    """The settings of the school, rounded so that a hand can set them and still be right."""
    focuses = [max(focus, scene.closest) for focus in wanted.settings]
    if len(focuses) > 1:
        return tuple(
            Setting(nearest(focus, scene.system, FINE), FINE, held=True) for focus in focuses
        )
    if wanted.or_farther:
        return (within(focuses[0], focuses[0], math.inf, scene.system),)
    return (rounded(scene, focuses[0], window),)


def rounded(scene: Scene, focus: float, window: Window | None) -> Setting:
    """A setting for a hand: in the window if the focus is, else within a hundredth of it."""
    if window is not None and window.holds(focus):
        return within(focus, window.nearest, window.farthest, scene.system)
    near, far = focus * (1 - UNPLACED_TOLERANCE), focus * (1 + UNPLACED_TOLERANCE)
    return within(focus, max(near, min(scene.closest, far)), far, scene.system)


def taken(scene: Scene, placement: Placement) -> tuple[Setting, ...]:
    """The settings that are used: the one set by hand, else the placed ones."""
    if scene.ring is not None:
        return (Setting(scene.ring, FINE, held=False),)
    return placement.settings


def verdicts(
    scene: Scene, settings: Sequence[float], marks: Sequence[Mark] | None = None
) -> tuple[Verdict, ...]:
    """How every mark fares, each by the frame that shows it sharpest."""
    judged = scene.marks if marks is None else marks
    return judge_best(scene.setup, judged, settings, scene.look)
