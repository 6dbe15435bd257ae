"""What is called sharp: circles of confusion, and the prints they are good for."""

from __future__ import annotations

from optics.errors import require_positive
from optics.formats import Format

CLASSIC_EYE_SEPARATES = 0.2
"""mm at 25 cm: the blur on paper that the classic eye just does not see. Source: [eye]."""

CLASSIC_VIEWING_DISTANCE = 250.0
"""mm: the reading distance that goes with it."""


def widest_print(circle: float, frame: Format) -> float:
    """The width of print, mm, up to which a blur stays unseen by the classic eye at 25 cm.

    ``circle``: diameter on the sensor, mm, above 0. The whole frame is printed, uncropped.
    """
    require_positive("circle", circle, "circle of confusion")
    return frame.width * CLASSIC_EYE_SEPARATES / circle
