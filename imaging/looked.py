"""What one frame of the printed target shows: where its spots are, and how soft its edges."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from drawing import target
from imaging import sheet
from imaging.edges import Line, measured
from imaging.errors import BadLight, Mixed, NoTarget, NotKnown, PictureError, Shaken
from imaging.numbers import Array
from imaging.reading import Picture

_ROOM = 0.42
"""Of a square's side, how far to each side of its edge nothing else stands."""
_WIDEST = 0.85
"""Of that room: discs wider than that are not seen whole."""
_LEAST_EDGES = 10
_SHAKEN, _SHAKEN_SIGMAS = 1.22, 4.0
"""Softer one way than the other by that factor, and by that many errors, is shaken."""
FINEST, UNSURE_BELOW_FINEST = 1.5, 0.13
"""Pixels: discs that are finer are told by less and less of a picture; they may be off by that
share of what they are finer by."""
_SAME_LENGTH = 0.004
_DIM, _WHITE = 0.02, 0.995
_FRAME_OF_35 = 36.0


@dataclass(frozen=True, slots=True)
class Taken:
    """How a frame was taken, as known from its file or from the one who took it.

    ``name`` of the file; ``f_number``; ``focal_length`` mm; ``pitch`` mm between pixels.
    """

    name: str
    f_number: float
    focal_length: float
    pitch: float


def taken_as(name: str, picture: Picture, **known: float | None) -> Taken:
    """How a frame was taken: what is ``known`` (f_number, focal_length, pitch), else as its file
    says. Raises NotKnown."""
    exif = picture.exif
    f_number = known.get("f_number") or exif.f_number
    length = known.get("focal_length") or exif.focal_length
    pitch = known.get("pitch") or exif.pitch
    if pitch is None and length is not None and exif.focal_length_35 is not None:
        pitch = _FRAME_OF_35 * length / exif.focal_length_35 / max(picture.size)
    if f_number is None:
        raise NotKnown("The file does not say which aperture it was taken at: say it.", name)
    if length is None:
        raise NotKnown("The file does not say the focal length: say it.", name)
    if pitch is None:
        raise NotKnown(
            "The file does not say how large the sensor is: say the body, or its width.", name
        )
    return Taken(name, f_number, length, pitch)


@dataclass(frozen=True, slots=True)
class Looked:
    """What one frame shows: where the sheet's spots are in it, and the blur of its edges. A small
    thing, so that many frames can be looked at one after the other."""

    taken: Taken
    size: tuple[int, int]
    places: Array
    edges: tuple[tuple[int, int, float, float], ...]
    """Square, side of it, disc and its error, pixels."""

    @classmethod
    def at(cls, taken: Taken, picture: Picture) -> Looked:
        """Raises a PictureError whose ``place`` is the frame."""
        try:
            seen = sheet.found(picture.luminance)
            _lit(picture, seen)
            edges = _edges(picture, seen)
            _not_shaken(edges)
        except PictureError as error:
            error.place = error.place or taken.name
            raise
        return cls(taken, picture.size, seen.places, tuple(edges))


def _lit(picture: Picture, seen: sheet.Seen) -> None:
    """Whether the paper is neither black nor cut off at white."""
    between = [(x + target.PITCH * 0.9, y) for x, y in sheet.SPOTS[len(target.MARKS) :]]
    width, height = picture.size
    places = np.rint(seen.at(between)).astype(int)
    inside = (places[:, 0] >= 0) & (places[:, 0] < width) & (places[:, 1] >= 0)
    inside &= places[:, 1] < height
    paper = picture.luminance[places[inside, 1], places[inside, 0]]
    if float(np.median(paper)) > _WHITE:
        raise BadLight(sheet.BLOWN_PAPER)
    if float(np.median(paper)) < _DIM:
        raise BadLight("The frame is too dark to be measured: expose longer.")


SIDES = ((0, 1, True), (1, 2, False), (2, 3, True), (3, 0, False))
"""A square's corners at either end of each of its sides, and whether that runs across the sheet."""


