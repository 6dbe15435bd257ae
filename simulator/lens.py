"""The made-up lens: an ideal one, with what a real copy gets wrong."""

from __future__ import annotations

import math
from dataclasses import dataclass, field

from optics.lens.conjugates import focus_of, magnification
from optics.lens.kit import Fault, Kit

_ANY_CIRCLE = 0.03
"""mm: a standard of sharpness is the photographer's, and blurs nothing."""


@dataclass(frozen=True, slots=True)
class Faults:
    """What a copy gets wrong. All 0 for an ideal lens.

    ``by_aperture``  residual blur in the middle, mm, and shift of focus against the widest
                     aperture, mm in image space, as of ``optics`` (positive: sharpness falls
                     farther).
    ``corner``       residual blur in the corners on top of that, mm; it grows with the square of
                     the way there.
    ``decentring``   how far the plane of focus is tipped, mm in image space from the middle to the
                     right side of the frame.
    ``infinity``     how far the lens stands out too much where its ring says infinity, mm; below 0
                     it goes past.
    ``scale``        by which share its ring's distances are too long, as they are nearer than
                     infinity: 0.05 where 2 m are engraved at 1.9 m.
    """

    by_aperture: tuple[Fault, ...] = ()
    corner: float = 0.0
    decentring: float = 0.0
    infinity: float = 0.0
    scale: float = 0.0


@dataclass(frozen=True, slots=True)
class Lens:
    """A lens as made: focal length (mm), widest and smallest aperture, faults, and its name."""

    focal_length: float
    widest: float = 1.8
    smallest: float = 22.0
    faults: Faults = field(default_factory=Faults)
    name: str = "made-up lens"

    @property
    def kit(self) -> Kit:
        """What its middle does at each aperture."""
        return Kit(
            self.focal_length,
            _ANY_CIRCLE,
            apertures=(self.widest, self.smallest),
            diffraction=True,
            faults=self.faults.by_aperture,
        )

    def stands_for(self, distance: float, f_number: float | None = None) -> float:
        """Where the ring truly stands when somebody focuses by eye at an aperture, f/…, on a thing
        at a distance, mm from the sensor: the magnification that an ideal lens would have there.
        At its widest aperture if none is said."""
        setup = self.kit.at(f_number or self.widest)
        ring = float(magnification(setup, distance))
        return ring + setup.focus_shift / self.focal_length

    def stands_at(self, engraved: float) -> float:
        """Where it truly stands when its ring is set to an engraved distance, mm or inf."""
        true = engraved if math.isinf(engraved) else engraved / (1.0 + self.faults.scale)
        nearest = 4.0 * self.focal_length
        ring = float(magnification(self.kit.at(self.widest), max(true, nearest)))
        return ring + self.faults.infinity / self.focal_length

    def reads(self, ring: float) -> float:
        """What the ring says where the lens truly stands at a magnification: an engraved distance,
        mm; inf at its infinity mark and past it."""
        left = ring - self.faults.infinity / self.focal_length
        if left <= 0:
            return math.inf
        return float(focus_of(self.kit.at(self.widest), left)) * (1.0 + self.faults.scale)
