"""Marks: the things of a scene that must, may or should not be sharp, and how each one fares.

A mark lies at a depth that is known only so well. It *holds* if its blur stays within the standard
over the whole of that stretch, is *just* if only at the stated depth, else it is *soft*. Blur is
two arms in 1/distance, so over a stretch it is greatest at one of the ends and least at an end or
at the plane of sharp focus itself.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum

from optics.base.errors import OutOfRange, require_finite, require_positive
from optics.base.formats import Format
from optics.lens.cone import Cone
from optics.lens.conjugates import magnification
from optics.lens.depth import working_f_number
from optics.lens.diffraction import combine_plain
from optics.lens.setup import Setup
from optics.lens.standards import CLASSIC_EYE, CLASSIC_VIEWING_DISTANCE, Eye, widest_print
from optics.scene.movement import Movement


class Wish(StrEnum):
    """What is wanted of a mark."""

    SHARP = "must"
    NICE = "nice"
    """Sharp where that costs nothing that must be."""
    FREE = "may_go"
    FALLS = "falls"
    """Would have to be sharp, but falls off naturally from the subject, as the look wants it."""
    SOFT = "fall_soft"
    SMEAR = "smear"


SKY = math.inf
"""The rise of a mark that stands on no ground."""


class Word(StrEnum):
    """How sharp a mark comes out."""

    HOLDS = "holds"
    JUST = "just"
    SOFT = "soft"


@dataclass(frozen=True, slots=True)
class Mark:
    """Something in the scene.

    ``depth``        mm from the sensor, above 0, up to inf.
    ``uncertainty``  mm to either side, 0 or more, finite and less than the depth.
    ``wish``         sharp, free, or soft.
    ``softness``     of one that should fall soft: its blur should be at least so many times the
                     standard, 1 or more.
    ``name``, ``letter``  what it is called, and by which letter for short.
    ``rise``         mm above the ground; ``SKY`` for what stands on none.
    ``at``           where in the frame it was put, shares from the left and from below; None: not
                     put.
    ``speed``        mm/s; 0 for what keeps still, None where nobody said.

    Raises NotANumber, OutOfRange.
    """

    depth: float
    uncertainty: float = 0.0
    wish: Wish = Wish.SHARP
    softness: float = 2.0
    name: str = ""
    letter: str = ""
    rise: float = 0.0
    at: tuple[float, float] | None = None
    speed: float | None = None

    def __post_init__(self) -> None:
        require_positive("depth", self.depth, "depth of a mark", finite=False)
        require_positive("uncertainty", self.uncertainty, "uncertainty", zero=True)
        require_finite("softness", self.softness, "softness")
        if self.uncertainty >= self.depth:
            sentence = "A depth that unsure is no depth: the mark could be at the camera."
            raise OutOfRange("uncertainty", self.uncertainty, sentence)
        if self.softness < 1:
            sentence = "What should fall soft must be blurred more than the standard."
            raise OutOfRange("softness", self.softness, sentence)

    @property
    def must(self) -> bool:
        """Whether it must be sharp."""
        return self.wish is Wish.SHARP

    @property
    def nearest(self) -> float:
        """The near end of where it may be, mm from the sensor."""
        return self.depth - self.uncertainty

    @property
    def farthest(self) -> float:
        """The far end of where it may be, mm from the sensor."""
        return self.depth + self.uncertainty


@dataclass(frozen=True, slots=True)
class Look:
    """How the picture is looked at, to put a blur into words.

    ``pixels_across``: of the sensor's width, or None for film. ``viewing_distance``: mm.
    """

    frame: Format
    pixels_across: int | None = None
    viewing_distance: float = CLASSIC_VIEWING_DISTANCE
    eye: Eye = CLASSIC_EYE

    def pixels(self, blur: float) -> float | None:
        """A blur in pixels of the sensor; None on film."""
        return blur / self.frame.pixel_pitch(self.pixels_across) if self.pixels_across else None

    def widest_print(self, blur: float) -> float:
        """The width of print up to which a blur stays unseen, mm; inf for none."""
        return widest_print(blur, self.frame, self.viewing_distance, self.eye)


@dataclass(frozen=True, slots=True)
class Verdict:
    """How a mark fares with the ring where it is.

    ``blur``      at the stated depth, mm on the sensor, as *holds* counts it.
    ``worst``, ``least``  over the whole of where it may be, mm.
    ``circles``   ``blur`` in circles of confusion.
    ``pixels``    ``blur`` in pixels; None on film.
    ``at_subject``  how much of the thing ``blur`` covers, mm; inf at infinity.
    ``print_width``  the widest print for which ``blur`` is no blur, mm; inf if there is none.
    ``word``      holds, just or soft.
    ``met``       whether focus fulfils its wish at the stated depth; ``surely``, over all of it.
    ``movement``  what its own motion does to it; None where it keeps still, or no time is known.
    """

    mark: Mark
    blur: float
    worst: float
    least: float
    circles: float
    pixels: float | None
    at_subject: float
    print_width: float
    word: Word
    met: bool
    surely: bool
    movement: Movement | None = None

    @property
    def said(self) -> str:
        """The verdict in a word or two, focus and motion together."""
        if self.movement is not None and self.mark.wish is Wish.SMEAR:
            return "smears" if self.movement.as_a_smear else "does not"
        return "smears" if self.smeared else str(self.word)

    @property
    def shown(self) -> Word:
        """The verdict as a shape."""
        if self.movement is not None and self.mark.wish is Wish.SMEAR:
            return Word.HOLDS if self.movement.as_a_smear else Word.SOFT
        return Word.SOFT if self.smeared else self.word

    @property
    def smeared(self) -> bool:
        """Whether it is in focus, should not smear, and does."""
        moved, wanted = self.movement, self.mark.wish is Wish.SMEAR
        return moved is not None and not (wanted or moved.holds or self.word is Word.SOFT)

    @property
    def together(self) -> float:
        """Focus and motion together, in circles of confusion."""
        return self.circles if self.movement is None else self.movement.together

    @property
    def seen(self) -> tuple[float, float | None]:
        """That in mm on the sensor, and in pixels; None on film."""
        moved = self.movement
        return (self.blur, self.pixels) if moved is None else (moved.blur, moved.pixels)


_EDGE = 1.0 + 1e-9
"""A blur that exceeds the standard by rounding alone holds: limits are where it is met exactly."""


def judge(setup: Setup, marks: Sequence[Mark], focus: float, look: Look) -> tuple[Verdict, ...]:
    """How each mark fares with the ring at ``focus``, mm from the sensor. In the marks' order.

    Plain numbers in ``setup``. Raises FocusTooNear, SubjectTooNear (a mark inside the lens).
    """
    return judge_best(setup, marks, (focus,), look)


def judge_best(
    setup: Setup, marks: Sequence[Mark], settings: Sequence[float], look: Look
) -> tuple[Verdict, ...]:
    """The same over several frames: each mark as the frame has it that shows it sharpest."""
    frames = [_Frame.at(setup, focus) for focus in settings]
    verdicts = []
    for mark in marks:
        frame = frames[0] if len(frames) == 1 else min(frames, key=lambda each: each.worst(mark))
        verdicts.append(frame.verdict(mark, setup.coc, look))
    return tuple(verdicts)


@dataclass(frozen=True, slots=True)
class _Frame:
    """The lens with its ring set, ready to look at one mark after the other: plain numbers, which
    for a handful of marks are several times faster than arrays."""

    cone: Cone
    sharp: float
    working: float
    counting: bool
    lens_disc: float

    @classmethod
    def at(cls, setup: Setup, focus: float) -> _Frame:
        cone = Cone.at(setup, magnification(setup, float(focus)))
        return cls(
            cone=cone,
            sharp=float(cone.far_limit(0.0)),
            working=working_f_number(setup, float(focus)),
            counting=setup.diffraction,
            lens_disc=setup.lens_disc,
        )

    def blur(self, depth: float) -> float:
        """As ``depth.counted_blur``."""
        geometric = float(self.cone.blur(depth))
        if not self.counting:
            return geometric
        return math.hypot(combine_plain(geometric, self.working), self.lens_disc)

    def worst(self, mark: Mark) -> float:
        return max(self.blur(mark.nearest), self.blur(mark.farthest))

    def verdict(self, mark: Mark, coc: float, look: Look) -> Verdict:
        blur = self.blur(mark.depth)
        near, far = (
            (blur, blur) if not mark.uncertainty else map(self.blur, (mark.nearest, mark.farthest))
        )
        least = min(blur, near, far)
        if mark.nearest <= self.sharp <= mark.farthest:
            least = min(least, self.blur(self.sharp)) if math.isfinite(self.sharp) else least
        scale = self.cone.scale(mark.depth)
        size = blur / scale if scale > 0 else math.inf if blur > 0 else 0.0
        return _verdict(mark, blur, max(blur, near, far), least, size, coc, look)


def _verdict(
    mark: Mark, blur: float, worst: float, least: float, size: float, coc: float, look: Look
) -> Verdict:
    allowed = coc * _EDGE
    word = Word.SOFT if blur > allowed else Word.JUST if worst > allowed else Word.HOLDS
    met, surely = True, True
    if mark.wish in (Wish.SHARP, Wish.NICE):
        met, surely = word is not Word.SOFT, word is Word.HOLDS
    elif mark.wish is Wish.SOFT:
        met, surely = (b * _EDGE >= mark.softness * coc for b in (blur, least))
    return Verdict(
        mark=mark,
        blur=blur,
        worst=worst,
        least=least,
        circles=blur / coc,
        pixels=look.pixels(blur),
        at_subject=size,
        print_width=look.widest_print(blur),
        word=word,
        met=met,
        surely=surely,
    )


@dataclass(frozen=True, slots=True)
class Ends:
    """The nearest and the farthest distance that must be sharp, mm from the sensor."""

    near: float
    far: float


def ends(marks: Sequence[Mark], *, surely: bool = False) -> Ends | None:
    """The ends of what must be sharp; None if nothing must.

    At the stated depths, or with ``surely`` over the whole of where the marks may be.
    """
    must = [mark for mark in marks if mark.must]
    if not must:
        return None
    if surely:
        return Ends(min(m.nearest for m in must), max(m.farthest for m in must))
    return Ends(min(m.depth for m in must), max(m.depth for m in must))
