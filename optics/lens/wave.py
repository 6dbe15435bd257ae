"""The reference for blur by waves: the white-light transfer function of a defocused round pupil.

An ideal lens with a circular pupil, working at f-number N, light of wavelength λ, out of focus so
that geometry alone would make a disc of diameter b. Its optical transfer function is the overlap
of the pupil with itself, sheared; the defocus puts a phase across the overlap. With the shear
s = λNν, and after integrating along the chords of the overlap,

    OTF(ν) = (4/π) ∫ₛ¹ √(1 − t²) cos(πbν(t − s)) dt                       (4)

Source: [hopkins] in docs/references.md. For b = 0 it is the closed form of [born]; for s → 0 the
transfer function of a uniform disc, 2J₁(πbν)/(πbν). White light is the weighted sum over
wavelengths, its transfer function a real one.

Everything in (4) depends on νN and b/N only. So the *equivalent disc* d, the uniform disc that
transmits one half at the same frequency, obeys d/N = D(b/N) for one function D, whatever the
aperture. ``table`` is that function, made from (4) once, on first use.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import cache

import numpy as np
import numpy.typing as npt
from numpy.polynomial import Chebyshev

from optics.base.errors import require_positive
from optics.base.numbers import Array

WAVELENGTHS = np.array((450e-6, 500e-6, 550e-6, 600e-6, 650e-6))
"""mm. White light, sampled."""

WEIGHTS = np.array((0.25, 0.6, 1.0, 0.75, 0.3)) / 2.9
"""How much each counts; they sum to one."""

DISC_HALF = 2.2150893878406835
"""z at which 2J₁(z)/z, a uniform disc's transfer function, is one half; z = π·diameter·frequency.

Found to 50 figures by Newton's method on the power series of J₁, outside this package.
"""

_WIDEST = 0.12
"""mm. Where the table ends: defocus of 0.1 mm at f/0.83. Beyond, D rises by one for one."""
_NODES = 6000
_GRADING = 5.5
_DEGREE = 72
_FAR = 1e5
_MOST_STEPS = 30

PENCIL_WAVES = 1.76
"""Diffraction alone, in wavelengths per unit of f-number: fitted to (4) by this project."""
PENCIL_WAVELENGTH = 550e-6
"""mm. The middle of white light."""


@cache
def _quadrature(nodes: int) -> tuple[Array, Array]:
    """Gauss–Legendre nodes and weights on 0…1."""
    places, weights = np.polynomial.legendre.leggauss(nodes)
    return (places + 1) / 2, weights / 2


def _nodes_for(phase: Array) -> int:
    """Enough for 1e-12: two dozen for a smooth integrand, more for one that oscillates."""
    most = float(np.max(phase, initial=0.0))
    return 24 if most < 8 else 24 + 8 * math.ceil(most / 8)


def transfer(frequency: npt.ArrayLike, defocus: npt.ArrayLike, wavelength: npt.ArrayLike) -> Array:
    """Equation (4) for N = 1: the transfer function in light of one wavelength.

    ``frequency``  cycles per mm times the working f-number, 0 or more.
    ``defocus``    geometric disc divided by the working f-number, mm, 0 or more.
    ``wavelength`` mm, above 0.
    Returns values from −1 to 1; 0 past the cut-off 1/λ. Broadcasts. Raises OutOfRange.
    """
    require_positive("frequency", frequency, "frequency", zero=True)
    require_positive("defocus", defocus, "defocus", zero=True)
    require_positive("wavelength", wavelength, "wavelength")
    return _transfer(np.asarray(frequency), np.asarray(defocus), np.asarray(wavelength))


def _transfer(frequency: Array, defocus: Array, wavelength: Array) -> Array:
    shear = np.asarray(np.minimum(wavelength * frequency, 1.0))[..., np.newaxis]
    phase = np.asarray(np.pi * defocus * frequency)[..., np.newaxis]
    w, weights = _quadrature(_nodes_for(phase))
    t = 1.0 - (1.0 - shear) * w * w  # the root's end at t = 1 becomes smooth
    pupil = np.sqrt((1.0 - t) * (1.0 + t)) * np.cos(phase * (t - shear))
    integral = np.sum(pupil * 2.0 * (1.0 - shear) * w * weights, axis=-1)
    return np.asarray(4.0 / np.pi * integral)


def white(frequency: npt.ArrayLike, defocus: npt.ArrayLike) -> Array:
    """The transfer function in white light, for N = 1. As ``transfer``; broadcasts."""
    per_wavelength = transfer(
        np.asarray(frequency, dtype=float)[..., np.newaxis],
        np.asarray(defocus, dtype=float)[..., np.newaxis],
        WAVELENGTHS,
    )
    return np.asarray(per_wavelength @ WEIGHTS)


def equivalent_disc(defocus: npt.ArrayLike) -> Array:
    """D: the equivalent disc for N = 1, straight from the integral. The slow way.

    ``defocus``: geometric disc ÷ working f-number, mm, 0 or more. Returns disc ÷ working f-number,
    mm. The transfer function falls smoothly to one half, so the secant method finds the frequency
    from the cube sum's guess (``diffraction.cube_sum``). Broadcasts.
    Raises NotANumber, OutOfRange.
    """
    require_positive("defocus", defocus, "defocus", zero=True)
    x = np.asarray(defocus, dtype=float)
    before = DISC_HALF / np.pi / cube_sum(x)
    excess_before = white(before, x) - 0.5
    now = before * 1.01
    for _ in range(_MOST_STEPS):
        excess = white(now, x) - 0.5
        change = excess - excess_before
        step = np.divide(excess * (now - before), change, out=np.zeros(x.shape), where=change != 0)
        before, excess_before, now = now, excess, now - step
        if np.all(np.abs(step) <= 1e-13 * now):
            break
    return np.asarray(DISC_HALF / np.pi / now)


def cube_sum(defocus: npt.ArrayLike) -> Array:
    """D in a form for paper and pencil: the cubes of the two blurs added, good to 3 %.

    ``defocus``: geometric disc ÷ working f-number, mm. Diffraction alone is taken as 1.76 λ at
    550 nm, per unit of f-number.
    """
    x = np.asarray(defocus, dtype=float)
    return np.asarray(np.cbrt(x**3 + (PENCIL_WAVES * PENCIL_WAVELENGTH) ** 3))


@dataclass(frozen=True, slots=True)
class Table:
    """D at its nodes: ``disc`` (mm) for ``defocus`` (mm), both rising; straight between them.

    Close where the curve bends, near focus; the last node lies far out on the straight part, so
    that D has a value, and an inverse, for any blur.
    """

    defocus: Array
    disc: Array


@cache
def table() -> Table:
    """The one table of D. Some milliseconds on first use, nothing after.

    D is analytic: the integral at 73 Chebyshev points gives it everywhere to 1e-9, and the nodes
    are taken from that polynomial, so close that straight lines between them err by 1e-7.
    """

    def graded(share: Array) -> Array:
        return np.asarray(_WIDEST * np.sinh(_GRADING * share) / np.sinh(_GRADING))

    smooth = Chebyshev.interpolate(lambda s: equivalent_disc(graded(s)), _DEGREE, [0.0, 1.0])
    share = np.linspace(0.0, 1.0, _NODES)
    defocus, disc = graded(share), smooth(share)
    return Table(np.append(defocus, _FAR), np.append(disc, disc[-1] + _FAR - defocus[-1]))
