"""Where a ring stands, in words for a hand that cannot see it.

A label is a setting like any other: it stands for one place of the ring, and is used only where
that place does what the setting is for.
"""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass

import numpy as np

from optics.base import settable
from optics.lens.focus_window import Window
from optics.lens.touch import Hands
from web.bag.lenses import Lens, RingKind

FINGER_MM, BARREL_MM = 16.0, 65.0
"""A finger's width, and the diameter of a usual barrel: a guess, for words only."""
FINGER = FINGER_MM / (0.5 * BARREL_MM)
"""A finger's width on the barrel, radians."""
_FELT = 0.004
"""Closer to what a thumb finds than this share of the distance is there."""
_UNSURE = 0.01
"""Where nobody said how far off a setting may be: a share of its distance."""
_HAIR = 1e-9
_STEPS = (1, 2, 4, 12)
"""Parts of an hour that a tab is told in, the coarsest that do first."""
_MOST_FINGERS = 12
BY_THE_SCALE = "by the scale"
"""Where no thumb finds it."""


@dataclass(frozen=True, slots=True)
class Felt:
    """What a thumb finds. ``words``: for it; ``at``: the distance that stands there, mm."""

    words: str
    at: float


@dataclass(frozen=True, slots=True)
class Wanted:
    """A ring setting to be found by touch, mm, and where the ring may stand for what it is for;
    None where nobody said."""

    focus: float
    window: Window | None = None

    @property
    def allowed(self) -> Window:
        """Where it may stand, the setting itself at least."""
        window = self.window
        if window is None:
            window = Window(self.focus * (1 - _UNSURE), self.focus * (1 + _UNSURE))
        return Window(min(window.nearest, self.focus), max(window.farthest, self.focus))


def fingers(turned: float) -> str:
    """How far before infinity, in fingers: for a hand that cannot see. Radians."""
    if turned < 0.02:
        return "at infinity"
    return f"{width_in_fingers(turned)} before infinity"


def width_in_fingers(turned: float) -> str:
    """An angle of the ring, radians, as a hand feels it."""
    count = turned / FINGER
    if count < 0.2:
        return "a hair"
    if count < 0.75:
        return "half a finger’s width"
    if count < 1.25:
        return "a finger’s width"
    halves = round(count * 2) / 2
    whole, half = divmod(halves, 1)
    return f"{whole:.0f}{'½' if half else ''} fingers’ widths"


def clock(hours: float) -> str:
    """A place on a clock face, to five minutes: 7:30."""
    minutes = round(hours * 12) * 5 % 720
    return f"{minutes // 60 or 12}:{minutes % 60:02d}"


def places(lens: Lens, hands: Hands | None = None) -> tuple[Felt, ...]:
    """What a thumb finds without looking: stops, and a tab straight down. ``hands``: the lens's
    own, if they are there already."""
    if lens.closest_mm is None or not lens.has_scale:
        return ()
    found = []
    stops = lens.ring_kind == RingKind.STOPS
    if stops:
        found.append(Felt("near stop", float(lens.closest_mm)))
    if lens.tab_at_infinity_hours is not None:
        down = (hands or lens.hands).distance_where(math.pi)
        if down is not None and down >= lens.closest_mm * (1 - _HAIR):
            found.append(Felt("tab straight down", down))
    if stops:
        found.append(Felt("infinity stop", math.inf))
    return tuple(found)


def labels(
    lens: Lens,
    wanted: Sequence[Wanted],
    system: str,
    found: Sequence[Felt] | None = None,
    hands: Hands | None = None,
) -> tuple[str, ...]:
    """Where a thumb finds some settings of one ring, in words, no two of them alike.

    Each is as coarse as what it is for allows, and says the distance that it stands for where that
    is another than the setting's; *by the scale* where no word is right. On a ring that is drawn
    from assumptions it says so. ``found``, ``hands``: what ``places`` gives, and the lens's own, if
    they are there already.
    """
    hands = hands or lens.hands
    felt = places(lens, hands) if found is None else tuple(found)
    used: set[str] = set()
    said = []
    for one in wanted:
        window = one.allowed
        words = ""
        for label in _candidates(lens, hands, one.focus, felt):
            right = window.nearest * (1 - _HAIR) <= label.at <= window.farthest * (1 + _HAIR)
            if right and label.words not in used:
                words = label.words
                used.add(words)
                words += _stands_for(label.at, one.focus, system)
                break
        else:
            words = f"{BY_THE_SCALE}, {settable.written(one.focus, system)}"
        assumed = lens.ring_is_assumed and not words.startswith(("near stop", "infinity stop"))
        said.append(f"{words}, assumed" if assumed else words)
    return tuple(said)


def _stands_for(at: float, focus: float, system: str) -> str:
    """The distance that a label stands for, where it reads otherwise than the setting."""
    coarse = settable.nearest(at, system)
    if math.isinf(at) or abs(1 / at - 1 / focus) <= _FELT / focus or coarse == focus:
        return ""
    return f" ({settable.written(coarse, system)})"


def _candidates(lens: Lens, hands: Hands, focus: float, felt: Sequence[Felt]) -> Iterator[Felt]:
    """Words for a place near a setting, the coarsest first."""
    for place in felt:
        at = place.at
        if at == focus or (math.isfinite(focus) and abs(at - focus) <= _FELT * focus):
            yield place
    if lens.tab_at_infinity_hours is not None:
        yield from _at_hours(hands, focus)
        return
    turned = hands.ring.turn(math.inf, focus)
    sense = math.copysign(1.0, turned)
    if focus == math.inf:
        yield Felt("at infinity", math.inf)
        return
    for count in sorted((0.1, *(k / 2 for k in range(1, 2 * _MOST_FINGERS))),
                        key=lambda c: abs(c * FINGER - abs(turned)))[:2]:  # fmt: skip
        angle = hands.ring.infinity + sense * count * FINGER
        yield Felt(fingers(count * FINGER), hands.ring.distance(angle))


def _at_hours(hands: Hands, focus: float) -> Iterator[Felt]:
    """The tab on the clock near where it stands for a setting, the coarsest hours first."""
    stands = float(hands.ring.angle(focus))
    hours = float(hands.clock_at(stands))
    told = [round(hours * parts) / parts for parts in _STEPS]
    angles = [stands + (hour - hours) * math.pi / 6 * hands.sense for hour in told]
    ends = sorted(turned for _, turned in hands.ring.marks)
    within = [min(max(angle, ends[0]), ends[-1]) for angle in angles]
    distances = np.asarray(hands.ring.distance(within)).tolist()
    for hour, angle, at in zip(told, angles, distances, strict=True):
        if ends[0] - _HAIR <= angle <= ends[-1] + _HAIR:
            yield Felt(f"tab at {clock(hour % 12)}", at)
