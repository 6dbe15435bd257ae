"""The picture as the finder shows it: horizon, ground by depth, what is soft of it, and the row to
put the focus point on.

Depths are what a ring reads, along the axis from the sensor. Marks stand on the ground at their
depth, as far as a scene of depths alone can say; side by side, since their columns are not known.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace

import numpy as np

from optics.base import settable, units
from optics.base.errors import OpticsError
from optics.base.systems import BY_KEY
from optics.scene.camera import Camera
from optics.scene.frame import row_of_depth

_LINE_GAP = 22.0
"""Between two lines of ground, so that each has room for its label."""
_LABEL_IN, _LABEL_RISE = 6.0, 5.0
_DISC = 11.0
_SKY_ROW = 0.88
"""Where something in the sky is drawn until it is put in its place."""


@dataclass(frozen=True, slots=True)
class Standing:
    """A mark to show: its letter, its depth in mm, its verdict's word.

    ``rise``: mm above the ground; inf for what stands on none. ``at``: where it was put in the
    picture, shares from the left and from below; None if it was not.
    """

    letter: str
    depth: float
    verdict: str
    rise: float = 0.0
    at: tuple[float, float] | None = None


@dataclass(frozen=True, slots=True)
class GroundLine:
    """The ground at a round depth: how high it stands in the picture, and what it is called."""

    y: float
    label: str
    label_x: float
    label_y: float


@dataclass(frozen=True, slots=True)
class Dot:
    """A mark as drawn, its disc on the ground."""

    letter: str
    verdict: str
    x: float
    y: float
    above: str = ""
    index: int = 0


@dataclass(frozen=True, slots=True)
class BoxDrawn:
    """The autofocus box, px: its middle and its sides."""

    x: float
    y: float
    width: float
    height: float

    @property
    def half_width(self) -> float:
        """Half its width."""
        return self.width / 2

    @property
    def half_height(self) -> float:
        """Half its height."""
        return self.height / 2

    @property
    def corners(self) -> str:
        """Its four corners, about its middle."""
        x, y = self.half_width, self.half_height
        arm = min(x, y) * 0.6
        return "".join(
            f"M{sx * x:.1f} {sy * (y - arm):.1f}V{sy * y:.1f}H{sx * (x - arm):.1f}"
            for sx in (-1, 1)
            for sy in (-1, 1)
        )


@dataclass(frozen=True, slots=True)
class Viewfinder:
    """The picture, drawing units, y downwards.

    ``horizon_y``: 0 where no sky shows, the height where only sky does. ``soft``: the parts of the
    ground that are not sharp, as y and height. ``outside``: letters of marks whose ground is not in
    the picture. ``focus``: None where the row to focus on is not in the picture; ``focus_says``
    what to do in either case. ``also``: the rows of further frames.
    """

    width: float
    height: float
    horizon_y: float
    ground: tuple[GroundLine, ...]
    soft: tuple[tuple[float, float], ...]
    dots: tuple[Dot, ...]
    outside: tuple[str, ...]
    focus: GroundLine | None
    focus_says: str
    box: BoxDrawn | None = None
    also: tuple[GroundLine, ...] = ()


def draw(
    width: float,
    camera: Camera,
    system: str,
    *,
    focus: float,
    near: float,
    far: float,
    marks: Sequence[Standing],
    box: tuple[float, float, float, float] | None = None,
    also: Sequence[float] = (),
) -> Viewfinder:
    """The finder of a camera with the ring at ``focus``; sharp from ``near`` to ``far``, mm, nan
    where nothing is. ``box``: the autofocus box, shares from the left and below, width, height."""
    seen = _Seen(width, replace(camera, focus=focus))
    focus_y = seen.y(focus)
    row = None
    if focus_y is not None and 0 <= focus_y <= seen.height:
        row = seen.line(focus_y, f"ring {settable.written(focus, system)}")
    dots = tuple(seen.dots(marks))
    shown = {dot.letter for dot in dots}
    further = tuple(
        seen.line(y, f"then {settable.written(depth, system)}")
        for depth in also
        if (y := seen.y(depth)) is not None and 0 <= y <= seen.height
    )
    taken = [line for line in (row, *further) if line is not None]
    return Viewfinder(
        width=width,
        height=round(seen.height, 1),
        horizon_y=round(seen.horizon, 1),
        ground=tuple(seen.lines(BY_KEY[system].ring, system, taken)),
        soft=tuple(seen.soft(near, far)),
        dots=dots,
        outside=tuple(mark.letter for mark in marks if mark.letter not in shown),
        focus=row,
        box=None if box is None else seen.box(*box),
        also=further,
        focus_says=seen.says(focus, focus_y),
    )


@dataclass(frozen=True, slots=True)
class _Seen:
    width: float
    camera: Camera

    @property
    def height(self) -> float:
        return self.width * self.camera.frame_height / self.camera.frame_width

    @property
    def horizon(self) -> float:
        row = self.camera.horizon_row
        return 0.0 if math.isnan(row) else min(max((1.0 - row) * self.height, 0.0), self.height)

    def y_of(self, mark: Standing) -> float | None:
        """How high a mark stands in the picture; None where that is nowhere."""
        if math.isfinite(mark.rise):
            return self.y(mark.depth, mark.rise)
        up = mark.at[1] if mark.at else _SKY_ROW
        return (1.0 - up) * self.height

    def y(self, depth: float, rise: float = 0.0) -> float | None:
        """How high the ground of a depth stands, or what rises above it; None for nowhere."""
        try:
            row = row_of_depth(self.camera, depth, rise)
        except OpticsError:
            return None
        return (1.0 - row) * self.height if math.isfinite(row) else None

    def seen(self, depths: Iterable[float]) -> Iterable[tuple[float, float]]:
        """Those depths whose ground is seen anywhere, and how high each stands; all at once."""
        ahead = np.array([d for d in depths if d > self.camera.image_distance * (1 + 1e-9)])
        try:
            rows = np.asarray(row_of_depth(self.camera, ahead))
        except OpticsError:
            found = ((float(depth), self.y(float(depth))) for depth in ahead)
            return [(depth, y) for depth, y in found if y is not None]
        return zip(ahead.tolist(), ((1.0 - rows) * self.height).tolist(), strict=True)

    def line(self, y: float, label: str) -> GroundLine:
        return GroundLine(round(y, 1), label, self.width - _LABEL_IN, round(y - _LABEL_RISE, 1))

    def lines(
        self, depths: Iterable[float], system: str, taken: Sequence[GroundLine]
    ) -> Iterable[GroundLine]:
        before = math.inf
        for depth, y in self.seen(depths):
            if not self.horizon + _LINE_GAP < y < self.height - 1:
                continue
            if before - y < _LINE_GAP or any(abs(line.y - y) < _LINE_GAP for line in taken):
                continue
            before = y
            yield self.line(y, units.write(depth, system, 2))

    def soft(self, near: float, far: float) -> Iterable[tuple[float, float]]:
        if math.isnan(near):
            yield round(self.horizon, 1), round(self.height - self.horizon, 1)
            return
        ends = [self.y(near), self.y(far) if math.isfinite(far) else self.horizon]
        low, high = (
            self.height if y is None else min(max(y, self.horizon), self.height) for y in ends
        )
        for top, bottom in ((low, self.height), (self.horizon, high)):
            if bottom - top > 0.5:
                yield round(top, 1), round(bottom - top, 1)

    def box(self, left: float, bottom: float, width: float, height: float) -> BoxDrawn:
        return BoxDrawn(
            round((left + width / 2) * self.width, 1),
            round((1.0 - bottom - height / 2) * self.height, 1),
            round(width * self.width, 1),
            round(height * self.height, 1),
        )

    def dots(self, marks: Sequence[Standing]) -> Iterable[Dot]:
        for at, mark in enumerate(marks, 1):
            y = self.y_of(mark)
            if y is None or not -_DISC < y < self.height + _DISC:
                continue
            x = self.width * (mark.at[0] if mark.at else at / (len(marks) + 1))
            x = min(max(x, _DISC + 1), self.width - _DISC - 1)
            y = min(max(y, _DISC + 1), self.height - _DISC - 1)
            yield Dot(mark.letter, mark.verdict, round(x, 1), round(y, 1), index=at - 1)

    def says(self, focus: float, y: float | None) -> str:
        if math.isinf(focus):
            if y is not None and 0 <= y <= self.height:
                return "Focus on the horizon, or on what stands beyond it."
            return "Focus on the farthest thing there is: the ground in the picture is nearer."
        if y is None:
            return "No ground is seen at the ring's distance: set it by the ring."
        share = round(100 * (1.0 - y / self.height))
        if y > self.height:
            return "The ground at the ring's distance lies below the picture: set it by the ring."
        if y < 0:
            return "The ground at the ring's distance lies above the picture: set it by the ring."
        return f"Put the focus point on the ground {share} % of the way up the picture."
