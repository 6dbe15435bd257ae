"""What is in hand, in the words that stand at the top of a card."""

from __future__ import annotations

from web.bag.standards import Standard
from web.ui.templatetags import format

TESTED = "its tests counted"
"""Said of a lens whose tests correct what is printed."""


def gear(
    lens: str | None, body: str | None, focal_length: float, *, tested: bool = False
) -> tuple[str, ...]:
    """Lens, focal length in mm, body: those that are known; and whether the lens's tests count."""
    length = format.millimetres(focal_length)
    named = lens is not None and length in lens
    said = (lens, None if named else length, body, TESTED if tested else None)
    return tuple(one for one in said if one)


def sharp(standard: Standard | None, coc: float, system: str) -> str:
    """What is called sharp: the circle in mm, and what it is made for, where it is a named one."""
    circle = f"circle {format.millimetres(coc)}"
    if standard is None:
        return circle
    return f"{standard.name}, {circle}"
