"""Marks: the things of a scene that must, may or should not be sharp, and how each one fares.

A mark lies at a depth that is known only so well. It *holds* if its blur stays within the standard
over the whole of that stretch, is *just* if only at the stated depth, else it is *soft*. Blur is
two arms in 1/distance, so over a stretch it is greatest at one of the ends and least at an end or
at the plane of sharp focus itself.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum

import numpy as np

from optics.depth import counted_blur, sharp_distance, size_at_subject
from optics.errors import OutOfRange, require_finite, require_positive
from optics.formats import Format
from optics.setup import Setup
from optics.standards import CLASSIC_EYE, CLASSIC_VIEWING_DISTANCE, Eye, widest_print


class Wish(StrEnum):
    """What is wanted of a mark."""

    SHARP = "must"
    FREE = "may_go"
    SOFT = "fall_soft"


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

    Raises NotANumber, OutOfRange.
    """

    depth: float
    uncertainty: float = 0.0
    wish: Wish = Wish.SHARP
    softness: float = 2.0
    name: str = ""

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
    ``met``       whether its wish is fulfilled at the stated depth; ``surely``, over all of it.
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
    if not marks:
        return ()
    depths = np.array([(mark.depth, mark.nearest, mark.farthest) for mark in marks]).T
    focuses = np.array(settings)[:, np.newaxis, np.newaxis]
    by_frame = np.asarray(counted_blur(setup, depths, focuses))
    best = by_frame.max(axis=1).argmin(axis=0)
    blurs = np.take_along_axis(by_frame, best[np.newaxis, np.newaxis], axis=0)[0]
    sizes = np.asarray(size_at_subject(setup, blurs[0], depths[0], focuses[best, 0, 0])).tolist()
    sharp = [float(sharp_distance(setup, focus)) for focus in settings]
    coc = float(setup.coc)
    verdicts = []
    for mark, blur, size, frame in zip(marks, blurs.T.tolist(), sizes, best.tolist(), strict=True):
        if mark.nearest <= sharp[frame] <= mark.farthest:
            at_sharp = min(*blur, float(counted_blur(setup, sharp[frame], settings[frame])))
        else:
            at_sharp = min(blur)
        verdicts.append(_verdict(mark, blur[0], max(blur), at_sharp, size, coc, look))
    return tuple(verdicts)


def _verdict(
    mark: Mark, blur: float, worst: float, least: float, size: float, coc: float, look: Look
) -> Verdict:
    allowed = coc * _EDGE
    word = Word.SOFT if blur > allowed else Word.JUST if worst > allowed else Word.HOLDS
    met, surely = True, True
    if mark.wish is Wish.SHARP:
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
    must = [mark for mark in marks if mark.wish is Wish.SHARP]
    if not must:
        return None
    if surely:
        return Ends(min(m.nearest for m in must), max(m.farthest for m in must))
    return Ends(min(m.depth for m in must), max(m.depth for m in must))
