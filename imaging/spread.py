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

MODEL_SHARE = 0.008
"""How far disc and Gaussian together may be from another round blur: measured on both, and on their
mixtures with diffraction, by this project."""
FINEST_BIN = 0.125
"""Pixels: finer bins than that hold too few."""
BINS_IN_BLUR = 24
ENOUGH_IN_BIN = 4
SIDES = 1.5
"""How far to each side a profile is looked at, in discs, and in pixels more."""
SIDES_MORE = 8.0
_FINEST_FREQUENCY = 4.0
_TRIED = np.geomspace(0.3, 120.0, 18)
_MOST_STEPS = 40
_ENOUGH = 0.01
"""A step that betters a fit by less, in squared deviations, is the last."""
_UNEVEN = 25.0
"""By how much uneven light must better a fit, in squared deviations, to be believed."""


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
        passed = float(jinc(math.pi * disc * frequency))
        return passed * math.exp(-2.0 * (math.pi * gauss * frequency) ** 2) - 0.5

    most = DISC_HALF / math.pi / max(disc, alone)
    half = optimize.brentq(excess, most * 0.3, most, xtol=1e-12, rtol=1e-10)
    return DISC_HALF / math.pi / float(half)


class _Edges:
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
        turn = 2.0 * math.pi * np.outer(profile.place, self.frequency)
        self.sines, self.cosines = np.sin(turn), np.cos(turn)
        self.turn = 2.0 * math.pi * self.frequency

    def at(self, disc: float, square: float, off: float) -> tuple[Array, Array]:
        """From 0 to 1 across the edge, which stands ``off`` pixels beside the profile's zero; and
        how that follows disc, square of the Gaussian, and place. ``square``: pixels²."""
        z = math.pi * disc * self.frequency
        fall = self.sampled * np.exp(-2.0 * (math.pi * self.frequency) ** 2 * square)
        passed = fall * jinc(z)
        c, s = np.cos(self.turn * off), np.sin(self.turn * off)
        by_disc = -2.0 * _bent(np.asarray(z, float)) * math.pi * self.frequency * fall
        by_square = -2.0 * (math.pi * self.frequency) ** 2 * passed
        odd = np.empty((4, len(c)))
        odd[0], odd[1], odd[2] = passed, by_disc, by_square
        odd[:3] /= self.turn
        odd[3] = passed
        even = odd * s
        odd *= c
        odd[3], even[3] = -even[3], odd[3].copy()
        found = self.sines @ odd.T
        found -= self.cosines @ even.T
        return 0.5 + found[:, 0], found[:, 1:]


def _bent(z: Array) -> Array:
    """J₂(z)/z, by which ``jinc`` falls."""
    safe = np.where(z < 1e-3, 1.0, z)
    second = 2.0 * special.j1(safe) / safe - special.j0(safe)
    return np.where(z < 1e-3, z / 8.0, second / safe)


@dataclass(frozen=True, slots=True)
class Fitted:
    """A fit: ``blur``; how far ``off`` the profile's zero its edge stands, pixels; and what is
    ``left_over``, the deviation of the profile from it, in its own unit; ``shape``: disc, and
    square of the Gaussian, for a fit that follows."""

    blur: Blur
    off: float
    left_over: float
    shape: tuple[float, float]


def coarse(profile: Profile) -> float:
    """The disc, of some tried, that a profile is nearest to, pixels."""
    edges = _Edges(profile)
    weight = 1.0 / np.sqrt(profile.variance)
    discs = _TRIED[2.2 * edges.reach > _TRIED]
    shapes = 0.5 + edges.sines @ (
        (edges.sampled / edges.turn)[:, None] * jinc(math.pi * np.outer(edges.frequency, discs))
    )
    if not len(discs):
        return 1.0
    share = weight**2 / float(weight @ weight)
    level = (profile.level - float(share @ profile.level)) * weight
    shapes = (shapes - share @ shapes) * weight[:, None]
    along = level @ shapes
    costs = float(level @ level) - along**2 / np.einsum("ij,ij->j", shapes, shapes)
    return _lowest(discs, costs)


def _lowest(discs: Array, costs: Array) -> float:
    """The disc at which costs are least: between those tried, where the parabola through the three
    lowest has its foot."""
    at = int(np.argmin(costs))
    if not 0 < at < len(costs) - 1:
        return float(discs[at])
    below, least, above = map(float, costs[at - 1 : at + 2])
    bend = below - 2.0 * least + above
    off = 0.5 * (below - above) / bend if bend > 0 else 0.0
    return float(discs[at] * (discs[at + 1] / discs[at]) ** float(np.clip(off, -0.5, 0.5)))


def _solved(columns: Array, wanted: Array) -> Array:
    """The best sum of some columns, by their normal equations: they are few and unlike."""
    normal = columns.T @ columns
    normal.flat[:: len(normal) + 1] *= 1.0 + 1e-12
    if len(normal) > 2:
        return np.asarray(np.linalg.solve(normal, columns.T @ wanted))
    (a, b), (_, c) = normal.tolist()
    return np.asarray(np.array(((c, -b), (-b, a))) @ (columns.T @ wanted) / (a * c - b * b))


