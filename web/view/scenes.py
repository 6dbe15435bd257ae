"""A scene as View has it: what is in hand, the marks, where the camera stands; and for the core."""

from __future__ import annotations

import math
from dataclasses import dataclass, field
from enum import StrEnum

from optics import Setup
from optics.base.formats import Format
from optics.scene import marks, schools
from optics.scene.camera import Camera
from web.bag.in_use import InUse

INFINITY_MARGIN = 1.5
"""How many times smaller than the circle infinity's blur is to be, for *infinity with a margin*."""

SKY = math.inf
"""The rise of a mark that stands on no ground."""


class Wish(StrEnum):
    """What a mark is asked to be, once the look wished for is counted in."""

    SHARP = "must"
    NICE = "nice"
    FREE = "may_go"
    FALLS = "falls"
    """Would have to be sharp, but falls off naturally from the subject in the look wished for."""
    SOFT = "fall_soft"
    SMEAR = "smear"


@dataclass(frozen=True, slots=True)
class Mark:
    """Something in the scene.

    ``depth``  mm from the sensor, with the camera where it now stands.
    ``wish``   what it is asked to be.
    ``error``  how far off the depth may be, mm to either side.
    ``rise``   mm above the ground; ``SKY`` for what stands on none.
    ``at``     where in the frame it was put, shares from the left and from below; None: not put.
    ``speed``  mm/s; 0 for what keeps still, None where nobody said.
    """

    letter: str
    name: str
    depth: float
    wish: Wish
    error: float = 0.0
    rise: float = 0.0
    at: tuple[float, float] | None = None
    speed: float | None = None

    @property
    def must(self) -> bool:
        """Whether it must be sharp."""
        return self.wish is Wish.SHARP


@dataclass(frozen=True, slots=True)
class Scene:
    """All that an answer depends on. ``ring``: mm, as set by hand, or None for the computed.

    ``closest``: the nearest that what is in hand focuses, mm; never under four focal lengths.
    ``subject``: the letter of the mark that is the subject; empty for the first that must be sharp.
    ``choose``: who chooses the aperture.
    """

    setup: Setup
    format: Format
    pixels_across: int | None
    place: str
    ring: float | None
    marks: tuple[Mark, ...]
    system: str
    camera: Camera | None = None
    look: str = "everything"
    closest: float = 0.0
    subject: str = ""
    choose: str = "fixed"
    in_use: InUse = field(default_factory=InUse, compare=False)

    @property
    def apertures(self) -> tuple[float, ...]:
        """The f-numbers that what is in hand can be set to, rising."""
        return self.in_use.apertures(float(self.setup.focal_length))

    @property
    def must(self) -> tuple[Mark, ...]:
        """The marks that must be sharp."""
        return tuple(mark for mark in self.marks if mark.must)

    @property
    def natural(self) -> bool:
        """Whether a natural fall-off from the subject is the look wished for."""
        return self.look == "subject"


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
        subject=next((m.depth for m in scene.must if m.letter == scene.subject), None),
        camera=scene.camera,
        margin=INFINITY_MARGIN,
    )


_CORE_WISH = {Wish.SHARP: marks.Wish.SHARP, Wish.SOFT: marks.Wish.SOFT}


def unsure(mark: Mark) -> marks.Mark:
    """A mark as the core judges it."""
    return marks.Mark(mark.depth, mark.error, _CORE_WISH.get(mark.wish, marks.Wish.FREE))
