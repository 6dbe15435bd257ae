"""What a user can do on View with one scene: get an answer. Core values in, frozen results out."""

from __future__ import annotations

import math
from dataclasses import dataclass

from optics import (
    aperture,
    depth,
    diffraction,
    marks,
    placement,
    schools,
    settable,
    standards,
)
from optics.lens import nearest_focus
from web.view.scenes import Mark, Ring, Scene, core_scene, unsure

HOLDS, JUST, SOFT = marks.Word.HOLDS, marks.Word.JUST, marks.Word.SOFT

UNPLACED_TOLERANCE = 0.01
"""How far a setting may be rounded when no setting holds all: a share of its distance."""
SMALLEST_APERTURE = 32.0
"""No aperture smaller than this is proposed: few lenses have one, and all soften there."""
USUAL_NEAR_IN_FOCAL_LENGTHS = 40.0
LEGIBLE_BAND = 0.03
"""A band narrower than this share of the axis cannot be read, and the axis is fitted to it."""


@dataclass(frozen=True, slots=True)
class Verdict:
    """How a mark fares. ``blur``: mm on the sensor; ``circles``: the same in standards."""

    mark: Mark
    blur: float
    circles: float
    pixels: float | None
    at_subject: float
    word: str


@dataclass(frozen=True, slots=True)
class Remedy:
    """What would hold all that must be sharp. ``f_number`` None: none a lens has would."""

    f_number: float | None
    ring: Ring | None


@dataclass(frozen=True, slots=True)
class Answer:
    """The answer to a scene.

    ``window`` is where the ring may stand (None: nowhere), ``kept`` what that keeps: the
    letters of the marks that must be sharp, none of them for infinity. ``sharp`` is None when
    nothing is. ``exact`` holds the limits unrounded, for drawing.
    """

    scene: Scene
    ring: Ring
    computed: Ring
    by_hand: bool
    exact: depth.Limits
    sharp: settable.Span | None
    window: settable.Span | None
    inside_window: bool
    kept: tuple[str, ...]
    verdicts: tuple[Verdict, ...]
    remedy: Remedy | None
    hyperfocal: float
    widest_print: float
    ends: tuple[float, float] | None
    equal_ends: float | None
    why_not: str = ""
    """Why the chosen way of placing focus has no answer here; the ends are used in its place."""

    @property
    def textbook_hyperfocal(self) -> float:
        """f² ÷ (N·c) + f, from the lens: what most tables print. mm."""
        f = float(self.scene.setup.focal_length)
        return f * f / (float(self.scene.setup.f_number) * float(self.scene.setup.coc)) + f

    @property
    def standard_pixels(self) -> float | None:
        """The circle of confusion in pixels; None without pixels."""
        if not self.scene.pixels_across:
            return None
        pitch = self.scene.format.pixel_pitch(self.scene.pixels_across)
        return float(self.scene.setup.coc) / pitch

    @property
    def two_ends(self) -> bool:
        """Whether there is a nearest and another, farthest, mark that must be sharp."""
        return self.ends is not None and self.ends[0] < self.ends[1]

    @property
    def circles_at_equal_ends(self) -> float | None:
        """The blur of both ends with the ring where it is equal, in circles."""
        if self.ends is None or self.equal_ends is None:
            return None
        setup = self.scene.setup
        worst = aperture.worst_total_blur if setup.diffraction else placement.worst_blur
        return worst(setup, *self.ends, self.equal_ends) / float(setup.coc)

    @property
    def failing(self) -> tuple[Verdict, ...]:
        """Marks that must be sharp and are not."""
        return tuple(v for v in self.verdicts if v.mark.must and v.word == SOFT)

    @property
    def failing_letters(self) -> tuple[str, ...]:
        """Their letters."""
        return tuple(verdict.mark.letter for verdict in self.failing)

    @property
    def worst_circles(self) -> float:
        """The largest blur among them, in circles; 0 if there are none."""
        return max((verdict.circles for verdict in self.failing), default=0.0)

    @property
    def let_go(self) -> tuple[str, ...]:
        """The letters of marks that may go soft, and do."""
        return tuple(v.mark.letter for v in self.verdicts if not v.mark.must and v.word == SOFT)

    @property
    def soft_at_infinity(self) -> bool:
        """Whether infinity does not hold."""
        return not math.isinf(float(self.exact.far))

    @property
    def left_for_defocus(self) -> float | None:
        """The disc that the standard leaves for defocus at the hyperfocal setting, mm: the circle
        itself, unless diffraction counts. None where diffraction leaves nothing."""
        left = float(depth.allowed_defocus(self.scene.setup, self.hyperfocal))
        return None if math.isnan(left) else left

    @property
    def diffraction_alone(self) -> float:
        """The blur of diffraction alone, in circles: above 1, nothing can hold."""
        working = depth.working_f_number(self.scene.setup, self.ring.focus)
        return float(diffraction.disc(working)) / float(self.scene.setup.coc)


