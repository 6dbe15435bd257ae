"""A scene as View has it: what is in hand, the marks, where the camera stands; and for the core."""

from __future__ import annotations

import math
from dataclasses import dataclass

from optics import Setup, marks, schools
from optics.camera import Camera
from optics.formats import Format

INFINITY_MARGIN = 1.5
"""How many times smaller than the circle infinity's blur is to be, for *infinity with a margin*."""

USUAL_DEPTH_ERROR = 0.05
"""How far a depth may be off, as a share: a mark that holds only without it is called *just*."""


@dataclass(frozen=True, slots=True)
class Mark:
    """Something in the scene. ``depth``: mm from the sensor. ``must``: it must be sharp."""

    letter: str
    name: str
    depth: float
    must: bool


@dataclass(frozen=True, slots=True)
class Scene:
    """All that an answer depends on. ``ring``: mm, as set by hand, or None for the computed."""

    setup: Setup
    format: Format
    pixels_across: int | None
    place: str
    ring: float | None
    marks: tuple[Mark, ...]
    system: str
    camera: Camera | None = None


@dataclass(frozen=True, slots=True)
class Ring:
    """Where the ring stands, mm, and the figures to write it with."""

    focus: float
    figures: int


def core_scene(scene: Scene) -> schools.Scene:
    """The scene as the core's schools see it."""
    return schools.Scene(
        setup=scene.setup,
        marks=tuple(unsure(mark) for mark in scene.marks),
        look=marks.Look(scene.format, scene.pixels_across),
        camera=scene.camera,
        margin=INFINITY_MARGIN,
    )


def unsure(mark: Mark) -> marks.Mark:
    """A mark as the core judges it: its depth may be off by the usual share."""
    unsure = mark.depth * USUAL_DEPTH_ERROR if math.isfinite(mark.depth) else 0.0
    return marks.Mark(mark.depth, unsure, marks.Wish.SHARP if mark.must else marks.Wish.FREE)
