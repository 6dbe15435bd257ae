"""A focus ring, drawn as what it is: the axis of distances bent into an arc.

Near is on the left, infinity on the right, as on the sightline, unless a lens is to be shown as it
is seen from behind; the ring is spread so that its
whole throw fits the picture. What is engraved is chosen so that labels never touch.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace

import numpy as np

from optics.base import units
from optics.base.systems import BY_KEY
from optics.lens.ring import Ring

THICK = 28.0
"""How deep a ring is drawn, px."""
_LABEL_GAP = 6.0
_CHARACTER = 6.6


@dataclass(frozen=True, slots=True)
class RingSize:
    """Room for a ring, px. ``radius``: of the engraved edge; ``spread``: radians of arc."""

    width: float
    height: float
    radius: float
    spread: float
    tick: float = 9.0

    @property
    def middle(self) -> tuple[float, float]:
        """The centre the arcs turn about."""
        return self.width / 2, self.radius + 4.0


CARD = RingSize(width=330, height=80, radius=400, spread=math.radians(40))
"""A lens on the bag's page."""
ON_THE_LENS = RingSize(width=360, height=100, radius=330, spread=math.radians(58))
"""A lens with its ring turned to an answer."""


@dataclass(frozen=True, slots=True)
class Tick:
    """An engraved distance, mm: its line, and its label, where it stands and how it is turned."""

    path: str
    label: str
    x: float
    y: float
    turn: float
    distance: float


@dataclass(frozen=True, slots=True)
class RingPicture:
    """Paths and positions of a ring. ``index``: a line where the ring stands, or empty; ``window``:
    the stretch it may stand in, or empty."""

    size: RingSize
    body: str
    ticks: tuple[Tick, ...]
    index: str
    window: str = ""


def draw(
    size: RingSize,
    ring: Ring,
    closest: float,
    system: str = units.METRES,
    engraved: Iterable[float] = (),
    focus: float | None = None,
    *,
    near_right: bool = False,
) -> RingPicture:
    """A ring from ``closest`` (mm) to infinity, with what is engraved, or else what rings carry.

    ``focus``: a distance that is marked, mm, or None. ``near_right``: the near end on the
    right, as it is seen from behind on a lens that is turned clockwise to infinity.
    """
    place = replace(Placed.of(size, ring, closest), near_right=near_right)
    wanted = sorted(set(engraved) or {closest, *BY_KEY[system].ring, math.inf})
    return RingPicture(
        size=size,
        body=place.band(0.0, 1.0, 0.0, -THICK),
        ticks=tuple(place.ticks([d for d in wanted if d >= closest * (1 - 1e-9)], system)),
        index="" if focus is None else place.line(place.share(focus), -8.0, size.tick),
    )


def turned_to(
    size: RingSize,
    ring: Ring,
    closest: float,
    focus: float,
    window: tuple[float, float] | None,
    system: str = units.METRES,
    engraved: Iterable[float] = (),
) -> RingPicture:
    """A ring turned so that ``focus`` (mm) stands under the index, at the top of the arc.

    What has been turned out of the picture is left out. ``window``: nearest and farthest of where
    the ring may stand, mm; None for nowhere.
    """
    place = Placed.of(size, ring, closest, focus)
    wanted = sorted(set(engraved) or {closest, *BY_KEY[system].ring, math.inf})
    wanted = [d for d in wanted if d >= closest * (1 - 1e-9)]
    shares = place.shares(wanted)
    seen = [d for d, share in zip(wanted, shares, strict=True) if abs(share - 0.5) < _SEEN]
    start, end = (max(min(place.share(d), 0.5 + _SEEN), 0.5 - _SEEN) for d in (closest, math.inf))
    marked = ""
    if window is not None:
        near, far = (min(max(place.share(d), start), end) for d in window)
        marked = place.band(near, far, 3.0, -3.0, margin=0.002)
    return RingPicture(
        size=size,
        body=place.band(start, end, 0.0, -THICK),
        ticks=tuple(place.ticks(seen, system)),
        index=place.line(0.5, -22.0, THICK + 4.0),
        window=marked,
    )


_SEEN = 0.46
"""Of the spread, to either side of the index: what of a turned ring is in the picture."""


@dataclass(frozen=True, slots=True)
class Dial:
    """A tab on a clock face seen from behind the camera, in a square of ``size`` px.

    ``hours``: the twelve strokes; ``tab``: the line of the tab; ``window``: the arc it may stand
    in, or empty; ``x``, ``y``: the end of the tab.
    """

    size: float
    radius: float
    hours: str
    tab: str
    window: str
    x: float
    y: float

    @property
    def half(self) -> float:
        """The middle of the square."""
        return self.size / 2


