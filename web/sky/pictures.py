"""The drawings of an answer, from core results to shapes."""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import dataclass

import numpy as np

from drawing import bands, kept_frame, sightline, sky_frame, streaks
from drawing import same_scene as same_scenes
from drawing.arms import arms
from drawing.scale import DistanceScale
from optics.base import settable, units
from optics.sky import fractions, star_drift, star_field
from optics.sky.projection import places, rim
from optics.sky.rotation import Place
from web.planner.axis import Axis
from web.sky.foreground import Foreground
from web.sky.skies import FOUR_FIFTHS, Counts, Sky
from web.sky.usecases import FOR_EVER, Answer


def sightlines(
    answer: Answer, sizes: Iterable[sightline.Size], axis: Axis | None = None
) -> tuple[sightline.Sightline, ...]:
    """Blur over distance with the ring at the answer: infinity is the mark that counts.

    ``axis``: keep these ends, as while dragging.
    """
    setup, here = answer.sky.setup, answer.here
    ring = here.focus
    shown = [ring, math.inf, 0.5 * (here.held.near if here.held else ring)]
    if math.isinf(min(shown)):
        shown.append(100.0 * setup.focal_length)
    if axis is None:
        fitted = sightline.fit(sightline.WIDE, shown)
        axis = Axis(fitted.near, fitted.far)
    circles = here.star / setup.coc
    window = None
    if answer.holds:
        window = settable.Span(settable.up(answer.begins, answer.sky.system), math.inf)
    word = "holds" if circles <= 1 + 1e-9 else "soft"
    return tuple(
        sightline.draw(
            size,
            DistanceScale(axis.near, axis.far, size.left, size.right),
            answer.sky.system,
            ring=ring,
            ring_label=f"ring at {settable.written(ring, answer.sky.system)}",
            arms=arms(
                answer.sky.setup,
                DistanceScale(axis.near, axis.far, 0.0, 1.0),
                [answer.here.focus],
                sightline.BLUR_SHOWN,
            ),
            band=here.held,
            window=window,
            subjects=[sightline.Subject("★", math.inf, circles, word)],
        )
        for size in sizes
    )


def streak_patches(answer: Answer) -> streaks.Streaks:
    """Stars in the middle, where they go farthest, and where least, as the frame is held."""
    sky, f = answer.sky, answer.sky.setup.focal_length
    unit = sky.unit_length
    traces = []
    shown = answer.streaks if sky.placed else (answer.centre, answer.corner)
    for streak in shown:
        start = streak.start
        end = star_drift.where_after(
            f, sky.turns(answer.seconds), sky.turned_at, start.x, start.y, sky.projection
        )
        dx, dy = _GONE, 0.0
        if math.isfinite(end.x):
            way = sky.part.held(Place(end.x - start.x, end.y - start.y))
            dx, dy = way.x / unit, way.y / unit
        name = _SHORT[streak.letter]
        if streak.letter == "b" and not sky.straight:
            name = "fastest"  # which need not be in a corner
        if sky.placed:
            name = f"{streak.letter}: {name}"
        traces.append(streaks.Trace(name, dx, dy, answer.here.star / unit))
    if not sky.placed:  # how it is held is not known, nor where that star is: only how far it goes
        most = next(one for one in answer.parts if one.part is Counts.MOST)
        gone = min(most.length / unit, _GONE)
        trace = streaks.Trace("four fifths", gone, 0.0, answer.here.star / unit)
        traces.insert(1, trace)
    return streaks.draw(traces)


def kept(answer: Answer) -> kept_frame.KeptFrame:
    """Where in the frame stars stay within what is allowed, held the worst way if nobody said."""
    sky, f = answer.sky, answer.sky.setup.focal_length
    seconds = sky.turns(answer.seconds)
    held = fractions.held_worst(f, seconds, sky.turned_at, sky.frame, FOUR_FIFTHS)
    cells = fractions.over_frame(f, seconds, sky.turned_at, held, _CELLS)
    return kept_frame.draw(held.width, held.height, cells.drift, sky.trail)


_CELLS = 56
"""Along the frame's longer side: finer than the drawing's hatching."""
_SHORT = {"a": "middle", "b": "worst corner", "c": "least"}
_GONE = 1e6
"""Pixels, as good as for ever: the star has left the view."""
_ACROSS, _STEPS = 9, 13


