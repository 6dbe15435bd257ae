"""A scene: all that an answer depends on."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field, replace
from enum import StrEnum

from optics.base.errors import SubjectTooNear, require_positive
from optics.base.formats import BY_KEY, Format
from optics.base.units import METRES
from optics.lens.cone import INSIDE_THE_LENS, nearest_subject
from optics.lens.kit import Kit
from optics.lens.setup import Setup
from optics.light.taking import Taking
from optics.scene.camera import Camera
from optics.scene.marks import Look, Mark

_HAIR = 1e-9


class Choose(StrEnum):
    """Who chooses the aperture."""

    FIXED = "fixed"
    WIDEST = "widest"
    SHARPEST = "sharpest"
    SOFTENS = "softens"


@dataclass(frozen=True, slots=True)
class Scene:
    """All that an answer depends on. Plain numbers; distances mm from the sensor.

    ``kit``, ``f_number``  the lens with its apertures and its standard, and the one it is set to.
    ``marks``         what must, may or should not be sharp.
    ``look``          how the picture is looked at.
    ``school``        the key of a school of placing focus (``schools.SCHOOLS``).
    ``choose``        who chooses the aperture.
    ``ring``          as set by hand, or None for the computed setting.
    ``subject``       the depth that *one subject* puts focus on; None: the first mark that must be
                      sharp.
    ``camera``        where it stands, for the schools that go by the ground; None if not known.
    ``margin``        of *infinity*: how many times smaller than the circle its blur is to be.
    ``overlap``       of *frames*: the share of each that its neighbour holds too.
    ``focus_error``   of *insurance*: how far off the way of focusing may leave the ring, 1/mm.
    ``system``        the units that settings are rounded for.
    ``taking``        how it is exposed, for what moves.

    Raises SubjectTooNear for a mark that may be inside the lens (``cone.nearest_subject``).
    """

    kit: Kit
    f_number: float
    marks: tuple[Mark, ...] = ()
    look: Look = field(default_factory=lambda: Look(BY_KEY["full-frame"]))
    school: str = "between"
    choose: str = Choose.FIXED
    ring: float | None = None
    subject: float | None = None
    camera: Camera | None = None
    margin: float = 1.5
    overlap: float = 0.2
    focus_error: float = 0.1e-3
    system: str = METRES
    taking: Taking = field(default_factory=Taking)
    setup: Setup = field(init=False, repr=False, compare=False)
    """The lens at its aperture, and the standard."""

    def __post_init__(self) -> None:
        require_positive("margin", self.margin, "margin")
        require_positive("overlap", self.overlap, "overlap", zero=True)
        require_positive("focus_error", self.focus_error, "error of focusing", zero=True)
        object.__setattr__(self, "setup", self.kit.at(self.f_number))
        least = nearest_subject(self.setup) * (1 - _HAIR)
        for mark in self.marks:
            if mark.nearest < least:
                raise SubjectTooNear("depth", mark.depth, INSIDE_THE_LENS)

    @property
    def seconds(self) -> float | None:
        """The time that a frame takes; None where nothing tells it."""
        return self.taking.used(self.f_number)

    @property
    def movers(self) -> tuple[tuple[Mark, float], ...]:
        """Marks that move, with their speeds, mm/s; leaves move at the nearest that must be sharp,
        unless something else is said of that."""
        found = [(mark, mark.speed) for mark in self.marks if mark.speed]
        if self.taking.leaves:
            near = min(self.must, key=lambda mark: mark.depth, default=None)
            if near is not None and near.speed is None:
                found.append((near, self.taking.leaves))
        return tuple(found)

    def at(self, f_number: float) -> Scene:
        """The same scene with the lens at another aperture."""
        return self if f_number == self.f_number else replace(self, f_number=f_number)

    @property
    def apertures(self) -> Sequence[float]:
        """The f-numbers that the lens can be set to, rising."""
        return self.kit.apertures

    @property
    def closest(self) -> float:
        """The nearest that the lens focuses; never under four focal lengths."""
        return self.kit.closest

    @property
    def format(self) -> Format:
        """The picture area."""
        return self.look.frame

    @property
    def pixels_across(self) -> int | None:
        """Of the sensor's width; None for film."""
        return self.look.pixels_across

    @property
    def must(self) -> tuple[Mark, ...]:
        """The marks that must be sharp."""
        return tuple(mark for mark in self.marks if mark.must)
