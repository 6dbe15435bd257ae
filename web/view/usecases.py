"""What a user can do on View with one scene: get an answer. Core values in, frozen results out."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

from optics.base import settable
from optics.base.errors import OpticsError
from optics.lens import aperture, depth, diffraction, standards
from optics.lens.conjugates import nearest_focus
from optics.scene import focus_distances, frame, marks
from web.view import choosing, placing
from web.view.placing import Verdict
from web.view.scenes import Ring, Scene, Wish

HOLDS, JUST, SOFT = marks.Word.HOLDS, marks.Word.JUST, marks.Word.SOFT

USUAL_NEAR_IN_FOCAL_LENGTHS = 40.0
LEGIBLE_BAND = 0.03
"""A band narrower than this share of the axis cannot be read, and the axis is fitted to it."""


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
    chosen: choosing.Chosen
    settings: tuple[Ring, ...]
    computed: Ring
    by_hand: bool
    exact: depth.Limits
    sharp: settable.Span | None
    window: settable.Span | None
    exact_window: depth.Window | None
    inside_window: bool
    kept: tuple[str, ...]
    verdicts: tuple[Verdict, ...]
    remedy: Remedy | None
    hyperfocal: float
    widest_print: float
    ends: placing.Ends | None
    equal_ends: float | None
    why_not: str = ""
    """Why the chosen way of placing focus has no answer here; the ends are used in its place."""

    @property
    def ring(self) -> Ring:
        """Where the ring goes; of several frames, the nearest."""
        return self.settings[0]

    @property
    def more_frames(self) -> tuple[Ring, ...]:
        """The settings of the frames after the first."""
        return self.settings[1:]

    @property
    def depth_at_three_metres(self) -> float | None:
        """The depth of level ground 3 m ahead, mm: an example of the conversion. None where that
        is not ahead of the lens, or nobody said where it stands."""
        if self.scene.camera is None:
            return None
        try:
            level = replace(self.scene.camera, slope=0.0)
            return float(frame.depth_along_ground(level, 3000.0))
        except OpticsError:
            return None

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
        return self.ends is not None and self.ends.near < self.ends.far

    @property
    def circles_at_equal_ends(self) -> float | None:
        """The blur of both ends with the ring where it is equal, in circles."""
        if self.ends is None or self.equal_ends is None:
            return None
        setup = self.scene.setup
        worst = aperture.worst_total_blur if setup.diffraction else focus_distances.worst_blur
        return worst(setup, self.ends.near, self.ends.far, self.equal_ends) / float(setup.coc)

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
        return self._letters(Wish.FREE, SOFT)

    @property
    def falling_off(self) -> tuple[str, ...]:
        """Those that fall off softly from the subject, as wished."""
        return self._letters(Wish.FALLS, SOFT)

    @property
    def nice_lost(self) -> tuple[str, ...]:
        """Those that would have been nice to have sharp, and are not."""
        return self._letters(Wish.NICE, SOFT)

    def _letters(self, wish: Wish, word: str) -> tuple[str, ...]:
        return tuple(v.mark.letter for v in self.verdicts if v.mark.wish is wish and v.word == word)

    @property
    def soft_as_wished(self) -> tuple[str, ...]:
        """Those that should fall soft, and do."""
        return tuple(v.mark.letter for v in self.verdicts if v.mark.wish is Wish.SOFT and v.met)

    @property
    def too_sharp(self) -> tuple[str, ...]:
        """Those that should fall soft, and do not fall soft enough."""
        return tuple(v.mark.letter for v in self.verdicts if v.mark.wish is Wish.SOFT and not v.met)

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
    """Choose the aperture, place the focus, say how far it may be off, and judge every mark."""
    chosen = choosing.choose(scene)
    scene = placing.at_aperture(scene, chosen.f_number)
    placed = placing.place(scene)
    settings = placing.taken(scene, placed)
    rings = tuple(ring.focus for ring in settings)
    verdicts = placing.verdicts(scene, rings)
    exact = depth.limits(scene.setup, rings[0])
    if len(rings) > 1:
        exact = depth.Limits(exact.near, depth.limits(scene.setup, rings[-1]).far)
    window = placed.window
    held = window is not None and window.nearest <= rings[0] <= window.farthest
    lost = any(v.mark.must and v.word == SOFT for v in verdicts)
    return Answer(
        scene=scene,
        chosen=chosen,
        settings=settings,
        computed=placed.settings[0],
        by_hand=scene.ring is not None,
        exact=exact,
        sharp=None
        if exact.empty
        else settable.inside(float(exact.near), float(exact.far), scene.system),
        window=settable.inside(window.nearest, window.farthest, scene.system) if window else None,
        exact_window=window,
        inside_window=held,
        kept=tuple(mark.letter for mark in scene.must),
        verdicts=verdicts,
        remedy=_remedy(scene, placed) if lost else None,
        hyperfocal=placed.hyperfocal,
        widest_print=standards.widest_print(float(scene.setup.coc), scene.format),
        ends=placed.ends,
        equal_ends=placed.equal,
        why_not=placed.why_not,
    )


def _remedy(scene: Scene, placed: placing.Placed) -> Remedy:
    """What would hold everything: another setting if there is one, else another aperture that the
    lens has, the widest of them."""
    ends = placed.ends
    assert ends is not None
    if placed.window is not None:
        between = placing.rounded(scene, placing.between(scene, ends), placed.window)
        return Remedy(f_number=float(scene.setup.f_number), ring=between)
    too_closed = math.isnan(float(depth.limits(scene.setup, max(ends.near, scene.closest)).near))
    apertures = tuple(reversed(scene.apertures)) if too_closed else scene.apertures
    if not too_closed and ends.near >= nearest_focus(scene.setup):
        needed = aperture.widest_holding(scene.setup, ends.near, ends.far) or math.inf
        apertures = tuple(n for n in apertures if n >= needed * (1 - 1e-6))
    for f_number in apertures:
        if placing.window_for(placing.at_aperture(scene, f_number), ends) is not None:
            return Remedy(f_number=f_number, ring=None)
    return Remedy(f_number=None, ring=None)


def interest(result: Answer) -> tuple[float, ...]:
    """The distances a drawing of this answer must show, mm, one of them finite at least. Turning
    the ring changes none of them while the ring stays in the picture, so that nothing moves that
    the user did not."""
    found = _interest(result)
    if min(found) < math.inf:
        return found
    return (USUAL_NEAR_IN_FOCAL_LENGTHS * float(result.scene.setup.focal_length), *found)


def _interest(result: Answer) -> tuple[float, ...]:
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
