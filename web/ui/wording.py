"""What is said by example, in the units of whoever reads it."""

from __future__ import annotations

import re
from typing import Any

from optics.base import settable, systems, units

_LENGTH = re.compile(
    r"(?P<quoted>“[^”]*”)"
    r"|(?P<upto>\bto )?(?<![\w.])(?P<number>\d+(?:\.\d+)?) (?P<unit>km|cm|m)\b(?P<speed>/s)?"
    r"(?P<from>(?= to\b))?"
)
_LIKE = 0.1
"""An example may be so far from what it stands for."""


def told_in(text: str, system: str) -> str:
    """A sentence or an example that was written with metric lengths, as it reads in a system.

    An example becomes a length that rings carry; the ends of *1 cm to 50 m* become lengths inside
    them, so that what is invited is taken. What stands in “quotes” was typed by somebody and stays;
    all does in unknown units.
    """
    if system == units.METRES or system not in units.SYSTEMS:
        return text
    return _LENGTH.sub(lambda found: _said(found, system), text)


def _said(found: re.Match[str], system: str) -> str:
    if found["quoted"]:
        return found[0]
    length = float(found["number"]) * units.TABLE[found["unit"]].mm
    known = systems.BY_KEY[system]
    if found["speed"]:
        said = f"{systems.digits(length / known.mm, settable.COARSE)} {known.speed}"
    elif found["upto"]:
        said = settable.written(settable.down(length, system), system)
    elif found["from"] is not None:
        said = settable.written(settable.up(length, system), system)
    else:
        mark = min(known.ring, key=lambda one: abs(one - length))
        like = abs(mark - length) < _LIKE * length
        said = settable.written(mark if like else settable.nearest(length, system), system)
    return f"{found['upto'] or ''}{said}"


def sentence_of(error: Any, system: str) -> str:
    """What a form or the core says is wrong, in a system of units."""
    said = getattr(error, "sentence", None)
    return told_in(" ".join(error.messages) if said is None else said, system)
