"""The blur that makes the profile of an edge: the disc and the Gaussian whose ideal edge comes
nearest to it, with what is unsure of them (see ``imaging.spread``)."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from imaging.numbers import Array
from imaging.spread import Blur, Edges, Profile, equivalent, jinc

MODEL_SHARE = 0.008
"""How far disc and Gaussian together may be from another round blur: measured on both, and on their
mixtures with diffraction, by this project."""
_TRIED = np.geomspace(0.3, 120.0, 18)
_MOST_STEPS = 40
_ENOUGH = 0.01
"""A step that betters a fit by less, in squared deviations, is the last."""
_UNEVEN = 25.0
"""By how much uneven light must better a fit, in squared deviations, to be believed."""


@dataclass(frozen=True, slots=True)
class Fitted:
    """A fit: the equivalent ``disc``, pixels, and its ``misfit``; how far ``off`` the profile's
    zero its edge stands, pixels; and what is ``left_over``, the deviation of the profile from it,
    in its own unit; ``shape``: disc, and square of the Gaussian, for a fit that follows; ``known``
    of these and the place (their inverse covariance)."""

    disc: float
    misfit: float
    off: float
    left_over: float
    shape: tuple[float, float]
    known: Array

    @property
    def blur(self) -> Blur:
        """With what is unsure of it."""
        error = _error(self.known, *self.shape, self.disc) * math.sqrt(max(self.misfit, 1.0))
        return Blur(self.disc, math.hypot(error, MODEL_SHARE * self.disc), self.misfit)


def coarse(profile: Profile) -> float:
    """The disc, of some tried, that a profile is nearest to, pixels."""
    edges = Edges(profile)
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
    edges = Edges(profile)
    disc, square = shape or (start * 0.8, (start * 0.12) ** 2)
    first = (max(disc, 0.3 * start), max(square, (0.1 * start) ** 2), 0.0)  # off the bounds
    found = _search(edges, profile, start, first, uneven=False)
    if found.cost - len(profile.place) > _UNEVEN / 2:
        tilted = _search(edges, profile, start, found.values, uneven=True)
        if found.cost - tilted.cost > _UNEVEN:
            found = tilted
    disc, square, off = found.values
    size = equivalent(disc, math.sqrt(square))
    misfit = found.cost / max(len(profile.place) - 5, 1)
    left_over = math.sqrt(float(np.mean(found.left**2 * profile.variance)))
    return Fitted(size, misfit, off, left_over, (disc, square), found.known)


@dataclass(frozen=True, slots=True)
class _Search:
    """Where a search ended: disc, square and place; what is left over, in deviations of its noise,
    and the cost of that; what is known of the three (their inverse covariance, all else free)."""

    values: tuple[float, float, float]
    left: Array
    cost: float
    known: Array


def _search(
    edges: Edges, profile: Profile, start: float, first: tuple[float, float, float], *,
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
