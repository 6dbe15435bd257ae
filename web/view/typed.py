"""One mark as it was typed."""

from __future__ import annotations

import math
from dataclasses import dataclass

from optics.base import units
from optics.scene.marks import SKY, Mark

SAID_OF_A_MARK = ("how", "error", "share", "stands", "at", "speed")
"""What can be said of a mark beside its name, its distance and its role."""


@dataclass(frozen=True, slots=True)
class Row:
    """One mark as typed: a text for each thing that can be said of it.

    ``error_says`` leaves it out of the answer, ``note`` does not. ``wrong``: the column that does.
    ``measured``: the distance typed, mm, before it was made a depth.
    """

    index: int
    letter: str
    name: str = ""
    distance: str = ""
    role: str = "must"
    how: str = "ring"
    error: str = ""
    share: str = ""
    stands: str = ""
    at: str = ""
    speed: str = ""
    error_says: str = ""
    wrong: str = ""
    note: str = ""
    mark: Mark | None = None
    measured: float = math.nan

    @property
    def linked(self) -> str:
        """The distance as a link says it: as typed, but paces and arms, which are one's own, in
        metres."""
        if self.mark is not None and units.in_own_measures(self.distance):
            return units.write(self.measured, units.METRES, 4)
        return self.distance

    @property
    def linked_stands(self) -> str:
        """How high it is, likewise."""
        own = self.mark is not None and 0 < self.mark.rise < SKY
        if own and self.mark is not None and units.in_own_measures(self.stands):
            return units.write(self.mark.rise, units.METRES, 4)
        return self.stands

    @property
    def blank(self) -> bool:
        """The empty row that waits for the next mark."""
        return not self.name and not self.distance


def parse_place(text: str, outside: float = 0.0) -> tuple[float, float] | None:
    """A place in the frame, typed as per cent from the left and from below: ``35 12``. Shares, up
    to ``outside`` past its edges; None for what is no place."""
    try:
        across, up = (float(part) / 100.0 for part in text.replace(",", " ").split())
    except ValueError:
        return None
    low, high = -outside, 1.0 + outside
    return (across, up) if low <= across <= high and low <= up <= high else None
