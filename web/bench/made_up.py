"""The made-up camera at the bench: frames of the target with a lens whose faults nobody is told."""

from __future__ import annotations

import math

import numpy as np

from optics.lens.aperture import FULL
from optics.lens.kit import Fault
from simulator.body import Body
from simulator.camera import Camera
from simulator.exposing import file_of
from simulator.frame import Scene, take
from simulator.lens import Faults
from simulator.lens import Lens as MadeUp
from simulator.things import Board, Sheet
from web.bag.models import Lens

_AWAY = 13.0
"""Focal lengths from the sensor to the sheet: it fills the frame then."""
_BODY = Body(width=1800, height=1200)
_STOPS = (0, 1, 3)
_CLEARLY_SMALLER = 1.25


def apertures_of(lens: Lens) -> tuple[float, ...]:
    """The apertures that it takes frames at: the widest, and three of the full stops that
    follow."""
    widest, smallest = float(lens.widest), float(lens.smallest_or_assumed.value)
    stops = FULL.from_to(widest * _CLEARLY_SMALLER, smallest)
    return (widest, *(stops[at] for at in _STOPS if at < len(stops)))


def lens_with_faults(lens: Lens, seed: int) -> MadeUp:
    """A made-up copy of a lens: every fourth keeps its focus, the others shift it."""
    luck = np.random.default_rng(seed)
    widest = float(lens.widest)
    most = 0.0 if luck.random() < 0.25 else float(luck.choice((-1, 1)) * luck.uniform(0.008, 0.035))
    own = float(luck.uniform(0.002, 0.009))
    faults = (
        Fault(widest, own, 0.0),
        Fault(2 * widest, own * 0.7, most * 0.75),
        Fault(4 * widest, own * 0.6, most),
    )
    return MadeUp(
        float(lens.shortest_mm), widest, float(lens.smallest_or_assumed.value),
        Faults(faults, corner=float(luck.uniform(0, 0.01))), lens.name,
    )  # fmt: skip


def photographed(lens: Lens, seed: int, f_number: float) -> tuple[str, bytes]:
    """A frame of the sheet, focused wide open on its middle: its name and its file."""
    made = lens_with_faults(lens, seed)
    distance = _AWAY * made.focal_length
    camera = Camera(made, _BODY, f_number, made.stands_for(distance), iso=200)
    scene = Scene((Sheet(distance), Board(math.inf)), seed=seed + round(10 * f_number))
    return f"made-up-f{f_number:g}.jpg", file_of(take(scene, camera), camera)
