"""Aurora: how bright it is and how fast it moves, in plain words, and what time keeps its shape.

A kilorayleigh of its green line, 557.7 nm, is 10¹³ photons a second from a square metre into the
whole sphere: 1.9 × 10⁻⁴ cd/m² [aurora]. Its rays and folds stay apart while they move by less than
``SMEAR``, the width of the moon.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

SMEAR = math.radians(0.5)
"""How far a fold may move in a frame, radians."""
_PHOTON = 6.62607015e-34 * 2.99792458e8 / 557.7e-9
"""Joule, of the green line."""
_LUMENS = 683.0 * 0.995
"""Per watt, at that line."""
KILORAYLEIGH = 1e13 / (4 * math.pi) * _PHOTON * _LUMENS
"""cd/m²."""


@dataclass(frozen=True, slots=True)
class Aurora:
    """An aurora in plain words.

    ``kilorayleighs``  how bright its green line is. ``speed``: of its folds, radians a second.
    """

    key: str
    name: str
    kilorayleighs: float
    speed: float

    @property
    def luminance(self) -> float:
        """What it adds to the sky, cd/m²."""
        return self.kilorayleighs * KILORAYLEIGH

    @property
    def longest(self) -> float:
        """How long its folds keep their shape, s."""
        return SMEAR / self.speed


AURORAS = (
    Aurora("quiet", "a quiet arc", 3.0, math.radians(0.02)),
    Aurora("slow", "slow curtains", 10.0, math.radians(0.1)),
    Aurora("running", "running rays", 30.0, math.radians(0.3)),
    Aurora("bursting", "a burst overhead", 100.0, math.radians(1.0)),
)
"""Calmest first. Brightness by the international classes, 1, 10, 100 and 1000 kilorayleighs, and
between them; speeds a rule of thumb, good to a factor of two."""
