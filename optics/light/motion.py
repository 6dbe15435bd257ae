"""Blur of things that move, and of hands that do, in the same equivalent disc as defocus.

A subject that moves across by a length smears its picture by that length times the image scale. One
that comes straight at the lens grows: a point at image height h from the axis goes outwards by h
times the share by which its depth changes. A streak of length L is as soft as a disc of 1.1686 L
(``stars.STREAK_AS_DISC``), so that motion and defocus stand on one scale. What happens at once,
smear and defocus, adds about in quadrature.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

from optics.base.errors import OutOfRange, require_positive
from optics.lens.cone import Cone
from optics.lens.conjugates import focus_of, magnification
from optics.lens.depth import image_scale
from optics.lens.setup import Setup
from optics.sky.star_drift import STREAK_AS_DISC


def streak_as_disc(length: float) -> float:
    """The disc, mm, that is as soft as a streak of that length, mm."""
    require_positive("length", length, "length of the streak", zero=True)
    return STREAK_AS_DISC * length


def disc_as_streak(disc: float) -> float:
    """The streak, mm, that is as soft as a disc of that diameter, mm."""
    require_positive("disc", disc, "blur", zero=True)
    return disc / STREAK_AS_DISC


def crossing(setup: Setup, subject: float, speed: float, seconds: float, focus: float) -> float:
    """The length of the streak of a subject that crosses at right angles to the axis, mm.

    ``subject``, ``focus``: mm from the sensor. ``speed``: mm/s, 0 or more. ``seconds``: above 0.
    Raises as ``depth.blur_disc``.
    """
    require_positive("speed", speed, "speed", zero=True)
    require_positive("seconds", seconds, "time")
    return image_scale(setup, subject, focus) * speed * seconds


def approaching(
    setup: Setup, subject: float, speed: float, seconds: float, image_height: float, focus: float
) -> float:
    """The length of the streak of a subject that comes straight at the lens, mm.

    ``image_height``: how far from the middle of the picture its edge stands at the start, mm, 0 or
    more. It may not reach the lens: OutOfRange. As ``crossing``.
    """
    require_positive("speed", speed, "speed", zero=True)
    require_positive("seconds", seconds, "time")
    require_positive("image_height", image_height, "height in the picture", zero=True)
    before = image_scale(setup, subject, focus)
    if before == 0:
        return 0.0
    # x, the distance from the entrance pupil, is q ÷ scale: the scale grows as x shrinks.
    end = subject - speed * seconds
    if end <= 0:
        raise OutOfRange("speed", speed, "In that time it would have reached the lens.")
    after = image_scale(setup, end, focus)
    return image_height * (after / before - 1.0)


def longest_approaching(
    setup: Setup, subject: float, speed: float, image_height: float, focus: float
) -> float:
    """The longest time, s, for which something coming straight on is no softer than the standard.

    From ``approaching``: with L the streak allowed and h the height in the picture, the distance
    from the pupil may shrink by L/(h + L) of itself. inf in the middle of the picture, for what
    stands still, and at infinity; its own defocus is another matter. As ``approaching``.
    """
    require_positive("speed", speed, "speed", zero=True)
    require_positive("image_height", image_height, "height in the picture", zero=True)
    scale = image_scale(setup, subject, focus)
    if scale == 0 or speed == 0 or image_height == 0:
        return math.inf
    allowed = disc_as_streak(setup.coc)
    cone = Cone.at(setup, magnification(setup, float(focus)))
    return float(cone.reach / scale * allowed / (image_height + allowed) / speed)


@dataclass(frozen=True, slots=True)
class Times:
    """A range of exposure times, s. ``longest`` keeps still; ``shortest`` is enough to smear."""

    shortest: float
    longest: float


def longest_still(streak_per_second: float, coc: float) -> float:
    """The longest time, s, for which a streak is no softer than the standard; inf if none grows.

    ``streak_per_second``: mm/s on the sensor, 0 or more. ``coc``: mm, above 0.
    """
    require_positive("streak_per_second", streak_per_second, "speed on the sensor", zero=True)
    require_positive("coc", coc, "circle of confusion")
    return disc_as_streak(coc) / streak_per_second if streak_per_second > 0 else math.inf


def times_to_smear(streak_per_second: float, least: float, most: float) -> Times:
    """The range of times that make a wished-for smear, as for water.

    ``least`` ≤ ``most``: how long the streak should be, mm on the sensor, above 0. inf for what
    does not move. Raises NotANumber, OutOfRange.
    """
    require_positive("streak_per_second", streak_per_second, "speed on the sensor", zero=True)
    require_positive("least", least, "shortest smear")
    require_positive("most", most, "longest smear")
    if least > most:
        raise OutOfRange("least", least, "The shortest smear is longer than the longest.")
    if streak_per_second == 0:
        return Times(math.inf, math.inf)
    return Times(least / streak_per_second, most / streak_per_second)


def per_second(setup: Setup, subject: float, speed: float, focus: float) -> float:
    """How fast a crossing subject moves on the sensor, mm/s. As ``crossing``."""
    return crossing(setup, subject, speed, 1.0, focus)


def hand_held(
    focal_length: float,
    crop_factor: float = 1.0,
    stabiliser_stops: float = 0.0,
    factor: float = 1.0,
) -> float:
    """The longest time to hold by hand, s, by the stated rule 1 ÷ (factor × equivalent length).

    ``factor``: 1 is the old rule of one over the focal length, made for small prints of film; 2 for
    looking closely; the user's own after a test. ``crop_factor``: full frame's diagonal ÷ this
    format's. ``stabiliser_stops``: what it is claimed, better tested, to give, 0 or more. A rule
    about hands, not about optics. Source: [handheld] in docs/references.md.
    """
    require_positive("focal_length", focal_length, "focal length")
    require_positive("crop_factor", crop_factor, "crop factor")
    require_positive("factor", factor, "factor")
    require_positive("stabiliser_stops", stabiliser_stops, "stops of the stabiliser", zero=True)
    return float(2.0**stabiliser_stops / (factor * focal_length * crop_factor))


def together(*discs: float) -> float:
    """Blurs of different origin as one equivalent disc, mm: their squares added.

    Good to about 3 % for two discs alike, better where one rules.
    """
    for disc in discs:
        require_positive("disc", disc, "blur", zero=True)
    return math.hypot(*discs)


def distance_where_still(setup: Setup, speed: float, seconds: float) -> float:
    """How near something crossing may come and be no softer than the standard, the lens focused on
    it; mm from the sensor, 4f + hiatus at the least.

    The image scale there is coc ÷ (1.1686 · speed · seconds). As ``crossing``.
    """
    require_positive("speed", speed, "speed")
    require_positive("seconds", seconds, "time")
    scale = disc_as_streak(setup.coc) / (speed * seconds)
    return focus_of(setup, min(scale, 1.0))
