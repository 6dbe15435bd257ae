"""The pavement from above, at true scale: flat zones across the axis, and somebody who walks.

What one ring position holds ends in planes across the axis, not in arcs about the camera: blur
depends on depth alone. The camera stands at the left and looks to the right; only what the frame
takes in is drawn.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from drawing.lettering import text_width
from drawing.sightline import Label, tenth

_LEFT, _RIGHT, _FOOT = 34.0, 8.0, 26.0
_LABEL_SIZE, _LABEL_APART = 12.0, 5.0
_MOST_STEPS = 7
_TOP_LABEL = 22.0
_CROWDED = 30.0
"""Nearer than this to where one presses, a time is written under its dot, px."""
_SECONDS = (0.1, 0.2, 0.5, 1.0, 2.0, 5.0, 10.0, 30.0, 60.0, 300.0, 1800.0, 7200.0, 86400.0)
_LEAST_SHOWN = 2400.0
"""mm: a plan of less is no pavement."""
_BESIDE = 400.0
"""mm: how far beside the lens a passer-by passes it."""


@dataclass(frozen=True, slots=True)
class View:
    """What the frame takes in: ``pupil`` mm in front of the sensor, and its half width there grows
    by ``slope`` for every 1 ahead."""

    pupil: float
    slope: float


@dataclass(frozen=True, slots=True)
class Strip:
    """A zone to draw: from ``near`` to ``far``, mm; ``far`` may be inf."""

    name: str
    near: float
    far: float
    home: bool


@dataclass(frozen=True, slots=True)
class Walker:
    """Somebody who comes at ``speed`` mm/s, their way ``angle`` radians off the axis; where to
    press for each zone, mm, with the letter of its name."""

    speed: float
    angle: float
    presses: Sequence[tuple[str, float]]


@dataclass(frozen=True, slots=True)
class Zone:
    """A zone as drawn."""

    path: str
    home: bool


@dataclass(frozen=True, slots=True)
class Step:
    """Where the walker is: a dot, and the time since they came into the picture."""

    x: float
    y: float
    says: str
    says_y: float


@dataclass(frozen=True, slots=True)
class Press:
    """Where to press, for the zone of that letter."""

    x: float
    y: float
    letter: str


@dataclass(frozen=True, slots=True)
class Pavement:
    """The plan, px."""

    width: float
    height: float
    camera: str
    zones: tuple[Zone, ...]
    edges: str
    way: str
    steps: tuple[Step, ...]
    presses: tuple[Press, ...]
    labels: tuple[Label, ...]
    label_y: float


def shown_to(strips: Sequence[Strip], press: float = 0.0) -> float:
    """How far a plan goes, mm: past the last edge, so that the zone behind it is seen."""
    edges = [d for strip in strips for d in (strip.near, strip.far) if math.isfinite(d)]
    return max(1.7 * max(edges, default=2000.0), 1.1 * press, _LEAST_SHOWN)


def draw(
    width: float,
    height: float,
    view: View,
    strips: Sequence[Strip],
    walker: Walker,
    label: dict[float, str],
) -> Pavement:
    """``label``: how each edge is written, by its distance in mm."""
    finite = [at for _, at in walker.presses if math.isfinite(at)]
    far = shown_to(strips, max(finite, default=0.0))
    plan = _Plan(width, height, view, far)
    edges = [d for strip in strips for d in (strip.near, strip.far) if d < far]
    # A gap so narrow that both its edges are written alike is labelled once.
    places = list({label[d]: d for d in sorted(set(edges), reverse=True)}.values())[::-1]
    homes = {d for strip in strips if strip.home for d in (strip.near, strip.far)}
    labels = _at_their_ticks(
        [(plan.x(d), label[d]) for d in sorted(places, key=lambda d: (d not in homes, d))]
    )
    return Pavement(
        width=width,
        height=height,
        camera=f"M{plan.x(0.0) - 16:.1f} {plan.middle - 8:.1f}h12v16h-12z",
        zones=tuple(Zone(plan.zone(s.near, min(s.far, far)), s.home) for s in strips),
        edges="".join(plan.edge(d) for d in sorted(set(edges))),
        way=plan.way(walker.angle),
        steps=tuple(plan.steps(walker)),
        presses=tuple(
            Press(tenth(plan.x(at)), tenth(plan.y(plan.beside(at, walker.angle))), letter)
            for letter, at in walker.presses
            if at < far and plan.seen(at, walker.angle)
        ),
        labels=labels,
        label_y=height - 8.0,
    )


def _at_their_ticks(wanted: Sequence[tuple[float, str]]) -> tuple[Label, ...]:
    """Each label at its tick, the first first; one that has no room there is left out."""
    placed: list[Label] = []
    for x, text in wanted:
        wide = text_width(text, _LABEL_SIZE)
        apart = ((text_width(one.text, _LABEL_SIZE) + wide) / 2 + _LABEL_APART for one in placed)
        if all(abs(x - one.x) >= least for one, least in zip(placed, apart, strict=True)):
            placed.append(Label(tenth(x), text))
    return tuple(sorted(placed, key=lambda one: one.x))


@dataclass(frozen=True, slots=True)
class _Plan:
    width: float
    height: float
    view: View
    far: float

    @property
    def scale(self) -> float:
        """px for a mm."""
        return (self.width - _LEFT - _RIGHT) / self.far

    @property
    def half(self) -> float:
        """Half the height of the drawn ground, px."""
        return (self.height - _FOOT) / 2

    @property
    def middle(self) -> float:
        return self.half

    def x(self, depth: float) -> float:
        return _LEFT + depth * self.scale

    def y(self, beside: float) -> float:
        return self.middle - beside * self.scale

    def half_width(self, depth: float) -> float:
        """Of what the frame takes in, px, cut at the picture's edge."""
        return min(max(depth - self.view.pupil, 0.0) * self.view.slope * self.scale, self.half)

    def zone(self, near: float, far: float) -> str:
        """A trapezium, with corners where the frame's edge leaves the picture."""
        depths = [near, far]
        leaves = self.view.pupil + self.half / (self.view.slope * self.scale)
        if near < leaves < far:
            depths.insert(1, leaves)
        if far <= near:
            return ""
        upper = [f"{self.x(d):.1f} {self.middle - self.half_width(d):.1f}" for d in depths]
        lower = [f"{self.x(d):.1f} {self.middle + self.half_width(d):.1f}" for d in depths[::-1]]
        return f"M{'L'.join((*upper, *lower))}z"

    def edge(self, depth: float) -> str:
        """The plane a zone ends in, and a tick to its label."""
        half = self.half_width(depth)
        x = f"{self.x(depth):.1f}"
        return f"M{x} {self.middle - half:.1f}V{self.middle + half:.1f}M{x} {2 * self.half:.1f}v5"

    def beside(self, depth: float, angle: float) -> float:
        """How far beside the axis the walker is when so deep, mm."""
        return depth * math.tan(angle) - (_BESIDE if angle > 0 else 0.0)

    def seen(self, depth: float, angle: float) -> bool:
        """Whether the walker is in the drawn ground there."""
        return abs(self.beside(depth, angle)) * self.scale <= self.half - 6.0

    def way(self, angle: float) -> str:
        points = [
            f"{self.x(d):.1f} {self.y(self.beside(d, angle)):.1f}" for d in self.depths_seen(angle)
        ]
        return f"M{points[0]}L{points[1]}"

    def depths_seen(self, angle: float) -> tuple[float, float]:
        """From where to where the walker is in the picture, farthest first, mm."""
        far, near, room = self.far * 0.985, 0.0, (self.half - 8.0) / self.scale
        if angle > 0:
            far = min(far, (room + _BESIDE) / math.tan(angle))
            near = max((_BESIDE - room) / math.tan(angle), 0.0)
        return far, near

    def steps(self, walker: Walker) -> list[Step]:
        along = walker.speed * math.cos(walker.angle)
        start, end = self.depths_seen(walker.angle)
        end = max(end, self.view.pupil + 60.0)
        whole = (start - end) / along
        step = next((s for s in _SECONDS if whole / s <= _MOST_STEPS), _SECONDS[-1])
        found = []
        for k in range(_MOST_STEPS + 1):
            depth = start - along * step * k
            if depth < end:
                break
            y = self.y(self.beside(depth, walker.angle))
            crowded = any(abs(self.x(at) - self.x(depth)) < _CROWDED for _, at in walker.presses)
            says_y = y + 17.0 if crowded or y < _TOP_LABEL else y - 8.0
            found.append(Step(tenth(self.x(depth)), tenth(y), _seconds(step * k), tenth(says_y)))
        return found


def _seconds(seconds: float) -> str:
    if seconds < 120:
        return f"{seconds:.3g} s"
    return f"{seconds / 60:.3g} min" if seconds < 7200 else f"{seconds / 3600:.3g} h"
