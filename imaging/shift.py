"""Where on the leaning sheet a frame is sharpest; and how that moves as the aperture closes.

Each edge across the sheet stands at one depth. Its blur, against where the lens throws that depth
(its image distance), falls along a straight arm to the plane of best focus and rises along another:
b = |v − v₀| / N′, with diffraction and the lens's own blur added as squares [gauss]. So all edges
of a frame together give v₀, far finer than they stand apart. The shift of focus is the difference
of v₀ between two apertures, in image space, where it is the same at every distance.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from scipy import optimize

from drawing import target
from imaging.errors import Mixed, NoTarget, WrongWay
from imaging.looked import FINEST, SIDES, Looked, Taken, same_kind
from imaging.numbers import Array
from imaging.pose import Pose, pose_of, together
from imaging.reading import Picture

LEAST_LEAN, MOST_LEAN, MOST_ASIDE = math.radians(25), math.radians(68), math.radians(22)
_STILL = 1.5
"""Pixels: a camera that moved less than that between frames stood still."""
_ARMS = 4.0
"""Discs within that many times the least one tell where focus is; others where the arms lead."""
_FINE = 0.03
"""What discs finer than pixels tell are unsure by, as a share of what they are finer by."""
_TOO_FINE, _ENOUGH = 0.5, 40
"""Pixels: discs that are less tell nothing of the arms: left out where others are enough."""
CLEAR = 3.0
"""Standard errors that a shift must be, to be called one."""


@dataclass(frozen=True, slots=True)
class Spread:
    """One edge of the sheet: ``place`` of its middle on it (x, y), mm; ``depth`` from the pupil,
    mm; blur and its error, pixels; whether it runs ``across`` the sheet, or along it."""

    place: tuple[float, float]
    depth: float
    disc: float
    error: float
    across: bool


@dataclass(frozen=True, slots=True)
class Best:
    """A frame's plane of best focus on the sheet.

    ``taken``
    ``image``      where the lens throws it, mm behind the lens; ``error`` its standard error.
    ``depth``      of it, mm from the entrance pupil.
    ``middle``     where the lens throws the sheet's middle, mm behind the lens.
    ``disc``       the least blur there, pixels.
    ``spreads``    what it was found from.
    """

    taken: Taken
    image: float
    error: float
    depth: float
    middle: float
    disc: float
    spreads: tuple[Spread, ...]

    @property
    def off(self) -> float:
        """How far it lies in front of the sheet's middle, mm behind the lens: above 0 where
        something nearer than the middle is sharp."""
        return self.image - self.middle


@dataclass(frozen=True, slots=True)
class Shift:
    """The shift at an aperture against the widest one of a series: mm in image space, positive
    where sharpness falls on farther things; its standard error; and ``beyond``, the same on the
    sheet, mm of depth."""

    f_number: float
    shift: float
    error: float
    beyond: float
    frames: tuple[str, ...]

    @property
    def clear(self) -> bool:
        """Whether it is more than chance would make of a lens that keeps its focus."""
        return abs(self.shift) > CLEAR * self.error


@dataclass(frozen=True, slots=True)
class Series:
    """Frames of one sheet at several apertures.

    ``best`` of each frame; ``shifts`` by aperture, the widest first; ``distance`` of the sheet's
    middle from the pupil, mm; ``lean`` of the sheet, radians; ``moved``: whether the camera did not
    stand still between frames.
    """

    best: tuple[Best, ...]
    shifts: tuple[Shift, ...]
    distance: float
    lean: float
    moved: bool

    @property
    def keeps(self) -> bool:
        """Whether the lens keeps its focus at every aperture, as far as these frames tell."""
        return not any(one.clear for one in self.shifts)


def series(frames: Sequence[tuple[Taken, Picture]]) -> Series:
    """Focus shift from frames of the leaning sheet, in any order.

    Two at least, at two apertures, of one lens at one focal length and in one size. Raises a
    PictureError; its ``place`` is the frame at fault.
    """
    if len(frames) < 2:
        raise Mixed("One frame alone tells no shift: take one wide open and others stopped down.")
    same_kind([(taken, picture.size, picture.exif.lens) for taken, picture in frames])
    return compared([Looked.at(taken, picture) for taken, picture in frames])


def compared(looked: Sequence[Looked]) -> Series:
    """The shift of focus from frames that were looked at. Raises a PictureError."""
    usual = together([one.places for one in looked], _STILL)
    moved = usual is None
    poses = [_posed(one, one.places if usual is None else usual) for one in looked]
    best = [_best(one, pose) for one, pose in zip(looked, poses, strict=True)]
    distance = float(np.mean([pose.place[2] for pose in poses]))
    lean = float(np.mean([pose.lean for pose in poses]))
    return Series(tuple(best), _shifts(best), distance, lean, moved)


def _posed(one: Looked, places: Array) -> Pose:
    """How the sheet stands, its distance and the lens's own extension found together."""
    taken = one.taken
    extension = taken.focal_length
    for _ in range(6):
        pose = pose_of(places, one.size, extension / taken.pitch)
        now = 1.0 / (1.0 / taken.focal_length - 1.0 / float(pose.place[2]))
        if abs(now - extension) < 1e-5 * extension:
            break
        extension = now
    if abs(pose.aside) > MOST_ASIDE:
        raise WrongWay(
            "The sheet leans sideways: its far end should be farther away, and its left and right "
            "side equally far.",
            taken.name,
        )
    if abs(pose.lean) < LEAST_LEAN:
        raise WrongWay(
            f"The sheet leans by {math.degrees(abs(pose.lean)):.0f}°: lay it or lean it so that it "
            "goes away from the camera, by some 45°.",
            taken.name,
        )
    if abs(pose.lean) > MOST_LEAN:
        raise WrongWay(
            f"The sheet leans by {math.degrees(abs(pose.lean)):.0f}°: raise its far end, or the "
            "camera, until it is some 45°.",
            taken.name,
        )
    return pose


