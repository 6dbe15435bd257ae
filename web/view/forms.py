"""The scene as text, as it stands in the form and in the URL, to checked values and back.

One reading serves the page, the fragment, the link and saving. Nothing typed is ever dropped:
what cannot be used keeps its text and gets a message, and the last value that made sense stands
in for it, so that there is always a picture.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping
from dataclasses import dataclass, replace
from typing import Any

from django import forms
from django.core.exceptions import ValidationError
from django.http import QueryDict

from optics import Setup, units
from optics.camera import Camera
from optics.lens import nearest_focus
from web.ui.choices import Units
from web.ui.fields import FormatField, NumberField, WholeNumberField, read_length
from web.view.models import Place, Role
from web.view.reading import Reading, Row
from web.view.sample import GEAR, MARKS
from web.view.scenes import Mark, Scene

ROLES = frozenset(Role.values)
LETTERS = "ABCDEFGHIJKLMNOPQRSTUVWXYZ"
MOST_MARKS = 24
_TEXT_LIMIT = 80


FIELDS: dict[str, forms.Field] = {
    "lens": forms.CharField(
        required=False,
        max_length=_TEXT_LIMIT,
        error_messages={"max_length": f"Keep the lens's name to {_TEXT_LIMIT} letters."},
    ),
    "format": FormatField(),
    "pixels_across": WholeNumberField(
        low=200,
        high=100_000,
        required=False,
        sentence="Pixels across the long side: a whole number from 200 to 100 000, or empty.",
    ),
    "focal_length_mm": NumberField(
        low=1, high=3000, sentence="Give a focal length from 1 to 3000 mm, such as 24."
    ),
    "f_number": NumberField(low=0.5, high=128, sentence="Give an aperture from 0.5 to 128."),
    "circle_mm": NumberField(
        low=0.0005, high=1, sentence="Give a circle from 0.0005 to 1 mm, such as 0.025."
    ),
    "diffraction": forms.CharField(required=False),
    "place": forms.ChoiceField(
        choices=Place.choices,
        error_messages={"invalid_choice": "That way of placing focus is not known."},
    ),
    "tilt_deg": NumberField(
        low=-90,
        high=90,
        required=False,
        sentence="Tilt is from −90 to 90°, down positive, such as 15.",
    ),
    "units": forms.ChoiceField(
        choices=Units.choices, error_messages={"invalid_choice": "Choose metres or feet."}
    ),
}
"""What is in hand, and how focus is placed. The ring and the marks are read by ``read_scene``.

