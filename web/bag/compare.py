"""Standards beside each other, and formats: on one axis, in numbers and in words."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

from drawing import bands
from optics import Setup
from optics.base import units
from optics.base.settable import Span, inside
from optics.lens import depth
from optics.lens.conjugates import nearest_focus
from optics.lens.standards import widest_print
from web.bag.models import Body, Standard

WIDTH = 880.0
NARROW_WIDTH = 342.0


@dataclass(frozen=True, slots=True)
class Case:
    """What is asked about: a focal length, an aperture and a ring setting, mm."""

    focal_length: float
    f_number: float
    focus: float


@dataclass(frozen=True, slots=True)
class Compared:
    """One row in numbers. ``held``: rounded inwards, None where nothing is sharp."""

    name: str
    says: str
    setup: Setup
    focus: float
    exact: depth.Limits
    held: Span | None
    hyperfocal: float
    largest_print: float
    from_print: float = 0.0
    """The print up to which a looser row would do, mm: this one is for larger ones."""


@dataclass(frozen=True, slots=True)
class Comparison:
    """Rows, and their pictures for a wide and a narrow screen."""

    rows: tuple[Compared, ...]
    wide: bands.BandsPicture
    narrow: bands.BandsPicture


def _row(name: str, says: str, setup: Setup, focus: float, body: Body, system: str) -> Compared:
    focus = max(focus, nearest_focus(setup))
    exact = depth.limits(setup, focus)
    held = None if exact.empty else inside(exact.near, exact.far, system)
    hyperfocal = depth.hyperfocal(setup)
    print_width = widest_print(setup.coc, body.frame)
    return Compared(name, says, setup, focus, exact, held, hyperfocal, print_width)


def _drawn(rows: list[Compared], system: str) -> Comparison:
    stretches = [bands.Stretch(row.name, row.says, row.held, row.focus) for row in rows]
    return Comparison(
        rows=tuple(rows),
        wide=bands.draw(stretches, WIDTH, system),
        narrow=bands.draw(stretches, NARROW_WIDTH, system, stacked=True),
    )


def standards(found: list[Standard], body: Body, case: Case, system: str) -> Comparison | None:
    """Every standard that has a circle on a body, the loosest first; None if there is none."""
    rows = []
    for standard in found:
        circle = standard.circle(body)
        if circle is None:
            continue
        setup = Setup(
            case.focal_length, case.f_number, circle, diffraction=standard.counts_diffraction
        )
        says = f"{units.significant(circle, 3):g} mm"
        if standard.counts_diffraction:
            says += ", diffraction counts"
        rows.append(_row(standard.name, says, setup, case.focus, body, system))
    rows.sort(key=lambda row: -row.setup.coc)
    looser = [0.0, *(row.largest_print for row in rows)]
    rows = [replace(row, from_print=least) for row, least in zip(rows, looser, strict=False)]
    return _drawn(rows, system) if rows else None


def formats(
    one: Body, other: Body, standard: Standard, case: Case, system: str
) -> Comparison | None:
    """One body, and another three ways: the same lens; the same view at the same f-number; the
    same view at the equivalent one. None where the standard has no circle on one of them.

    The same view is the focal length in proportion to the frames' diagonals; the equivalent
    f-number is in the same proportion, so that the entrance pupil, and with it the blur in the
    picture, is the same.
    """
    circles = [standard.circle(body) for body in (one, other)]
    if circles[0] is None or circles[1] is None:
        return None
    ratio = other.frame.diagonal / one.frame.diagonal
    f, n = case.focal_length, case.f_number
    ways = (
        (f"{one.name}", one, circles[0], f, n),
        (f"{other.name}: same lens", other, circles[1], f, n),
        (f"{other.name}: same view", other, circles[1], f * ratio, n),
        (
            f"{other.name}: same view, equivalent f/",
            other,
            circles[1],
            f * ratio,
            n * ratio,
        ),
    )
    rows = [
        _row(
            name,
            f"{units.significant(length, 3):g} mm, f/{units.significant(number, 3):g}, "
            f"circle {units.significant(circle, 3):g} mm",
            Setup(length, number, circle, diffraction=standard.counts_diffraction),
            case.focus,
            body,
            system,
        )
        for name, body, circle, length, number in ways
    ]
    return _drawn(rows, system)


def gain(a: Compared, b: Compared) -> float:
    """How many times deeper ``b`` is sharp than ``a``, in 1/distance; inf if ``a`` not at all."""
    depths = [
        0.0 if row.exact.empty else 1.0 / row.exact.near - 1.0 / row.exact.far for row in (a, b)
    ]
    return depths[1] / depths[0] if depths[0] > 0 else math.inf
