"""Where a school of placing focus puts the ring, on a distance that a hand can set.

Whatever is said of a setting is worked out for the one placed here: the answer of the chosen school
and the row of every other in the comparison come from the same lines.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import cached_property

from optics.base.errors import FocusTooNear
from optics.base.settable import (
    COARSE,
    FINE,
    Setting,
    nearest,
    reached,
    typed,
    within,
)
from optics.lens.depth import counted_blur
from optics.lens.equal_blur import between as equal_blur
from optics.lens.focus_window import Window, focus_window
from optics.scene.focus_distances import insurance_for_method, insures
from optics.scene.marks import Ends, Verdict, Wish, ends, judge_best
from optics.scene.movement import movement
from optics.scene.scenes import Scene
from optics.scene.schools import BETWEEN, BY_KEY, Focus, School, Seen

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
    ``sure``      those that keep it wherever in their doubts the marks are; None for none.
    ``settings``  where the ring goes, nearest first: one, unless several frames are taken.
    ``spare``     the same with those that are taken only to be safe.
    ``exact``     where they would go if a hand could set anything, mm.
    ``hyperfocal``  mm.
    ``why_not``   why the school has no answer here; the ends are used in its place.
    """

    placer: Placer
    settings: tuple[Setting, ...]
    spare: tuple[Setting, ...]
    exact: tuple[float, ...]
    why_not: str

    @property
    def ends(self) -> Ends | None:
        """Of what must be sharp."""
        return self.placer.ends

    @property
    def equal(self) -> float | None:
        """Where both ends are equally sharp, mm."""
        return self.placer.equal

    @property
    def window(self) -> Window | None:
        """The settings that keep what must be sharp."""
        return self.placer.window

    @property
    def sure(self) -> Window | None:
        """Those that keep it wherever in their doubts the marks are."""
        return self.placer.sure

    @property
    def hyperfocal(self) -> float:
        """The hyperfocal distance, mm."""
        return self.placer.seen.hyperfocal


def place(scene: Scene) -> Placement:
    """Where the scene's school puts the ring at its aperture."""
    found = Placer(scene).by(BY_KEY[scene.school])
    if found.ends is None and scene.school == BETWEEN.key:
        return replace(found, why_not="")  # with nothing that must be sharp, infinity is kept
    return found


