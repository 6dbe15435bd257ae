"""Made-up lenses with faults by chance, tested as a photographer would; and how often right.

python -m tests.imaging.lenses --count 60 prints each measured shift beside the one put in; with
--what sharpness each lens's own blur in the middle, with --what focus where frames were focused.
Only the files of the frames are given to ``imaging``.
"""

from __future__ import annotations

import argparse
import math
from collections.abc import Sequence
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass

import numpy as np

from imaging import sharpness, shift
from imaging.looked import Looked, taken_as
from imaging.reading import read
from optics.lens.kit import Fault
from simulator.body import Body
from simulator.camera import Camera
from simulator.exposing import file_of
from simulator.frame import Scene, take
from simulator.lens import Faults, Lens
from simulator.things import Board, Sheet


@dataclass(frozen=True, slots=True)
class Tried:
    """One aperture of one lens: what was put in and what was found, with its stated error, mm;
    whether the lens has a shift at all, and whether it was called one that keeps its focus."""

    seed: int
    f_number: float
    true: float
    found: float
    error: float
    ideal: bool
    keeps: bool

    @property
    def within(self) -> bool:
        """Whether it was found within two standard errors."""
        return abs(self.found - self.true) <= 2.0 * self.error


def lens_by_chance(luck: np.random.Generator, *, ideal: bool) -> Lens:
    """A lens of 24 to 135 mm with faults as lenses have them; without shift if ``ideal``."""
    focal_length = float(luck.choice((24, 28, 35, 50, 85, 135)))
    widest = float(luck.choice((1.4, 1.8, 2, 2.8)))
    most = 0.0 if ideal else float(luck.uniform(-0.03, 0.05))
    own = float(luck.uniform(0.001, 0.012))
    faults = Faults(
        by_aperture=(
            Fault(widest, own, 0.0),
            Fault(2 * widest, own * 0.6, most * float(luck.uniform(0.6, 0.9))),
            Fault(4 * widest, own * 0.5, most),
        ),
        corner=float(luck.uniform(0, 0.015)),
        decentring=float(luck.uniform(-0.01, 0.01)),
    )
    return Lens(focal_length, widest, faults=faults)


def files_of(lens: Lens, luck: np.random.Generator, stops: Sequence[int]) -> list[bytes]:
    """Frames of the sheet with a lens, focused once wide open, at some apertures, each that many
    times its f-number."""
    body = Body(width=2400, height=1600)
    distance = lens.focal_length * float(luck.uniform(14, 17))
    sheet = Sheet(
        distance,
        x=float(luck.uniform(-12, 12)),
        y=float(luck.uniform(-8, 8)),
        lean=math.radians(float(luck.uniform(38, 54))),
        turn=math.radians(float(luck.uniform(-6, 6))),
        roll=math.radians(float(luck.uniform(-4, 4))),
    )
    ring = lens.stands_for(distance + float(luck.uniform(-0.3, 0.3)) * lens.focal_length / 10)
    iso = float(luck.choice((100, 400, 1600, 3200)))
    frames = []
    for f_number in (lens.widest * stop for stop in stops):
        camera = Camera(lens, body, f_number, ring, iso=iso)
        scene = Scene((sheet, Board(math.inf)), seed=int(luck.integers(2**31)))
        frames.append(file_of(take(scene, camera), camera))
    return frames


def tried(seed: int, stops: Sequence[int] = (1, 2, 4)) -> list[Tried]:
    """One lens by chance, every fourth without shift, measured from its files."""
    luck = np.random.default_rng(seed)
    ideal = seed % 4 == 0
    lens = lens_by_chance(luck, ideal=ideal)
    pictures = [read(raw) for raw in files_of(lens, luck, stops)]
    frames = [(taken_as(f"{k}.jpg", p), p) for k, p in enumerate(pictures)]
    found = shift.series(frames)
    return [
        Tried(seed, one.f_number, lens.kit.at(one.f_number).focus_shift, one.shift, one.error,
              ideal, found.keeps)
        for one in found.shifts[1:]
    ]  # fmt: skip


