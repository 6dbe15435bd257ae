"""The frames that came home from the sample world's outings: taken by the made-up camera, measured
as any file is, and written to where the sample world finds them.

python -m tools.demo_frames writes them anew; --only NAME takes one and prints what was measured.
"""

from __future__ import annotations

import argparse
import base64
import gzip
import hashlib
import json
import math
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass, field, replace
from pathlib import Path
from typing import Any

from imaging.reading import read
from imaging.whole import plain, small_of, whole
from simulator.body import Body
from simulator.camera import Camera, Shake
from simulator.exposing import file_of
from simulator.frame import Scene, take
from simulator.lens import Lens
from simulator.stars import Stars
from simulator.things import Board, Thing
from web.demo.came_home import PATH

_FINE = Body(width=3000, height=2000, name="Full frame, 24 MP")
_NIGHT = Body(width=6000, height=4000, name="Full frame, 24 MP")
_METRES = 1000.0
_GROUND = math.radians(75.0)
"""How far the ground leans back, for a camera that looks 15° down."""


@dataclass(frozen=True, slots=True)
class Shot:
    """A frame to take: its name; which outing and which plan it is of; when; how it was set, and
    what went wrong. ``focus``: where the lens truly was, mm."""

    name: str
    outing: str
    plan: str
    taken: str
    lens: Lens
    f_number: float
    focus: float
    time: float
    things: tuple[Thing, ...] = ()
    stars: Stars | None = None
    shake: Shake = field(default_factory=Shake)
    iso: float = 100.0
    body: Body = _FINE
    seed: int = 1


def _pit(turning: float = 0.0) -> tuple[Thing, ...]:
    """Sallow Pit: a slab at the lower edge, a winch wheel, the tip ridge; slate ground between."""
    return (
        Board(math.inf, grain=300.0, darkest=0.5, lightest=0.6),
        Board(180 * _METRES, 320 * _METRES, 36 * _METRES, 1900.0, darkest=0.05, lightest=0.4,
              y=52 * _METRES),
        Board(16_650.0, 46_000.0, 26_000.0, 240.0, y=3530.0, lean=_GROUND),
        Board(2650.0, 5200.0, 3000.0, 60.0, y=-222.0, lean=_GROUND, lightest=0.45),
        Board(4200.0, 1300.0, 1300.0, 75.0, x=1100.0, y=640.0, darkest=0.03, lightest=0.7,
              speed=turning, heading=0.5),
        Board(1300.0, 900.0, 330.0, 24.0, x=-330.0, y=-270.0, lean=math.radians(20.0)),
    )  # fmt: skip


def _row() -> tuple[Thing, ...]:
    """Tinder Row: the lamp seller's stall, the mast, what is behind."""
    return (
        Board(22 * _METRES, grain=620.0, lightest=0.35),
        Board(9144.0, 2100.0, 4600.0, 130.0, x=2300.0, y=300.0),
        Board(2134.0, 760.0, 900.0, 36.0, x=-380.0, y=-120.0),
    )


def _top() -> tuple[Thing, ...]:
    """Hallin Top by day: a cairn, the relay hut, the far ridge."""
    return (
        Board(math.inf, grain=300.0, darkest=0.5, lightest=0.6),
        Board(9000 * _METRES, 16_000 * _METRES, 2600 * _METRES, 90_000.0, y=-500 * _METRES),
        Board(60 * _METRES, 26 * _METRES, 17 * _METRES, 900.0, x=17 * _METRES, y=2 * _METRES),
        Board(2400.0, 1000.0, 900.0, 45.0, x=-700.0, y=-420.0),
    )


_ZOOM_24 = Lens(24.0, 4.0, name="20–35 mm f/4 zoom")
_ZOOM_20 = Lens(20.0, 4.0, name="20–35 mm f/4 zoom")
_TAB = Lens(28.0, 2.8, name="28 mm f/2.8 with tab")
_WIDE = Lens(16.0, 2.0, name="16 mm f/2 for the night")
_PIT, _ROW, _TOP = "Sallow Pit, low sun", "Tinder Row, before the rain", "Hallin Top, new moon"
_SCENE, _WHEEL = "Sallow Pit", "Sallow Pit, the wheel alone"


