"""Where the chosen way of placing focus puts the ring, on a distance that a hand can set."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

from optics.base import settable
from optics.base.errors import FocusTooNear
from optics.lens import depth
from optics.scene import focus_distances, marks, schools
from web.view.scenes import Mark, Ring, Scene, Wish, core_scene, unsure

UNPLACED_TOLERANCE = 0.01
"""How far a setting may be rounded when no setting holds all: a share of its distance."""


@dataclass(frozen=True, slots=True)
class Verdict:
    """How a mark fares. ``blur``: mm on the sensor; ``circles``: the same in standards.

    ``print_width``: the widest print for which it is no blur, mm. ``met``: whether the mark is what
    it was asked to be, at the depth stated.
    """

    mark: Mark
    blur: float
    circles: float
    pixels: float | None
    at_subject: float
    print_width: float
    word: str
    met: bool


@dataclass(frozen=True, slots=True)
class Ends:
    """Nearest and farthest of what is to be sharp, mm."""

    near: float
    far: float


@dataclass(frozen=True, slots=True)
class Placed:
    """The ring, placed.

    ``ends``      of what must be sharp; None where nothing must.
    ``equal``     where both ends are equally sharp, mm, the nice marks counted in where that costs
                  nothing that must be sharp.
    ``window``    the settings that keep what must be sharp; None for none. With no marks, infinity.
    ``settings``  where the ring goes, nearest first: one, unless several frames are taken.
    ``why_not``   why the chosen way has no answer here; the ends are used in its place.
    """

    ends: Ends | None
    equal: float | None
    window: depth.Window | None
    settings: tuple[Ring, ...]
    hyperfocal: float
    why_not: str


def place(scene: Scene) -> Placed:
    """The chosen way of placing focus on this scene at its aperture."""
    hyperfocal = float(depth.hyperfocal(scene.setup))
    ends = ends_of(scene.must)
    # With no marks, infinity is what is kept.
    window = _reached(scene, depth.Window(hyperfocal, math.inf))
    if ends is not None:
        window = window_for(scene, ends)
    equal = between(scene, _with_nice(scene, ends)) if ends else None
    middle, why_not = _placed(scene, equal, hyperfocal)
    within = window
    if scene.place == schools.School.BETWEEN and ends is not None and not why_not:
        middle, within = _surer(scene, middle, window)
    return Placed(ends, equal, window, _settings(scene, middle, within), hyperfocal, why_not)


def _surer(
    scene: Scene, middle: _Middle, window: depth.Window | None
) -> tuple[_Middle, depth.Window | None]:
    """Between the ends, moved by what it takes to keep them wherever in their doubts they are; as
    it is where no setting does that."""
    sure = ends_of(scene.must, surely=True)
    safe = window_for(scene, sure) if sure is not None else None
    if safe is None:
        return middle, window
    focus = min(max(middle.settings[0], safe.nearest), safe.farthest)
    return _Middle((focus,)), safe


def ends_of(kept: tuple[Mark, ...], *, surely: bool = False) -> Ends | None:
    """The ends of some marks, with ``surely`` over all of where they may be; None of none."""
    if not kept:
        return None
    if surely:
        return Ends(min(m.depth - m.error for m in kept), max(m.depth + m.error for m in kept))
    return Ends(min(mark.depth for mark in kept), max(mark.depth for mark in kept))


def window_for(scene: Scene, ends: Ends) -> depth.Window | None:
    """Where the ring may stand to keep both ends, as far as this lens's ring goes."""
    return _reached(scene, depth.focus_window(scene.setup, ends.near, ends.far))


def _reached(scene: Scene, window: depth.Window | None) -> depth.Window | None:
    if window is None or window.farthest < scene.closest * (1 - 1e-9):
        return None
    return depth.Window(max(window.nearest, scene.closest), max(window.farthest, scene.closest))


