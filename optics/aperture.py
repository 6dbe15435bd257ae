"""F-numbers: the ones engraved on lenses, and the ones a scene asks for.

Stops are exact powers of √2, f-numbers of ``engraved`` are the rounded names that makers agree
on ([iso517] in docs/references.md). The f-number computed with is always the number typed.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

from optics.depth import focus_window
from optics.errors import require_positive
from optics.placement import between, worst_blur
from optics.setup import Setup

ENGRAVED_THIRDS = (
    0.7, 0.8, 0.9, 1, 1.1, 1.2, 1.4, 1.6, 1.8, 2, 2.2, 2.5, 2.8, 3.2, 3.5, 4, 4.5, 5, 5.6, 6.3,
    7.1, 8, 9, 10, 11, 13, 14, 16, 18, 20, 22, 25, 29, 32, 36, 40, 45, 51, 57, 64, 72, 81, 90,
)  # fmt: skip
"""F-numbers in third stops as they are engraved, f/0.7 to f/90."""

WIDEST = 0.7
"""No lens is searched wider than this."""


@dataclass(frozen=True, slots=True)
class Neighbours:
    """The engraved f-numbers on either side; None past the end of the series."""

    wider: float | None
    narrower: float | None


def stops_between(f_number: float, other: float) -> float:
    """How many stops darker ``other`` is than ``f_number``; negative if brighter."""
    require_positive("f_number", f_number, "aperture")
    require_positive("other", other, "aperture")
    return 2.0 * math.log2(other / f_number)


def neighbours(f_number: float) -> Neighbours:
    """The engraved third stops next to an f-number, which itself need not be engraved."""
    require_positive("f_number", f_number, "aperture")
    return Neighbours(
        wider=next((n for n in reversed(ENGRAVED_THIRDS) if n < f_number), None),
        narrower=next((n for n in ENGRAVED_THIRDS if n > f_number), None),
    )


def next_settable(f_number: float) -> float | None:
    """The widest engraved f-number that is at least ``f_number``; None past f/90."""
    require_positive("f_number", f_number, "aperture")
    return next((float(n) for n in ENGRAVED_THIRDS if n >= f_number), None)


def widest_holding(setup: Setup, near: float, far: float) -> float | None:
    """The smallest f-number, not under 0.7, for which one focus holds both ends; None if none.

    Blur is exactly proportional to 1/N, and the focus of equal blur does not depend on N: so
    the f-number is the present one times blur ÷ circle. ``setup.f_number`` is not otherwise used.
    """
    focus = between(setup, near, far)
    f_number = float(setup.f_number)
    needed = f_number * worst_blur(setup, near, far, focus) / float(setup.coc)
    needed = max(needed, WIDEST)
    return needed if _holds(setup, near, far, needed) else None


def _holds(setup: Setup, near: float, far: float, f_number: float) -> bool:
    hair = 1.0 + 1e-9  # the window has closed to a point: rounding must not decide
    return focus_window(replace(setup, f_number=f_number * hair), near, far) is not None
