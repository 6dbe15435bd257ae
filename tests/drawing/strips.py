"""Strips to draw, each made from a source of chance."""

from __future__ import annotations

from collections.abc import Callable
from random import Random
from typing import Any

from drawing import (
    coming,
    difference_map,
    fell,
    judged_axis,
    readings_chart,
    ring_marks,
    ring_strip,
    sharpness_chart,
    shift_chart,
    sliding_strip,
    softness_map,
    target,
)
from optics.lens import ring_strip as ring_strips
from optics.lens.kit import Kit
from optics.lens.ring import Ring
from optics.lens.sliding import sliding

_SYSTEMS = ("m", "ft")


def strips(random: Random) -> dict[str, Callable[[], Any]]:
    """By the name of what draws them."""
    pick = random.choice

    def comes() -> Any:
        near = pick((700.0, 1800.0, 4000.0))
        lens = pick(((28.0, 36.0, 24.0), (50.0, 24.0, 36.0)))
        return coming.coming(near, near * 1.8, near * 4, pick((0.0, 0.26)), lens, pick(_SYSTEMS))

    def read_marks() -> Any:
        ring = Ring.unit_focusing(28.0, pick((1.5, -2.5)), 700.0)
        marks = [(n, n * 0.02) for n in (4.0, 8.0, 11.0, 16.0)[: pick((2, 4))]]
        stops = (700.0, 1500.0, 3000.0, float("inf"))
        true = pick((None, 1500.0, float("inf")))
        return ring_marks.ring_marks(ring, 700.0, (), pick(_SYSTEMS), marks, stops, true)

    def judges() -> Any:
        stops = sorted({pick((700.0, 900.0)), 1500.0, 4000.0, pick((9000.0, float("inf")))})
        return judged_axis.judged_axis(640.0, stops, pick(_SYSTEMS))

    def slides() -> Any:
        made = sliding(Kit(pick((24.0, 50.0)), 0.025), (4.0, 8.0, 22.0), 600.0, 480.0)
        return sliding_strip.draw(made, pick(_SYSTEMS))

    def wraps() -> Any:
        ring = Ring.unit_focusing(pick((24.0, 50.0)), pick((1.5, 6.0, 9.0)), 600.0)
        kit = Kit(ring.focal_length, 0.025)
        made = ring_strips.ring_strip(ring, kit, (4.0, 8.0, 22.0), pick((55.0, 80.0)), 600.0)
        return ring_strip.draw(made, pick(_SYSTEMS), infinity_left=pick((True, False)))

    def fallen() -> Any:
        inf = float("inf")
        marks = [(letter, pick(("holds", "soft")), pick((700.0, 1300.0, 4200.0, 1.8e5, inf)))
                 for letter in "ABC"[: pick((1, 2, 3))]]  # fmt: skip
        at = pick((None, (1300.0, 1400.0, 1500.0), (2200.0, 2600.0, inf), (inf, inf, inf)))
        return fell.fell_line(marks, pick((1300.0, 2600.0, inf)), at, pick(_SYSTEMS), 24, 576)

    def softness() -> Any:
        discs = [[pick((None, 1.0, 2.4, 5.0, 11.0)) for _ in range(9)] for _ in range(6)]
        return softness_map.softness_map(discs, pick((32, 96)), pick((1.0, 2.1)))

    def shifts() -> Any:
        widest, circle = pick((1.4, 1.8, 4.0)), pick((0.005, 0.02, 0.03))
        most = pick((-0.04, -0.002, 0.0, 0.01, 0.05))
        rows = [(widest * 2**k, most * k / 3, 0.001) for k in range(pick((1, 2, 4)))]
        return shift_chart.drawn(rows, circle)

    def read() -> Any:
        rows = [
            readings_chart.Readings(
                tuple(random.uniform(-3, 9) for _ in range(pick((1, 3, 8)))), 2.0, pick((0.0, 0.4)),
                pick((None, (-1.0, 4.0))), pick(("", "35 mm")),
            )
            for _ in range(pick((1, 3)))
        ]  # fmt: skip
        return readings_chart.drawn(rows, pick((True, False)))

    def sharp() -> Any:
        nan = float("nan")
        rows = [
            sharpness_chart.Blur(n, n * 7e-4 + 0.003, 2e-4, pick((nan, 0.011)), 3e-4, n * 7e-4)
            for n in (1.8, 2.8, 5.6, 11.0)[: pick((1, 4))]
        ]
        return sharpness_chart.drawn(rows, pick((0.01, 0.025, 0.5)))

    def differs() -> Any:
        says = [[pick(("same", "moved", "first softer")) for _ in range(6)] for _ in range(4)]
        return difference_map.boxes(says, pick((64, 96)), frozenset({"same"}))

    return {
        "coming.coming": comes,
        "ring_marks.ring_marks": read_marks,
        "judged_axis.judged_axis": judges,
        "readings_chart.drawn": read,
        "sharpness_chart.drawn": sharp,
        "fell.fell_line": fallen,
        "softness_map.softness_map": softness,
        "difference_map.boxes": differs,
        "sliding_strip.draw": slides,
        "ring_strip.draw": wraps,
        "shift_chart.drawn": shifts,
        "target.picture": target.picture,
    }