def dial(size: float, at: float, window: tuple[float, float] | None) -> Dial:
    """``at``: where the tab stands, radians clockwise from twelve; ``window``: the ends of where
    it may, the shorter way round."""
    middle, radius = size / 2, size / 2 - 14.0

    def point(angle: float, r: float) -> str:
        return f"{middle + r * math.sin(angle):.1f} {middle - r * math.cos(angle):.1f}"

    strokes = []
    for hour in range(12):
        angle = hour * math.pi / 6
        inner = radius - (8.0 if hour % 3 == 0 else 4.0)
        strokes.append(f"M{point(angle, inner)}L{point(angle, radius)}")
    arc = ""
    if window is not None:
        start, end = window
        turn = math.remainder(end - start, 2 * math.pi)
        r = radius + 6.0
        arc = f"M{point(start, r)}A{r:g} {r:g} 0 0 {int(turn > 0)} {point(end, r)}"
    x, y = (float(n) for n in point(at, radius + 6.0).split())
    tab = f"M{point(at, radius * 0.35)}L{point(at, radius + 10.0)}"
    return Dial(size, radius, "".join(strokes), tab, arc, x, y)


@dataclass(frozen=True, slots=True)
class Placed:
    """A ring in its picture: an angle ``start`` stands at the left end, ``turn`` farther on is the
    right end."""

    size: RingSize
    ring: Ring
    start: float
    turn: float
    near_right: bool = False

    @classmethod
    def of(
        cls, size: RingSize, ring: Ring, closest: float, under_index: float | None = None
    ) -> Placed:
        """Closest focus to infinity, or turned so that ``under_index`` is in the middle."""
        start, end, middle = (
            float(angle)
            for angle in ring.angle((closest, math.inf, under_index or closest))  # type: ignore[union-attr]
        )
        turn = end - start
        return cls(size, ring, start if under_index is None else middle - 0.5 * turn, turn)

    def share(self, distance: float) -> float:
        """How far along the arc a distance stands: 0 at its left end, 1 at its right."""
        share = (self.ring.angle(distance) - self.start) / self.turn
        return 1.0 - share if self.near_right else share

    def shares(self, distances: Sequence[float]) -> list[float]:
        """The same of several at once."""
        angles = np.asarray(self.ring.angle(np.asarray(distances, dtype=np.float64)))
        shares = (angles - self.start) / self.turn
        found: list[float] = (1.0 - shares if self.near_right else shares).tolist()
        return found

    def point(self, share: float, out: float) -> tuple[float, float]:
        """``out``: px outside the engraved edge."""
        angle = (share - 0.5) * self.size.spread
        x, y = self.size.middle
        r = self.size.radius + out
        return x + r * math.sin(angle), y - r * math.cos(angle)

    def line(self, share: float, inner: float, outer: float) -> str:
        (x1, y1), (x2, y2) = self.point(share, -inner), self.point(share, -outer)
        return f"M{x1:.1f} {y1:.1f}L{x2:.1f} {y2:.1f}"

    def band(
        self, start: float, end: float, outer: float, inner: float, margin: float = 0.06
    ) -> str:
        a, b = start - margin, end + margin
        points = [
            self.point(a, outer),
            self.point(b, outer),
            self.point(b, inner),
            self.point(a, inner),
        ]
        (x1, y1), (x2, y2), (x3, y3), (x4, y4) = points
        r1, r2 = self.size.radius + outer, self.size.radius + inner
        return (
            f"M{x1:.1f} {y1:.1f}A{r1:g} {r1:g} 0 0 1 {x2:.1f} {y2:.1f}"
            f"L{x3:.1f} {y3:.1f}A{r2:g} {r2:g} 0 0 0 {x4:.1f} {y4:.1f}Z"
        )

    def ticks(self, distances: list[float], system: str) -> Iterable[Tick]:
        """From infinity inwards, each that leaves room to the one before; both ends always."""
        taken: list[tuple[float, float]] = []
        if not distances:
            return []
        order = [distances[-1], distances[0], *reversed(distances[1:-1])]
        found = []
        for distance, share in zip(order, self.shares(order), strict=True):
            label = "∞" if math.isinf(distance) else _bare(distance, system)
            half = 0.5 * _CHARACTER * len(label)
            at = share * self.size.spread * self.size.radius
            if any(abs(at - other) < half + width + _LABEL_GAP for other, width in taken):
                continue
            taken.append((at, half))
            x, y = self.point(share, -self.size.tick - 12.0)
            turn = math.degrees((share - 0.5) * self.size.spread)
            found.append(Tick(self.line(share, 0.0, self.size.tick), label, x, y, turn, distance))
        return sorted(found, key=lambda tick: tick.x)


def _bare(distance: float, system: str) -> str:
    """A distance as engraved: without its unit."""
    if distance in BY_KEY[system].ring:
        return BY_KEY[system].label(distance, False)
    return f"{units.significant(distance / BY_KEY[system].mm, 2):g}"
