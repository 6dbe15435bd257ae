"""The drawings of an answer, from core results to shapes."""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import replace
from itertools import pairwise

import numpy as np

from drawing import sightline, viewfinder
from drawing.scale import DistanceScale
from optics.base import units
from optics.lens import depth
from optics.lens.cone import nearest_subject
from optics.scene.answer import Answer
from web.planner.axis import Axis
from web.view.shown import interest
from web.view.standin import Box

FINDER_LONG, FINDER_SHORT = 360.0, 240.0
"""How wide the finder's picture is drawn, held level and held upright."""


def sightlines(
    answer: Answer, sizes: Iterable[sightline.Size], axis: Axis | None = None
) -> tuple[sightline.Sightline, ...]:
    """The sightline in each of the sizes. ``axis``: keep these ends, as while dragging."""
    scene = answer.scene
    subjects = [
        sightline.Subject(v.mark.letter, v.mark.depth, v.circles, v.word) for v in answer.verdicts
    ]
    ring = answer.ring.focus
    if axis is None:
        fitted = sightline.fit(sightline.WIDE, interest(answer))
        axis = Axis(fitted.near, fitted.far)
    near, far = axis.near, axis.far
    window = answer.window
    arms = _arms(answer, DistanceScale(near, far, 0.0, 1.0))
    return tuple(
        sightline.draw(
            size,
            DistanceScale(near, far, size.left, size.right),
            scene.system,
            ring=ring,
            ring_label=f"ring at {units.write(ring, scene.system, answer.ring.figures)}",
            arms=arms,
            band=None
            if answer.exact.empty
            else sightline.Interval(float(answer.exact.near), float(answer.exact.far)),
            window=sightline.Interval(window.near, window.far) if window else None,
            subjects=subjects,
            also=[other.focus for other in answer.more_frames],
        )
        for size in sizes
    )


def finder(answer: Answer, box: Box | None) -> viewfinder.Viewfinder | None:
    """The picture as the finder shows it; None where the camera's height is not said."""
    scene, sharp = answer.scene, answer.exact
    if scene.camera is None:
        return None
    return viewfinder.draw(
        FINDER_LONG if scene.camera.frame_width > scene.camera.frame_height else FINDER_SHORT,
        scene.camera,
        scene.system,
        focus=answer.ring.focus,
        near=math.nan if sharp.empty else float(sharp.near),
        far=math.nan if sharp.empty else float(sharp.far),
        marks=[
            viewfinder.Standing(v.mark.letter, v.mark.depth, v.word, v.mark.rise, v.mark.at)
            for v in answer.verdicts
        ],
        also=[other.focus for other in answer.more_frames],
        box=None if box is None else (box.left, box.bottom, box.width, box.height),
    )


def _arms(answer: Answer, scale: DistanceScale) -> sightline.Arms:
    """The blur over distance; of several frames, that of the one which has it sharpest."""
    setup = answer.scene.setup
    coc = float(setup.coc)
    geometric = replace(setup, coc=coc * sightline.BLUR_SHOWN, diffraction=False)
    pieces = sightline.ROUNDED if setup.diffraction else sightline.STRAIGHT
    focuses = [shot.focus for shot in answer.shots]
    shown = [depth.limits(geometric, focus) for focus in focuses]
    near, far = float(shown[0].near), float(shown[-1].far)
    depths: set[float] = set()
    for focus in focuses:
        depths.update(sightline.sample_depths(scale, near, far, focus, pieces))
    for one, other in pairwise(focuses):  # where one frame takes over from the next
        depths.add(2.0 / (1.0 / one + 1.0 / other))
    least = nearest_subject(setup)
    seen = np.array(sorted(max(d, least) for d in depths))
    blurs = [np.asarray(depth.counted_blur(setup, seen, focus)) for focus in focuses]
    return sightline.Arms(tuple(seen.tolist()), tuple((np.min(blurs, axis=0) / coc).tolist()))
