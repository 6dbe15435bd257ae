"""Stars and a foreground: in one frame if that can be, else in two, else in several."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from itertools import pairwise

from optics.base import settable
from optics.lens import aperture
from optics.lens.depth import counted_blur, limits, total_blur
from optics.lens.focus_window import focus_window
from optics.lens.shot import Shot
from optics.scene import focus_distances
from optics.zones.frame_sets import NoSet, frame_set
from optics.zones.joints import joint
from web.sky.exposed import PATIENCE, Exposed, exposed, ground_exposed
from web.sky.ring import reaches, with_ground
from web.sky.usecases import Answer

_NO_STOP = 0.05
_FOR_SEVERAL = 11.4
"""Closing past f/11 softens more by diffraction than frames cost."""
_ROUNDED = 1 + 1e-9
_MOST_SHOWN = 4


@dataclass(frozen=True, slots=True, kw_only=True)
class Frame(Shot):
    """A frame of stars, of the ground, or of both.

    ``star``   how wide a star is in it, mm on the sensor, and ``drift``: how far the worst one goes
               meanwhile. ``stars_hold``: whether both are within what was asked for.
    ``set_to`` what the body is set to.
    ``fore``   the blur of the foreground in it, mm on the sensor. ``fore_holds``: whether that is
               within the ground's standard.
    """

    seconds: float
    iso: float
    star: float
    drift: float
    stars_hold: bool
    fore: float
    fore_holds: bool
    set_to: Exposed


@dataclass(frozen=True, slots=True)
class Foreground:
    """How to have both. ``near``: the nearest that must be sharp, mm. ``closest``: nearer than that
    the lens cannot focus, mm; None where it can.

    ``one``     a single frame for all; None if no aperture does it. ``stops``: what it costs in
                light against the aperture in hand.
    ``frames``  the sky, and the ground in one frame or in several; empty where nothing is needed.
    """

    near: float
    closest: float | None
    one: Frame | None
    stops: float
    frames: tuple[Frame, ...]

    @property
    def all(self) -> tuple[Frame, ...]:
        """The frames to compare: one for all, then those that share it out."""
        return self.frames if self.one is None else (self.one, *self.frames)

    def in_order(self, ground_last: bool) -> tuple[Frame, ...]:
        """Those that share it out, as they are taken."""
        return self.frames if ground_last else (*self.ground, *self.frames[:1])

    @property
    def shown(self) -> tuple[Frame, ...]:
        """Those that are drawn."""
        return self.all[:_MOST_SHOWN]

    @property
    def long(self) -> bool:
        """Whether the ground takes longer in the dark than one cares to wait."""
        return any(one.set_to.total > PATIENCE for one in self.ground)

    @property
    def ground(self) -> tuple[Frame, ...]:
        """The frames of the ground alone."""
        return self.frames[1:]

    @property
    def left_out(self) -> int:
        """How many are not."""
        return len(self.all) - len(self.shown)


def foreground(answer: Answer, near: float) -> Foreground:
    """How to have both, the foreground from ``near``, mm.

    The ground is held to the standard in hand, which is looser than that of the stars as a rule.
    """
    sky = answer.sky
    too_near = near < sky.closest * (1 - 1e-9)
    maker = _Maker(answer, max(near, sky.closest))
    one = _one_frame(maker)
    stops = 0.0
    if one is not None:
        stops = aperture.stops_between(sky.setup.f_number, one.f_number)
    enough = one is not None and stops < _NO_STOP
    frames = () if enough else (maker.sky_frame(), *_ground(maker))
    return Foreground(near, sky.closest if too_near else None, one, stops, frames)


@dataclass(frozen=True, slots=True)
class _Maker:
    """Makes frames of one scene: stars, and a foreground from ``start`` on, mm."""

    answer: Answer
    start: float

    def frame(
        self, name: str, focus: float, f_number: float, seconds: float, set_to: Exposed
    ) -> Frame:
        sky = self.answer.sky
        stars, ground = sky.kit.at(f_number), sky.ground_kit.at(f_number)
        held = limits(ground, focus)
        star = total_blur(stars, math.inf, focus)
        drift = sky.drift(seconds, sky.counts)
        fore = counted_blur(ground, self.start, focus)
        still = name == "Ground" or not self.ground_blurs
        sharp = settable.inside(held.near, held.far, sky.system) if not held.empty else None
        if not still:
            fore = max(fore, sky.ground_drift(seconds))
        return Frame(
            name=name,
            focus=focus,
            f_number=f_number,
            seconds=seconds,
            iso=set_to.iso,
            set_to=set_to,
            near=held.near,
            far=held.far,
            held=sharp if still else None,
            star=star,
            drift=drift,
            stars_hold=star <= stars.coc * _ROUNDED and drift <= sky.trail * _ROUNDED,
            fore=fore,
            fore_holds=fore <= ground.coc * _ROUNDED,
        )

    @property
    def ground_blurs(self) -> bool:
        """Whether a mount that follows the sky draws the ground out too far in the frame of it."""
        sky = self.answer.sky
        return sky.ground_drift(self.answer.seconds) > sky.ground.coc * _ROUNDED

    def sky_frame(self) -> Frame:
        answer = self.answer
        n = answer.sky.setup.f_number
        here = answer.here
        return self.frame("Sky", here.focus, n, answer.seconds, answer.exposed)

    def both(self, f_number: float, focus: float) -> Frame:
        """A frame for all, as long as the one of the stars."""
        seconds = self.answer.seconds
        set_to = exposed(self.answer.sky, f_number, seconds)
        return self.frame("Both", focus, f_number, seconds, set_to)

    def ground_frame(self, f_number: float, ring: float, start: float, end: float) -> Frame:
        """One of the ground alone, which is to hold from ``start`` to ``end``, mm, as written."""
        sky = self.answer.sky
        set_to, seconds = ground_exposed(sky, f_number)
        frame = self.frame("Ground", ring, f_number, seconds, set_to)
        if frame.held is None or end > frame.far:
            return frame
        start = max(start, frame.near)
        held = settable.around(start, end, frame.near, frame.far, sky.system)
        return replace(frame, held=held)


def _one_frame(maker: _Maker) -> Frame | None:
    """A frame for all: at the aperture in hand if that has both, else at the widest that does; with
    the ring as it stands wherever that does it."""
    sky, here = maker.answer.sky, maker.answer.here
    if maker.ground_blurs:
        return None
    if maker.answer.star_holds and reaches(sky, here.focus, maker.start):
        return maker.both(sky.setup.f_number, here.focus)
    for n in sky.apertures:
        if n < sky.setup.f_number * (1 - 1e-9):
            continue
        found = with_ground(sky.at(n), here, maker.start)
        if found is not None:
            return maker.both(n, found.focus)
    return None


def _ground(maker: _Maker) -> tuple[Frame, ...]:
    """From the foreground to where the frame of the sky takes over, or to infinity where a mount
    blurs all ground in that: in one frame at the widest aperture that does, else in as few as the
    narrowest of them takes."""
    sky, start = maker.answer.sky, maker.start
    held = limits(sky.ground, maker.answer.here.focus)
    # Where the sky's frame is written to begin, the ground's is to hold still.
    end = math.inf
    if not held.empty and not maker.ground_blurs:
        end = settable.inside(held.near, held.far, sky.system).near
    if start >= end:
        return ()
    for n in sky.apertures:
        setup = sky.ground_kit.at(n)
        window = focus_window(setup, start, end)
        if window is None or window.farthest < sky.closest:
            continue
        nearest = max(window.nearest, sky.closest)
        wanted = min(max(focus_distances.between(setup, start, end), nearest), window.farthest)
        focus = maker.answer.here.focus  # a ring that need not move is not moved
        if nearest <= focus <= window.farthest:
            return (maker.ground_frame(n, focus, start, end),)
        ring = settable.within(wanted, nearest, window.farthest, sky.system)
        if ring.held:
            return (maker.ground_frame(n, ring.focus, start, end),)
    n = max((n for n in sky.apertures if n <= _FOR_SEVERAL), default=sky.apertures[0])
    zones = frame_set(sky.ground_kit.at(n), start, end, 0.2, sky.closest, sky.system)
    if isinstance(zones, NoSet):
        return ()
    # Where neighbours meet, both are written to hold.
    meet = [
        joint(other.near, one.far, 2 / (1 / other.near + 1 / one.far), sky.system)
        for one, other in pairwise(zones)
    ]
    return tuple(
        maker.ground_frame(n, zone.focus, first, last)
        for zone, first, last in zip(zones, [start, *meet], [*meet, end], strict=True)
    )
