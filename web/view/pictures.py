"""The drawings of an answer, from core results to shapes."""

from __future__ import annotations

import math
from collections.abc import Iterable
from itertools import pairwise

from drawing import sightline, viewfinder
from drawing.arms import arms
from drawing.scale import DistanceScale
from optics.base import settable
from optics.lens import depth
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
        sightline.Subject(v.mark.letter, v.mark.depth, v.circles, v.shown) for v in answer.verdicts
    ]
    ring = answer.ring.focus
    if axis is None:
        fitted = sightline.fit(sightline.WIDE, interest(answer))
        axis = Axis(fitted.near, fitted.far)
    near, far = axis.near, axis.far
    focuses = [shot.focus for shot in answer.shots]
    blur = arms(
        scene.setup,
        DistanceScale(near, far, 0.0, 1.0),
        focuses,
        sightline.BLUR_SHOWN,
        [2.0 / (1.0 / one + 1.0 / other) for one, other in pairwise(focuses)],
        through=True,
    )
    return tuple(
        sightline.draw(
            size,
            DistanceScale(near, far, size.left, size.right),
            scene.system,
            ring=ring,
            ring_label=f"ring at {settable.written(ring, scene.system)}",
            arms=blur,
            band=answer.sharp,
            window=answer.window,
            subjects=subjects,
            also=[other.focus for other in answer.more_frames],
        )
        for size in sizes
    )


def finder(answer: Answer, box: Box | None) -> viewfinder.Viewfinder | None:
    """The picture as the finder shows it; None where the camera's height is not said."""
    scene, sharp = answer.scene, answer.sharp
    if scene.camera is None:
        return None
    return viewfinder.draw(
        FINDER_LONG if scene.camera.frame_width > scene.camera.frame_height else FINDER_SHORT,
        scene.camera,
        scene.system,
        focus=depth.sharp_distance(scene.setup, answer.ring.focus),
        near=sharp.near if sharp else math.nan,
        far=sharp.far if sharp else math.nan,
        marks=[
            viewfinder.Standing(v.mark.letter, v.mark.depth, v.shown, v.mark.rise, v.mark.at)
            for v in answer.verdicts
        ],
        also=[depth.sharp_distance(scene.setup, other.focus) for other in answer.more_frames],
        box=None if box is None else (box.left, box.bottom, box.width, box.height),
    )