def shots() -> tuple[Shot, ...]:
    """All of them."""
    night = replace(_BASE, outing=_TOP, plan="Hallin Top", lens=_WIDE, f_number=2.0, body=_NIGHT,
                    iso=3200.0)  # fmt: skip
    row = replace(_BASE, outing=_ROW, plan="Tinder Row, under the wires", lens=_TAB, f_number=8.0,
                  things=_row(), iso=400.0, time=0.004, seed=21, focus=3353.0)  # fmt: skip
    return (
        replace(_BASE, name="pit-01.jpg", taken="2026:03:07 16:31:10"),
        replace(_BASE, name="pit-02.jpg", taken="2026:03:07 16:34:42", focus=2550.0),
        replace(_BASE, name="pit-03.jpg", taken="2026:03:07 16:52:03", focus=1250.0),
        replace(_BASE, name="pit-04.jpg", taken="2026:03:07 17:05:27", things=_pit(38.0)),
        replace(_BASE, name="pit-05.jpg", taken="2026:03:07 17:16:40", focus=4200.0, plan=_WHEEL,
                f_number=22.0, time=2.0, body=_NIGHT),
        replace(row, name="row-01.jpg", taken="2026:03:12 11:04:09"),
        replace(row, name="row-02.jpg", taken="2026:03:12 11:09:31", time=0.0667,
                shake=Shake(7.0, 0.35)),
        replace(row, name="row-03.jpg", taken="2026:03:12 11:20:15", focus=3300.0, seed=22),
        replace(_BASE, name="top-01.jpg", taken="2026:03:18 18:20:00", outing=_TOP,
                plan="Hallin Top, the hut", lens=_ZOOM_20, f_number=8.0, focus=2150.0, time=0.0167,
                things=_top(), seed=31),
        replace(night, name="top-02.jpg", taken="2026:03:18 21:40:12", focus=math.inf, time=10.0,
                stars=Stars(90, 5.0), things=(), seed=32),
        replace(night, name="top-03.jpg", taken="2026:03:18 21:44:50", focus=math.inf, time=40.0,
                stars=Stars(90, 5.0, drift=0.045), things=(), seed=33),
    )  # fmt: skip


_BASE = Shot("", _PIT, _SCENE, "", _ZOOM_24, 11.0, 2600.0, 0.5, _pit(), seed=11)


MARKS = {
    _SCENE: {"A": [0.352, 0.72], "B": [0.674, 0.27], "C": [0.25, 0.19]},
    _WHEEL: {"A": [0.674, 0.27]},
    "Tinder Row, under the wires": {"A": [0.36, 0.58], "B": [0.696, 0.46]},
    "Hallin Top, the hut": {"A": [0.34, 0.645], "B": [0.66, 0.46], "C": [0.12, 0.53]},
}
"""Where the things of a plan stand in its frames."""


def file(shot: Shot) -> bytes:
    """Its file, as its camera wrote it."""
    camera = Camera(
        shot.lens, shot.body, shot.f_number, shot.lens.stands_for(shot.focus, shot.f_number),
        iso=shot.iso, time=shot.time, shake=shot.shake, taken=shot.taken,
    )  # fmt: skip
    scene = Scene(shot.things, stars=shot.stars, seed=shot.seed)
    return file_of(take(scene, camera), camera)


def told(shot: Shot) -> dict[str, Any]:
    """What is kept of it."""
    raw = file(shot)
    picture = read(raw)
    small = small_of(picture.luminance, sky=shot.time >= 1.0)
    return {
        "name": shot.name, "outing": shot.outing, "plan": shot.plan, "taken": shot.taken,
        "bytes": len(raw), "digest": hashlib.sha256(raw).hexdigest(),
        "f_number": shot.f_number, "focal_length_mm": shot.lens.focal_length,
        "exposure_s": shot.time, "iso": shot.iso, "body": shot.body.name, "lens": shot.lens.name,
        "focus_mm": picture.exif.focus_distance
        if picture.exif.focus_distance is not None and math.isfinite(picture.exif.focus_distance)
        else None,
        "pitch_mm": shot.body.pitch, "width": shot.body.width, "height": shot.body.height,
        "marks": MARKS.get(shot.plan, {}),
        "small": base64.b64encode(small).decode("ascii"),
        "whole": plain(whole(picture.luminance, sky=shot.time >= 1.0)),
    }  # fmt: skip


def main() -> None:
    """Write them."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--only", default="")
    parser.add_argument("--workers", type=int, default=2)
    options = parser.parse_args()
    wanted = [shot for shot in shots() if options.only in shot.name]
    with ProcessPoolExecutor(options.workers) as pool:
        frames = list(pool.map(told, wanted))
    if options.only:
        for one in frames:
            Path(f"/tmp/{one['name']}").write_bytes(base64.b64decode(one["small"]))
            print(one["name"], one["whole"]["trails"], one["bytes"])
        return
    packed = gzip.compress(json.dumps({"frames": frames}).encode(), 9, mtime=0)
    PATH.write_bytes(packed)
    print(f"{len(frames)} frames, {len(packed) // 1000} kB")


if __name__ == "__main__":
    main()