def fitted(profile: Profile, start: float, shape: tuple[float, float] | None = None) -> Fitted:
    """The disc and Gaussian that make a profile; where light is uneven on either side of the edge,
    with that. ``start``: a disc near it, pixels, above 0; ``shape``: of a fit before."""
    edges = _Edges(profile)
    disc, square = shape or (start * 0.8, (start * 0.12) ** 2)
    first = (max(disc, 0.3 * start), max(square, (0.1 * start) ** 2), 0.0)  # off the bounds
    found = _search(edges, profile, start, first, uneven=False)
    if found.cost - len(profile.place) > _UNEVEN / 2:
        tilted = _search(edges, profile, start, found.values, uneven=True)
        if found.cost - tilted.cost > _UNEVEN:
            found = tilted
    disc, square, off = found.values
    gauss = math.sqrt(square)
    misfit = found.cost / max(len(profile.place) - 5, 1)
    size = equivalent(disc, gauss)
    error = _error(found.known, disc, square, size) * math.sqrt(max(misfit, 1.0))
    left_over = math.sqrt(float(np.mean(found.left**2 * profile.variance)))
    blur = Blur(size, math.hypot(error, MODEL_SHARE * size), misfit)
    return Fitted(blur, off, left_over, (disc, square))


@dataclass(frozen=True, slots=True)
class _Search:
    """Where a search ended: disc, square and place; what is left over, in deviations of its noise,
    and the cost of that; what is known of the three (their inverse covariance, all else free)."""

    values: tuple[float, float, float]
    left: Array
    cost: float
    known: Array


def _search(
    edges: _Edges, profile: Profile, start: float, first: tuple[float, float, float], *,
    uneven: bool,
) -> _Search:  # fmt: skip
    """Levenberg's and Marquardt's way down from ``first``, the levels found anew at every step."""
    weight = 1.0 / np.sqrt(profile.variance)
    wanted = profile.level * weight
    values = np.array(first)
    away = profile.place / edges.reach * weight
    scale = np.array((start, start * start * 0.06, max(start, 1.0)))
    high = np.array((3.0 * edges.reach, edges.reach**2, edges.reach / 2))
    low = np.array((0.0, 0.0, -edges.reach / 2))

    def tried(values: Array) -> tuple[float, Array, Array]:
        shape, slopes = edges.at(*values)
        columns = np.empty((len(shape), 4 if uneven else 2))
        columns[:, 0], columns[:, 1] = weight, weight * shape
        if uneven:
            columns[:, 2], columns[:, 3] = away * (1.0 - shape), away * shape
        levels = _solved(columns, wanted)
        left = wanted - columns @ levels
        rise = levels[1] * weight + (away * (levels[3] - levels[2]) if uneven else 0.0)
        down = slopes * rise[:, None]
        down = down - columns @ _solved(columns, down)
        return float(left @ left), left, down * scale

    cost, left, down = tried(values)
    damping = 1e-3
    for _ in range(_MOST_STEPS):
        normal, slope = down.T @ down, down.T @ left
        held = ((values <= low) & (slope < 0)) | ((values >= high) & (slope > 0))
        if held.all():
            break
        normal.flat[::4] += normal.flat[::4] * damping + 1e-12
        if held.any():  # stays where it is
            slope[held], normal[held], normal[:, held] = 0.0, 0.0, 0.0
            normal[held, held] = 1.0
        step = np.linalg.solve(normal, slope)
        moved = np.clip(values + step * scale, low, high)
        after = tried(moved)
        if after[0] <= cost:
            gain, change = cost - after[0], float(np.max(np.abs((moved - values) / scale)))
            values, (cost, left, down) = moved, after
            damping = max(damping * 0.2, 1e-9)
            if change < 1e-5 or gain < _ENOUGH + 1e-6 * cost:
                break
        else:
            damping *= 8.0
            if damping > 1e8:
                break
    known = (down.T @ down) / np.outer(scale, scale)
    return _Search((float(values[0]), float(values[1]), float(values[2])), left, cost, known)


def _error(known: Array, disc: float, square: float, size: float) -> float:
    """The standard error of an equivalent disc, from what is known of a disc and a Gaussian."""
    small = max(size, 0.3) * 1e-3
    more = equivalent(disc, math.sqrt(square + small * max(size, 0.3)))
    by = np.array(
        (
            (equivalent(disc + small, math.sqrt(square)) - size) / small,
            (more - size) / (small * max(size, 0.3)),
            0.0,
        )
    )
    # Nobody expects more of a disc or a Gaussian than would make the whole blur twice over: of next
    # to none a profile tells nothing.
    known = known + np.diag((1.0 / max(size, 0.3) ** 2, 1.0 / max(size, 0.3) ** 4, 1e-12))
    spread = np.linalg.inv(known)
    return math.sqrt(max(float(by @ spread @ by), 0.0))
