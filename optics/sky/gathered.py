"""The light that a lens gathers in a time: what ranks the lenses of a bag under stars."""

from __future__ import annotations

import math
from dataclasses import dataclass

from optics.base.errors import require_positive


@dataclass(frozen=True, slots=True)
class Gathered:
    """What a lens collects in a time.

    ``of_star``    area of the entrance pupil × time, mm²·s: how faint a star can be.
    ``of_sky``     time ÷ N², s: how bright the sky, the Milky Way and a foreground come out.
    ``of_aurora``  1 ÷ N²: the light of the sky in a time that is the same for all lenses.
    """

    of_star: float
    of_sky: float
    of_aurora: float


def gathered(focal_length: float, f_number: float, seconds: float) -> Gathered:
    """The light a lens gathers in ``seconds``, s. ``focal_length``: mm. All above 0 and finite.

    Plain numbers only. Raises NotANumber, OutOfRange.
    """
    require_positive("focal_length", focal_length, "focal length")
    require_positive("f_number", f_number, "aperture")
    require_positive("seconds", seconds, "time")
    pupil = math.pi / 4 * (focal_length / f_number) ** 2
    return Gathered(pupil * seconds, seconds / f_number**2, 1.0 / f_number**2)
