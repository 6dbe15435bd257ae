"""The drawings of an answer, from core results to shapes."""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import replace

import numpy as np

from drawing import bands, sightline, streaks
from drawing.scale import DistanceScale
from optics import depth, stars, units
from web.sky.foreground import Foreground
from web.sky.usecases import Answer


def sightlines(answer: Answer, sizes: Iterable[sightline.Size]) -> tuple[sightline.Sightline, ...]:
    """Blur over distance with the ring at the answer: infinity is the mark that counts."""
    setup, here = answer.sky.setup, answer.here
    held = depth.limits(setup, here.focus)
    band = None if held.empty else sightline.Interval(float(held.near), float(held.far))
    ring = here.focus
    shown = [ring, math.inf, 0.5 * (float(held.near) if band else ring)]
    if math.isinf(min(shown)):
        shown.append(100.0 * float(setup.focal_length))
    fitted = sightline.fit(sightline.WIDE, shown)
    circles = here.star / float(setup.coc)
    word = "holds" if circles <= 1 + 1e-9 else "soft"
    return tuple(
        sightline.draw(
            size,
            DistanceScale(fitted.near, fitted.far, size.left, size.right),
            answer.sky.system,
            ring=ring,
            ring_label=f"ring at {units.write(ring, answer.sky.system, here.figures)}",
            arms=_arms(answer, DistanceScale(fitted.near, fitted.far, 0.0, 1.0)),
            band=band,
            window=sightline.Interval(answer.begins, math.inf) if answer.holds else None,
            subjects=[sightline.Subject("★", math.inf, circles, word)],
        )
        for size in sizes
    )


def _arms(answer: Answer, scale: DistanceScale) -> sightline.Arms:
    setup, focus = answer.sky.setup, answer.here.focus
    coc = float(setup.coc)
    geometric = replace(setup, coc=coc * sightline.BLUR_SHOWN, diffraction=False)
    shown = depth.limits(geometric, focus)
    depths = sightline.sample_depths(
        scale, float(shown.near), float(shown.far), focus, sightline.ROUNDED
    )
    seen = np.array(sorted({max(d, 2.05 * float(setup.focal_length)) for d in depths}))
    blurs = np.asarray(depth.total_blur(setup, seen, focus)) / coc
    return sightline.Arms(tuple(seen.tolist()), tuple(blurs.tolist()))


def streak_patches(answer: Answer) -> streaks.Streaks:
    """Stars in the middle, at the corner where they go farthest, and nearest the pole."""
    sky, f = answer.sky, float(answer.sky.setup.focal_length)
    unit, r = sky.pitch or float(sky.setup.coc), answer.sky.corner
    angles = np.linspace(0.0, 2.0 * math.pi, _TRIED, endpoint=False)
    chords = np.asarray(
        stars.drift(f, answer.seconds, sky.turned_at, r * np.cos(angles), r * np.sin(angles))
    )
    worst = float(angles[int(np.argmax(chords))])
    pole = math.copysign(r, sky.turned_at)
    traces = []
    for name, x, y in (
        ("in the middle", 0.0, 0.0),
        ("at the worst corner", r * math.cos(worst), r * math.sin(worst)),
        ("nearest the pole", 0.0, pole),
    ):
        end = stars.where_after(f, answer.seconds, sky.turned_at, x, y)
        dx, dy = (end.x - x, end.y - y) if math.isfinite(end.x) else (1e6, 0.0)
        traces.append(streaks.Trace(name, dx / unit, dy / unit, answer.here.star / unit))
    return streaks.draw(traces)


_TRIED = 120


_BANDS = (760.0, 358.0)


def frames_compared(
    found: Foreground, system: str
) -> tuple[bands.BandsPicture, bands.BandsPicture]:
    """What each frame has sharp, a row each on one axis; for a wide screen and for a narrow one."""
    rows = [
        bands.Stretch(
            f"{one.name}, {units.write(one.focus, system, one.figures)}",
            f"f/{units.significant(one.f_number, 3):g}",
            one.near,
            one.far,
            one.focus,
        )
        for one in found.frames
    ]
    wide, narrow = _BANDS
    return bands.draw(rows, wide, system), bands.draw(rows, narrow, system, stacked=True)
