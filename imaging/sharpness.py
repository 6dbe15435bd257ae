"""How sharp a lens is at its apertures: from frames of the sheet held flat before the camera.

All of it stands at one depth, so what its edges are blurred by is the lens itself, diffraction, and
what the focus was missed by. Of several frames at one aperture the sharpest counts: a missed
focus only ever makes a picture softer. Diffraction is taken away as squares, as it was added
[gauss]; what is left is the lens's own.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from drawing import target
from imaging.errors import BadLight, NoTarget, WrongWay
from imaging.looked import FINEST, UNSURE_BELOW_FINEST, Looked
from imaging.numbers import Array, Flags
from imaging.pose import Pose, pose_of
from optics.lens.diffraction import disc as diffraction_disc
from optics.lens.found import Found

_MOST_LEAN = math.radians(6.0)
_CENTRE, _CORNER = 0.3, 0.58
"""Edges less far out than the first, as a share of the way to a corner, are the centre's; farther
than the second, the corners'."""
_LEAST = 6
_SYSTEMATIC = 0.025
"""Of a disc: what edges are right within, however many of them there are."""
_BEYOND = 4.0
"""Errors by which a blur is below that of diffraction before a file was sharpened."""


@dataclass(frozen=True, slots=True)
class Place:
    """A part of the picture: blur ``seen`` there and the lens's ``own`` of it, mm; how far ``out``
    it is, as a share of the way to a corner."""

    seen: Found
    own: Found
    out: float


@dataclass(frozen=True, slots=True)
class Sharpness:
    """An aperture. ``ideal``: the blur by diffraction alone, mm. ``corner``: None where the sheet
    does not reach there. ``frame`` that it was seen in."""

    f_number: float
    centre: Place
    corner: Place | None
    ideal: float
    frame: str


@dataclass(frozen=True, slots=True)
class Copy:
    """A lens at its apertures, the widest first. ``distance`` of the sheet from the pupil, mm."""

    at: tuple[Sharpness, ...]
    distance: float

    @property
    def best(self) -> Sharpness:
        """The aperture at which its centre is sharpest."""
        return min(self.at, key=lambda one: one.centre.seen.value)

    @property
    def best_corner(self) -> Sharpness | None:
        """The aperture at which its corners are."""
        known = [one for one in self.at if one.corner is not None]
        return min(known, key=lambda one: one.corner.seen.value if one.corner else 0, default=None)


def sharpness(frames: Sequence[Looked]) -> Copy:
    """How sharp a lens is, from frames of the flat sheet. One at least. Raises a PictureError."""
    seen: dict[float, list[Sharpness]] = {}
    distances = []
    for one in frames:
        pose = _faced(one)
        distances.append(float(pose.place[2]))
        seen.setdefault(one.taken.f_number, []).append(_of(one, distances[-1]))
    sharpest = [
        min(those, key=lambda one: one.centre.seen.value) for _, those in sorted(seen.items())
    ]
    return Copy(tuple(sharpest), float(np.mean(distances)))


def _faced(one: Looked) -> Pose:
    taken = one.taken
    extension = taken.focal_length
    for _ in range(4):
        pose = pose_of(one.places, one.size, extension / taken.pitch)
        extension = 1.0 / (1.0 / taken.focal_length - 1.0 / float(pose.place[2]))
    off = math.acos(min(abs(float(pose.turn[2, 2])), 1.0))
    if off > _MOST_LEAN:
        raise WrongWay(
            f"The sheet leans by {math.degrees(off):.0f}°: for this test it faces the camera "
            "squarely, within some degrees.",
            taken.name,
        )
    return pose


def _of(one: Looked, distance: float) -> Sharpness:
    taken, middle = one.taken, (np.array(one.size) - 1) / 2
    outs, discs, errors = [], [], []
    for number, _, width, unsure in one.edges:
        place = one.places[len(target.MARKS) + number]
        outs.append(float(np.hypot(*(place - middle)) / np.hypot(*middle)))
        discs.append(width)
        errors.append(unsure)
    out, disc, error = np.array(outs), np.array(discs), np.array(errors)
    working = taken.f_number * distance / (distance - taken.focal_length)
    ideal = float(diffraction_disc(working))
    centre = _place(out, disc, error, out < _CENTRE, ideal, taken.pitch)
    if centre is None:
        raise NoTarget("The middle of the picture shows too little of the sheet.", taken.name)
    if centre.seen.value + _BEYOND * centre.seen.error < ideal:
        raise BadLight(
            "The edges are sharper than diffraction lets any lens be: the camera sharpens. Switch "
            "that off, or bring raw files.",
            taken.name,
        )
    corner = _place(out, disc, error, out > _CORNER, ideal, taken.pitch)
    return Sharpness(taken.f_number, centre, corner, ideal, taken.name)


def _place(
    out: Array, disc: Array, error: Array, which: Flags, ideal: float, pitch: float
) -> Place | None:
    if int(which.sum()) < _LEAST:
        return None
    those, unsure = disc[which], error[which]
    middle = float(np.median(those))
    good = np.abs(those - middle) <= 4.0 * np.maximum(unsure, 0.05 * middle)
    weights = 1.0 / np.hypot(unsure[good], 0.03 * middle) ** 2
    mean = float(np.average(those[good], weights=weights))
    scatter = float(np.std(those[good])) / math.sqrt(max(int(good.sum()) / 2, 1))
    fine = UNSURE_BELOW_FINEST * max(FINEST - mean, 0.0) + _SYSTEMATIC * mean
    seen = Found(mean * pitch, math.hypot(scatter, fine) * pitch)
    return Place(seen, own_blur(seen, ideal), float(out[which].mean()))


def own_blur(seen: Found, ideal: float) -> Found:
    """What a lens blurs by itself, where diffraction alone would make an ``ideal`` blur, mm."""
    square = seen.value**2 - ideal**2
    unsure = 2.0 * seen.value * seen.error
    if square <= unsure:
        return Found(math.sqrt(max(square, 0.0)), math.sqrt(unsure))
    own = math.sqrt(square)
    return Found(own, unsure / (2.0 * own))
