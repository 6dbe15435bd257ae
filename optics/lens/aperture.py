"""F-numbers: the ones engraved on lenses, and the ones a scene asks for.

Stops are exact powers of √2, f-numbers of a ``Series`` the rounded names that makers agree on
([iso517] in docs/references.md). The f-number computed with is always the number typed.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

from optics.base.errors import require_positive
from optics.base.search import crossing, least
from optics.lens.depth import working_f_number
from optics.lens.diffraction import combine_plain, disc
from optics.lens.equal_blur import between, worst_blur
from optics.lens.focus_window import focus_window, signed_window
from optics.lens.setup import Setup

WIDEST = 0.7
"""No lens is searched wider than this."""
NARROWEST = 256.0
"""Nor narrower: a pinhole's f-number."""


@dataclass(frozen=True, slots=True)
class Series:
    """Engraved f-numbers, rising. ``per_stop``: how many to a stop. Starts at exact f/0.707."""

    per_stop: int
    names: tuple[float, ...]

    def exact(self, at: int) -> float:
        """The exact power of √2 that the name at a place stands for."""
        return float(2.0 ** (0.5 * (at / self.per_stop - 1.0)))

    def from_to(self, widest: float, narrowest: float) -> tuple[float, ...]:
        """The names that a lens from ``widest`` to ``narrowest`` has."""
        return tuple(name for name in self.names if widest <= name <= narrowest)


FULL = Series(1, (0.7, 1, 1.4, 2, 2.8, 4, 5.6, 8, 11, 16, 22, 32, 45, 64, 90))
HALVES = Series(
    2,
    (
        0.7, 0.8, 1, 1.2, 1.4, 1.7, 2, 2.4, 2.8, 3.3, 4, 4.8, 5.6, 6.7, 8, 9.5, 11, 13, 16, 19,
        22, 27, 32, 38, 45, 54, 64, 76, 90,
    ),
)  # fmt: skip
THIRDS = Series(
    3,
    (
        0.7, 0.8, 0.9, 1, 1.1, 1.2, 1.4, 1.6, 1.8, 2, 2.2, 2.5, 2.8, 3.2, 3.5, 4, 4.5, 5, 5.6, 6.3,
        7.1, 8, 9, 10, 11, 13, 14, 16, 18, 20, 22, 25, 29, 32, 36, 40, 45, 51, 57, 64, 72, 81, 90,
    ),
)  # fmt: skip
"""F-numbers as they are engraved, f/0.7 to f/90, in full, half and third stops."""

_SAME = 1.0 / 12.0
"""Stops. A name that far from an f-number, or nearer, is a name of it."""


def exact(f_number: float) -> float:
    """The exact power of √2 behind an engraved name (11 → 11.314); else the number itself.

    For counting stops between names. Depth of field is computed with the number typed.
    """
    require_positive("f_number", f_number, "aperture")
    for series in (FULL, THIRDS, HALVES):
        if f_number in series.names:
            return series.exact(series.names.index(f_number))
    return f_number


def stops_between(f_number: float, other: float) -> float:
    """How many stops darker ``other`` is than ``f_number``; negative if brighter.

    Engraved names count as what they stand for (``exact``), so that neighbours are a third, a half
    or a whole stop apart.
    """
    return 2.0 * math.log2(exact(other) / exact(f_number))


def next_settable(f_number: float, series: Series = THIRDS) -> float | None:
    """The widest engraved f-number that is at least ``f_number``; None past f/90."""
    require_positive("f_number", f_number, "aperture")
    return next((float(n) for n in series.names if n >= f_number * (1 - 1e-9)), None)


def widest_holding(setup: Setup, near: float, far: float) -> float | None:
    """The smallest f-number, not under 0.7, for which one focus holds both ends; None if none.

    Geometric blur is exactly proportional to 1/N and the focus of equal blur does not depend on
    N: without diffraction the f-number is the present one times blur ÷ circle. With it, stopping
    down helps up to the ``sharpest`` f-number and harms beyond; the answer lies before that.

    ``setup.f_number`` is not otherwise used. ``near`` ≤ ``far``: mm from the sensor, up to inf.
    Plain numbers only. Raises as ``placement.between``.
    """
    if not setup.diffraction:
        return _widest_geometric(setup, near, far)
    return _widest_counting(setup, near, far, sharpest(setup, near, far))


