"""The schools of placing focus, each with what it holds and what it costs, on one scene.

Practitioners argue about where to focus; all of them end at a ring setting, and what a ring setting
holds can be worked out. ``compare`` puts them side by side: for every school the setting, the
limits there, every mark's verdict, and the cost, in one currency: how many stops more the scene
would have to be closed down than if focus were put between the ends.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass, field, replace
from enum import StrEnum

from optics.base.errors import FocusTooNear, OpticsError, require_positive
from optics.base.formats import BY_KEY
from optics.lens.conjugates import nearest_focus
from optics.lens.depth import Limits, counted_blur, hyperfocal, limits
from optics.lens.setup import Setup
from optics.scene import focus_distances
from optics.scene.frame import Camera, horizontal_of_depth
from optics.scene.marks import Ends, Look, Mark, Verdict, Wish, Word, ends, judge, judge_best
from optics.zones.tiling import Zone


class School(StrEnum):
    """Ways to place the focus."""

    BETWEEN = "between"
    HYPERFOCAL = "hyperfocal"
    SUBJECT = "subject"
    THIRD_UP = "third_up"
    THIRD_ALONG = "third_along"
    INFINITY = "infinity"
    FRAMES = "frames"
    INSURANCE = "insurance"


@dataclass(frozen=True, slots=True)
class Scene:
    """All that placing focus depends on. Plain numbers in ``setup``.

    ``subject``       the depth that *subject first* puts focus on, mm; None: the first mark that
                      must be sharp.
    ``camera``        where it stands, for the schools that go by the ground; None if not known.
    ``margin``        of *infinity*: how many times smaller than the circle its blur is to be.
    ``overlap``       of *frames*: the share of each that its neighbour holds too.
    ``focus_error``   of *insurance*: how far off the way of focusing may leave the ring, 1/mm.
    """

    setup: Setup
    marks: tuple[Mark, ...] = ()
    look: Look = field(default_factory=lambda: Look(BY_KEY["full-frame"]))
    subject: float | None = None
    camera: Camera | None = None
    margin: float = 1.5
    overlap: float = 0.2
    focus_error: float = 0.1e-3

    def __post_init__(self) -> None:
        require_positive("margin", self.margin, "margin")
        require_positive("overlap", self.overlap, "overlap", zero=True)
        require_positive("focus_error", self.focus_error, "error of focusing", zero=True)


@dataclass(frozen=True, slots=True)
class Cost:
    """What a placement costs.

    ``lost``       marks that must be sharp and are not: their places in the scene's marks.
    ``just``       those that hold only at their stated depth.
    ``too_sharp``  marks that should fall soft and do not.
    ``worst``      the largest blur among those that must be sharp, in circles; 0 if none must.
    ``at_infinity``  infinity's blur, in circles.
    ``stops``      how much more the lens must be closed down for the worst mark to be as sharp as
                   *between the ends* makes it, by geometry; None where nothing must be sharp.
    ``exposures``  how many frames it takes.
    """

    lost: tuple[int, ...]
    just: tuple[int, ...]
    too_sharp: tuple[int, ...]
    worst: float
    at_infinity: float
    stops: float | None
    exposures: int = 1


@dataclass(frozen=True, slots=True)
class Placed:
    """One school's answer.

    ``focus``     mm from the sensor; None where this school has no answer, and ``why_not`` says so.
    ``limits``    what is sharp there. Of several frames, from the nearest to the farthest of all.
    ``verdicts``  in the order of the scene's marks; of several frames, each by the best of them.
    ``settings``  every ring setting it takes, nearest first; of one frame just ``focus``.
    """

    school: School
    focus: float | None
    limits: Limits | None
    verdicts: tuple[Verdict, ...]
    settings: tuple[float, ...]
    cost: Cost | None
    why_not: str = ""


NOTHING_MUST = "No mark must be sharp."
NO_CAMERA = "Where the camera stands is not known."
ABOVE_THE_HORIZON = "A third of the way up this picture is above the horizon: no distance."
NO_THIRD_OF_INFINITY = "The far end is at infinity: there is no third of the way to it."
NO_GROUND = "Looking squarely at the ground, there is no way along it."
NO_SETTING = "No setting of the ring holds both ends, so none can be insured. Close the aperture."
TOO_MANY_FRAMES = "That would take more than 200 frames."
NOTHING_HOLDS = "At this aperture diffraction alone is more than the standard."


def compare(scene: Scene) -> tuple[Placed, ...]:
    """Every school on one scene, in the order of ``School``.

    Raises SubjectTooNear for a mark inside the lens. What one school cannot do is said in its
    ``why_not``, not raised.
    """
    judged = _Judged.of(scene)
    return tuple(judged.by(school) for school in School)


def place(scene: Scene, school: School) -> Placed:
    """One school on one scene. As ``compare``."""
    return _Judged.of(scene).by(school)


def at_setting(scene: Scene, focus: float, school: School = School.SUBJECT) -> Placed:
    """What any ring setting, as one set by hand or rounded, holds and costs. As ``compare``.

    ``focus``: mm from the sensor. ``school``: what to call it. Raises FocusTooNear.
    """
    return _Judged.of(scene).one(school, focus)


@dataclass(frozen=True, slots=True)
class _Judged:
    """A scene with what every school is measured against."""

    scene: Scene
    ends: Ends | None
    between: float | None
    between_blur: float

    @classmethod
    def of(cls, scene: Scene) -> _Judged:
        two = ends(scene.marks)
        if two is None:
            return cls(scene, None, None, 0.0)
        try:
            focus = focus_distances.between(scene.setup, two.near, two.far)
        except FocusTooNear:
            return cls(scene, two, None, 0.0)
        return cls(
            scene, two, focus, focus_distances.worst_blur(scene.setup, two.near, two.far, focus)
        )

    def by(self, school: School) -> Placed:
        ways: dict[School, Callable[[], Placed]] = {
            School.BETWEEN: self._between,
            School.HYPERFOCAL: self._hyperfocal,
            School.SUBJECT: self._subject,
            School.THIRD_UP: self._third_up,
            School.THIRD_ALONG: self._third_along,
            School.INFINITY: self._infinity,
            School.FRAMES: self._frames,
            School.INSURANCE: self._insurance,
        }
        try:
            return ways[school]()
        except FocusTooNear as error:
            return _none(school, error.sentence)

    def _between(self) -> Placed:
        if self.ends is None:
            return _none(School.BETWEEN, NOTHING_MUST)
        two = self.ends
        focus = self.between
        if focus is None:
            focus = focus_distances.between(self.scene.setup, two.near, two.far)
        return self.one(School.BETWEEN, focus)

    def _hyperfocal(self) -> Placed:
        focus = float(hyperfocal(self.scene.setup))
        setup = self.scene.setup
        if math.isinf(focus) and float(counted_blur(setup, focus, focus)) > setup.coc:
            return _none(School.HYPERFOCAL, NOTHING_HOLDS)
        return self.one(School.HYPERFOCAL, focus)

    def _subject(self) -> Placed:
        depth = self.scene.subject
        if depth is None:
            must = [mark.depth for mark in self.scene.marks if mark.wish is Wish.SHARP]
            if not must:
                return _none(School.SUBJECT, NOTHING_MUST)
            depth = must[0]
        return self.one(School.SUBJECT, focus_distances.subject_first(self.scene.setup, depth))

    def _third_up(self) -> Placed:
        if self.scene.camera is None:
            return _none(School.THIRD_UP, NO_CAMERA)
        focus = focus_distances.third_up(self.scene.camera)
        if focus is None:
            return _none(School.THIRD_UP, ABOVE_THE_HORIZON)
        return self.one(School.THIRD_UP, self._reached(focus))

    def _third_along(self) -> Placed:
        camera = self.scene.camera
        if camera is None:
            return _none(School.THIRD_ALONG, NO_CAMERA)
        if self.ends is None:
            return _none(School.THIRD_ALONG, NOTHING_MUST)
        try:
            near, far = (
                float(horizontal_of_depth(camera, depth))
                for depth in (self.ends.near, self.ends.far)
            )
            focus = focus_distances.third_along(camera, min(near, far), max(near, far))
        except FocusTooNear:
            raise
        except OpticsError:
            return _none(School.THIRD_ALONG, NO_GROUND)
        if focus is None:
            return _none(School.THIRD_ALONG, NO_THIRD_OF_INFINITY)
        return self.one(School.THIRD_ALONG, self._reached(focus))

    def _reached(self, focus: float) -> float:
        """A depth on the ground as a ring setting: no ring goes nearer than four focal lengths."""
        return max(focus, float(nearest_focus(self.scene.setup)))

    def _infinity(self) -> Placed:
        focus = focus_distances.infinity(self.scene.setup, self.scene.margin)
        return self.one(School.INFINITY, focus)

    def _frames(self) -> Placed:
        if self.ends is None:
            return _none(School.FRAMES, NOTHING_MUST)
        near, far = self.ends.near, self.ends.far
        zones = focus_distances.frames(self.scene.setup, near, far, self.scene.overlap)
        if zones is None or any(math.isnan(zone.near) for zone in zones):
            counted = self.scene.setup.diffraction and zones is None
            return _none(School.FRAMES, NOTHING_HOLDS if counted else TOO_MANY_FRAMES)
        return self._several(School.FRAMES, zones)

    def _insurance(self) -> Placed:
        if self.ends is None:
            return _none(School.INSURANCE, NOTHING_MUST)
        setup, error = self.scene.setup, self.scene.focus_error
        found = focus_distances.insurance_for_method(setup, self.ends.near, self.ends.far, error)
        if found is None:
            return _none(School.INSURANCE, NO_SETTING)
        middle = self.one(School.INSURANCE, found.settings[len(found.settings) // 2])
        assert middle.cost is not None
        cost = replace(middle.cost, exposures=len(found.settings))
        return replace(middle, settings=found.settings, cost=cost)

    def one(self, school: School, focus: float) -> Placed:
        scene = self.scene
        verdicts = judge(scene.setup, scene.marks, focus, scene.look)
        return Placed(
            school=school,
            focus=focus,
            limits=limits(scene.setup, focus),
            verdicts=verdicts,
            settings=(focus,),
            cost=self._cost(verdicts, (focus,)),
        )

    def _several(self, school: School, zones: tuple[Zone, ...]) -> Placed:
        scene = self.scene
        settings = tuple(zone.focus for zone in zones)
        verdicts = judge_best(scene.setup, scene.marks, settings, scene.look)
        held = [limits(scene.setup, focus) for focus in (settings[0], settings[-1])]
        return Placed(
            school=school,
            focus=settings[-1],
            limits=Limits(held[0].near, held[1].far),
            verdicts=verdicts,
            settings=settings,
            cost=self._cost(verdicts, settings),
        )

    def _cost(self, verdicts: tuple[Verdict, ...], settings: tuple[float, ...]) -> Cost:
        setup = self.scene.setup
        must = [(at, v) for at, v in enumerate(verdicts) if v.mark.wish is Wish.SHARP]
        soft = [(at, v) for at, v in enumerate(verdicts) if v.mark.wish is Wish.SOFT]
        return Cost(
            lost=tuple(at for at, v in must if v.word is Word.SOFT),
            just=tuple(at for at, v in must if v.word is Word.JUST),
            too_sharp=tuple(at for at, v in soft if not v.met),
            worst=max((v.circles for _, v in must), default=0.0),
            at_infinity=float(counted_blur(setup, math.inf, settings[-1])) / float(setup.coc),
            stops=self._stops(settings),
            exposures=len(settings),
        )

    def _stops(self, settings: tuple[float, ...]) -> float | None:
        if self.ends is None or self.between_blur <= 0:
            return None
        two, setup = self.ends, self.scene.setup
        if len(settings) > 1:
            return None
        blur = focus_distances.worst_blur(setup, two.near, two.far, settings[0])
        return 2.0 * math.log2(blur / self.between_blur) if blur > 0 else None


def _none(school: School, why: str) -> Placed:
    return Placed(school, None, None, (), (), None, why)
