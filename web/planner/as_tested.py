"""What tests found of the lens in hand, as an answer counts it; and what the answer is without."""

from __future__ import annotations

from collections.abc import Callable
from contextlib import suppress
from dataclasses import dataclass
from typing import Any
from urllib.parse import urlencode

from django.http import QueryDict

from optics.base import units
from optics.base.errors import OpticsError
from optics.lens.shot import Shot
from web.hand.asker import Asker
from web.kept.kinds import Kind
from web.planner.reading import Reading

IDEAL = "lens_ideal"
_PLANS = "plan"
"""The kind whose answers hold their window against ways of focusing."""
_SMALLEST = 5e-4
"""mm: a shift or a blur that is less is nothing that anybody sees."""


@dataclass(frozen=True, slots=True)
class AsTested:
    """What an answer says of a lens's tests.

    ``shift``, ``blur``  at the aperture in force, mm; 0 for none. ``ring_off``: how much more it
    stands out than its ring reads, mm. ``ways``: whether ways of focusing were tried, and matter.
    ``counts``: whether they count.
    ``other``  the first frame to take if they did not, or if they did; None where there is none.
    ``link``   the query of the same scene with them left out, or counted again.
    """

    shift: float
    blur: float
    ring_off: float
    ways: bool
    counts: bool
    other: Shot | None
    link: str

    @property
    def off_by(self) -> float:
        """The same, whichever way, mm."""
        return abs(self.ring_off)

    @property
    def known(self) -> bool:
        """Whether anything of the lens itself was found."""
        return bool(self.shift or self.blur or self.ring_off)

    @property
    def stands_out(self) -> bool:
        """Whether it stands out more than its ring reads, and not less."""
        return self.ring_off > 0

    @property
    def farther(self) -> bool:
        """Whether sharpness falls on farther things."""
        return self.shift > 0


def as_tested(
    kind: Kind, reading: Reading, who: Asker, read: Callable[[QueryDict, Asker], Any]
) -> AsTested | None:
    """What is to be said of the tests of the lens in hand; None of one without, or without any that
    matters at its aperture. ``read``: from a link and who asks to a planner's reading."""
    hand = reading.hand
    faults = hand.in_use.faults_at(hand.kit.focal_length)
    ways = kind.key == _PLANS and bool(hand.in_use.known_ways)
    if not faults and not ways:
        return None
    setup = hand.kit.with_faults(faults).at(hand.f_number)
    off = hand.in_use.ring_off_at(hand.kit.focal_length)
    shift = setup.focus_shift + off if abs(setup.focus_shift + off) >= _SMALLEST else 0.0
    blur = setup.lens_disc if setup.lens_disc >= _SMALLEST and setup.diffraction else 0.0
    counts = not reading.texts[IDEAL]
    if not (shift or blur or off or ways):
        return None
    link = urlencode([*((k, v) for k, v in reading.pairs() if k != IDEAL),
                      *([(IDEAL, "1")] if counts else [])], safe="/'")  # fmt: skip
    other = None
    with suppress(OpticsError, ValueError, ArithmeticError):
        shots = kind.shots(kind.answer(read(QueryDict(link), who)))
        other = shots[0] if shots else None
    shown = [units.significant(size, 2) for size in (shift, blur, off)]
    return AsTested(shown[0], shown[1], shown[2], ways, counts, other, link)