def _best(one: Looked, pose: Pose) -> Best:
    """Where a frame is sharpest, from the blur of its edges across the sheet."""
    taken, f = one.taken, one.taken.focal_length
    spreads = []
    for number, side, disc, error in one.edges:
        ends = [target.SQUARES[number].corners[k] for k in SIDES[side][:2]]
        x, y = (ends[0][0] + ends[1][0]) / 2, (ends[0][1] + ends[1][1]) / 2
        depth = float(pose.depth([(x, y)])[0])
        spreads.append(Spread((x, y), depth, disc, error, SIDES[side][2]))
    told = [s for s in spreads if s.disc >= _TOO_FINE]
    spreads = told if len(told) >= _ENOUGH else spreads
    depths = np.array([s.depth for s in spreads])
    image = f * depths / (depths - f)
    discs = np.array([s.disc for s in spreads]) * taken.pitch
    fine = [_FINE * max(FINEST - s.disc, 0.0) for s in spreads]
    errors = np.hypot([s.error for s in spreads], fine) * taken.pitch
    aside = np.array([s.place[0] for s in spreads]) / target.MARK_X
    seen = pose.at([s.place for s in spreads]) - pose.middle
    out = np.sum(seen**2, axis=1) / float(np.sum(np.square(pose.middle)))
    cone = taken.f_number * float(image.mean()) / f
    found, spread = _arms(_Arms(image, discs, errors, aside, out, cone))
    where = f * found[0] / (found[0] - f)
    nearest, farthest = float(depths.min()), float(depths.max())
    if not nearest - 0.1 * (farthest - nearest) < where < farthest + 0.1 * (farthest - nearest):
        raise NoTarget(
            "The sharpest place does not lie on the sheet: focus on its middle, and take all "
            "frames again.",
            taken.name,
        )
    least = abs(float(found[1])) / taken.pitch
    at = float(pose.place[2])
    middle = f * at / (at - f)
    return Best(taken, float(found[0]), spread, float(where), middle, least, tuple(spreads))


@dataclass(frozen=True, slots=True)
class _Arms:
    """Edges: image distance, blur and its error, mm; how far right on the sheet, −1 to 1; how far
    out in the picture, as the square of the way to a corner; and N′."""

    image: Array
    disc: Array
    error: Array
    aside: Array
    out: Array
    cone: float


def _arms(edges: _Arms) -> tuple[Array, float]:
    """The two arms fitted to blur against image distance: the place where they meet, the least
    blur, the slope as a share of 1/N′, how the place moves from left to right, and what blur the
    corners have on top; and the standard error of the first."""
    image, disc = edges.image, edges.disc
    start = float(image[np.argmin(disc)])
    narrow = _weights(disc, edges.error)
    usual = max(float(disc.min()), 1e-4)

    def left(values: Array) -> Array:
        place, least, slope, tipped, corner = values
        arm = slope * (image - place - tipped * edges.aside) / edges.cone
        own = np.hypot(least, corner * edges.out)
        rest = (np.hypot(arm, own) - disc) / narrow
        return np.append(rest, ((slope - 1.0) / 0.15, corner / (4.0 * usual)))

    unit = float(np.ptp(image)) / 20 or 1e-3
    scale = (unit, usual, 0.1, unit, usual)
    tries = [
        optimize.least_squares(
            left, (start + off * unit, 0.7 * usual, 1.0, 0.0, 0.5 * usual), x_scale=scale,
            loss="soft_l1", f_scale=2.0,
        )
        for off in (-2.0, 0.0, 2.0)
    ]  # fmt: skip
    done = min(tries, key=lambda one: float(one.cost))
    misfit = float(np.mean(np.minimum(done.fun[:-2] ** 2, 16.0)))
    known = done.jac.T @ done.jac
    spread = np.linalg.pinv(known)
    return done.x, math.sqrt(max(float(spread[0, 0]), 0.0) * max(misfit, 1.0))


def _weights(disc: Array, error: Array) -> Array:
    """What each edge counts for: those far up the arms, where aberrations bend them, for less."""
    far = np.maximum(disc / (_ARMS * float(disc.min())), 1.0)
    return np.hypot(error, 0.01 * disc) * far


def _shifts(best: Sequence[Best]) -> tuple[Shift, ...]:
    """By aperture, those at one laid together by their errors; against the widest."""
    apertures = sorted({one.taken.f_number for one in best})
    means = []
    for f_number in apertures:
        those = [one for one in best if one.taken.f_number == f_number]
        weights = np.array([1.0 / one.error**2 for one in those])
        image = float(np.average([one.image for one in those], weights=weights))
        means.append((f_number, image, 1.0 / math.sqrt(float(weights.sum())), those))
    _, reference, unsure, held = means[0]
    f = held[0].taken.focal_length
    at = f * reference / (reference - f)
    shifts = []
    for f_number, image, error, those in means:
        first = f_number == apertures[0]
        names = tuple(one.taken.name for one in those)
        beyond = f * image / (image - f) - at
        own = unsure if first else math.hypot(error, unsure)
        shifts.append(Shift(f_number, 0.0 if first else reference - image, own, beyond, names))
    return tuple(shifts)
