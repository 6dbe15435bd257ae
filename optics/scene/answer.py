"""One scene, one answer: the aperture, the ring, how wrong it may be, and what holds.

This is the order in which a photographer reads: what to set, its tolerance, then why. Everybody who
answers a scene calls this: ``python -m optics aim`` and every screen.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

from optics.base.settable import Setting, Span, inside
from optics.lens import depth, diffraction
from optics.lens.focus_window import Window
from optics.lens.shot import Shot
from optics.lens.standards import widest_print
from optics.scene import placing
from optics.scene.choosing import ChosenAperture, Widest, choose, holding, widest
from optics.scene.marks import Ends, Verdict, Wish, Word
from optics.scene.scenes import Scene
from optics.scene.schools import BETWEEN
from optics.zones.frame_sets import NoSet, frame_set


@dataclass(frozen=True, slots=True)
class Remedy:
    """What would hold all that must be sharp, the nearest to what is set.

    ``f_number``  None: none that the lens has would, and then ``frames`` is how many would, None if
                  that is no number to take by hand.
    ``setting``   where the ring would go for it; None: where the scene's school puts it there.
    ``surely``    even with the distances off by what they may be.
    """

    f_number: float | None
    setting: Setting | None = None
    surely: bool = False
    frames: int | None = None


@dataclass(frozen=True, slots=True)
class Answer:
    """The answer to a scene. Distances mm from the sensor.

    ``scene``     at the aperture chosen. ``chosen``: that, and what there is to say of it.
    ``shots``     the frames to take, nearest first: one, unless several are.
    ``computed``  where the ring goes by the scene's school; ``by_hand``: whether a hand has set it
                  elsewhere.
    ``exact``     what is sharp, unrounded; ``sharp``, rounded inwards; None when nothing is.
    ``exact_window``, ``window``  where the ring may stand for all that must be sharp, unrounded and
                  rounded inwards; None: nowhere. Wherever in their doubts the marks are, if that is
                  what they do with the ring where it is. With no marks, for infinity.
    ``given_window``  the same with the marks just where they are said to be.
    ``inside_window``  whether the first frame's ring does.
    ``verdicts``  in the order of the scene's marks.
    ``remedy``    where something that must be sharp is not.
    ``ends``, ``equal_ends``  as of ``placing.Placement``; ``why_not`` too: then the ends are used.
    ``widest_print``  for which the standard itself is no blur, mm.
    """

    scene: Scene
    chosen: ChosenAperture
    shots: tuple[Shot, ...]
    computed: Setting
    by_hand: bool
    exact: depth.Limits
    sharp: Span | None
    window: Span | None
    exact_window: Window | None
    given_window: Window | None
    inside_window: bool
    verdicts: tuple[Verdict, ...]
    remedy: Remedy | None
    hyperfocal: float
    widest_print: float
    ends: Ends | None
    equal_ends: float | None
    why_not: str = ""

    @property
    def ring(self) -> Shot:
        """Where the ring goes; of several frames, the nearest."""
        return self.shots[0]

    @property
    def more_frames(self) -> tuple[Shot, ...]:
        """The frames after the first."""
        return self.shots[1:]

    @property
    def kept(self) -> tuple[str, ...]:
        """The letters of the marks that must be sharp."""
        return tuple(mark.letter for mark in self.scene.must)

    @property
    def holding(self) -> tuple[str, ...]:
        """The letters of those that hold, wherever in their doubts they are."""
        return self._must(Word.HOLDS)

    @property
    def just(self) -> tuple[str, ...]:
        """The letters of those that are only just sharp: at the distance that was given."""
        return self._must(Word.JUST)

    def _must(self, word: Word) -> tuple[str, ...]:
        return tuple(v.mark.letter for v in self.verdicts if v.mark.must and v.shown is word)

    @property
    def smeared(self) -> tuple[Verdict, ...]:
        """Marks that must be sharp, are in focus, and smear."""
        return tuple(v for v in self.verdicts if v.mark.must and v.smeared)

    @property
    def unsmeared(self) -> tuple[Verdict, ...]:
        """Marks that should smear, and do not."""
        moving = (v for v in self.verdicts if v.movement is not None)
        return tuple(v for v in moving if v.mark.wish is Wish.SMEAR and v.shown is Word.SOFT)

    @property
    def two_ends(self) -> bool:
        """Whether there is a nearest and another, farthest, mark that must be sharp."""
        return self.ends is not None and self.ends.near < self.ends.far

    @property
    def failing(self) -> tuple[Verdict, ...]:
        """Marks that must be sharp and are not."""
        return tuple(v for v in self.verdicts if v.mark.must and v.word is Word.SOFT)

    @property
    def failing_letters(self) -> tuple[str, ...]:
        """Their letters."""
        return tuple(verdict.mark.letter for verdict in self.failing)

    @property
    def worst_circles(self) -> float:
        """The largest blur among them, in circles; 0 if there are none."""
        return max((verdict.circles for verdict in self.failing), default=0.0)

    @property
    def worst(self) -> Verdict | None:
        """Of the marks that must be sharp, the one that comes out worst; None if none must."""
        must = (v for v in self.verdicts if v.mark.must)
        return max(must, key=lambda verdict: verdict.together, default=None)

    @property
    def let_go(self) -> tuple[str, ...]:
        """The letters of marks that may go soft, and do."""
        return self._soft(Wish.FREE)

    @property
    def falling_off(self) -> tuple[str, ...]:
        """Those that fall off softly from the subject, as wished."""
        return self._soft(Wish.FALLS)

    @property
    def nice_lost(self) -> tuple[str, ...]:
        """Those that would have been nice to have sharp, and are not."""
        return self._soft(Wish.NICE)

    def _soft(self, wish: Wish) -> tuple[str, ...]:
        soft = (v.mark for v in self.verdicts if v.word is Word.SOFT)
        return tuple(mark.letter for mark in soft if mark.wish is wish)

    @property
    def soft_as_wished(self) -> tuple[str, ...]:
        """Those that should fall soft, and do."""
        return tuple(v.mark.letter for v in self.verdicts if v.mark.wish is Wish.SOFT and v.met)

    @property
    def too_sharp(self) -> tuple[str, ...]:
        """Those that should fall soft, and do not fall soft enough."""
        return tuple(v.mark.letter for v in self.verdicts if v.mark.wish is Wish.SOFT and not v.met)

    @property
    def left_for_defocus(self) -> float | None:
        """The disc that the standard leaves for defocus at the hyperfocal setting, mm: the circle
        itself, unless diffraction counts. None where diffraction leaves nothing."""
        left = depth.allowed_defocus(self.scene.setup, self.hyperfocal)
        return None if math.isnan(left) else left

    @property
    def blurs_unseen(self) -> bool:
        """Whether diffraction, which the standard does not count, makes what just holds by it more
        than a tenth softer."""
        setup = self.scene.setup
        if setup.diffraction:
            return False
        working = depth.working_f_number(setup, self.ring.focus)
        return diffraction.combine_plain(setup.coc, working) > (1 + _UNSEEN) * setup.coc

    @property
    def diffraction_alone(self) -> float:
        """The blur of diffraction alone, in circles: above 1, nothing can hold."""
        working = depth.working_f_number(self.scene.setup, self.ring.focus)
        return diffraction.disc(working) / self.scene.setup.coc


_UNSEEN = 0.1


def answer(scene: Scene) -> Answer:
    """Choose the aperture, place the focus, say how far it may be off, and judge every mark.

    What a school cannot do, and that nothing holds, are answers too.
    """
    chosen = choose(scene)
    scene = scene.at(chosen.f_number)
    placement = placing.place(scene)
    shots = _shots(scene, placement)
    verdicts = placing.verdicts(scene, [shot.focus for shot in shots])
    exact = depth.Limits(shots[0].near, shots[-1].far)
    # What the ring does where it stands is said of all of the window that is given.
    sure = placement.sure
    window = sure if sure is not None and sure.holds(shots[0].focus) else placement.window
    lost = any(v.mark.must and v.word is Word.SOFT for v in verdicts)
    return Answer(
        scene=scene,
        chosen=chosen,
        shots=shots,
        computed=placement.settings[0],
        by_hand=scene.ring is not None,
        exact=exact,
        sharp=_sharp(scene, shots),
        window=inside(window.nearest, window.farthest, scene.system) if window else None,
        exact_window=window,
        given_window=placement.window,
        inside_window=window is not None and window.holds(shots[0].focus),
        verdicts=verdicts,
        remedy=_remedy(scene, placement) if lost else None,
        hyperfocal=placement.hyperfocal,
        widest_print=widest_print(scene.setup.coc, scene.format),
        ends=placement.ends,
        equal_ends=placement.equal,
        why_not=placement.why_not,
    )


def _opened(scene: Scene) -> Widest | None:
    """Where nothing is sharp any more, the aperture to open to: the least that it takes."""
    nothing = depth.limits(scene.setup, math.inf).empty
    if not nothing or scene.kit.faults:
        return None
    for f_number in reversed([n for n in scene.apertures if n < scene.f_number]):
        found = holding(scene, f_number)
        if found is not None:
            return found
    return None


def _sharp(scene: Scene, shots: tuple[Shot, ...]) -> Span | None:
    if len(shots) == 1:
        return shots[0].held
    near, far = shots[0].near, shots[-1].far
    return None if math.isnan(near) else inside(near, far, scene.system)


def _shots(scene: Scene, placement: placing.Placement) -> tuple[Shot, ...]:
    taken = placing.taken(scene, placement)
    exact = placement.exact if scene.ring is None else (math.nan,)
    return tuple(
        shot_at(scene, setting.focus, wanted) for setting, wanted in zip(taken, exact, strict=True)
    )


def shot_at(scene: Scene, focus: float, exact: float = math.nan) -> Shot:
    """A frame of a scene with the ring at ``focus``, mm, and what it holds."""
    held = depth.limits(scene.setup, focus)
    return Shot(
        focus=focus,
        exact=exact,
        f_number=scene.f_number,
        near=held.near,
        far=held.far,
        held=None if held.empty else inside(held.near, held.far, scene.system),
    )


def _remedy(scene: Scene, placement: placing.Placement) -> Remedy:
    """Another setting if there is one, else another aperture that the lens has, the widest of them,
    with the ring as it is placed or, if not so, between the ends; else several frames."""
    two = placement.ends
    assert two is not None
    if placement.window is not None:
        focus = placing.between(scene, two)
        return Remedy(scene.f_number, placing.rounded(scene, focus, placement.window))
    found = _opened(scene) or widest(scene)
    if found is not None:
        return Remedy(found.f_number, surely=found.surely)
    between = replace(scene, school=BETWEEN.key, ring=None)
    found = widest(between)
    if found is not None:
        settings = placing.place(between.at(found.f_number)).settings
        return Remedy(found.f_number, settings[0], found.surely)
    frames = frame_set(scene.setup, two.near, two.far, scene.overlap, scene.closest, scene.system)
    return Remedy(None, frames=None if isinstance(frames, NoSet) else len(frames))
