"""What is known of a snapshot, and where was clicked in it, checked."""

from __future__ import annotations

import re
from dataclasses import dataclass

from django import forms
from django.core.exceptions import ValidationError
from django.http import QueryDict

from optics.base import units
from optics.scene.scouting import Spot
from web.ui.fields import NumberField, WholeNumberField, read_length, shortened

MOST_THINGS = 24
"""As many as a scene has room for."""
LONGEST_NAME = 40
_NUMBER = r"-?\d+(?:\.\d+)?"
_SPOT = re.compile(rf"\s*({_NUMBER})\s*,\s*({_NUMBER})\s*")
_SMALLEST_HEIGHT, _LARGEST_HEIGHT = 20.0, 100_000.0
NO_SPOT = (
    "A place is two shares of the picture: from the left and from the bottom, such as 0.4,0.2."
)
HEIGHT = "Give the height of the lens above the ground, 2 cm to 100 m: 1.5 m, eye, waist."


def spot_of(text: str) -> Spot | None:
    """A place in a picture; None for none. Raises ValidationError."""
    if not text.strip():
        return None
    found = _SPOT.fullmatch(text)
    if found is None or not all(0.0 <= float(part) <= 1.0 for part in found.groups()):
        raise ValidationError(NO_SPOT)
    return Spot(float(found[1]), float(found[2]))


class SnapshotForm(forms.Form):
    """How a snapshot was taken. ``width_px``, ``height_px``: of the picture, as it is shown;
    ``shown_px``: how many of its pixels one of the screen is, where it was clicked."""

    focal_length_mm = NumberField(low=1, high=3000, sentence="Give a focal length, 1 to 3000 mm.")
    sensor_mm = NumberField(
        low=3,
        high=100,
        sentence="Give the long side of its sensor, 3 to 100 mm: 36 for full frame.",
    )
    width_px = WholeNumberField(low=16, high=60_000, sentence="A width of 16 to 60 000 pixels.")
    height_px = WholeNumberField(low=16, high=60_000, sentence="A height of 16 to 60 000 pixels.")
    shown_px = NumberField(
        low=0.1, high=100, required=False, sentence="Pixels to one of the screen, 0.1 to 100."
    )


@dataclass(frozen=True, slots=True)
class Thing:
    """Something clicked: its name, where its foot and its top are, and how tall it is, mm, if that
    is known. ``wrong``: what of it cannot be read."""

    name: str
    foot: Spot | None
    top: Spot | None
    tall: float | None
    tall_text: str
    wrong: str = ""


def things_of(data: QueryDict, system: str, measures: units.Measures) -> list[Thing]:
    """What was clicked, as a link says it; rows without any place are left away."""
    columns = [data.getlist(f"thing_{name}") for name in ("name", "foot", "top", "tall")]
    found = []
    for row in range(min(max(map(len, columns), default=0), MOST_THINGS)):
        name, foot, top, tall = (column[row] if row < len(column) else "" for column in columns)
        if not (foot.strip() or top.strip()):
            continue
        found.append(_thing(name, (foot, top), tall, system, measures))
    return found


def _thing(
    name: str, places: tuple[str, str], tall: str, system: str, measures: units.Measures
) -> Thing:
    name, tall = " ".join(name.split())[:LONGEST_NAME], tall.strip()[:80]
    wrong, height = "", None
    spots: list[Spot | None] = [None, None]
    try:
        spots = [spot_of(text) for text in places]
        if tall:
            height = read_length(tall, system, measures)
            if not _SMALLEST_HEIGHT <= height <= _LARGEST_HEIGHT:
                wrong = f"“{shortened(tall)}” is no height of a thing: 2 cm to 100 m."
                height = None
    except ValidationError as error:
        wrong = " ".join(error.messages)
    return Thing(name, spots[0], spots[1], height, tall, wrong)


def height_of(text: str, system: str, measures: units.Measures) -> float | None:
    """The height of a lens; None where nobody says. Raises ValidationError."""
    if not text.strip():
        return None
    try:
        found = read_length(text, system, measures)
    except ValidationError as error:
        raise ValidationError(HEIGHT) from error
    if not _SMALLEST_HEIGHT <= found <= _LARGEST_HEIGHT:
        raise ValidationError(HEIGHT)
    return found
