"""What a link tells of a lens, for those in whose bag it is not."""

from __future__ import annotations

from dataclasses import dataclass

from optics.lens.kit import Fault


@dataclass(frozen=True, slots=True)
class Pupils:
    """Exit ÷ entrance pupil, and what is between the principal planes, mm: they matter close up."""

    ratio: float
    hiatus: float


@dataclass(frozen=True, slots=True)
class Told:
    """What a link tells of a lens, for those in whose bag it is not: its widest and its smallest
    aperture, its closest focus in mm, and of its pupils; None for what it does not tell. And how
    much more it stands out than its ring reads, mm."""

    apertures: tuple[float, float] | None = None
    closest: float | None = None
    pupils: Pupils | None = None
    ring_off: float = 0.0
    faults: tuple[Fault, ...] = ()
    """What tests found of it, by aperture."""


NOT_TOLD = Told()
