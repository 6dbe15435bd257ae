"""A frame to take: where the ring goes and what it is for, in one form for everybody who asks."""

from __future__ import annotations

import math
from dataclasses import dataclass

from optics.base.settable import Span


@dataclass(frozen=True, slots=True)
class Shot:
    """A frame to take. Distances mm from the sensor, up to inf.

    ``focus``     where to set the ring, on a distance that a hand can set; ``exact``: where it
                  would go if a hand could set anything; nan where a hand has set it.
    ``f_number``  nan where it is not known.
    ``near``, ``far``  what is sharp with the ring at ``focus``; nan where nothing is. ``held``:
                  that rounded inwards, to be written; None where nothing is.
    ``seconds``, ``iso``  None where they were not asked for.
    ``name``      what it is called among others: Close, Sky.
    ``purpose``   what it is for, in a few words.
    ``touch``     where the thumb finds the ring, in words; empty where nobody knows it.
    """

    focus: float
    exact: float = math.nan
    f_number: float = math.nan
    near: float = math.nan
    far: float = math.nan
    held: Span | None = None
    seconds: float | None = None
    iso: float | None = None
    name: str = ""
    purpose: str = ""
    touch: str = ""
