"""The made-up camera at the bench: frames and readings with a lens whose faults nobody is told."""

from __future__ import annotations

import math
import secrets
from collections.abc import Callable

import numpy as np

from optics.lens.aperture import FULL
from optics.lens.focusing import Way
from optics.lens.kit import Fault
from simulator.body import Body
from simulator.camera import Camera
from simulator.exposing import file_of
from simulator.frame import Scene, take
from simulator.lens import Faults
from simulator.lens import Lens as MadeUp
from simulator.things import Board, Sheet
from web.bag.models import Lens
from web.bench.frames import take_in
from web.bench.models import Reading, Test, plain

_AWAY = 13.0
"""Focal lengths from the sensor to the leaning sheet: it fills the frame then."""
_BODY = Body(width=1800, height=1200)
_SMALL_BODY = Body(width=2400, height=1600, frame_width=14.4, name="Made-up body, small sensor")
_FACED = 21.0
"""Focal lengths from that sensor to the sheet held flat and sideways."""
_STOPS = (0, 1, 3)
_CLEARLY_SMALLER = 1.25
_EACH_WAY = 4
_WAYS: dict[str, tuple[float, float]] = {
    Way.LIGHT: (0.03, 0.02),
    Way.SPOT: (0.008, 0.012),
    Way.MAGNIFIED: (0.0, 0.006),
    Way.SCALE: (0.0, 0.02),
}
"""How far in front they put the focus at most, and by how much they scatter: mm at f/1.8. By the
scale it is what the scale is off."""


def luck_of(test: Test) -> np.random.Generator:
    """What is by chance in a test; the seed of its made-up camera is chosen at its first use."""
    if test.made_up is None:
        test.made_up = secrets.randbelow(2**31)
        test.save(update_fields=["made_up"])
    return np.random.default_rng(test.made_up)


def lens_with_faults(lens: Lens, seed: int) -> MadeUp:
    """A made-up copy of a lens: every fourth keeps its focus, the others shift it."""
    luck = np.random.default_rng(seed)
    widest = float(lens.widest)
    most = 0.0 if luck.random() < 0.25 else float(luck.choice((-1, 1)) * luck.uniform(0.008, 0.035))
    own = float(luck.uniform(0.002, 0.009))
    faults = (
        Fault(widest, own, 0.0),
        Fault(2 * widest, own * 0.7, most * 0.75),
        Fault(4 * widest, own * 0.6, most),
    )
    corner = float(luck.uniform(0, 0.01))
    infinity = float(luck.choice((-1, 1)) * luck.uniform(0.02, 0.12))
    scale = float(luck.uniform(-0.06, 0.06))
    return MadeUp(
        float(lens.shortest_mm), widest, float(lens.smallest_or_assumed.value),
        Faults(faults, corner=corner, infinity=infinity, scale=scale), lens.name,
    )  # fmt: skip


def _stops(lens: Lens, which: tuple[int, ...]) -> tuple[float, ...]:
    widest, smallest = float(lens.widest), float(lens.smallest_or_assumed.value)
    stops = FULL.from_to(widest * _CLEARLY_SMALLER, smallest)
    return (widest, *(stops[at] for at in which if at < len(stops)))


def shift_stops(lens: Lens) -> tuple[float, ...]:
    """The apertures that it takes frames of the leaning sheet at: the widest, and three of the full
    stops that follow."""
    return _stops(lens, _STOPS)


def sharpness_stops(lens: Lens) -> tuple[float, ...]:
    """The apertures that it takes frames of the flat sheet at: the widest, and full stops."""
    return _stops(lens, (0, 1, 2, 3, 4, 5))


def shift_frame(lens: Lens, seed: int, f_number: float) -> tuple[str, bytes]:
    """A frame of the leaning sheet, focused wide open on its middle: its name and its file."""
    made = lens_with_faults(lens, seed)
    distance = _AWAY * made.focal_length
    camera = Camera(made, _BODY, f_number, made.stands_for(distance), iso=200)
    scene = Scene((Sheet(distance), Board(math.inf)), seed=seed + round(10 * f_number))
    return f"made-up-f{f_number:g}.jpg", file_of(take(scene, camera), camera)


