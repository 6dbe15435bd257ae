"""How an edge spreads: the profile across a slanted edge, and the blur that makes such a profile.

A straight edge that is slanted against the rows of pixels is sampled at every fraction of a pixel:
all pixels along it, put in order of their distance from it, make one fine profile, the edge spread
function [slanted]. The blur is found by fitting to it the profile that an ideal edge would have
behind

    a uniform disc of diameter d  ·  a Gaussian of deviation s  ·  one pixel  ·  one bin

as transfer functions multiplied: 2J₁(πdν)/(πdν) · exp(−2π²s²ν²) · sinc(ν cos θ) sinc(ν sin θ) ·
sinc(νb). Disc and Gaussian between them come close to any round blur, from defocus to diffraction
to a lens's own; the pixel and the bin are divided out, so what is left is of the light that fell on
the sensor. What is told of it is the *equivalent disc* of ``optics.wave``: the uniform disc that
transmits one half at the same frequency.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt
from scipy import optimize, special

from imaging.numbers import Array
from optics.lens.wave import DISC_HALF

FINEST_BIN = 0.125
"""Pixels: finer bins than that hold too few."""
BINS_IN_BLUR = 24
ENOUGH_IN_BIN = 4
SIDES = 1.5
"""How far to each side a profile is looked at, in discs, and in pixels more."""
SIDES_MORE = 8.0
_FINEST_FREQUENCY = 4.0


@dataclass(frozen=True, slots=True)
class Blur:
    """What a profile is blurred by.

    ``disc``   diameter of the equivalent disc, pixels.
    ``error``  its standard error, pixels.
    ``misfit`` mean squared deviation of the profile from the fitted one, in variances of its noise:
               near 1 where disc and Gaussian describe the blur.
    """

    disc: float
    error: float
    misfit: float


@dataclass(frozen=True, slots=True)
class Profile:
    """An edge spread function: ``place`` across the edge, pixels; ``level`` there; its
    ``variance``;
    ``bin``, the width of a bin; ``angle`` of the edge's normal against the rows, radians."""

    place: Array
    level: Array
    variance: Array
    bin: float
    angle: float


def jinc(z: npt.ArrayLike) -> Array:
    """2J₁(z)/z, the transfer function of a uniform disc; 1 at 0."""
    z = np.asarray(z, dtype=float)
    safe = np.where(z == 0, 1.0, z)
    return np.where(z == 0, 1.0, 2.0 * special.j1(safe) / safe)


def equivalent(disc: float, gauss: float) -> float:
    """The equivalent disc of a disc (diameter) and a Gaussian (deviation) together, any one unit.

    Both 0 or more; 0 for none at all.
    """
    if gauss <= 0:
        return disc
    alone = DISC_HALF / math.pi / (math.sqrt(math.log(2) / 2) / math.pi / gauss)
    if disc <= 0:
        return alone

    def excess(frequency: float) -> float:
        z = math.pi * disc * frequency
        passed = 2.0 * float(special.j1(z)) / z
        return passed * math.exp(-2.0 * (math.pi * gauss * frequency) ** 2) - 0.5

    most = DISC_HALF / math.pi / max(disc, alone)
    half = optimize.brentq(excess, most * 0.3, most, xtol=1e-12, rtol=1e-10)
    return DISC_HALF / math.pi / float(half)


class Edges:
    """Profiles of ideal edges behind a disc and a Gaussian, at the bins of one profile."""

    def __init__(self, profile: Profile) -> None:
        self.reach = float(np.max(np.abs(profile.place)))
        step = 1.0 / (4.0 * self.reach)
        finest = min(_FINEST_FREQUENCY, 0.5 / profile.bin)
        self.frequency: Array = np.arange(0.5, math.ceil(finest / step)) * step
        passed = np.sinc(self.frequency * math.cos(profile.angle))
        passed *= np.sinc(self.frequency * math.sin(profile.angle))
        passed *= np.sinc(self.frequency * profile.bin)
        self.sampled = passed * 2.0 * step
        waves = _waves(2.0 * math.pi * step * profile.place, len(self.frequency))
        self.sines, self.cosines = waves.imag.copy(), waves.real.copy()
        self.turn = 2.0 * math.pi * self.frequency
        self._by_square = -0.5 * self.turn**2

    def at(self, disc: float, square: float, off: float) -> tuple[Array, Array]:
        """From 0 to 1 across the edge, which stands ``off`` pixels beside the profile's zero; and
        how that follows disc, square of the Gaussian, and place. ``square``: pixels²."""
        z = 0.5 * disc * self.turn
        safe = np.maximum(z, 1e-9)
        flat = 2.0 * special.j1(safe) / safe
        bent = np.where(z < 1e-3, z / 8.0, (flat - special.j0(z)) / safe)  # J₂(z)/z: how it falls
        fall = self.sampled * np.exp(self._by_square * square)
        c, s = np.cos(self.turn * off), np.sin(self.turn * off)
        odd = np.empty((4, len(c)))
        odd[3] = fall * flat
        odd[0] = odd[3] / self.turn
        odd[1] = -fall * bent
        odd[2] = -0.5 * self.turn * odd[3]
        even = odd * s
        odd *= c
        odd[3], even[3] = -even[3], odd[3].copy()
        found = self.sines @ odd.T
        found -= self.cosines @ even.T
        return 0.5 + found[:, 0], found[:, 1:]


def _waves(turns: Array, count: int) -> npt.NDArray[np.complex128]:
    """exp(i (k + ½) t) of turns t, by rows, for k from 0: each stretch from those before it."""
    waves = np.empty((len(turns), count), complex)
    waves[:, 0] = np.exp(0.5j * turns)
    done = 1
    while done < count:
        more = min(done, count - done)
        on = np.exp(1j * done * turns)[:, None]
        np.multiply(waves[:, :more], on, out=waves[:, done : done + more])
        done += more
    return waves
