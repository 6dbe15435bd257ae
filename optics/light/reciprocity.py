"""Film grows slower the longer it is exposed: the time that a metered one becomes.

t = m^p, in seconds, for a metered time m above one second: what Schwarzschild's law becomes where
the meter is right at one second. p is 1 for a sensor, about 1.3 for most black-and-white films, and
stands in a film's data sheet. Source: [reciprocity] in docs/references.md.
"""

from __future__ import annotations

from optics.base.errors import OutOfRange, require_positive

USUAL_EXPONENT = 1.3
LEAST, MOST = 1.0, 2.0
"""Exponents that films have."""


def lengthened(metered: float, exponent: float) -> float:
    """The time that film takes for a metered one, s. ``metered``: above 0; ``exponent``: 1 to 2.
    Raises NotANumber, OutOfRange."""
    require_positive("metered", metered, "time")
    _require(exponent)
    return float(metered**exponent) if metered > 1.0 else metered


def metered_of(seconds: float, exponent: float) -> float:
    """The metered time that film of that exponent makes of a real one, s; the other way round."""
    require_positive("seconds", seconds, "time")
    _require(exponent)
    return float(seconds ** (1.0 / exponent)) if seconds > 1.0 else seconds


def _require(exponent: float) -> None:
    require_positive("exponent", exponent, "exponent of the film")
    if not LEAST <= exponent <= MOST:
        raise OutOfRange("exponent", exponent, "Film has an exponent from 1 to 2, such as 1.3.")
