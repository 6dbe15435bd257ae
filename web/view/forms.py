"""The scene as text, as it stands in the form and in the URL, to checked values and back.

One reading serves the page, the fragment, the link and saving. Nothing typed is ever dropped:
what cannot be used keeps its text and gets a message, and the last value that made sense stands
in for it, so that there is always a picture.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass
from typing import Any

from django import forms
from django.core.exceptions import ValidationError
from django.http import QueryDict

from optics import Setup, units
from optics.camera import Camera
from optics.lens import nearest_focus
from web.bag.in_use import NOT_TOLD, InUse, Told
from web.ui.fields import read_length
from web.view.distances import USUAL_ERRORS, Reader
from web.view.fields import FIELDS
from web.view.models import Choose, How, Look, Role
from web.view.panels import read_panels
from web.view.reading import Reading
from web.view.rows import LETTERS, TEXT_LIMIT, read_rows
from web.view.sample import GEAR, MARKS
from web.view.scenes import Scene
from web.view.typed import SAID_OF_A_MARK


def _clean_gear(texts: Mapping[str, str]) -> tuple[dict[str, Any], dict[str, str]]:
    """Values of the fields that could be read, and messages for those that could not."""
    values: dict[str, Any] = {}
    errors: dict[str, str] = {}
    for name, field in FIELDS.items():
        if not texts[name] and not field.required:
            values[name] = None
            continue
        try:
            values[name] = field.clean(texts[name])
        except ValidationError as error:
            errors[name] = " ".join(error.messages)
    return values, errors


_MARK_COLUMNS = ("name", "distance", "role", *SAID_OF_A_MARK)


def scene_query(gear: Mapping[str, str], marks: Iterable[tuple[str, ...]]) -> QueryDict:
    """A scene as a link would say it. ``marks``: name, distance and role of each, as text; and what
    else is said of it, in the order of ``SAID_OF_A_MARK``."""
    query = QueryDict(mutable=True)
    query.update(gear)
    for mark in marks:
        for column, text in zip(_MARK_COLUMNS, mark, strict=False):
            query.appendlist(f"mark_{column}", text)
    return query


def sample_query() -> QueryDict:
    """The sample scene, as a link would say it."""
    return scene_query(GEAR, MARKS)


def is_scene(data: Mapping[str, Any]) -> bool:
    """Whether a link says anything about a scene at all."""
    return any(name in data for name in (*GEAR, "mark_name", "mark_distance", "mark_role"))


@dataclass(frozen=True, slots=True)
class Asker:
    """Who typed it: their own measures, and what they have in hand for a planner's texts.

    ``own``: their measures, and how far off they judge by eye; asked for only where it matters.
    """

    own: Callable[[], tuple[units.Measures, float]] = lambda: (
        units.USUAL,
        USUAL_ERRORS[How.EYE],
    )
    in_use: Callable[[Mapping[str, str]], InUse] = lambda texts: InUse()


ANYBODY = Asker()
type_before = Callable[[], QueryDict | None]


def read_scene(
    data: QueryDict, before: type_before = lambda: None, who: Asker = ANYBODY
) -> Reading:
    """Check everything a form or link says.

    ``before`` gives the link to fall back on for what cannot be used, before the sample is.
    """
    given = {name: str(data[name]).strip()[: TEXT_LIMIT * 2] for name in GEAR if name in data}
    texts = {**GEAR, **given}
    if "lens" not in given and "focal_length_mm" in given:
        texts["lens"] = ""  # the sample's zoom is not the one in hand
    if "camera_height" not in given and is_scene(data):
        texts["camera_height"], texts["tilt_deg"] = "", given.get("tilt_deg", "")
    for box in ("upright", "diffraction", "dusk"):
        texts[box] = "1" if texts[box] else ""
    values, errors = _clean_gear(texts)
    if errors:
        values = {**_last_good(before()), **values}
        errors = {name: f"{text}{_meanwhile(name, values)}" for name, text in errors.items()}
    panels, wrong = read_panels(texts)
    errors |= wrong
    setup = Setup(
        values["focal_length_mm"],
        values["f_number"],
        values["circle_mm"],
        diffraction=bool(texts["diffraction"]),
    )
    system = values["units"]
    measures, judging = (who if _asks_for_own(data, texts) else ANYBODY).own()
    in_use = who.in_use(texts).or_as_told(_told(texts))
    closest = max(float(nearest_focus(setup)), in_use.closest)
    ring = camera = None
    moved = 0.0
    try:
        ring = _ring(texts["ring"], setup, closest, system, measures)
    except ValidationError as error:
        errors["ring"] = " ".join(error.messages)
    try:
        camera = _camera(texts, values, system, measures)
    except ValidationError as error:
        errors["camera_height"] = " ".join(error.messages)
    try:
        moved = _moved(texts["moved"], system, measures)
    except ValidationError as error:
        errors["moved"] = " ".join(error.messages)
    reader = Reader(
        system=system,
        focal_length=values["focal_length_mm"],
        frame_height=_sides(texts, values)[0],
        closest=closest,
        measures=measures,
        judging=judging,
        camera=camera,
        moved=moved,
        look=values["look"] or "",
        subject=_subject(data, panels.subject),
    )
    rows = read_rows(data, reader)
    scene = Scene(
        setup=setup,
        format=values["format"],
        pixels_across=values["pixels_across"],
        place=values["place"],
        ring=ring,
        camera=camera,
        marks=tuple(row.mark for row in rows if row.mark is not None),
        system=system,
        look=values["look"] or Look.EVERYTHING,
        choose=values["choose"] or Choose.FIXED,
        closest=closest,
        subject=reader.subject,
        in_use=in_use,
    )
    assumed = frozenset(_ASSUMED - given.keys())
    return Reading(scene, texts, errors, assumed, rows, panels, in_use, reader)


def _told(texts: Mapping[str, str]) -> Told:
    """What a link tells of a lens; what is not plain there is not told."""
    try:
        ends = tuple(float(part) for part in texts["lens_range"].split())
        closest = float(texts["lens_closest"] or "nan")
    except ValueError:
        return NOT_TOLD
    fits = len(ends) == 2 and 0.5 <= ends[0] < ends[1] <= 128
    return Told((ends[0], ends[1]) if fits else None, closest if 1 < closest < 1e5 else None)


def _subject(data: QueryDict, letter: str) -> str:
    """The letter asked for, if a mark that must be sharp stands there."""
    roles = data.getlist("mark_role")
    at = LETTERS.find(letter) if letter else -1
    return letter if 0 <= at < len(roles) and roles[at] == Role.MUST else ""


def _asks_for_own(data: QueryDict, texts: Mapping[str, str]) -> bool:
    """Whether anything is measured in one's own paces, arms or height, or judged by eye."""
    lengths = [texts[name] for name in ("ring", "camera_height", "moved")]
    for name in ("mark_distance", "mark_stands", "mark_error"):
        lengths += [str(text) for text in data.getlist(name)]
    return How.EYE in data.getlist("mark_how") or any(map(units.in_own_measures, lengths))