def between(scene: Scene, ends: Ends) -> float:
    """Where both ends are equally sharp, or as near to it as the ring goes, mm."""
    try:
        return max(focus_distances.between(scene.setup, ends.near, ends.far), scene.closest)
    except FocusTooNear:
        return scene.closest


def _with_nice(scene: Scene, ends: Ends) -> Ends:
    """The ends widened by each nice mark in turn, where one setting still keeps everything."""
    for mark in scene.marks:
        if mark.wish is Wish.NICE:
            wider = Ends(min(ends.near, mark.depth), max(ends.far, mark.depth))
            if wider != ends and window_for(scene, wider) is not None:
                ends = wider
    return ends


@dataclass(frozen=True, slots=True)
class _Middle:
    """Where a way of placing focus wants the ring, mm, and whether it may only be farther."""

    settings: tuple[float, ...]
    or_farther: bool = False


def _placed(scene: Scene, equal: float | None, hyperfocal: float) -> tuple[_Middle, str]:
    """The chosen way's focus; where it has none, that of the ends or of infinity, and why."""
    school = schools.School(scene.place)
    usual = _Middle((hyperfocal,), or_farther=True) if equal is None else _Middle((equal,))
    if school is schools.School.HYPERFOCAL:
        return _Middle((hyperfocal,), or_farther=True), ""
    if school is schools.School.BETWEEN:
        return usual, ""
    placed = schools.place(core_scene(scene), school)
    if placed.focus is None:
        return usual, placed.why_not
    if school is schools.School.FRAMES:
        return _Middle(placed.settings), ""
    return _Middle((placed.focus,), or_farther=school is schools.School.INFINITY), ""


def _settings(scene: Scene, middle: _Middle, window: depth.Window | None) -> tuple[Ring, ...]:
    """The settings of the chosen way, rounded so that a hand can set them and still be right."""
    if len(middle.settings) > 1:
        wanted = (max(focus, scene.closest) for focus in middle.settings)
        return tuple(
            Ring(settable.nearest(focus, scene.system, settable.FINE), settable.FINE)
            for focus in wanted
        )
    focus = max(middle.settings[0], scene.closest)
    if middle.or_farther:
        return (_ring(scene, focus, focus, math.inf),)
    return (rounded(scene, focus, window),)


def rounded(scene: Scene, focus: float, window: depth.Window | None) -> Ring:
    """A setting for a hand: in the window if the focus is, else within a hundredth of it."""
    if window is not None and window.holds(focus):
        return _ring(scene, focus, window.nearest, window.farthest)
    near, far = focus * (1 - UNPLACED_TOLERANCE), focus * (1 + UNPLACED_TOLERANCE)
    return _ring(scene, focus, max(near, min(scene.closest, far)), far)


def _ring(scene: Scene, focus: float, near: float, far: float) -> Ring:
    setting = settable.within(focus, near, far, scene.system)
    return Ring(setting.focus, setting.figures)


def verdicts(scene: Scene, settings: tuple[float, ...]) -> tuple[Verdict, ...]:
    """How every mark fares, each by the frame that shows it sharpest."""
    judged = marks.judge_best(
        scene.setup,
        [unsure(mark) for mark in scene.marks],
        settings,
        marks.Look(scene.format, scene.pixels_across),
    )
    return tuple(
        Verdict(
            mark,
            found.blur,
            found.circles,
            found.pixels,
            found.at_subject,
            found.print_width,
            found.word,
            found.met if mark.wish is not Wish.NICE else found.word is not marks.Word.SOFT,
        )
        for mark, found in zip(scene.marks, judged, strict=True)
    )


def taken(scene: Scene, placed: Placed) -> tuple[Ring, ...]:
    """The settings that are used: the one set by hand, else the placed ones."""
    if scene.ring is not None:
        return (Ring(scene.ring, settable.FINE),)
    return placed.settings


def at_aperture(scene: Scene, f_number: float) -> Scene:
    """The same scene with the lens at another aperture."""
    return replace(scene, setup=replace(scene.setup, f_number=f_number))
