"""Tables of depth of field, row by row: for paper, for a spreadsheet, for checking by hand."""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace

from optics.lens.depth import hyperfocal, limits
from optics.lens.setup import Setup


@dataclass(frozen=True, slots=True)
class HyperfocalRow:
    """One lens at one aperture. mm from the sensor; ``near`` is the near limit with the ring at
    the hyperfocal distance, nan where nothing holds."""

    focal_length: float
    f_number: float
    hyperfocal: float
    near: float


@dataclass(frozen=True, slots=True)
class DepthRow:
    """One lens at one aperture and ring setting. mm from the sensor; nan where nothing holds."""

    focal_length: float
    f_number: float
    focus: float
    near: float
    far: float


def hyperfocal_rows(
    setup: Setup, focal_lengths: Sequence[float], f_numbers: Sequence[float]
) -> Iterator[HyperfocalRow]:
    """The hyperfocal distance and its near limit, for every focal length at every aperture.

    The circle and the rest are ``setup``'s. Raises NotANumber, OutOfRange.
    """
    for focal_length in focal_lengths:
        for f_number in f_numbers:
            at = replace(setup, focal_length=focal_length, f_number=f_number)
            distance = hyperfocal(at)
            near = limits(at, distance).near
            yield HyperfocalRow(focal_length, f_number, distance, near)


def depth_rows(
    setup: Setup,
    focal_lengths: Sequence[float],
    f_numbers: Sequence[float],
    focuses: Sequence[float],
) -> Iterator[DepthRow]:
    """Near and far limits, for every focal length, aperture and ring setting.

    Raises NotANumber, OutOfRange, FocusTooNear.
    """
    for focal_length in focal_lengths:
        for f_number in f_numbers:
            at = replace(setup, focal_length=focal_length, f_number=f_number)
            for focus in focuses:
                held = limits(at, focus)
                near, far = held.near, held.far
                yield DepthRow(focal_length, f_number, focus, near, far)


MOST_STEPS = 100_000


def stepped(start: float, stop: float, step: float) -> list[float]:
    """From ``start`` to ``stop``, both included, rounded free of the noise of adding."""
    count = math.floor((stop - start) / step * (1 + 1e-12))
    return [round(start + at * step, 9) for at in range(count + 1)]
