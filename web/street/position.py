"""A ring position of a street, and all that is said of it."""

from __future__ import annotations

import math
from dataclasses import dataclass

from optics.base import settable
from optics.lens.focus_window import Window
from optics.lens.shot import Shot
from optics.zones import people, stretches
from web.hand.touch import BY_THE_SCALE


@dataclass(frozen=True, slots=True, kw_only=True)
class Position(Shot):
    """A ring position as a thumb learns it. Distances mm. Its name: Close, Home, Far, with a number
    where there are several.

    ``tile``     what it holds, and the stretch it is used for; ``used``: that to be written, None
                 for nothing. ``window``: where the ring may stand for that; None for nowhere else.
    ``tab``      of the tab, radians clockwise from twelve; None without one.
    ``frames``   how much of a person fits: at the near end of its stretch, and at the far one.
    ``share``    of all people that it keeps.
    ``walk``     a passer-by through what it holds.
    """

    tile: stretches.Tile
    used: settable.Span | None
    window: Window | None
    tab: float | None
    home: bool
    locked: bool
    frames: tuple[str, str] | None
    share: float
    walk: people.Walk | None

    @property
    def by_touch(self) -> bool:
        """Whether a thumb finds it without reading the ring."""
        return not self.touch.startswith(BY_THE_SCALE)

    @property
    def last_press(self) -> float:
        """The nearest somebody may be when one presses and still catches them in it, mm."""
        late = 0.0 if self.walk is None else self.walk.late_by
        return self.tile.near + late

    @property
    def endless(self) -> bool:
        """Whether it holds infinity."""
        return math.isinf(self.tile.far)