class Placer:
    """A scene with what every school of it has in common, worked out when it is asked for. As
    ``Placement``."""

    def __init__(self, scene: Scene) -> None:
        self.seen = Seen.of(scene)
        self.ends = self.seen.ends

    @cached_property
    def equal(self) -> float | None:
        """As of ``Placement``."""
        two, scene = self.ends, self.scene
        if two is None:
            return None
        wider = _with_nice(scene, two)
        if wider != two:
            return between(scene, wider)
        return max(self.seen.between or 0.0, scene.closest)

    @cached_property
    def window(self) -> Window | None:
        """As of ``Placement``."""
        scene, distance = self.scene, self.seen.hyperfocal
        if self.ends is not None:
            return window_for(scene, self.ends)
        holds = counted_blur(scene.setup, math.inf, distance) <= scene.setup.coc
        if math.isfinite(distance) or holds:
            return _reached(scene, Window(distance, math.inf))
        return None

    @cached_property
    def sure(self) -> Window | None:
        """As of ``Placement``."""
        surely = ends(self.scene.marks, surely=True)
        if surely is None or surely == self.ends:
            return self.window
        return window_for(self.scene, surely)

    def by(self, school: School) -> Placement:
        """Where a school puts the ring."""
        found: Focus | str
        usual = school is BETWEEN and self.seen.between is not None
        found = "" if usual else school.focus_on(self.seen)
        if isinstance(found, str):
            settings, exact = self._usual()
            spare = settings
        else:
            settings, exact = self._placed(school, found)
            spare = settings if found.chosen is None else self._insured(found, settings[0])
        why_not = found if isinstance(found, str) else ""
        return Placement(self, settings, spare, exact, why_not)

    @property
    def scene(self) -> Scene:
        """The scene."""
        return self.seen.scene

    def _usual(self) -> tuple[tuple[Setting, ...], tuple[float, ...]]:
        """Between the ends, moved by what it takes to keep them wherever in their doubts they are;
        as it is where no setting does that. Without ends, so that infinity just holds."""
        scene, wanted, distance = self.scene, self.equal, self.seen.hyperfocal
        if wanted is None:
            return (self._or_farther(distance),), (distance,)
        window = self.sure or self.window
        if self.sure is not None:
            wanted = min(max(wanted, self.sure.nearest), self.sure.farthest)
        return (rounded(scene, wanted, window),), (wanted,)

    def _placed(
        self, school: School, found: Focus
    ) -> tuple[tuple[Setting, ...], tuple[float, ...]]:
        exact = found.settings if found.chosen is None else (found.settings[found.chosen],)
        if len(exact) > 1:  # on settings that a hand can set already
            return tuple(Setting(focus, held=True) for focus in exact), exact
        if school.or_farther:
            return (self._or_farther(exact[0]),), exact
        return (rounded(self.scene, max(exact[0], self.scene.closest), self.window),), exact

    def _or_farther(self, focus: float) -> Setting:
        reached = max(focus, self.scene.closest)
        return within(reached, reached, math.inf, self.scene.system)

    def _insured(self, found: Focus, chosen: Setting) -> tuple[Setting, ...]:
        """All of a bracket, each as coarse as leaves one of them right whatever went wrong; closer
        together than they need be, where rounding takes that."""
        scene = self.scene
        assert self.ends is not None
        setup, two, error = scene.setup, self.ends, scene.focus_error
        window = self.seen.rings
        assert window is not None
        bracket = tuple(found.settings)
        for more in range(1, _MOST_MORE + 1):
            for figures in (COARSE, FINE):
                others = (nearest(focus, scene.system, figures) for focus in bracket)
                settings = [reached(focus, scene.system, scene.closest) for focus in others]
                settings[len(settings) // 2] = chosen.focus
                settings = sorted({*settings})  # infinity is set once
                if insures(setup, settings, *window, error):
                    return tuple(Setting(focus, held=True) for focus in settings)
            closer = insurance_for_method(setup, two.near, two.far, error, more, window)
            bracket = bracket if closer is None else closer.settings
        return tuple(Setting(focus, held=True) for focus in settings)


_MOST_MORE = 6
"""So many frames more than a bracket takes are tried, to have room to round."""


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


def rounded(scene: Scene, focus: float, window: Window | None) -> Setting:
    """A setting for a hand: in the window if the focus is, else within a hundredth of it."""
    if window is not None and window.holds(focus):
        return within(focus, window.nearest, window.farthest, scene.system)
    near, far = focus * (1 - UNPLACED_TOLERANCE), focus * (1 + UNPLACED_TOLERANCE)
    return within(focus, max(near, min(scene.closest, far)), far, scene.system)


def taken(scene: Scene, placement: Placement) -> tuple[Setting, ...]:
    """The settings that are used: the one set by hand, as it is written, else the placed ones."""
    if scene.ring is not None:
        return (Setting(typed(scene.ring, scene.system, scene.closest), held=False),)
    return placement.settings


def verdicts(scene: Scene, settings: Sequence[float]) -> tuple[Verdict, ...]:
    """How every mark fares, each by the frame that shows it sharpest; with what motion does to it,
    where it moves and the time is known."""
    judged = judge_best(scene.setup, scene.marks, settings, scene.look)
    seconds, speeds = scene.seconds, {id(mark): speed for mark, speed in scene.movers}
    if seconds is None or not speeds:
        return judged
    height = min(scene.format.width, scene.format.height)
    across = scene.look.pixels_across
    pitch = scene.format.pixel_pitch(across) if across else None

    def moving(verdict: Verdict) -> Verdict:
        speed = speeds.get(id(verdict.mark))
        if speed is None:
            return verdict
        depth, circles = verdict.mark.depth, verdict.circles
        found = movement(scene.setup, depth, speed, seconds, settings[0], circles, height, pitch)
        return replace(verdict, movement=found)

    return tuple(map(moving, judged))
