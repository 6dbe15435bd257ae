"""What a camera can be set to: shutter times, held-open times, and sensitivities.

A time or an ISO that is worked out is set on a dial before anything is said of it, so that what is
printed is what was judged. Dials go in thirds of a stop, under names that makers agree on; past
30 s the shutter is held open and counted in whole seconds.
"""

from __future__ import annotations

import math

from optics.base.errors import require_positive

_PARTS = (
    32000, 25600, 20000, 16000, 12800, 10000, 8000, 6400, 5000, 4000, 3200, 2500, 2000, 1600, 1250,
    1000, 800, 640, 500, 400, 320, 250, 200, 160, 125, 100, 80, 60, 50, 40, 30, 25, 20, 15, 13, 10,
    8, 6, 5, 4,
)  # fmt: skip
_WHOLE = (
    0.3, 0.4, 0.5, 0.6, 0.8, 1.0, 1.3, 1.6, 2.0, 2.5, 3.2, 4.0, 5.0, 6.0, 8.0, 10.0, 13.0, 15.0,
    20.0, 25.0, 30.0,
)  # fmt: skip
TIMES = (*(1.0 / part for part in _PARTS), *_WHOLE)
"""Times on a dial, s, rising. Source: [iso517] in docs/references.md, as makers round them."""
LONGEST, SHORTEST = TIMES[-1], TIMES[0]

_ISOS = (1.0, 1.25, 1.6, 2.0, 2.5, 3.2, 4.0, 5.0, 6.4, 8.0, 10.0)
"""A decade of sensitivities in thirds of a stop."""
_HIGH_ISOS = (10_000.0, 12_800.0, 16_000.0, 20_000.0, 25_600.0)
"""Past 10 000 dials double 6400 exactly, and the thirds between follow; so on by the octave."""
_HAIR = 1e-9


def named_time(seconds: float) -> float:
    """The time to set that is nearest to one worked out, s."""
    require_positive("seconds", seconds, "time")
    if seconds > LONGEST * (1 + 1 / 60):
        return float(round(seconds))
    return min(TIMES, key=lambda named: abs(math.log(named / seconds)))


def longest_named(seconds: float) -> float:
    """The longest time to set that is no longer than one worked out, s.

    What is shorter than any on the dial stays as it is.
    """
    require_positive("seconds", seconds, "time")
    if seconds >= LONGEST + 1:
        return float(math.floor(seconds * (1 + _HAIR)))
    return max((t for t in TIMES if t <= seconds * (1 + _HAIR)), default=seconds)


def shortest_named(seconds: float) -> float:
    """The shortest time to set that is no shorter than one worked out, s."""
    require_positive("seconds", seconds, "time")
    longer = (t for t in TIMES if t >= seconds * (1 - _HAIR))
    return min(longer, default=float(math.ceil(seconds * (1 - _HAIR))))


def named_iso(iso: float) -> float:
    """The ISO on a camera's dial, in thirds of a stop, nearest to one worked out."""
    require_positive("iso", iso, "ISO")
    if iso > _HIGH_ISOS[0]:
        octave = 2.0 ** max(math.floor(math.log2(iso / _HIGH_ISOS[1])), 0)
        high = (_HIGH_ISOS[0], *(name * octave for name in _HIGH_ISOS[1:]))
        return min(high, key=lambda n: abs(math.log(n / iso)))
    scale = 10.0 ** math.floor(math.log10(iso))
    return min((name * scale for name in _ISOS), key=lambda n: abs(math.log(n / iso)))


def written(seconds: float) -> str:
    """A time that can be set, as text: 1/125 s, 1.3 s, and held open as minutes and seconds, 2:06.

    ``seconds``: above 0; inf is any time.
    """
    if math.isinf(seconds):
        return "any time"
    if seconds < SHORTEST * (1 - _HAIR):
        return f"under 1/{_PARTS[0]} s"
    if seconds > LONGEST:
        minutes, rest = divmod(round(seconds), 60)
        hours, minutes = divmod(minutes, 60)
        return f"{hours}:{minutes:02d}:{rest:02d}" if hours else f"{minutes}:{rest:02d}"
    parts = round(1 / seconds)
    if seconds < _WHOLE[0] and abs(parts * seconds - 1) < 0.02:
        return f"1/{parts} s"
    return f"{seconds:.3g} s"