@dataclass(frozen=True, slots=True)
class FramePicture:
    """The frame under the sky, and the time in which its stars go so far, s."""

    drawn: sky_frame.SkyFrame
    seconds: float


def frame_under_sky(answer: Answer) -> FramePicture | None:
    """The ways of stars over the frame; None where nobody said how it stands in the sky."""
    sky, f = answer.sky, answer.sky.setup.focal_length
    if not sky.placed:
        return None
    (width, height), part, declination = sky.sides, sky.part, sky.turned_at
    # At the pace of the worst star while it is still in view.
    cell_over_trail = max(width, height) / _ACROSS / sky.trail
    seconds = sky_frame.telling_time(cell_over_trail * min(answer.corner.longest, FOR_EVER))
    times = np.linspace(0.0, seconds, _STEPS)
    starts = [part.in_sky(Place(*at)) for at in sky_frame.starts(width, height, _ACROSS)]
    over = star_field.trails(
        f,
        times,
        declination,
        [start.x for start in starts],
        [start.y for start in starts],
        sky.projection,
    )
    rights, ups = part.held_all(over.x, over.y)
    ways = [
        [(x, y) for x, y in zip(right, up, strict=True) if math.isfinite(x)]
        for right, up in zip(rights.tolist(), ups.tolist(), strict=True)
    ]
    pole = star_field.pole_at(f, declination, sky.projection)
    turning = None if pole is None else part.held(pole)
    named = []
    for streak in answer.streaks:
        place = part.held(streak.start)
        named.append(sky_frame.Named(streak.letter, place.x, place.y))
    drawn = sky_frame.draw(
        width,
        height,
        ways,
        horizon=sky.horizon,
        named=named,
        pole=None if turning is None else (turning.x, turning.y),
        bent=() if sky.straight else _bent_horizon(sky),
        rim=rim(sky.projection, f),
    )
    return FramePicture(drawn, seconds)


def _bent_horizon(sky: Sky) -> list[tuple[float, float]]:
    """The horizon in the picture of a fisheye, mm right and up, from left to right."""
    assert sky.aim is not None
    around = np.linspace(-math.pi / 2, math.pi / 2, 61)
    f, altitude = sky.setup.focal_length, sky.aim.altitude
    right, up = places(
        sky.projection,
        np.asarray(f),
        np.sin(around),
        -np.cos(around) * math.sin(altitude),
        np.cos(around) * math.cos(altitude),
    )
    return list(zip(right.tolist(), up.tolist(), strict=True))


_BANDS = (760.0, 358.0)


def margins_compared(
    answer: Answer, per: float, unit: str
) -> tuple[bands.BandsPicture, bands.BandsPicture]:
    """What each margin has sharp, and how wide a star is then; wide and narrow."""
    rows = [
        bands.Stretch(
            f"{units.significant(one.margin, 3):g} ×, "
            f"{settable.written(one.focus, answer.sky.system)}",
            f"a star is {units.significant(one.star / per, 2):g} {unit} wide",
            one.held,
            one.focus,
        )
        for one in answer.margins
    ]
    wide, narrow = _BANDS
    system = answer.sky.system
    return bands.draw(rows, wide, system), bands.draw(rows, narrow, system, stacked=True)


def same_scene(answer: Answer, found: Foreground) -> same_scenes.SameScene:
    """A star and the foreground's edge in each of the frames, pixel by pixel."""
    unit = answer.sky.unit_length
    return same_scenes.draw(
        [
            same_scenes.Shot(
                one.name,
                one.star / unit,
                one.drift / unit,
                one.fore / unit,
                soft=not one.stars_hold,
            )
            for one in found.shown
        ]
    )


def frames_compared(found: Foreground, system: str) -> bands.BandsPicture:
    """What each frame has sharp, a row each on one axis."""
    rows = [
        bands.Stretch(
            f"{one.name}, {settable.written(one.focus, system)}",
            f"f/{units.significant(one.f_number, 3):g}",
            one.held,
            one.focus,
        )
        for one in found.shown
    ]
    return bands.draw(rows, _BANDS[1], system, stacked=True)
