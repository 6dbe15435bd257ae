"""The core's promised speeds, without Django: ratios to plain NumPy, and a whole answer in ms.

Each ratio is a call of the core on a million elements over the same formula written out by hand
with nothing checked, measured in turns; the promise is at most 1.5. A whole answer is ``aim`` on
eight marks with every school, under 5 ms.
"""

from __future__ import annotations

import math
import statistics
import time
from collections.abc import Callable
from dataclasses import dataclass, replace

import numpy as np
import numpy.typing as npt

from optics import Kit, Setup
from optics.base.formats import BY_KEY
from optics.base.numbers import Numbers
from optics.lens import depth
from optics.scene.answer import answer
from optics.scene.camera import Camera
from optics.scene.comparing import compare
from optics.scene.marks import Look, Mark
from optics.scene.scenes import Scene
from optics.sky import star_drift
from optics.sky.rotation import SKY_TURNS

PROMISED_RATIO = 1.5
PROMISED_ANSWER = 5.0
"""ms."""

_SIZE = 1_000_000
_ROUNDS = 15
_ANSWERS = 150

Array = npt.NDArray[np.float64]


@dataclass(frozen=True, slots=True)
class Measured:
    """One line of the benchmark. ``value`` must be at most ``promised``."""

    name: str
    value: float
    promised: float
    unit: str = ""

    @property
    def kept(self) -> bool:
        """Whether the promise is kept."""
        return self.value <= self.promised

    def __str__(self) -> str:
        value = f"{self.value:6.2f} {self.unit}".rstrip()
        return f"{self.name:<42} {value:<10} promised: at most {self.promised:g}"


def _ratio(name: str, ours: Callable[[], object], plain: Callable[[], object]) -> Measured:
    """The median time of ours over that of the plain formula, measured call by call in turns."""
    times: dict[bool, list[float]] = {True: [], False: []}
    for _ in range(_ROUNDS):
        for mine, call in ((True, ours), (False, plain)):
            start = time.perf_counter()
            call()
            times[mine].append(time.perf_counter() - start)
    value = statistics.median(times[True]) / statistics.median(times[False])
    return Measured(name, value, PROMISED_RATIO)


def ratios() -> list[Measured]:
    """A million subjects, ring settings, apertures and stars."""
    random = np.random.default_rng(11)
    f, n, c = 24.0, 11.0, 0.025
    setup = Setup(f, n, c)
    subjects = random.uniform(500, 1e5, _SIZE)
    focuses = random.uniform(200, 1e5, _SIZE)
    apertures = random.uniform(2, 22, _SIZE)
    x, y = random.uniform(-18, 18, (2, _SIZE))

    def ring(focus: Array) -> Array:
        total = focus / f - 2
        return np.asarray(2 / (total + np.sqrt(total * total - 4)))

    def blur() -> Array:
        m = float(ring(np.asarray(2600.0)))
        return np.asarray(f / n * np.abs(f * (1 + m) / (subjects - f * (1 + m)) - m))

    def limits() -> tuple[Array, Array]:
        m = ring(focuses)
        q, slope = f * (1 + m), m - c * n / f
        far = np.where(slope > 0, q / np.where(slope > 0, slope, 1.0) + q, np.inf)
        return q / (m + c * n / f) + q, far

    def hyperfocal() -> Array:
        m = c * apertures / f
        return np.asarray(f * (2 + m + 1 / m))

    def drift() -> Array:
        angle, north, ahead = 13 * SKY_TURNS, math.cos(1.0), math.sin(1.0)
        s, t = math.sin(angle), 1 - math.cos(angle)
        along = y * north + f * ahead
        dx = s * (north * f - ahead * y) - t * x
        dy = s * ahead * x - t * (y - along * north)
        dz = -s * north * x - t * (f - along * ahead)
        return np.asarray(np.hypot(f * dx - x * dz, f * dy - y * dz) / (f + dz))

    lenses = Setup[Numbers](f, apertures, c)
    return [
        _ratio(
            "blur of 10⁶ subjects ÷ plain NumPy",
            lambda: depth.blur_disc(setup, subjects, 2600),
            blur,
        ),
        _ratio(
            "limits of 10⁶ settings ÷ plain NumPy", lambda: depth.limits(setup, focuses), limits
        ),
        _ratio(
            "hyperfocal of 10⁶ apertures ÷ plain NumPy",
            lambda: depth.hyperfocal(lenses),
            hyperfocal,
        ),
        _ratio(
            "drift of 10⁶ stars ÷ plain NumPy", lambda: star_drift.drift(f, 13, 1.0, x, y), drift
        ),
    ]


def whole(scene: Scene) -> None:
    """The answer, and every school beside it."""
    answer(scene)
    compare(scene)


def answers() -> list[Measured]:
    """A whole answer with eight marks and every school, geometric and with diffraction."""
    scene = Scene(
        Kit(24, 0.025),
        11,
        tuple(Mark(1300 * 1.7**at, 30) for at in range(8)),
        Look(BY_KEY["full-frame"], 6000),
        camera=Camera(900, math.radians(15), 0, 24, 24, 36),
    )
    measured = []
    for name, counting in (("geometry", False), ("diffraction counted", True)):
        asked = replace(scene, kit=replace(scene.kit, diffraction=counting))
        whole(asked)
        times = []
        for _ in range(_ANSWERS):
            start = time.perf_counter()
            whole(asked)
            times.append(time.perf_counter() - start)
        milliseconds = 1000 * statistics.median(times)
        measured.append(
            Measured(f"eight marks, all schools, {name}", milliseconds, PROMISED_ANSWER, "ms")
        )
    return measured


def main() -> int:
    """Print every line; 1 if a promise is broken."""
    lines = [*ratios(), *answers()]
    for line in lines:
        print(line)
    return 0 if all(line.kept for line in lines) else 1
