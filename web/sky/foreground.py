"""Stars and a foreground: in one frame if that can be, else in two, else in several."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

from optics import Setup, aperture, exposure, placement, settable, zones
from optics.aperture import exact
from optics.depth import limits
from web.sky.skies import Sky
from web.sky.usecases import Answer

GROUND_ISO = 1600.0
"""For a frame of the ground alone: nothing there moves, so time is cheaper than grain."""
_MOST_FRAMES = 30
_NO_STOP = 0.05


@dataclass(frozen=True, slots=True)
class Frame:
    """A frame to take: the ring, mm; the aperture, the time, s, and the ISO; what is sharp, mm."""

    name: str
    focus: float
    figures: int
    f_number: float
    seconds: float
    iso: float
    near: float
    far: float


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


def foreground(answer: Answer, near: float, ground: Setup) -> Foreground:
    """``near``: mm from the sensor. ``ground``: the lens with the standard that the ground is held
    to, looser than that of the stars as a rule."""
    sky = answer.sky
    too_near = near < sky.closest * (1 - 1e-9)
    reach = _one_frame(answer, near, ground)
    stops = 0.0
    if reach is not None:
        stops = aperture.stops_between(float(sky.setup.f_number), reach.f_number)
    enough = reach is not None and stops < _NO_STOP
    frames = () if enough else (_sky_frame(answer, ground), *_ground(answer, near, ground))
    return Foreground(near, sky.closest if too_near else None, reach, stops, frames)


def _sky_frame(answer: Answer, ground: Setup) -> Frame:
    here, held = answer.here, limits(ground, answer.here.focus)
    n = float(answer.sky.setup.f_number)
    return Frame(
        "Sky", here.focus, here.figures, n, answer.seconds, answer.iso, float(held.near), math.inf
    )


def _one_frame(answer: Answer, near: float, ground: Setup) -> Frame | None:
    """The widest aperture at which the ring where stars just hold has the foreground too."""
    sky = answer.sky
    for n in sky.apertures:
        if n < float(sky.setup.f_number) * (1 - 1e-9):
            continue
        closed = sky.at_aperture(n)
        ring = settable.up(
            max(float(placement.infinity(closed.setup)), sky.closest), sky.system, settable.FINE
        )
        held = limits(replace(ground, f_number=n), ring)
        if math.isfinite(ring) and not held.empty and float(held.near) <= near * (1 + 1e-9):
            iso = _iso(sky, n, answer.seconds)
            figures = settable.FINE
            return Frame("Both", ring, figures, n, answer.seconds, iso, float(held.near), math.inf)
    return None


def _iso(sky: Sky, n: float, seconds: float) -> float:
    return exposure.named_iso(exposure.iso_for(sky.ev, exact(n), seconds))


def _ground(answer: Answer, near: float, ground: Setup) -> tuple[Frame, ...]:
    """From the foreground to where the frame of the sky takes over: in one frame at the widest
    aperture that does, else in as few as the narrowest of them takes."""
    sky = answer.sky
    start = max(near, sky.closest)
    held = limits(ground, answer.here.focus)
    end = math.inf if held.empty else float(held.near)
    if start >= end:
        return ()
    needed = aperture.widest_holding(ground, start, end)
    fits = [n for n in sky.apertures if needed is not None and n >= needed * (1 - 1e-6)]
    if fits:
        setup = replace(ground, f_number=fits[0])
        ring = float(placement.between(setup, start, end))
        return (_frame(sky, setup, settable.nearest(ring, sky.system, settable.FINE)),)
    closed = replace(ground, f_number=min(sky.apertures[-1], 8.0 * math.sqrt(2)))
    steps = zones.steps(closed, start, end, 0.2)
    if steps is None or len(steps) > _MOST_FRAMES:
        return ()
    return tuple(
        _frame(sky, closed, settable.nearest(zone.focus, sky.system, settable.FINE))
        for zone in steps
    )


def _frame(sky: Sky, setup: Setup, ring: float) -> Frame:
    n = float(setup.f_number)
    held = limits(setup, ring)
    seconds = exposure.seconds_for(sky.ev, exact(n), GROUND_ISO)
    return Frame(
        "Ground", ring, settable.FINE, n, seconds, GROUND_ISO, float(held.near), float(held.far)
    )
