"""What a picture is meant to show sharp, in one form for everybody who asks how it came out."""

from __future__ import annotations

import math
from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Meant:
    """Something that must be sharp.

    ``letter``, ``name``  what it is called, for short and in full.
    ``depth``   mm from the sensor, up to inf; nan where it is not known.
    ``error``   by how much that may be off, mm, 0 or more.
    ``circle``  the widest blur of it that is still called sharp, mm; nan for the standard in hand.
    ``star``    whether it is a star, or all of them.
    ``at``      where it was put in the frame, shares from the left and from below; None: nowhere.
    """

    letter: str
    name: str
    depth: float
    error: float = 0.0
    circle: float = math.nan
    star: bool = False
    at: tuple[float, float] | None = None
