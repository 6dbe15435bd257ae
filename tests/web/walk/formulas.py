"""What a lens does, by formulas of this test's own: traced rays, and the wave integral.

Nothing here imports ``optics``. It judges what pages print, so it may not share their sums.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import cache

import numpy as np

from tests.optics import rays

WAVES = ((0.00045, 0.25), (0.0005, 0.6), (0.00055, 1.0), (0.0006, 0.75), (0.00065, 0.3))
"""White light: wavelengths in mm, and how much each counts."""
_HALF_OF_A_DISC = 2.2150989
"""2·J₁(x)/x = ½ there: a uniform disc of diameter D passes half at π·D·frequency of that."""


def _transfer(frequency: float, defocus: float, wave: float) -> float:
    """The transfer function of a round aperture at f/1, ``defocus`` wide in blur disc, mm.

    The overlap of two discs a shift apart, the phase of the defocus varying across it.
    """
    shift = wave * frequency
    if shift >= 1:
        return 0.0
    x = np.linspace(0.0, 1.0 - shift, 400)
    height = np.sqrt(np.maximum(1.0 - (x + shift) ** 2, 0.0))
    whole = np.pi / 4  # of the overlap at no shift, a quarter of the disc
    # In the wavefront, a disc of diameter b at f/1 is a phase of 2π·ν·b·x/2 at x of the radius.
    phase = np.cos(2 * np.pi * frequency * defocus * x / 2)
    return float(np.trapezoid(height * phase, x) / whole)


def _passed(frequency: float, defocus: float) -> float:
    total = sum(weight for _, weight in WAVES)
    return sum(w * _transfer(frequency, defocus, wave) for wave, w in WAVES) / total


def _disc(defocus: float) -> float:
    """The uniform disc that is as soft as a defocus at f/1 with its diffraction, mm."""
    step = 4.0 / max(defocus, 0.001) / 400
    before = 0.0
    while _passed(before + step, defocus) > 0.5:
        before += step
    low, high = before, before + step
    for _ in range(24):
        middle = (low + high) / 2
        low, high = (middle, high) if _passed(middle, defocus) > 0.5 else (low, middle)
    return _HALF_OF_A_DISC / (math.pi * low)


@cache
def _table() -> tuple[np.ndarray, np.ndarray]:
    at = np.concatenate([np.linspace(0, 0.006, 61), np.geomspace(0.00612, 0.2, 60)])
    return at, np.array([_disc(float(x)) for x in at])


def together(defocus: float, working: float) -> float:
    """Defocus and diffraction as one disc, mm."""
    at, discs = _table()
    x = defocus / working
    if x >= at[-1]:
        return defocus
    return working * float(np.interp(x, at, discs))


@cache
def sensor_at(focal_length: float, hiatus: float, focus: float) -> float:
    return rays.sensor_behind_rear_plane(focal_length, hiatus, focus)


@dataclass(frozen=True)
class Lens:
    """A lens at an aperture with a standard. mm."""

    focal_length: float
    f_number: float
    coc: float
    pupil_ratio: float = 1.0
    hiatus: float = 0.0
    diffraction: bool = False

    @property
    def slack(self) -> float:
        """By how much of the circle these sums may be off."""
        return 0.003 if self.diffraction else 1e-6

    def working(self, focus: float) -> float:
        """The f-number there."""
        sensor = sensor_at(self.focal_length, self.hiatus, focus)
        magnification = (sensor - self.focal_length) / self.focal_length
        return self.f_number * (1 + magnification / self.pupil_ratio)

    def geometric(self, focus: float, subject: float) -> float:
        """In circles, by defocus alone."""
        sensor = sensor_at(self.focal_length, self.hiatus, focus)
        args = (self.focal_length, self.f_number, self.pupil_ratio, self.hiatus, sensor, subject)
        return rays.blur(*args) / self.coc

    def total(self, focus: float, subject: float) -> float:
        """In circles, diffraction counted."""
        return together(self.geometric(focus, subject) * self.coc, self.working(focus)) / self.coc

    def circles(self, focus: float, subject: float) -> float:
        """In circles, as the standard counts."""
        return (self.total if self.diffraction else self.geometric)(focus, subject)

    def scale(self, focus: float, subject: float) -> float:
        """How large a thing out of focus is drawn: by the ray through the middles of the pupils,
        which stand f(1 − 1/p) in front of the front plane and f(1 − p) behind the rear one."""
        f, p = self.focal_length, self.pupil_ratio
        sensor = sensor_at(f, self.hiatus, focus)
        ahead = subject - sensor - self.hiatus - f * (1 - 1 / p)
        return (sensor - f * (1 - p)) / (p * ahead) if math.isfinite(subject) else 0.0

    def smeared(self, focus: float, subject: float, speed: float, seconds: float) -> float:
        """In circles: defocus, and a streak that is as soft as a disc 1.1686 times as wide."""
        streak = 1.1686 * self.scale(focus, subject) * speed * seconds / self.coc
        return math.hypot(self.circles(focus, subject), streak)

    def holds(self, focus: float, *subjects: float, within: float = 1.0) -> bool:
        """Whether all of them are sharp, and with two, all between."""
        return all(self.circles(focus, one) <= within + self.slack for one in subjects)

    def soft(self, focus: float, subject: float) -> bool:
        """Whether it is clearly not."""
        return self.circles(focus, subject) > 1 + self.slack

    def reached(self, focuses: list[float], near: float) -> float:
        """How far the zones of some settings reach from ``near`` on without a gap, mm."""
        reach = near
        for focus in sorted(focuses):
            if self.holds(focus, reach):
                reach = max(reach, self._far(focus, reach))
        return reach

    def cover(self, focuses: list[float], near: float, far: float) -> bool:
        """Whether some settings hold all of near…far between them."""
        reach = self.reached(focuses, near)
        return reach >= far * (1 - 2 * self.slack) or any(
            self.holds(focus, reach * (1 - 1e-9), far) for focus in focuses
        )

    def _far(self, focus: float, start: float) -> float:
        """Its far limit, beyond ``start``, which it holds."""
        if self.holds(focus, math.inf):
            return math.inf
        low, high = 0.0, 1 / max(start, focus)
        for _ in range(100):
            middle = (low + high) / 2
            low, high = (low, middle) if self.holds(focus, 1 / middle) else (middle, high)
        return 1 / high
