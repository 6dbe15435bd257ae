"""What a drawing of an answer must show, and an example of its conversion."""

from __future__ import annotations

import math
from dataclasses import replace

from optics.base.errors import OpticsError
from optics.base.settable import Span, inside
from optics.base.systems import BY_KEY
from optics.lens import depth
from optics.lens.conjugates import magnification
from optics.scene import frame
from optics.scene.answer import Answer
from web.view.reading import Reading

USUAL_NEAR_IN_FOCAL_LENGTHS = 40.0
LEGIBLE_BAND = 0.03
"""A band narrower than this share of the axis cannot be read, and the axis is fitted to it."""


def example_along(answer: Answer) -> float:
    """How far along the ground the working has its example, mm: 3 m, or what rings carry there."""
    return min(BY_KEY[answer.scene.system].ring, key=lambda mark: abs(mark - 3000.0))


def example_depth(answer: Answer) -> float | None:
    """The depth of level ground there, mm. None where that is not ahead of the lens, or nobody said
    where it stands."""
    if answer.scene.camera is None:
        return None
    try:
        level = replace(answer.scene.camera, slope=0.0)
        return frame.depth_along_ground(level, example_along(answer))
    except OpticsError:
        return None


def textbook_hyperfocal(answer: Answer) -> float:
    """f² ÷ (N·c) + f, from the lens: what most tables print. mm."""
    setup = answer.scene.setup
    f = setup.focal_length
    return f * f / (setup.f_number * setup.coc) + f


def lens_ahead(answer: Answer) -> float:
    """How far in front of the sensor textbooks begin to measure: at the lens, mm."""
    setup = answer.scene.setup
    return setup.hiatus + setup.focal_length * (1 + magnification(setup, answer.ring.focus))


def textbook_limits(answer: Answer) -> Span | None:
    """What is sharp as tables that measure from the lens print it, rounded inwards; None where that
    reads as it does from the sensor, or nothing is sharp."""
    sharp, ahead = answer.sharp, lens_ahead(answer)
    if sharp is None or answer.exact.near <= ahead:
        return None
    system = answer.scene.system
    from_lens = inside(answer.exact.near - ahead, answer.exact.far - ahead, system)
    return None if (from_lens.near, from_lens.far) == (sharp.near, sharp.far) else from_lens


def standard_words(reading: Reading) -> str:
    """The standard in hand in its own terms; empty where it is no named one."""
    standard = reading.in_use.standard
    return "" if standard is None else standard.in_words(reading.hand.system)


def standard_pixels(answer: Answer) -> float | None:
    """The circle of confusion in pixels; None without pixels."""
    return answer.scene.look.pixels(answer.scene.setup.coc)


def interest(result: Answer) -> tuple[float, ...]:
    """The distances a drawing of this answer must show, mm, one of them finite at least. Turning
    the ring changes none of them while the ring stays in the picture, so that nothing moves that
    the user did not."""
    found = _interest(result)
    if min(found) < math.inf:
        return found
    return (USUAL_NEAR_IN_FOCAL_LENGTHS * result.scene.setup.focal_length, *found)


def _interest(result: Answer) -> tuple[float, ...]:
    setup, focus = result.scene.setup, result.computed.focus
    limits = depth.limits(setup, focus) if result.by_hand else result.exact
    held = () if limits.empty else (limits.near, limits.far)
    if limits.empty:  # nothing to see: a usual stretch of the axis
        depths = [mark.depth for mark in result.scene.marks]
        usual = USUAL_NEAR_IN_FOCAL_LENGTHS * setup.focal_length
        held = (min(depths, default=usual) * 0.8, max(depths, default=math.inf) * 1.5)
    fixed = (focus, *held, *(mark.depth for mark in result.scene.marks))
    ring = result.ring.focus
    nearest, farthest = min(fixed), max(fixed)
    shown = nearest * 0.9 <= ring <= farthest * 1.1
    if result.scene.marks:
        return fixed if shown else (*fixed, ring)
    if result.exact.empty:
        return fixed if shown else (*fixed, ring)
    near, far = result.exact.near, result.exact.far
    legible = 1 / near - 1 / far > LEGIBLE_BAND * (1 / min(nearest, ring) - 1 / farthest)
    if not legible:
        return (ring, near, far)
    return fixed if shown else (*fixed, ring, near)
