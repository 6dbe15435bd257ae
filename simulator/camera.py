"""The made-up camera as it is set up to take a frame."""

from __future__ import annotations

from dataclasses import dataclass, field

from simulator.body import Body
from simulator.lens import Lens


@dataclass(frozen=True, slots=True)
class Shake:
    """How the camera moved while the shutter was open: in a straight line, by so many pixels, in a
    direction (radians, from the rows)."""

    pixels: float = 0.0
    direction: float = 0.0


@dataclass(frozen=True, slots=True)
class Camera:
    """A camera set up to take a frame.

    ``ring``     where the lens truly stands, a magnification: ``Lens.stands_for`` and ``stands_at``
                 give it.
    ``f_number``, ``iso``, ``time`` (s)  as set. ``reads`` what the lens tells the body of its
                 distance, mm.
    """

    lens: Lens
    body: Body
    f_number: float
    ring: float
    iso: float = 100.0
    time: float = 0.01
    shake: Shake = field(default_factory=Shake)
    taken: str = "2026:03:01 12:00:00"

    @property
    def reads(self) -> float:
        """What the ring says, mm, and so the lens to the body."""
        return self.lens.reads(self.ring)