Used without a Form around them: a Form copies every field for each request, which costs more
than the whole of the optics.
"""


def _clean_gear(texts: Mapping[str, str]) -> tuple[dict[str, Any], dict[str, str]]:
    """Values of the fields that could be read, and messages for those that could not."""
    values: dict[str, Any] = {}
    errors: dict[str, str] = {}
    for name, field in FIELDS.items():
        try:
            values[name] = field.clean(texts[name])
        except ValidationError as error:
            errors[name] = " ".join(error.messages)
    return values, errors


def scene_query(gear: Mapping[str, str], marks: Iterable[tuple[str, str, str]]) -> QueryDict:
    """A scene as a link would say it. ``marks``: name, distance and role of each, as text."""
    query = QueryDict(mutable=True)
    query.update(gear)
    for name, distance, role in marks:
        query.appendlist("mark_name", name)
        query.appendlist("mark_distance", distance)
        query.appendlist("mark_role", role)
    return query


def sample_query() -> QueryDict:
    """The sample scene, as a link would say it."""
    return scene_query(GEAR, MARKS)


def is_scene(data: Mapping[str, Any]) -> bool:
    """Whether a link says anything about a scene at all."""
    return any(name in data for name in (*GEAR, "mark_name", "mark_distance", "mark_role"))


def read_scene(
    data: QueryDict, before: QueryDict | None = None, measures: units.Measures = units.USUAL
) -> Reading:
    """Check everything a form or link says. ``measures``: of whoever typed it.

    ``before`` is the link to fall back on for what cannot be used, before the sample is.
    """
    given = {name: str(data[name]).strip()[: _TEXT_LIMIT * 2] for name in GEAR if name in data}
    texts = {**GEAR, **given}
    if "lens" not in given and "focal_length_mm" in given:
        texts["lens"] = ""  # the sample's zoom is not the one in hand
    if "camera_height" not in given and is_scene(data):
        texts["camera_height"], texts["tilt_deg"] = "", given.get("tilt_deg", "")
    texts["upright"] = "1" if texts["upright"] else ""
    values, errors = _clean_gear(texts)
    if errors:
        values = {**_last_good(before), **values}
        errors = {name: f"{text}{_meanwhile(name, values)}" for name, text in errors.items()}
    texts["diffraction"] = "1" if texts["diffraction"] else ""
    setup = Setup(
        values["focal_length_mm"],
        values["f_number"],
        values["circle_mm"],
        diffraction=bool(texts["diffraction"]),
    )
    system = values["units"]
    nearest = float(nearest_focus(setup))
    ring = None
    if texts["ring"]:
        try:
            ring = _focusable(read_length(texts["ring"], system, measures), nearest, system)
        except ValidationError as error:
            errors["ring"] = " ".join(error.messages)
    camera = None
    try:
        camera = _camera(texts, values, system, measures)
    except ValidationError as error:
        errors["camera_height"] = " ".join(error.messages)
    rows = _read_rows(data, _Reader(system, nearest, measures))
    scene = Scene(
        setup=setup,
        format=values["format"],
        pixels_across=values["pixels_across"],
        place=values["place"],
        ring=ring,
        camera=camera,
        marks=tuple(row.mark for row in rows if row.mark is not None),
        system=system,
    )
    assumed = frozenset(GEAR.keys() - given.keys() - _NEVER_ASSUMED)
    return Reading(scene, texts, errors, assumed, rows)


_CAMERA = ("camera_height", "tilt_deg", "upright")
_NEVER_ASSUMED = {"ring", "lens", "units", "place", "diffraction", *_CAMERA}
_CAMERA_HEIGHT_MM = (10.0, 100_000.0)


def _camera(
    texts: Mapping[str, str], values: Mapping[str, Any], system: str, measures: units.Measures
) -> Camera | None:
    """Where the camera stands; None where its height is not said."""
    if not texts["camera_height"]:
        return None
    height = read_length(texts["camera_height"], system, measures)
    if not _CAMERA_HEIGHT_MM[0] <= height <= _CAMERA_HEIGHT_MM[1]:
        raise ValidationError("The camera stands 1 cm to 100 m above the ground.")
    frame = values["format"]
    sides = (frame.width, frame.height) if texts["upright"] else (frame.height, frame.width)
    tilt = math.radians(values.get("tilt_deg") or 0.0)
    return Camera(height, tilt, 0.0, values["focal_length_mm"], *sides)


def _last_good(before: QueryDict | None) -> dict[str, Any]:
    """Usable values for every field: of the sample, and of the link that was before."""
    values, _ = _clean_gear(GEAR)
    if before is not None:
        earlier, _ = _clean_gear({**GEAR, **{n: str(before[n]) for n in GEAR if n in before}})
        values.update(earlier)
    return values


def _meanwhile(name: str, values: dict[str, Any]) -> str:
    """What the picture shows until a field is mended."""
    shown = {
        "focal_length_mm": f"{values['focal_length_mm']:g} mm",
        "f_number": f"f/{values['f_number']:g}",
        "circle_mm": f"{values['circle_mm']:g} mm",
        "format": values["format"].name,
    }
    return f" Shown with {shown[name]} meanwhile." if name in shown else ""


def _focusable(distance: float, nearest: float, system: str) -> float:
    if distance < nearest:
        raise ValidationError(
            f"Too near: this focal length cannot focus under {units.write(nearest, system, 2)}, "
            "four focal lengths."
        )
    return distance


@dataclass(frozen=True, slots=True)
class _Reader:
    """What a distance is read with: the unit of a bare number, the nearest focus, mm, and whose
    paces and arms they are."""

    system: str
    nearest: float
    measures: units.Measures

    def depth(self, text: str) -> float:
        length = read_length(text, self.system, self.measures)
        return _focusable(length, self.nearest, self.system)


def _read_rows(data: QueryDict, reader: _Reader) -> tuple[Row, ...]:
    names, distances = data.getlist("mark_name"), data.getlist("mark_distance")
    roles = data.getlist("mark_role")
    rows: list[Row] = []
    places: dict[float, str] = {}
    for at in range(max(len(names), len(distances))):
        name = _clean(names[at]) if at < len(names) else ""
        distance = _clean(distances[at]) if at < len(distances) else ""
        role = roles[at] if at < len(roles) else Role.MUST
        index = len(rows)
        letter = LETTERS[index] if index < len(LETTERS) else "+"
        if not name and not distance:
            rows.append(Row(index, letter, "", "", Role.MUST))
            continue
        row = Row(index, letter, name, distance, role if role in ROLES else Role.MUST)
        if role not in ROLES:
            row = replace(row, note="That role is not known; taken as must be sharp.")
        rows.append(_judged(row, reader, places))
    while rows and rows[-1].blank:
        rows.pop()
    index = len(rows)
    letter = LETTERS[index] if index < len(LETTERS) else "+"
    return (*rows, Row(index, letter, "", "", Role.MUST))


def _judged(row: Row, reader: _Reader, places: dict[float, str]) -> Row:
    if row.index >= MOST_MARKS:
        return replace(row, error=f"Only {MOST_MARKS} marks are used; this one is left out.")
    if len(row.name) > 60:
        return replace(row, error="That name is longer than 60 letters.")
    try:
        depth = reader.depth(row.distance)
    except ValidationError as error:
        return replace(row, error=" ".join(error.messages))
    mark = Mark(row.letter, row.name or f"Mark {row.letter}", depth, row.role == Role.MUST)
    if depth in places:
        return replace(row, mark=mark, note=f"The same distance as {places[depth]}.")
    places[depth] = mark.name
    return replace(row, mark=mark)


def _clean(text: str) -> str:
    printable = "".join(c for c in text if c.isprintable())
    return printable.strip()[: _TEXT_LIMIT * 2]


class PlanForm(forms.Form):
    """The name a plan is saved under."""

    name = forms.CharField(
        max_length=80,
        error_messages={
            "required": "Give the plan a name to find it by.",
            "max_length": "Keep the name to 80 letters.",
        },
    )
