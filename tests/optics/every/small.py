"""Small things that functions take, each made from a source of chance."""

from __future__ import annotations

from random import Random

from optics.light.exposure import Exposure
from optics.light.night import Moon, Night
from tests.optics.every.names import F_NUMBERS


def exposure(random: Random) -> Exposure:
    """An aperture, a time and an ISO."""
    pick = random.choice
    return Exposure(
        pick(F_NUMBERS), pick((1 / 250, 1 / 30, 2.0)), pick((100.0, 800.0)), pick((0.0, 3.0))
    )


def night(random: Random) -> Night:
    """A sky and a moon."""
    pick = random.choice
    return Night(pick((21.9, 20.0, 17.5)), pick(tuple(Moon)), pick((0.2, 0.8)))
