"""What a trial frame teaches: which distances, and how far off the ring, are still possible.

A mark that came out soft at magnification had a blur of more than the standard, one that came out
sharp, at most so much. In terms of the lens's travel that is simple: with m the magnification for a
depth, and M that of the plane that was really sharp, a thin lens makes a blur of

    f·|m − M| ÷ (N·(1 + m))                                                      (8)

so a mark is sharp within ± c·N·(1 + m) ÷ f of M. Before the frame, each mark may stand anywhere in
its own doubt, and the ring may be off by what its way of focusing gets wrong; every place in that
box counts as likely as any other. The frame rules out part of it. What is given back is the middle
of what is left: a surprise is shared between a mark and the ring as their doubts are.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from optics.base.errors import require_number, require_positive
from optics.lens.conjugates import focus_of, magnification, nearest_focus
from optics.lens.focus_window import allowed_at
from optics.lens.setup import Setup

_OFFSETS = 161
"""At how many places between its two ends the ring's error is tried: good to 1 % of it."""


@dataclass(frozen=True, slots=True)
class Seen:
    """A mark as the trial frame showed it.

    ``depth``: mm from the sensor, up to inf. ``doubt``: how far off that may be, mm to either side.
    ``sharp``: whether it came out sharp; None: nobody looked.
    """

    depth: float
    doubt: float
    sharp: bool | None


@dataclass(frozen=True, slots=True)
class Revised:
    """What is left after the frame.

    ``depths``   of the marks, mm, in their order.
    ``really``   where the lens was really focused, mm; inf at infinity and past it.
    ``offset``   how far the lens stood out too much, mm behind the lens; below 0 too little.
    """

    depths: tuple[float, ...]
    really: float
    offset: float


def revise(setup: Setup, focus: float, error: float, seen: Sequence[Seen]) -> Revised | None:
    """The marks and the ring, as a trial frame with the ring at ``focus`` leaves them.

    ``error``: how far off the ring may be, mm behind the lens to either side, 0 or more. None if
    nothing within the doubts explains the frame: then something else made it soft.
    Plain numbers. Raises NotANumber, OutOfRange, FocusTooNear.
    """
    require_number("focus", focus, "ring setting")
    require_positive("error", error, "error of focusing", zero=True)
    f = setup.focal_length
    at = magnification(setup, focus)
    circle = allowed_at(setup, at)
    stretches = [_Stretch.of(setup, mark, circle) for mark in seen]
    count = _OFFSETS if error > 0 else 1
    offsets = [error / f * (2 * (k + 0.5) / count - 1) for k in range(count)]
    total = offset_sum = 0.0
    places = [0.0] * len(seen)
    for offset in offsets:
        left = [stretch.left(at + offset) for stretch in stretches]
        weight = math.prod(part.share for part in left)
        total += weight
        offset_sum += weight * offset
        for index, part in enumerate(left):
            places[index] += weight * part.middle
    if total <= 0:
        return None
    offset = offset_sum / total
    return Revised(
        depths=tuple(
            _depth(setup, place / total) if mark.sharp is not None else mark.depth
            for place, mark in zip(places, seen, strict=True)
        ),
        really=_depth(setup, at + offset),
        offset=offset * f,
    )


def _depth(setup: Setup, ring: float) -> float:
    return math.inf if ring <= 1e-12 else focus_of(setup, min(ring, 1.0))


@dataclass(frozen=True, slots=True)
class _Left:
    """How much of a stretch is left, as a share, and the middle of it."""

    share: float
    middle: float


@dataclass(frozen=True, slots=True)
class _Stretch:
    """Where a mark may be, in magnification, and how far from the sharp plane it is still sharp."""

    low: float
    high: float
    reach: float
    sharp: bool | None

    @classmethod
    def of(cls, setup: Setup, mark: Seen, circle: float) -> _Stretch:
        require_positive("depth", mark.depth, "depth of a mark", finite=False)
        require_positive("doubt", mark.doubt, "doubt of a mark", zero=True)
        least = nearest_focus(setup)
        near, far = max(mark.depth - mark.doubt, least), max(mark.depth + mark.doubt, least)
        low, high = (magnification(setup, depth) for depth in (far, near))
        middle = 0.5 * (low + high)
        reach = circle * setup.f_number * (1.0 + middle) / setup.focal_length
        return cls(low, high, reach, mark.sharp)

    def left(self, ring: float) -> _Left:
        """What the frame leaves of it if the lens was really at ``ring``."""
        if self.sharp is None:
            return _Left(1.0, 0.5 * (self.low + self.high))
        if self.high <= self.low:
            fits = (abs(self.low - ring) <= self.reach) is self.sharp
            return _Left(1.0 if fits else 0.0, self.low)
        below, above = ring - self.reach, ring + self.reach
        if self.sharp:
            parts = [(max(self.low, below), min(self.high, above))]
        else:
            parts = [(self.low, min(self.high, below)), (max(self.low, above), self.high)]
        lengths = [max(end - start, 0.0) for start, end in parts]
        whole = sum(lengths)
        if whole <= 0:
            return _Left(0.0, 0.5 * (self.low + self.high))
        middles = (length * 0.5 * sum(part) for length, part in zip(lengths, parts, strict=True))
        return _Left(whole / (self.high - self.low), sum(middles) / whole)
