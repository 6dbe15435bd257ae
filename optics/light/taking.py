"""How a frame is exposed: what was metered, what was chosen, and the time that comes of it."""

from __future__ import annotations

from dataclasses import dataclass

from optics.base.errors import require_positive
from optics.lens.aperture import exact
from optics.light import dial, exposure


@dataclass(frozen=True, slots=True)
class Taking:
    """``ev100``: the exposure value that was metered, at ISO 100; None where nothing was.

    ``iso``: as set. ``nd``: the filter's stops, 0 or more. ``seconds``: the time wished for; None
    for as it comes. ``leaves``: how fast they move in the wind, mm/s, 0 or more; None: not said.
    Raises NotANumber, OutOfRange.
    """

    ev100: float | None = None
    iso: float = exposure.BASE_ISO
    nd: float = 0.0
    seconds: float | None = None
    leaves: float | None = None

    def __post_init__(self) -> None:
        require_positive("iso", self.iso, "ISO")
        require_positive("nd", self.nd, "stops of the filter", zero=True)
        if self.seconds is not None:
            require_positive("seconds", self.seconds, "time")
        if self.leaves is not None:
            require_positive("leaves", self.leaves, "speed of leaves", zero=True)

    def given(self, f_number: float, nd: float | None = None) -> float | None:
        """The time on a dial that the light gives at an aperture as engraved, s; None where nothing
        was metered. ``nd``: with another filter."""
        if self.ev100 is None:
            return None
        stops = self.nd if nd is None else nd
        return dial.named_time(exposure.seconds_for(self.ev100, exact(f_number), self.iso, stops))

    def used(self, f_number: float) -> float | None:
        """The time that a frame takes: the one wished for, else the one that the light gives."""
        return self.given(f_number) if self.seconds is None else self.seconds

    def iso_at(self, f_number: float, seconds: float) -> float | None:
        """The ISO on a dial for a time, s; None where nothing was metered."""
        if self.ev100 is None:
            return None
        return dial.named_iso(exposure.iso_for(self.ev100, exact(f_number), seconds, self.nd))