def tried_sharpness(seed: int) -> list[Tried]:
    """One lens by chance, its own blur in the middle measured on the flat sheet."""
    luck = np.random.default_rng(seed)
    lens = lens_by_chance(luck, ideal=False)
    body = Body(width=2400, height=1600, frame_width=14.4)
    distance = lens.focal_length * float(luck.uniform(22, 25))
    turned = math.radians(float(luck.uniform(86, 94)))
    sheet = Sheet(distance, lean=math.radians(float(luck.uniform(-2, 2))), roll=turned)
    iso = float(luck.choice((100, 400, 1600)))
    seen = []
    for f_number in (lens.widest, 4 * lens.widest):
        camera = Camera(lens, body, f_number, lens.stands_for(distance, f_number), iso=iso)
        scene = Scene((sheet, Board(math.inf)), seed=int(luck.integers(2**31)))
        picture = read(file_of(take(scene, camera), camera))
        seen.append(Looked.at(taken_as(f"{f_number:g}.jpg", picture), picture))
    return [
        Tried(seed, one.f_number, lens.kit.at(one.f_number).lens_disc, one.centre.own.value,
              one.centre.own.error, False, False)
        for one in sharpness.sharpness(seen).at
    ]  # fmt: skip


def tried_focus(seed: int) -> list[Tried]:
    """One lens by chance, focused beside the middle of the leaning sheet by chance, twice."""
    luck = np.random.default_rng(seed)
    lens = lens_by_chance(luck, ideal=False)
    body = Body(width=2400, height=1600)
    distance = lens.focal_length * float(luck.uniform(14, 17))
    sheet = Sheet(distance, lean=math.radians(float(luck.uniform(38, 54))),
                  turn=math.radians(float(luck.uniform(-6, 6))))  # fmt: skip
    found = []
    for _ in range(2):
        missed = float(luck.normal(0.0, 0.002)) * lens.focal_length
        ring = lens.stands_for(distance) + missed / lens.focal_length
        camera = Camera(lens, body, lens.widest, ring, iso=float(luck.choice((100, 1600))))
        scene = Scene((sheet, Board(math.inf)), seed=int(luck.integers(2**31)))
        picture = read(file_of(take(scene, camera), camera))
        (best,) = shift.compared([Looked.at(taken_as("one.jpg", picture), picture)]).best
        found.append(Tried(seed, lens.widest, missed, best.off, best.error, False, False))
    return found


WHAT = {"shift": tried, "sharpness": tried_sharpness, "focus": tried_focus}


def main() -> None:
    """Print how many lenses were measured right."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--count", type=int, default=60)
    parser.add_argument("--first", type=int, default=1)
    parser.add_argument("--workers", type=int, default=2)
    parser.add_argument("--what", choices=WHAT, default="shift")
    options = parser.parse_args()
    seeds = range(options.first, options.first + options.count)
    found: list[Tried] = []
    with ProcessPoolExecutor(options.workers) as pool:
        for lens in pool.map(WHAT[options.what], seeds):
            for one in lens:
                print(
                    f"{one.seed:3d} f/{one.f_number:<4g} put in {1000 * one.true:7.2f} found "
                    f"{1000 * one.found:7.2f} ± {1000 * one.error:.2f} µm"
                    f"{'' if one.within else '  beyond two errors'}"
                    f"{'  keeps' if one.keeps else ''}",
                    flush=True,
                )
            found += lens
    within = sum(one.within for one in found)
    ideal = {one.seed: one.keeps for one in found if one.ideal}
    print(f"{within} of {len(found)} within two standard errors")
    if ideal:
        print(f"{sum(ideal.values())} of {len(ideal)} lenses without shift called so")


if __name__ == "__main__":
    main()
