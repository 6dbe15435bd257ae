"""People in the frame: how much of a standing one it takes in, and one who walks through a zone.

Parts of a body by the old canon of eight heads, from the crown down: the chin at one, the
breast at two, the waist at three, the middle of the body at four, the knees at six. Source: [canon]
in docs/references.md.
"""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum
from typing import Any, overload

import numpy.typing as npt

from optics.base.errors import require_positive
from optics.base.numbers import Array, plain
from optics.lens.depth import image_scale
from optics.lens.setup import Setup
from optics.zones.tiling import Zone

ADULT = 1700.0
"""mm: a standing adult, about the middle of the world's."""
HEAD = ADULT / 8
DOOR = 2000.0
"""mm: the usual height of a door leaf."""


class Framing(StrEnum):
    """Where the frame's lower edge cuts a standing adult whose crown is at its upper edge."""

    PART = "part of a face"
    CHIN = "cut at the chin"
    CHEST = "cut at the chest"
    WAIST = "cut at the waist"
    HIPS = "cut at the hips"
    THIGHS = "cut at the thighs"
    KNEES = "cut at the knees"
    SHINS = "cut at the shins"
    WHOLE = "whole"


_AT_HEADS = (
    Framing.PART, Framing.CHIN, Framing.CHEST, Framing.WAIST, Framing.HIPS, Framing.THIGHS,
    Framing.KNEES, Framing.SHINS, Framing.WHOLE,
)  # fmt: skip
"""By heads from the crown, 0 to 8, of the canon."""


def framing(height_seen: float) -> Framing:
    """What fits a frame that takes in so much height at the person, mm, above 0, up to inf.

    The nearest of the canon's cuts; whole only where all of them fit.
    """
    require_positive("height_seen", height_seen, "height seen", finite=False)
    if height_seen >= ADULT:
        return Framing.WHOLE
    heads = int(height_seen / HEAD + 0.5)
    return _AT_HEADS[min(heads, len(_AT_HEADS) - 2)]


@overload
def share_filled(
    setup: Setup, frame_height: float, real_height: float, depth: float, focus: float
) -> float: ...
@overload
def share_filled(
    setup: Setup[Any],
    frame_height: npt.ArrayLike,
    real_height: npt.ArrayLike,
    depth: npt.ArrayLike,
    focus: npt.ArrayLike,
) -> Array | float: ...
def share_filled(
    setup: Setup[Any],
    frame_height: npt.ArrayLike,
    real_height: npt.ArrayLike,
    depth: npt.ArrayLike,
    focus: npt.ArrayLike,
) -> Array | float:
    """How much of the frame's height something upright fills, the lens level, focused anywhere.

    ``size.share_of_frame`` for what is not focused on. Lengths mm, above 0; ``depth``, ``focus``:
    from the sensor, up to inf. Over 1 is larger than the frame. Broadcasts. As ``image_scale``.
    """
    require_positive("frame_height", frame_height, "height of the frame")
    require_positive("real_height", real_height, "real height")
    return plain(image_scale(setup, depth, focus) * real_height / frame_height)  # type: ignore[operator]


@dataclass(frozen=True, slots=True)
class Walk:
    """A subject coming through a zone. Times in s, 0 or more; the rest mm from the sensor.

    ``press_at``: where they are when one presses to catch them at the focus. ``middle``: half way
    through, in time too; ``press_for_middle``: where they are when one presses to catch them there.
    Both inf for a zone without end.
    """

    inside: float
    press_at: float
    late_by: float
    middle: float
    press_for_middle: float


def walk_through(zone: Zone, speed: float, lag: float = 0.0) -> Walk:
    """How long a walker who comes straight on stays in a zone, and where to press.

    ``speed``: mm/s, above 0. ``lag``: s from the wish to the exposure, 0 or more. To catch them
    at the focus, press when they are still ``speed · lag`` beyond it; ``late_by`` is how far past
    the focus they have come if one presses as they reach it, mm. inf inside a zone without end.
    """
    require_positive("speed", speed, "speed")
    require_positive("lag", lag, "lag", zero=True)
    return Walk(
        inside=(zone.far - zone.near) / speed,
        press_at=zone.focus + speed * lag,
        late_by=speed * lag,
        middle=0.5 * (zone.near + zone.far),
        press_for_middle=0.5 * (zone.near + zone.far) + speed * lag,
    )