def answer(scene: Scene) -> Answer:
    """Place the focus, say how far it may be off, and judge every mark."""
    ends = _ends(scene)
    hyperfocal = float(depth.hyperfocal(scene.setup))
    equal_ends = placement.between(scene.setup, *ends) if ends else None
    # With no marks, infinity is what is kept.
    infinity = depth.Window(hyperfocal, math.inf)
    window = depth.focus_window(scene.setup, *ends) if ends else infinity
    middle, why_not = _placed(scene, equal_ends, hyperfocal)
    computed = _rounded(scene, middle, window)
    ring = computed
    if scene.ring is not None:
        ring = Ring(scene.ring, settable.FINE)
    exact = depth.limits(scene.setup, ring.focus)
    verdicts = _verdicts(scene, ring.focus)
    held = window is not None and window.nearest <= ring.focus <= window.farthest
    needs_remedy = ends is not None and any(v.mark.must and v.word == SOFT for v in verdicts)
    return Answer(
        scene=scene,
        ring=ring,
        computed=computed,
        by_hand=scene.ring is not None,
        exact=exact,
        sharp=None
        if exact.empty
        else settable.inside(float(exact.near), float(exact.far), scene.system),
        window=settable.inside(window.nearest, window.farthest, scene.system) if window else None,
        inside_window=held,
        kept=tuple(mark.letter for mark in scene.marks if mark.must),
        verdicts=verdicts,
        remedy=_remedy(scene, ends, equal_ends, window) if ends and needs_remedy else None,
        hyperfocal=hyperfocal,
        widest_print=standards.widest_print(float(scene.setup.coc), scene.format),
        ends=ends,
        equal_ends=equal_ends,
        why_not=why_not,
    )


@dataclass(frozen=True, slots=True)
class _Middle:
    """Where a way of placing focus wants the ring, mm, and whether it may only be farther."""

    focus: float
    or_farther: bool = False


def _placed(scene: Scene, equal_ends: float | None, hyperfocal: float) -> tuple[_Middle, str]:
    """The chosen way's focus; where it has none, that of the ends or of infinity, and why."""
    school = schools.School(scene.place)
    usual = _Middle(hyperfocal, or_farther=True)
    if equal_ends is not None:
        usual = _Middle(equal_ends)
    if school is schools.School.HYPERFOCAL:
        return _Middle(hyperfocal, or_farther=True), ""
    if school is schools.School.BETWEEN:
        return usual, ""
    placed = schools.place(core_scene(scene), school)
    if placed.focus is None:
        return usual, placed.why_not
    return _Middle(placed.focus, or_farther=school is schools.School.INFINITY), ""


def _ends(scene: Scene) -> tuple[float, float] | None:
    depths = [mark.depth for mark in scene.marks if mark.must]
    return (min(depths), max(depths)) if depths else None


def _rounded(scene: Scene, middle: _Middle, window: depth.Window | None) -> Ring:
    """The setting of the chosen way, rounded so that a hand can set it and still be right."""
    focus = middle.focus
    if middle.or_farther:
        setting = settable.within(focus, focus, math.inf, scene.system)
    elif window is not None and window.holds(focus):
        setting = settable.within(focus, window.nearest, window.farthest, scene.system)
    else:
        least = float(nearest_focus(scene.setup))
        near, far = focus * (1 - UNPLACED_TOLERANCE), focus * (1 + UNPLACED_TOLERANCE)
        setting = settable.within(focus, max(near, min(least, far)), far, scene.system)
    return Ring(setting.focus, setting.figures)


def _verdicts(scene: Scene, focus: float) -> tuple[Verdict, ...]:
    judged = marks.judge(
        scene.setup,
        [unsure(mark) for mark in scene.marks],
        focus,
        marks.Look(scene.format, scene.pixels_across),
    )
    return tuple(
        Verdict(mark, found.blur, found.circles, found.pixels, found.at_subject, found.word)
        for mark, found in zip(scene.marks, judged, strict=True)
    )


def _remedy(
    scene: Scene,
    ends: tuple[float, float],
    equal_ends: float | None,
    window: depth.Window | None,
) -> Remedy:
    """What would hold everything: another setting if there is one, else another aperture."""
    if window is not None:
        between = _rounded(scene, _Middle(equal_ends or math.inf), window)
        return Remedy(f_number=float(scene.setup.f_number), ring=between)
    if math.isnan(float(depth.limits(scene.setup, ends[0]).near)):  # too far closed: open it
        wider = aperture.THIRDS.from_to(aperture.WIDEST, float(scene.setup.f_number))
        held = aperture.holding(scene.setup, *ends, reversed(wider))
        return Remedy(f_number=held[0].f_number if held else None, ring=None)
    needed = aperture.widest_holding(scene.setup, *ends)
    settable_one = aperture.next_settable(needed) if needed else None
    usual = settable_one is not None and settable_one <= SMALLEST_APERTURE
    return Remedy(f_number=settable_one if usual else None, ring=None)


def interest(result: Answer) -> tuple[float, ...]:
    """The distances a drawing of this answer must show, mm. Turning the ring changes none of
    them while the ring stays in the picture, so that nothing moves that the user did not."""
    setup, focus = result.scene.setup, result.computed.focus
    limits = depth.limits(setup, focus) if result.by_hand else result.exact
    held = () if limits.empty else (float(limits.near), float(limits.far))
    if limits.empty:  # nothing to see: a usual stretch of the axis
        depths = [mark.depth for mark in result.scene.marks]
        usual = USUAL_NEAR_IN_FOCAL_LENGTHS * float(setup.focal_length)
        held = (min(depths, default=usual) * 0.8, max(depths, default=math.inf) * 1.5)
    fixed = (focus, *held, *(mark.depth for mark in result.scene.marks))
    ring = result.ring.focus
    nearest, farthest = min(fixed), max(fixed)
    shown = nearest * 0.9 <= ring <= farthest * 1.1
    if result.scene.marks:
        return fixed if shown else (*fixed, ring)
    if result.exact.empty:
        return fixed if shown else (*fixed, ring)
    near, far = float(result.exact.near), float(result.exact.far)
    legible = 1 / near - 1 / far > LEGIBLE_BAND * (1 / min(nearest, ring) - 1 / farthest)
    if not legible:
        return (ring, near, far)
    return fixed if shown else (*fixed, ring, near)