def _edges(picture: Picture, seen: sheet.Seen) -> list[tuple[int, int, float, float]]:
    found = []
    for number, square in enumerate(target.SQUARES):
        corners = seen.at(square.corners)
        middle = corners.mean(axis=0)
        if not np.isfinite(seen.places[len(target.MARKS) + number]).all():
            continue
        corners = corners + seen.places[len(target.MARKS) + number] - middle
        for side, (one, other, _) in enumerate(SIDES):
            (ax, ay), (bx, by) = corners[one], corners[other]
            length = math.hypot(bx - ax, by - ay)
            line = Line((ax + bx) / 2, (ay + by) / 2, math.atan2(by - ay, bx - ax), length)
            opposite = corners[(side + 2) % 4]
            nx, ny = line.normal
            room = _ROOM * abs((opposite[0] - ax) * nx + (opposite[1] - ay) * ny)
            if room < 4.0:
                continue
            try:
                edge = measured(picture.luminance, line, room)
            except PictureError:
                continue
            if edge.blur.disc < _WIDEST * room and edge.blur.error < 0.25 * edge.blur.disc + 0.3:
                found.append((number, side, edge.blur.disc, edge.blur.error))
    if len(found) < _LEAST_EDGES:
        raise NoTarget(
            "The target is too small in the frame, or too soft, to be measured: go nearer, so that "
            "it fills most of the frame, and focus on its middle."
        )
    return found


def _not_shaken(edges: Sequence[tuple[int, int, float, float]]) -> None:
    """Blur by defocus is the same across all edges of a square; by movement it is not."""
    by_square: dict[int, dict[bool, list[tuple[float, float]]]] = {}
    for number, side, disc, error in edges:
        by_square.setdefault(number, {True: [], False: []})[SIDES[side][2]].append((disc, error))
    ratios, weights, unsure = [], [], []
    for both in by_square.values():
        if not both[True] or not both[False]:
            continue
        across, along = (sum(d for d, _ in both[k]) / len(both[k]) for k in (True, False))
        if min(across, along) <= 0:
            continue
        error = math.hypot(*(e / d for k in (True, False) for d, e in both[k] if d > 0))
        fine = UNSURE_BELOW_FINEST * max(FINEST - min(across, along), 0.0)
        unsure.append(2.0 * fine / min(across, along))
        ratios.append(math.log(across / along))
        weights.append(1.0 / max(error, 0.02) ** 2 / (1.0 + min(across, along)))
    if len(ratios) < 6:
        return
    sharpest = np.argsort([-w for w in weights])[: max(6, len(ratios) // 2)]
    held = np.array(ratios)[sharpest]
    middle = float(np.median(held))
    spread = 1.4826 * float(np.median(np.abs(held - middle))) / math.sqrt(len(held))
    most = math.log(_SHAKEN) + float(np.median(np.array(unsure)[sharpest]))
    if abs(middle) > most and abs(middle) > _SHAKEN_SIGMAS * spread:
        way = "up and down" if middle > 0 else "sideways"
        raise Shaken(
            f"The frame is blurred by movement, {way}, not by focus alone: use a tripod and a "
            "timer, and take it again."
        )


def same_kind(frames: Sequence[tuple[Taken, tuple[int, int], str]]) -> None:
    """Whether frames, each with its size and what it says of its lens, are of one lens at several
    apertures. Raises Mixed."""
    one_lens(frames)
    if len({taken.f_number for taken, _, _ in frames}) < 2:
        raise Mixed("All frames are at one aperture: take others stopped down.")


def one_lens(frames: Sequence[tuple[Taken, tuple[int, int], str]]) -> None:
    """Whether frames, each with its size and what it says of its lens, are of one lens. Raises
    Mixed."""
    first, size, lens = frames[0]
    for taken, other, named in frames[1:]:
        if abs(taken.focal_length / first.focal_length - 1) > _SAME_LENGTH:
            raise Mixed(
                f"This frame was taken at {taken.focal_length:g} mm, the first at "
                f"{first.focal_length:g} mm: a shift is measured at one focal length.",
                taken.name,
            )
        if named and lens and named != lens:
            raise Mixed(f"This frame says another lens than the first: {named}.", taken.name)
        if sorted(other) != sorted(size):
            raise Mixed("This frame is of another size than the first.", taken.name)
