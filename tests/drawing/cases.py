"""Cases for every public function of the drawing, as the pages have them; the same every time."""

from __future__ import annotations

import math
from collections.abc import Callable
from random import Random
from typing import Any

from drawing import (
    apart,
    arms,
    bands,
    chart,
    frames,
    kept_frame,
    lettering,
    pavement,
    ring,
    ring_tiles,
    same_scene,
    scale,
    sightline,
    sky_frame,
    streaks,
    ticks,
    tiles,
    viewfinder,
)
from optics.base.formats import FORMATS
from optics.base.settable import Span
from tests.drawing.strips import strips
from tests.optics.every.population import Population

SIZES = (sightline.WIDE, sightline.NARROW)
RING_SIZES = (ring.RingSize(360, 100, 330, math.radians(40)), ring.RingSize(430, 112, 400, 1.1, 7))
NAMES = ("Close", "Home", "Far", "Farther off", "Zone 4", "A long name of a place", "")
SYSTEMS = ("m", "m", "ft")
NEAR = (300.0, 480.0, 620.0, 700.0, 1200.0, 2500.0, 9000.0)
WIDTHS = (1.15, 1.5, 2.0, 4.0, 20.0, math.inf)


class Cases:
    """Arguments from a seed."""

    def __init__(self, seed: str) -> None:
        self.random = Random(seed)
        self.optics = Population(seed)
        self.pick = self.random.choice
        self.uniform = self.random.uniform

    def scale(self, size: sightline.Size | None = None) -> scale.DistanceScale:
        left, right = (size.left, size.right) if size else self.pick(((92, 912), (14, 342)))
        near = self.pick(NEAR)
        return scale.DistanceScale(near, near * self.pick(WIDTHS), left, right)

    def on(self, axis: scale.DistanceScale) -> float:
        """A distance on an axis or a little beside it."""
        return self.pick((axis.near, axis.far, axis.near * 0.8, axis.far * 1.2, *(
            axis.distance(self.uniform(axis.left, axis.right)) for _ in range(6))))  # fmt: skip

    def interval(self, axis: scale.DistanceScale) -> Span:
        one, other = self.on(axis), self.on(axis)
        return Span(min(one, other), max(one, other))

    def maybe(self, what: Any) -> Any:
        return what if self.random.random() < 0.75 else None

    def some(self, make: Callable[[], Any], most: int = 5, least: int = 0) -> list[Any]:
        return [make() for _ in range(self.random.randint(least, most))]

    def arms(self, axis: scale.DistanceScale) -> arms.Arms:
        depths = tuple(axis.distance(axis.left + share * (axis.right - axis.left) / 8)
                       for share in range(9))  # fmt: skip
        return arms.Arms(depths, tuple(self.uniform(0, 4) for _ in depths))

    def sightline(self) -> Any:
        size = self.pick(SIZES)
        axis = self.scale(size)
        subjects = [
            sightline.Subject(letter, self.on(axis), self.pick((0.0, 0.4, 1.0, 2.7, 2.8, 40.0)),
                              self.pick(("holds", "just", "soft")))
            for letter in "ABCDEF"[: self.random.randint(0, 6)]
        ]  # fmt: skip
        reading = self.on(axis)
        return sightline.draw(
            size, axis, self.pick(SYSTEMS), ring=reading, ring_label=self.pick(NAMES),
            arms=self.arms(axis), band=self.maybe(self.interval(axis)),
            window=self.maybe(self.interval(axis)), subjects=subjects,
            also=self.some(lambda: self.on(axis), 3),
        )  # fmt: skip

    def tiles(self) -> Any:
        size = self.pick(SIZES)
        axis = self.scale(size)
        placed = [
            tiles.Placed(name, self.pick(("0.7–1 m", "")), self.on(axis), self.maybe(
                self.interval(axis)), name == "Home", self.random.random() < 0.3)
            for name in NAMES[: self.random.randint(1, 5)]
        ]  # fmt: skip
        return tiles.draw(size, axis, self.pick(SYSTEMS), placed=placed, arms=self.arms(axis),
                          gaps=self.some(lambda: self.interval(axis), 2))  # fmt: skip

    def bars(self) -> Any:
        axis = self.scale()
        return tiles.bars(axis, self.pick((18, 24)), self.some(lambda: self.interval(axis)),
                          self.some(lambda: self.interval(axis), 2),
                          self.some(lambda: self.on(axis)))  # fmt: skip

    def marks_on_ring(self) -> dict[str, Any]:
        return {
            "size": self.pick(RING_SIZES), "ring": self.optics.ring(), "closest": self.pick(
                (400.0, 500.0, 700.0)), "system": self.pick(SYSTEMS),
            "engraved": self.pick(((), (500.0, 700.0, 1000.0, 2000.0, math.inf), (1200.0,))),
        }  # fmt: skip

    def window(self) -> tuple[float, float] | None:
        near = self.pick((700.0, 1000.0, 2000.0))
        return self.maybe((near, near * self.pick((1.2, 2.0, math.inf))))

    def stretches(self) -> list[Any]:
        found, near = [], self.pick((500.0, 720.0))
        for name in NAMES[: self.random.randint(1, 4)]:
            far = near * self.pick((1.3, 1.8, 4.0))
            found.append(
                ring_tiles.Stretch(name, (near * far) ** 0.5, Span(near, far), name == "Home")
            )
            near = far
        return found

    def placed(self) -> Any:
        given = self.marks_on_ring()
        at = ring.Placed.of(given["size"], given["ring"], given["closest"],
                            self.maybe(self.pick((1000.0, 2000.0))))  # fmt: skip
        there = (500.0, 700.0, 1000.0, 1500.0, 3000.0, math.inf)
        return (
            at.shares(there), [at.share(one) for one in there], at.point(0.3, 5.0),
            at.line(0.7, 2.0, 9.0), at.band(0.2, 0.6, 6.0, 1.0), at.band(0.2, 0.2, 6.0, 1.0, 0.1),
            tuple(at.ticks(list(there), given["system"])),
        )  # fmt: skip

    def points(self) -> list[chart.Point]:
        series = (1.4, 2.0, 2.8, 4.0, 5.6, 8.0, 11.0, 16.0, 22.0)[self.random.randint(0, 4) :]
        most = self.pick((0.9, 1.3, 4.0))
        return [chart.Point(n, most * 4 / n + 0.03 * n, most * 4 / n, 0.03 * n) for n in series]

    def chart(self) -> Any:
        found = self.points()
        marked = [("W", found[0]), ("S", found[-1])][: self.random.randint(0, 2)]
        named = [one.f_number for one in found]
        return chart.draw(self.pick((430, 300)), 210, found, self.pick(found), marked, named)

    def pavement(self) -> Any:
        near = self.pick((0.0, 500.0, 720.0))
        strips = []
        for name in NAMES[: self.random.randint(0, 4)]:
            far = max(near, 300.0) * self.pick((1.4, 2.0, 5.0, math.inf))
            strips.append(pavement.Strip(name, near, far, name == "Home"))
            near = far
            if far == math.inf:
                break
        walker = pavement.Walker(
            self.pick((0.0, 700.0, 1400.0, 4000.0)), self.pick((0.0, 0.26, 0.8, 1.3)),
            [(letter, self.pick((500.0, 1200.0, 2400.0, 9000.0))) for letter in "CH"],
        )  # fmt: skip
        view = pavement.View(self.pick((0.0, 60.0)), self.pick((0.2, 0.64, 1.0)))
        label = {d: f"{d / 1000:.3g} m" for one in strips for d in (one.near, one.far)}
        return pavement.draw(*self.pick(((600, 216), (358, 190))), view, strips, walker, label)

    def sky(self) -> Any:
        width, height = self.pick(((36.0, 24.0), (24.0, 36.0), (17.3, 13.0)))

        def at() -> tuple[float, float]:
            return self.uniform(-0.7, 0.7) * width, self.uniform(-0.7, 0.7) * height

        bent, rim = self.pick((((), math.inf), (((-9.0, 0.0), (0.0, -4.0), (9.0, 0.0)), 9.0)))
        return sky_frame.draw(
            width, height, [[at(), at(), at()] for _ in range(6)],
            horizon=self.pick((-math.inf, -4.0, 3.0, 40.0)),
            named=[sky_frame.Named(letter, *at()) for letter in "AB"], pole=self.maybe(at()),
            bent=bent, rim=rim,
        )  # fmt: skip

    def finder(self) -> Any:
        camera = self.optics.camera()
        depth = self.pick((1200.0, 2600.0, 8000.0))
        marks = [
            viewfinder.Standing(letter, self.pick((900.0, 2000.0, 30000.0, math.inf)),
                                self.pick(("holds", "soft")), self.pick((0.0, 500.0, math.nan)),
                                self.pick((None, (0.3, 0.6), (0.99, 0.98), (0.01, 0.01))))
            for letter in "ABCD"[: self.random.randint(0, 4)]
        ]  # fmt: skip
        return viewfinder.draw(
            self.pick((360.0, 300.0)), camera, self.pick(SYSTEMS), focus=depth,
            near=depth * self.pick((0.4, 0.8)), far=depth * self.pick((1.2, 9.0, math.inf)),
            marks=marks, box=self.maybe((0.4, 0.3, 0.1, 0.2)),
            also=self.some(lambda: self.pick((1500.0, 5000.0, math.inf)), 2),
        )  # fmt: skip

    def bands(self) -> Any:
        found = []
        for name in NAMES[: self.random.randint(1, 5)]:
            near = self.pick((8000.0, 15000.0, 22000.0, 47000.0))
            far = near * self.pick((1.5, 6.0, math.inf))
            found.append(bands.Stretch(name, self.pick(NAMES), Span(near, far), near * 1.2))
        return bands.draw(found, self.pick((760, 358)), self.pick(SYSTEMS),
                          stacked=self.random.random() < 0.5)  # fmt: skip

    def shots(self) -> Any:
        return same_scene.draw([
            same_scene.Shot(name, self.pick((0.5, 1.4, 3.0)), self.pick((0.0, 1.0, 9.0, 40.0)),
                            self.pick((0.2, 1.0, 6.0, 50.0)), self.random.random() < 0.4)
            for name in NAMES[: self.random.randint(1, 3)]
        ])  # fmt: skip

    def traces(self) -> Any:
        return streaks.draw([
            streaks.Trace(name, self.uniform(-12, 12), self.uniform(-3, 3), self.pick((0.7, 1.4)))
            for name in NAMES[: self.random.randint(1, 3)]
        ])  # fmt: skip

    def depths(self) -> Any:
        axis = self.scale()
        near, far = sorted((self.on(axis), self.on(axis)))
        return arms.sample_depths(axis, near, far, self.on(axis), self.pick((3, 6)))

    def blurred(self) -> Any:
        axis = self.scale()
        return arms.arms(
            self.optics.setup(), axis, self.some(lambda: max(self.on(axis), 450.0), 3, 1),
            self.pick((2.5, 3.0)), self.some(lambda: max(self.on(axis), 300.0), 2),
            through=self.random.random() < 0.5,
        )  # fmt: skip

    def axis(self) -> Any:
        axis = self.scale()
        there = [self.on(axis) for _ in range(6)]
        return ([axis.x(one) for one in there], [axis.clamped(one) for one in there],
                [axis.contains(one) for one in there], [axis.distance(x) for x in (0, 300, 912)],
                axis.span)  # fmt: skip

    def interest(self) -> tuple[float, ...]:
        near = self.pick(NEAR)
        return tuple(near * self.pick((1.0, 1.001, 1.4, 5.0, 90.0, math.inf))
                     for _ in range(self.random.randint(1, 5)))  # fmt: skip

    def every(self) -> dict[str, Callable[[], Any]]:
        """By the names of the functions: one call."""
        pick, size = self.pick, self.pick(SIZES)
        return {
            "apart.spread": lambda: apart.spread(
                [self.uniform(0, 300) for _ in range(self.random.randint(0, 6))],
                pick((10.0, 27.0, 90.0)), 0.0, 300.0),
            "arms.arms": self.blurred, "arms.sample_depths": self.depths,
            "bands.draw": self.bands, "chart.draw": self.chart,
            "frames.draw": lambda: frames.draw(
                self.random.sample(list(FORMATS), 3), pick((400.0, 358.0)), 190.0),
            "kept_frame.draw": lambda: kept_frame.draw(
                *pick(((36.0, 24.0), (24.0, 36.0))), [[pick((0.01, 0.03, math.nan)) for _ in "abc"]
                                                      for _ in "ab"], 0.02),
            "lettering.text_width": lambda: lettering.text_width(pick(NAMES), pick((11.0, 17.0))),
            "pavement.draw": self.pavement,
            "pavement.shown_to": lambda: pavement.shown_to(
                [pavement.Strip("", 500.0, pick((900.0, 4000.0, math.inf)), False)],
                pick((0.0, 2000.0))),
            "ring.draw": lambda: ring.draw(
                **self.marks_on_ring(), focus=self.maybe(pick((1000.0, 2000.0, math.inf)))),
            "ring.turned_to": lambda: ring.turned_to(
                **self.marks_on_ring(), focus=pick((800.0, 2600.0, math.inf)),
                window=self.window()),
            "ring.dial": lambda: ring.dial(
                176, self.uniform(0, 12), self.maybe((self.uniform(0, 12), self.uniform(0, 12)))),
            "ring.Placed": self.placed,
            "ring_tiles.draw": lambda: ring_tiles.draw(
                **self.marks_on_ring(), stretches=self.stretches()),
            "ring_tiles.letter_of": lambda: [ring_tiles.letter_of(name) for name in NAMES[:-1]],
            "ring_tiles.clock": lambda: ring_tiles.clock(176, [
                (name, self.uniform(0, 12), name == "Home") for name in NAMES[:3]]),
            "same_scene.draw": self.shots, "scale.DistanceScale": self.axis,
            "scale.fitting": lambda: scale.fitting(self.interest(), 92, 912),
            "sightline.fit": lambda: sightline.fit(size, self.interest()),
            "sightline.draw": self.sightline,
            "sightline.tenth": lambda: sightline.tenth(self.uniform(-9, 900)),
            "sightline.axis_path": lambda: sightline.axis_path(
                size, ticks.ticks(self.scale(size), pick(SYSTEMS), size.type)),
            "sky_frame.draw": self.sky,
            "sky_frame.starts": lambda: sky_frame.starts(36.0, pick((24.0, 36.0)), pick((3, 7))),
            "sky_frame.telling_time": lambda: sky_frame.telling_time(
                10 ** self.uniform(-0.5, 5)),
            **strips(self.random),
            "streaks.draw": self.traces,
            "streaks.grid": lambda: streaks.grid(pick((0.0, 172.0)), pick((4, 8))),
            "ticks.ticks": lambda: ticks.ticks(self.scale(), pick(SYSTEMS), pick((12.0, 15.0))),
            "ticks.ticks_on": lambda: ticks.ticks_on(self.scale(), pick(SYSTEMS), 12.0),
            "tiles.draw": self.tiles, "tiles.bars": self.bars, "viewfinder.draw": self.finder,
        }  # fmt: skip