_ASSUMED = frozenset(("format", "pixels_across", "focal_length_mm", "f_number", "circle_mm"))
"""What every scene needs and a link may lack."""
_CAMERA_HEIGHT_MM = (10.0, 100_000.0)
_FARTHEST_MOVE_MM = 1e7


def _ring(
    text: str, setup: Setup, closest: float, system: str, measures: units.Measures
) -> float | None:
    if not text:
        return None
    ring = read_length(text, system, measures)
    nearest = float(nearest_focus(setup))
    if ring < nearest:
        raise ValidationError(
            f"Too near: this focal length cannot focus under {units.write(nearest, system, 2)}, "
            "four focal lengths."
        )
    if ring < closest * (1 - 1e-9):
        raise ValidationError(
            f"Too near: this lens focuses from {units.write(closest, system, 2)}."
        )
    return ring


def _moved(text: str, system: str, measures: units.Measures) -> float:
    """How far back the camera has gone, mm; forward, with a minus before it, below 0."""
    if not text:
        return 0.0
    forward = text[0] in "-−–"
    length = read_length(text[1:] if forward else text.removeprefix("+"), system, measures)
    if length > _FARTHEST_MOVE_MM:
        raise ValidationError("The camera moves by up to 10 km.")
    return -length if forward else length


def _sides(texts: Mapping[str, str], values: Mapping[str, Any]) -> tuple[float, float]:
    """How high and how wide the frame is as held, mm."""
    frame = values["format"]
    return (frame.width, frame.height) if texts["upright"] else (frame.height, frame.width)


def _camera(
    texts: Mapping[str, str], values: Mapping[str, Any], system: str, measures: units.Measures
) -> Camera | None:
    """Where the camera stands; None where its height is not said."""
    if not texts["camera_height"]:
        return None
    height = read_length(texts["camera_height"], system, measures)
    if not _CAMERA_HEIGHT_MM[0] <= height <= _CAMERA_HEIGHT_MM[1]:
        raise ValidationError("The camera stands 1 cm to 100 m above the ground.")
    tilt, slope = (math.radians(values.get(name) or 0.0) for name in ("tilt_deg", "slope_deg"))
    return Camera(height, tilt, slope, values["focal_length_mm"], *_sides(texts, values))


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


class PlanForm(forms.Form):
    """The name a plan is saved under."""

    name = forms.CharField(
        max_length=80,
        error_messages={
            "required": "Give the plan a name to find it by.",
            "max_length": "Keep the name to 80 letters.",
        },
    )
