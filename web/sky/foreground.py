"""Stars and a foreground: in one frame if that can be, else in two, else in several."""

from __future__ import annotations

import math
from dataclasses import dataclass

from optics.base import settable
from optics.lens import aperture
from optics.lens.aperture import exact
from optics.lens.depth import counted_blur, limits, total_blur
from optics.lens.focus_window import focus_window
from optics.lens.shot import Shot
from optics.light import exposure
from optics.scene import focus_distances
from optics.sky import star_field
from optics.zones import tiling
from web.sky.usecases import Answer

GROUND_ISO = 1600.0
"""For a frame of the ground alone: nothing there moves, so time is cheaper than grain."""
MOST_GROUND_ISO = 6400.0
_PATIENCE = 240.0
"""s: longer than that the ISO goes up first, as far as it may."""
_LONGEST_ON_A_DIAL = 30.0
_MOST_FRAMES = 30
_NO_STOP = 0.05
_ROUNDED = 1 + 1e-9
_MOST_SHOWN = 4


@dataclass(frozen=True, slots=True, kw_only=True)
class Frame(Shot):
    """A frame of stars, of the ground, or of both.

    ``star``   how wide a star is in it, mm on the sensor, and ``drift``: how far the worst one goes
               meanwhile. ``stars_hold``: whether both are within what was asked for.
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

    @property
    def shown(self) -> tuple[Frame, ...]:
        """Those that are drawn."""
        return self.all[:_MOST_SHOWN]

    @property
    def long(self) -> bool:
        """Whether a frame of the ground takes longer than one cares to wait."""
        return any(one.seconds > _PATIENCE for one in self.frames)

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
        self, name: str, focus: float, figures: int, f_number: float, seconds: float, iso: float
    ) -> Frame:
        sky = self.answer.sky
        stars, ground = sky.kit.at(f_number), sky.ground_kit.at(f_number)
        held = limits(ground, focus)
        star = total_blur(stars, math.inf, focus)
        f = stars.focal_length
        drift = star_field.farthest(f, seconds, sky.turned_at, sky.part).drift
        fore = counted_blur(ground, self.start, focus)
        return Frame(
            name=name,
            focus=focus,
            figures=figures,
            f_number=f_number,
            seconds=seconds,
            iso=iso,
            near=held.near,
            far=held.far,
            star=star,
            drift=drift,
            stars_hold=star <= stars.coc * _ROUNDED and drift <= sky.trail * _ROUNDED,
            fore=fore,
            fore_holds=fore <= ground.coc * _ROUNDED,
        )

    def reaches(self, f_number: float, focus: float) -> bool:
        """Whether the foreground is sharp with the ring there."""
        held = limits(self.answer.sky.ground_kit.at(f_number), focus)
        return held.near <= self.start * _ROUNDED  # nan, nothing sharp, is not

    def sky_frame(self) -> Frame:
        answer = self.answer
        n = answer.sky.setup.f_number
        here = answer.here
        return self.frame("Sky", here.focus, here.figures, n, answer.seconds, answer.iso)

    def both(self, f_number: float, focus: float, figures: int) -> Frame:
        """A frame for all, as long as the one of the stars."""
        seconds = self.answer.seconds
        iso = exposure.named_iso(exposure.iso_for(self.answer.sky.ev, exact(f_number), seconds))
        return self.frame("Both", focus, figures, f_number, seconds, iso)

    def ground_frame(self, f_number: float, focus: float) -> Frame:
        sky = self.answer.sky
        ring = settable.nearest(focus, sky.system, settable.FINE)
        iso, seconds = GROUND_ISO, exposure.seconds_for(sky.ev, exact(f_number), GROUND_ISO)
        while seconds > _PATIENCE and iso < MOST_GROUND_ISO:
            iso, seconds = 2 * iso, seconds / 2
        if seconds <= _LONGEST_ON_A_DIAL:
            seconds = exposure.named_time(seconds)
        return self.frame("Ground", ring, settable.FINE, f_number, seconds, iso)


def _one_frame(maker: _Maker) -> Frame | None:
    """The widest aperture at which the ring where stars just hold has the foreground too."""
    sky = maker.answer.sky
    for n in sky.apertures:
        if n < sky.setup.f_number * (1 - 1e-9):
            continue
        nearest = max(focus_distances.infinity(sky.kit.at(n)), sky.closest)
        for figures in (settable.COARSE, settable.FINE):
            ring = settable.up(nearest, sky.system, figures)
            if math.isfinite(ring) and maker.reaches(n, ring):
                return maker.both(n, ring, figures)
    return None


def _ground(maker: _Maker) -> tuple[Frame, ...]:
    """From the foreground to where the frame of the sky takes over: in one frame at the widest
    aperture that does, else in as few as the narrowest of them takes."""
    sky, start = maker.answer.sky, maker.start
    ground = sky.ground
    held = limits(ground, maker.answer.here.focus)
    end = math.inf if held.empty else held.near
    if start >= end:
        return ()
    setups = ((n, sky.ground_kit.at(n)) for n in sky.apertures)
    for n, setup in setups:
        if focus_window(setup, start, end) is not None:
            return (maker.ground_frame(n, focus_distances.between(setup, start, end)),)
    n = min(sky.apertures[-1], 8.0 * math.sqrt(2))
    steps = tiling.steps(sky.ground_kit.at(n), start, end, 0.2)
    if steps is None or len(steps) > _MOST_FRAMES:
        return ()
    return tuple(maker.ground_frame(n, zone.focus) for zone in steps)