def _widest_counting(setup: Setup, near: float, far: float, best: float) -> float | None:
    """With diffraction. ``best``: the sharpest f-number."""
    blur = _TotalBlur.of(setup, near, far, between(setup, near, far))
    circle = setup.coc
    guess = crossing(lambda n: blur(n) - circle, WIDEST, best)
    closed = _Closed(setup, near, far)
    # The guess takes the focus for the same at every aperture; close up the window opens a hair
    # away from it. Widen the bracket around the guess until the truth is in it.
    low = high = guess
    for widening in _WIDENINGS:
        low, high = max(low / widening, WIDEST), min(high * widening, best)
        if closed(high) <= 0 and (low == WIDEST or closed(low) > 0):
            return crossing(closed, low, high)
    return None


_WIDENINGS = (1 + 1e-10, 1 + 1e-7, 1 + 1e-4, 1.1, NARROWEST / WIDEST)


def _widest_geometric(setup: Setup, near: float, far: float) -> float | None:
    focus = between(setup, near, far)
    f_number = setup.f_number
    needed = max(f_number * worst_blur(setup, near, far, focus) / setup.coc, WIDEST)
    hair = 1.0 + 1e-9  # the window has closed to a point: rounding must not decide
    held = focus_window(replace(setup, f_number=needed * hair), near, far)
    return needed if held is not None else None


@dataclass(frozen=True, slots=True)
class _Closed:
    """By how much the window for both ends fails to open at an f-number; at most 0 if it opens."""

    setup: Setup
    near: float
    far: float

    def __call__(self, f_number: float) -> float:
        return -signed_window(replace(self.setup, f_number=f_number), self.near, self.far)


_STOPS = 1e-3
"""How closely the sharpest f-number is found, in its logarithm: under 0.01 stop."""


def sharpest(setup: Setup, near: float, far: float) -> float:
    """The f-number, 0.7 to 256, with the least worst total blur over near…far, focus between them.

    Always counts diffraction, and the lens's blur as if it did not change with the aperture. Very
    flat: half a stop either way costs a few per cent. For a single distance the answer is f/0.7,
    as far as this model goes: real lenses have their own best aperture. As ``widest_holding``.
    """
    focus = between(setup, near, far)
    blur = _TotalBlur.of(setup, near, far, focus)
    ends = math.log(WIDEST), math.log(NARROWEST)
    return math.exp(least(lambda x: blur(math.exp(x)), *ends, _STOPS))


@dataclass(frozen=True, slots=True)
class ForEnds:
    """F-numbers for what must be sharp.

    ``widest_holding``  the smallest that holds both ends, continuous; None if none does.
    ``next_settable``   the engraved one that does; None if there is none.
    ``sharpest``        the one with the least worst blur, diffraction counted.
    """

    widest_holding: float | None
    next_settable: float | None
    sharpest: float


def for_ends(setup: Setup, near: float, far: float, series: Series = THIRDS) -> ForEnds:
    """``widest_holding``, ``next_settable`` and ``sharpest`` at once, and no work done twice."""
    best = sharpest(setup, near, far)
    if setup.diffraction:
        needed = _widest_counting(setup, near, far, best)
    else:
        needed = _widest_geometric(setup, near, far)
    return ForEnds(needed, next_settable(needed, series) if needed else None, best)


@dataclass(frozen=True, slots=True)
class _TotalBlur:
    """The worse end's total blur as a function of the f-number, the ring staying where it is."""

    geometric_at_one: float
    working_at_one: float
    lens_disc: float

    @classmethod
    def of(cls, setup: Setup, near: float, far: float, focus: float) -> _TotalBlur:
        at_one = replace(setup, f_number=1.0)
        return cls(
            worst_blur(at_one, near, far, focus),
            working_f_number(at_one, focus),
            setup.lens_disc,
        )

    def __call__(self, f_number: float) -> float:
        waves = combine_plain(self.geometric_at_one / f_number, self.working_at_one * f_number)
        return math.hypot(waves, self.lens_disc)


def narrowest_useful(setup: Setup, focus: float) -> float:
    """The f-number at which diffraction and the lens alone make the circle: nothing holds beyond.

    With the ring at ``focus``, mm. ``setup.f_number`` is not used. 0 if the lens alone is worse
    than the circle. Raises as ``depth.working_f_number``.
    """
    left = setup.coc**2 - setup.lens_disc**2
    at_one = working_f_number(replace(setup, f_number=1.0), focus)
    return math.sqrt(max(left, 0.0)) / disc(at_one)
