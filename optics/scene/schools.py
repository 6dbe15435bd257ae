"""The schools of placing focus, a record each.

Practitioners argue about where to focus; all of them end at a ring setting. A school is a record in
``SCHOOLS``: what it is called, what it is said to be for, and the function that says where it
focuses on a scene. To add one, write its function and its record here: every place that lists,
compares, offers or chooses schools goes by that tuple.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass
from functools import cached_property

from optics.base.errors import FocusTooNear, OpticsError
from optics.lens.conjugates import nearest_focus
from optics.lens.depth import counted_blur, hyperfocal, limits
from optics.lens.focus_window import window_rings
from optics.scene import focus_distances
from optics.scene.frame import horizontal_of_depth
from optics.scene.marks import Ends, ends
from optics.scene.scenes import Scene
from optics.zones.frame_sets import MOST_BY_HAND, NO_JOB, NOTHING_HOLDS, NoSet, frame_set


@dataclass(frozen=True)
class Seen:
    """A scene as every school looks at it; the rest is worked out when it is asked for.

    ``ends``     of what must be sharp; None if nothing must.
    """

    scene: Scene
    ends: Ends | None

    @classmethod
    def of(cls, scene: Scene) -> Seen:
        """What there is to see of a scene."""
        return cls(scene, ends(scene.marks))

    @cached_property
    def between(self) -> float | None:
        """The focus with equal blur on both ends, mm; None without, or nearer than the lens."""
        if self.ends is None:
            return None
        try:
            return focus_distances.between(self.scene.setup, self.ends.near, self.ends.far)
        except FocusTooNear:
            return None

    @cached_property
    def hyperfocal(self) -> float:
        """The hyperfocal distance, mm."""
        return hyperfocal(self.scene.setup)

    @cached_property
    def rings(self) -> tuple[float, float] | None:
        """The window for both ends as magnifications, the smaller first; None without ends."""
        if self.ends is None:
            return None
        return window_rings(self.scene.setup, self.ends.near, self.ends.far)


@dataclass(frozen=True, slots=True)
class Focus:
    """Where a school focuses, mm from the sensor, nearest first.

    ``chosen``: the place of the setting that the picture is taken with, the others being taken only
    to be safe; None where every mark counts as the frame has it that shows it sharpest.
    """

    settings: tuple[float, ...]
    chosen: int | None = None


@dataclass(frozen=True, slots=True)
class School:
    """A school of placing focus.

    ``key``           in links and files.
    ``name``, ``short``  what it is called, and where there is little room.
    ``says``          what it is said to be for.
    ``focus``         from a scene to where it focuses, or to the sentence why it cannot. May raise
                      FocusTooNear.
    ``number``        its place among those that are offered to be chosen; 0: it is only compared.
    ``needs_camera``  whether it goes by where the camera stands.
    ``or_farther``    whether its setting may only be rounded farther: infinity comes first.
    """

    key: str
    name: str
    short: str
    says: str
    focus: Callable[[Seen], Focus | str]
    number: int = 0
    needs_camera: bool = False
    or_farther: bool = False

    def focus_on(self, seen: Seen) -> Focus | str:
        """Where it focuses on a scene, or why it cannot. ``focus``, but for what is not known."""
        if self.needs_camera and seen.scene.camera is None:
            return NO_CAMERA
        try:
            return self.focus(seen)
        except FocusTooNear as error:
            return error.sentence


NOTHING_MUST = "No mark must be sharp."
NO_CAMERA = "Where the camera stands is not known."
ABOVE_THE_HORIZON = "A third of the way up this picture is above the horizon: no distance."
NO_THIRD_OF_INFINITY = "The far end is at infinity: there is no third of the way to it."
NO_GROUND = "Looking squarely at the ground, there is no way along it."
NO_SETTING = "No setting of the ring holds both ends, so none can be insured."


def _one(focus: float) -> Focus:
    return Focus((focus,))


def _between(seen: Seen) -> Focus | str:
    if seen.ends is None:
        return NOTHING_MUST
    if seen.between is None:  # raises, with the sentence
        return _one(focus_distances.between(seen.scene.setup, seen.ends.near, seen.ends.far))
    return _one(seen.between)


def _hyperfocal(seen: Seen) -> Focus | str:
    setup, focus = seen.scene.setup, seen.hyperfocal
    if math.isinf(focus) and counted_blur(setup, focus, focus) > setup.coc:
        return NOTHING_HOLDS
    return _one(focus)


def _subject(seen: Seen) -> Focus | str:
    depth = seen.scene.subject
    if depth is None:
        if not seen.scene.must:
            return NOTHING_MUST
        depth = seen.scene.must[0].depth
    return _one(focus_distances.subject_first(seen.scene.setup, depth))


def _third_up(seen: Seen) -> Focus | str:
    assert seen.scene.camera is not None
    focus = focus_distances.third_up(seen.scene.camera)
    return ABOVE_THE_HORIZON if focus is None else _one(_reached(seen, focus))


def _third_along(seen: Seen) -> Focus | str:
    camera = seen.scene.camera
    assert camera is not None
    if seen.ends is None:
        return NOTHING_MUST
    try:
        near, far = (
            horizontal_of_depth(camera, depth) for depth in (seen.ends.near, seen.ends.far)
        )
        focus = focus_distances.third_along(camera, min(near, far), max(near, far))
    except FocusTooNear:
        raise
    except OpticsError:
        return NO_GROUND
    return NO_THIRD_OF_INFINITY if focus is None else _one(_reached(seen, focus))


def _reached(seen: Seen, focus: float) -> float:
    """A depth on the ground as a ring setting: no ring goes nearer than four focal lengths."""
    return max(focus, nearest_focus(seen.scene.setup))


def _infinity(seen: Seen) -> Focus | str:
    return _one(focus_distances.infinity(seen.scene.setup, seen.scene.margin))


def _frames(seen: Seen) -> Focus | str:
    if seen.ends is None:
        return NOTHING_MUST
    scene, two = seen.scene, seen.ends
    found = frame_set(scene.setup, two.near, two.far, scene.overlap, scene.closest, scene.system)
    if isinstance(found, NoSet):
        return found.sentence
    return Focus(tuple(zone.focus for zone in found))


def _insurance(seen: Seen) -> Focus | str:
    if seen.ends is None:
        return NOTHING_MUST
    setup, error = seen.scene.setup, seen.scene.focus_error
    found = focus_distances.insurance_for_method(
        setup, seen.ends.near, seen.ends.far, error, rings=seen.rings
    )
    if found is None:
        nothing = math.isnan(limits(setup, math.inf).near)
        return NOTHING_HOLDS if nothing else NO_SETTING
    if len(found.settings) > MOST_BY_HAND:
        return f"That would take {len(found.settings)} frames: {NO_JOB}."
    return Focus(found.settings, chosen=len(found.settings) // 2)


BETWEEN = School(
    "between", "Between the ends", "Between the ends", "nearest and farthest equally sharp",
    _between, number=1,
)  # fmt: skip
HYPERFOCAL = School(
    "hyperfocal", "Hyperfocal", "Hyperfocal", "infinity just holds, most foreground",
    _hyperfocal, number=2, or_farther=True,
)  # fmt: skip
SUBJECT = School(
    "subject", "One subject", "One subject", "the first mark; let the rest fall away",
    _subject, number=3,
)  # fmt: skip
THIRD_UP = School(
    "third_up", "A third up the frame", "A third up", "the ground a third of the way up",
    _third_up, number=4, needs_camera=True,
)  # fmt: skip
THIRD_ALONG = School(
    "third_along", "A third along the ground", "A third along", "between nearest and farthest",
    _third_along, number=7, needs_camera=True,
)  # fmt: skip
INFINITY = School(
    "infinity", "Infinity with a margin", "Infinity, margin", "far detail first",
    _infinity, number=5, or_farther=True,
)  # fmt: skip
FRAMES = School(
    "frames", "Several frames", "Several frames", "as few as cover the ends", _frames, number=6
)
INSURANCE = School(
    "insurance", "Insurance", "Insurance", "a frame more to either side", _insurance
)  # fmt: skip

SCHOOLS = (BETWEEN, HYPERFOCAL, SUBJECT, THIRD_UP, THIRD_ALONG, INFINITY, FRAMES, INSURANCE)
"""All of them, in the order in which they are compared."""
BY_KEY = {school.key: school for school in SCHOOLS}
OFFERED = tuple(sorted((s for s in SCHOOLS if s.number), key=lambda school: school.number))
"""Those to choose from, in their order."""
