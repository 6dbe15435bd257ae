"""Frames with one hidden cause of softness each, and what is said of them from their files alone.

python -m tests.imaging.causes prints what was put in beside the first cause named. Each frame has
three marks at known depths before a far ridge, and is taken as planned but for the one cause; ten
are sharp.
"""

from __future__ import annotations

import argparse
import math
from collections.abc import Iterator
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass, replace

import numpy as np

from imaging.reading import read
from imaging.trails import POINT_WIDTH
from imaging.whole import Whole, whole
from optics import Setup
from optics.scene.fell import Shown
from optics.scene.why_soft import Cause, why_soft
from simulator.body import Body
from simulator.camera import Camera, Shake
from simulator.exposing import file_of
from simulator.frame import Scene, take
from simulator.lens import Lens
from simulator.stars import Stars
from simulator.things import Board, Thing

BODY = Body(width=3000, height=2000)
LENS = Lens(35.0, 2.0)
PLANNED = 4000.0
CIRCLE = 0.030
MARKS = (("A", 2600.0, -700.0), ("B", 4000.0, 0.0), ("C", 9000.0, 2300.0))
SIZES = {"A": 560.0, "B": 900.0, "C": 2100.0}
GRAINS = {"A": 30.0, "B": 45.0, "C": 110.0}
RIDGE = 60_000.0


@dataclass(frozen=True, slots=True)
class Hidden:
    """A frame: its cause and of which mark it is asked; None where all is sharp."""

    cause: Cause | None
    mark: str
    seed: int
    f_number: float = 8.0
    circle: float = CIRCLE


CAUSES = (
    (Cause.NEAR, "B", 2.8), (Cause.FAR, "B", 2.8), (Cause.MOVING, "B", 8.0), (Cause.SHAKE, "B",
    8.0), (Cause.DIFFRACTION, "B", 22.0), (Cause.DRIFT, "S", 2.8), (Cause.HAZE, "D", 8.0),
    (Cause.DEPTH, "A", 2.0),
)  # fmt: skip


def hidden() -> Iterator[Hidden]:
    """Forty frames with a cause, five of each, and ten without."""
    for k in range(40):
        cause, mark, f_number = CAUSES[k % len(CAUSES)]
        circle = 0.012 if cause is Cause.DIFFRACTION else CIRCLE
        yield Hidden(cause, mark, 100 + k, f_number, circle)
    for k in range(10):
        yield Hidden(None, "B", 200 + k)


def frame(one: Hidden) -> bytes:
    """Its file."""
    luck = np.random.default_rng(one.seed)
    iso = float(luck.choice((100, 400, 1600)))
    if one.cause is Cause.DRIFT:
        drift = float(luck.uniform(2.2, 4.0)) * one.circle
        camera = Camera(LENS, BODY, one.f_number, LENS.stands_for(math.inf), iso=1600)
        scene = Scene((), stars=Stars(60, 6.0, drift=drift), seed=one.seed)
        return file_of(take(scene, camera), camera)
    focus, shake, haze, time = PLANNED, Shake(), 0.0, 0.02
    speed = 0.0
    if one.cause is Cause.NEAR:
        focus = float(luck.uniform(2300, 2800))
    elif one.cause is Cause.FAR:
        focus = float(luck.uniform(9000, 20_000))
    elif one.cause is Cause.SHAKE:
        shake = Shake(float(luck.uniform(2.2, 4.0)) * one.circle / BODY.pitch,
                      float(luck.uniform(-1.5, 1.5)))  # fmt: skip
    elif one.cause is Cause.MOVING:
        speed = float(luck.uniform(2.2, 4.0)) * one.circle / (35.0 / PLANNED) / time
    elif one.cause is Cause.HAZE:
        haze = 0.999999999
    things: list[Thing] = [Board(RIDGE, grain=700.0)]
    for letter, depth, x in MARKS:
        board = Board(depth, SIZES[letter], SIZES[letter], GRAINS[letter], x=x)
        if speed and letter == one.mark:
            board = replace(board, speed=speed, heading=float(luck.uniform(-1.5, 1.5)))
        things.append(board)
    camera = Camera(LENS, BODY, one.f_number, LENS.stands_for(focus, one.f_number), iso=iso,
                    time=time, shake=shake)  # fmt: skip
    return file_of(take(Scene(tuple(things), haze=haze, seed=one.seed), camera), camera)


def middle(letter: str) -> tuple[float, float]:
    """Where somebody would point at a mark: shares from the left and from above."""
    if letter == "D":
        return 0.5, 0.1
    per = 35.0 / BODY.pitch
    depth, x = next((depth, x) for name, depth, x in MARKS if name == letter)
    return 0.5 + x / (depth - 70) * per / BODY.width, 0.5


def seen(frame: Whole, letter: str, depth: float) -> Shown | None:
    """What a frame shows of a mark, in the window nearest to where somebody would point; None where
    nothing can be told."""
    x, y = middle(letter)
    near = min(frame.windows, key=lambda w: ((w.x - x) * 1.5) ** 2 + (w.y - y) ** 2)
    found = near.movement
    if found is None:
        return None
    moved = found.moved and found.length >= 1.0
    return Shown(
        letter, depth, found.disc * BODY.pitch, max(found.disc_error * BODY.pitch, 1e-4),
        *((found.length * BODY.pitch, found.length_error * BODY.pitch) if moved else ()),
        **({"direction": found.direction} if moved else {}),
        contrast=near.contrast,
    )  # fmt: skip


def said(one: Hidden) -> tuple[Hidden, str]:
    """What is named first, from the file alone."""
    shown = whole(read(frame(one)).luminance, sky=one.mark == "S")
    setup = Setup(35.0, one.f_number, one.circle, diffraction=True)
    if one.mark == "S":
        found = shown.trails
        if found is None:
            return one, "cannot tell"
        disc = math.sqrt(max(found.width**2 - POINT_WIDTH**2, 0.0)) / 0.66 * BODY.pitch
        stars = Shown("S", math.inf, disc, max(0.1 * disc, 0.1 * BODY.pitch),
                     found.length * BODY.pitch, found.error * BODY.pitch, found.direction,
                     star=True)  # fmt: skip
        (why,) = why_soft(setup, 1e9, [stars])
        return one, str(why.first)
    marks = [seen(shown, letter, depth) for letter, depth, _ in (*MARKS, ("D", RIDGE, 0.0))]
    told = why_soft(setup, PLANNED, [mark for mark in marks if mark is not None])
    why_of = {why.letter: why for why in told}
    if one.cause is None:
        return one, ", ".join(f"{k}: {why_of[k].first}" for k in "ABC" if why_of[k].soft) or "None"
    return one, str(why_of[one.mark].first) if one.mark in why_of else "cannot tell"


def main() -> None:
    """Print how many were named right."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--workers", type=int, default=2)
    options = parser.parse_args()
    right = [0, 0]
    with ProcessPoolExecutor(options.workers) as pool:
        for one, what in pool.map(said, list(hidden())):
            good = what == str(one.cause)
            right[one.cause is None] += good
            print(f"{one.seed} {one.cause}: {what}{'' if good else '   WRONG'}", flush=True)
    print(f"{right[0]} of 40 named right, {right[1]} of 10 sharp ones called so")


if __name__ == "__main__":
    main()
