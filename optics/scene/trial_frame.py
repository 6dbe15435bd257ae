"""What a trial frame teaches: which distances, and how far off the ring, are still possible.

A mark that came out soft at magnification had a blur of more than the standard, one that came out
sharp, at most so much. In terms of the lens's travel that is simple: with m the magnification for a
depth, and M that of the plane that was really sharp, a thin lens makes a blur of

    f·|m − M| ÷ (N·(1 + m))                                                      (8)

so a mark is sharp within ± c·N·(1 + m) ÷ f of M. Before the frame, each mark may stand anywhere in
its own doubt, and the ring may be off by what its way of focusing gets wrong; every place in that
box counts as likely as any other. Each frame rules out part of it; several rule out more, the ring
being off alike in all. What is given back is the middle of what is left: a surprise is shared
between a mark and the ring as their doubts are.
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
class Frame:
    """A trial frame.

    ``setup``, ``focus``  the lens at its aperture, and what its ring read, mm from the sensor.
    ``came``   of each mark, in their order, whether it came out sharp; None: nobody looked.
    """

    setup: Setup
    focus: float
    came: tuple[bool | None, ...]


@dataclass(frozen=True, slots=True)
class Revised:
    """What is left after the frame.

    ``depths``   of the marks, mm, in their order.
    ``doubts``   how far off each may still be, mm: as wide as an even doubt with the same spread.
    ``really``   where the lens was really focused, mm; inf at infinity and past it.
    ``offset``   how far the lens stood out too much, mm behind the lens; below 0 too little.
    """

    depths: tuple[float, ...]
    doubts: tuple[float, ...]
    really: float
    offset: float


def revise(
    frames: Sequence[Frame], error: float, marks: Sequence[tuple[float, float]]
) -> Revised | None:
    """The marks and the ring, as trial frames leave them; ``really`` of the last of them.

    ``frames``: at least one. ``marks``: depth of each, mm up to inf, and how far off that may be.
    ``error``: how far off the ring may be, mm behind the lens to either side, 0 or more. None if
    nothing within the doubts explains the frames: then something else made them so. Plain numbers.
    Raises NotANumber, OutOfRange, FocusTooNear.
    """
    require_positive("error", error, "error of focusing", zero=True)
    last = frames[-1]
    f = last.setup.focal_length
    for frame in frames:
        require_number("focus", frame.focus, "ring setting")
    planes = [_sharp_plane(frame) for frame in frames]
    stretches = [
        _Stretch.of(depth, doubt, [_Shown.of(frame, at) for frame in frames], last.setup)
        for at, (depth, doubt) in enumerate(marks)
    ]
    count = _OFFSETS if error > 0 else 1
    offsets = [error / f * (2 * (k + 0.5) / count - 1) for k in range(count)]
    total = offset_sum = 0.0
    firsts, seconds = [0.0] * len(marks), [0.0] * len(marks)
    for offset in offsets:
        left = [stretch.left([plane + offset for plane in planes]) for stretch in stretches]
        weight = math.prod(part.share for part in left)
        total += weight
        offset_sum += weight * offset
        for index, part in enumerate(left):
            firsts[index] += weight * part.middle
            seconds[index] += weight * part.square
    if total <= 0:
        return None
    offset = offset_sum / total
    depths, doubts = [], []
    for index, (depth, doubt) in enumerate(marks):
        if stretches[index].looked_at:
            middle = firsts[index] / total
            half = math.sqrt(3 * max(seconds[index] / total - middle**2, 0.0))
            depth, doubt = _depth(last.setup, middle), 0.0
            if math.isfinite(depth):
                doubt = depth - _depth(last.setup, middle + half)
        depths.append(depth)
        doubts.append(doubt)
    return Revised(
        depths=tuple(depths),
        doubts=tuple(doubts),
        really=_depth(last.setup, planes[-1] + offset),
        offset=offset * f,
    )


def _sharp_plane(frame: Frame) -> float:
    """The magnification of what should be sharp in it."""
    ring = magnification(frame.setup, frame.focus)
    return ring - frame.setup.focus_shift / frame.setup.focal_length


def _depth(setup: Setup, ring: float) -> float:
    return math.inf if ring <= 1e-12 else focus_of(setup, min(ring, 1.0))


@dataclass(frozen=True, slots=True)
class _Left:
    """How much of a stretch is left, as a share, its middle, and its mean square from 0."""

    share: float
    middle: float
    square: float


@dataclass(frozen=True, slots=True)
class _Shown:
    """How a mark came out in a frame, whose standard is ``circle``, mm."""

    setup: Setup
    circle: float
    sharp: bool | None

    @classmethod
    def of(cls, frame: Frame, mark: int) -> _Shown:
        circle = allowed_at(frame.setup, magnification(frame.setup, frame.focus))
        return cls(frame.setup, circle, frame.came[mark])

    def reach(self, place: float) -> float:
        """How far from the sharp plane, in magnification, a mark about there is still sharp."""
        return self.circle * self.setup.f_number * (1.0 + place) / self.setup.focal_length


@dataclass(frozen=True, slots=True)
class _Stretch:
    """Where a mark may be, in magnification; of each frame how far from its sharp plane a mark is
    still sharp, and whether it was."""

    low: float
    high: float
    shown: tuple[tuple[float, bool | None], ...]

    @property
    def looked_at(self) -> bool:
        return any(sharp is not None for _, sharp in self.shown)

    @classmethod
    def of(cls, depth: float, doubt: float, shown: list[_Shown], setup: Setup) -> _Stretch:
        require_positive("depth", depth, "depth of a mark", finite=False)
        require_positive("doubt", doubt, "doubt of a mark", zero=True)
        least = nearest_focus(setup)
        near, far = max(depth - doubt, least), max(depth + doubt, least)
        low, high = (magnification(setup, end) for end in (far, near))
        middle = 0.5 * (low + high)
        return cls(low, high, tuple((one.reach(middle), one.sharp) for one in shown))

    def left(self, planes: list[float]) -> _Left:
        """What the frames leave of it if they were really sharp at ``planes``."""
        middle = 0.5 * (self.low + self.high)
        parts = [(self.low, self.high)]
        for (reach, sharp), plane in zip(self.shown, planes, strict=True):
            if sharp is not None:
                parts = _cut(parts, plane - reach, plane + reach, keep=sharp)
        if self.high <= self.low:
            return _Left(1.0 if parts else 0.0, self.low, self.low**2)
        whole = sum(end - start for start, end in parts)
        if whole <= 0:
            return _Left(0.0, middle, middle**2)
        first = sum((end - start) * 0.5 * (start + end) for start, end in parts)
        second = sum((end**3 - start**3) / 3 for start, end in parts)
        return _Left(whole / (self.high - self.low), first / whole, second / whole)


def _cut(
    parts: list[tuple[float, float]], below: float, above: float, *, keep: bool
) -> list[tuple[float, float]]:
    """What of some stretches lies between two places, or outside of them. A single place is inside
    on the very edge."""
    if keep:
        cut = [(max(start, below), min(end, above)) for start, end in parts]
        return [(start, end) for start, end in cut if start <= end]
    sides = [(start, min(end, below)) for start, end in parts if start < below]
    sides += [(max(start, above), end) for start, end in parts if end > above]
    return sides
