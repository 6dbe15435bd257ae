"""How much of a standing person a frame takes in, and so how far away they are.

Shares of the body's height by the old canon of eight heads: the head an eighth, from the crown to
the middle of the breast a quarter, to the middle of the body a half. Source: [canon] in
docs/references.md.
"""

from __future__ import annotations

from enum import StrEnum

import numpy.typing as npt

from optics.depth import image_scale
from optics.errors import require_positive
from optics.lens import Array, plain
from optics.setup import Setup

ADULT = 1700.0
"""mm: a standing adult, about the middle of the world's."""
HEAD, BUST, HALF = ADULT / 8, ADULT / 4, ADULT / 2
DOOR = 2000.0
"""mm: the usual height of a door leaf."""


class Framing(StrEnum):
    """The most of a standing adult that fits the frame's height."""

    PART = "part of a face"
    HEAD = "head"
    BUST = "bust"
    HALF = "half"
    WHOLE = "whole"


_FITS = ((ADULT, Framing.WHOLE), (HALF, Framing.HALF), (BUST, Framing.BUST), (HEAD, Framing.HEAD))


def framing(height_seen: float) -> Framing:
    """What fits a frame that takes in so much height at the person, mm, above 0, up to inf."""
    require_positive("height_seen", height_seen, "height seen", finite=False)
    return next((said for least, said in _FITS if height_seen >= least), Framing.PART)


def share_filled(
    setup: Setup,
    frame_height: npt.ArrayLike,
    real_height: npt.ArrayLike,
    depth: npt.ArrayLike,
    focus: npt.ArrayLike,
) -> Array | float:
    """How much of the frame's height something upright fills, the lens level, focused anywhere.

    ``frame.share_of_frame`` for what is not focused on. Lengths mm, above 0; ``depth``, ``focus``:
    from the sensor, up to inf. Over 1 is larger than the frame. Broadcasts. As ``image_scale``.
    """
    require_positive("frame_height", frame_height, "height of the frame")
    require_positive("real_height", real_height, "real height")
    return plain(image_scale(setup, depth, focus) * real_height / frame_height)  # type: ignore[operator]