def sharpness_frame(lens: Lens, seed: int, f_number: float) -> tuple[str, bytes]:
    """A frame of the flat sheet, focused at the aperture that it is taken at."""
    made = lens_with_faults(lens, seed)
    distance = _FACED * made.focal_length
    camera = Camera(made, _SMALL_BODY, f_number, made.stands_for(distance, f_number), iso=200)
    sheet = Sheet(distance, lean=0.0, roll=math.pi / 2)
    scene = Scene((sheet, Board(math.inf)), seed=seed + round(10 * f_number))
    return f"made-up-flat-f{f_number:g}.jpg", file_of(take(scene, camera), camera)


def way_frame(lens: Lens, seed: int, way: str, count: int) -> tuple[str, bytes]:
    """A frame of the leaning sheet wide open, focused once more by a way of focusing."""
    made = lens_with_faults(lens, seed)
    luck = np.random.default_rng((seed, list(_WAYS).index(way)))
    per = made.widest / 1.8
    bias, scatter = _WAYS[way]
    offs = float(luck.uniform(-bias, bias)) + luck.normal(0.0, scatter, _EACH_WAY)
    distance = _AWAY * made.focal_length
    stands = made.stands_at(distance) if way == Way.SCALE else made.stands_for(distance)
    ring = stands + float(offs[count % _EACH_WAY]) * per / made.focal_length
    camera = Camera(made, _BODY, made.widest, ring, iso=200)
    scene = Scene((Sheet(distance), Board(math.inf)), seed=seed + 100 * count)
    return f"made-up-{way}-{count + 1}.jpg", file_of(take(scene, camera), camera)


def next_way(test: Test) -> tuple[str, int] | None:
    """The way and the how-manieth frame that comes next; None where it has all."""
    have = list(test.frames.values_list("way", flat=True))
    return next(((way, have.count(way)) for way in _WAYS if have.count(way) < _EACH_WAY), None)


def take_way(test: Test) -> bool:
    """Take the next frame of a test of ways of focusing; whether there was one."""
    luck_of(test)
    if (coming := next_way(test)) is None:
        return False
    assert test.made_up is not None
    name, raw = way_frame(test.lens, test.made_up, *coming)
    take_in(test, name, raw, way=coming[0])
    return True


Takes = Callable[[Lens, int, float], tuple[str, bytes]]


def takes(frame: Takes, stops: Callable[[Lens], tuple[float, ...]]) -> Callable[[Test], bool]:
    """Taking the next frame of a test by apertures: whether there was one."""

    def take_next(test: Test) -> bool:
        luck_of(test)
        if (f_number := _next_stop(test, stops)) is None:
            return False
        assert test.made_up is not None
        name, raw = frame(test.lens, test.made_up, f_number)
        take_in(test, name, raw)
        return True

    return take_next


def next_of(stops: Callable[[Lens], tuple[float, ...]]) -> Callable[[Test], str | None]:
    """Which aperture comes next, as it is said; None where the camera has all."""

    def coming(test: Test) -> str | None:
        f_number = _next_stop(test, stops)
        return None if f_number is None else f"f/{f_number:g}"

    return coming


def _next_stop(test: Test, stops: Callable[[Lens], tuple[float, ...]]) -> float | None:
    have = {round(f.f_number, 2) for f in test.frames.defer("small", "seen") if f.f_number}
    return next((n for n in stops(test.lens) if round(n, 2) not in have), None)


Reads = Callable[[Lens, np.random.Generator, int, MadeUp], dict[str, object]]


def readings(
    reads: Reads, count: int
) -> tuple[Callable[[Test], bool], Callable[[Test], str | None]]:
    """Taking the next reading of a test, and what that will be: both for a ``Kind``."""

    def take_next(test: Test) -> bool:
        luck_of(test)
        done = test.readings.count()
        if done >= count:
            return False
        assert test.made_up is not None
        made = lens_with_faults(test.lens, test.made_up)
        luck = np.random.default_rng((test.made_up, done))
        Reading.objects.create(test=test, values=plain(reads(test.lens, luck, done, made)))
        return True

    def coming(test: Test) -> str | None:
        done = test.readings.count()
        return None if done >= count else f"reading {done + 1} of {count}"

    return take_next, coming
