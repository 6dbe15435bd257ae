"""What is taken, and with what: stars, a comet or an aurora; a mount that follows; film."""

from __future__ import annotations

import math
from enum import StrEnum

from django.core.exceptions import ValidationError

from optics.light import reciprocity
from optics.light.aurora import AURORAS, Aurora
from optics.sky.projection import Projection
from web.bag.lenses import Draws
from web.hand.in_use import InUse
from web.hand.typed import Typed
from web.ui.fields import NumberField

USUAL_OFF_POLE = math.radians(0.5)
USUAL_FILM_ISO = 400.0
TRACKED_ISO = 800.0
"""What a mount that follows is used for: no higher than that, as long as time allows."""

STARS, COMET, TRACKER = "", "comet", "tracker"
SUBJECTS = [
    (STARS, "stars, the Milky Way"),
    (COMET, "a comet, a long lens"),
    *((one.key, f"aurora: {one.name}") for one in AURORAS),
]
MOUNTS = [("", "a tripod"), (TRACKER, "a mount that follows")]


class Subject(StrEnum):
    """What is taken, where that is no aurora."""

    STARS = "stars"
    COMET = "comet"


def read_subject(typed: Typed) -> Aurora | Subject:
    """What is taken."""
    found: Aurora | Subject = typed.get("subject", _subject, Subject.STARS)
    return found


def read_off_pole(typed: Typed) -> float | None:
    """How far a mount that follows is off the pole, radians; None on a tripod."""
    degrees = typed.last("pole_off", _OFF_POLE.clean, math.degrees(USUAL_OFF_POLE), "°")
    return math.radians(degrees) if typed.get("mount", _mount, False) else None


def read_film(typed: Typed) -> tuple[float, float]:
    """The ISO of a film, and the exponent by which it grows slower."""
    iso = typed.last("film_iso", _FILM_ISO.clean, USUAL_FILM_ISO)
    return iso, typed.last("reciprocity", _EXPONENT.clean, reciprocity.USUAL_EXPONENT)


def read_projection(typed: Typed, in_use: InUse) -> Projection:
    """How the lens draws: as typed, else as the bag says."""
    found: Projection = typed.get("projection", _projection, projection_of(in_use))
    return found


def projection_of(in_use: InUse) -> Projection:
    """How the lens in use draws, as the bag says."""
    lens = in_use.lens
    return Projection.RECTILINEAR if lens is None else Projection(lens.projection)


def projections(in_use: InUse, now: str) -> list[tuple[str, str]]:
    """What to choose from: empty for what the bag says, unless that is typed ``now``."""
    known = "" if now == projection_of(in_use) else projection_of(in_use)
    return [("" if one == known else str(one), str(Draws(one).label)) for one in Projection]


def _subject(text: str) -> Aurora | Subject:
    for one in AURORAS:
        if one.key == text:
            return one
    if text == COMET:
        return Subject.COMET
    raise ValidationError("Choose from the list what you take.")


def _mount(text: str) -> bool:
    if text != TRACKER:
        raise ValidationError("Choose from the list what the camera stands on.")
    return True


def _projection(text: str) -> Projection:
    try:
        return Projection(text)
    except ValueError:
        raise ValidationError("Choose from the list how the lens draws.") from None


_OFF_POLE = NumberField(
    low=0.02, high=10, unit="°",
    sentence="A mount is off the pole by 0.02 to 10°; half a degree by its finder is usual.",
)  # fmt: skip
_FILM_ISO = NumberField(
    low=6, high=25_600, unit="iso", sentence="Give the film’s ISO, from 6 to 25 600, such as 400."
)
_EXPONENT = NumberField(
    low=reciprocity.LEAST, high=reciprocity.MOST,
    sentence="An exponent from 1, for a film that does not, to 2; 1.3 is usual.",
)  # fmt: skip
