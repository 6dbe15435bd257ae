"""The scene as text, as it stands in the form and in the URL, to checked values and back.

One reading serves the page, the fragment, the link and saving. Nothing typed is ever dropped:
what cannot be used keeps its text and gets a message, and the last value that made sense stands
in for it, so that there is always a picture.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Iterable, Mapping
from typing import Any

from django.core.exceptions import ValidationError
from django.http import QueryDict

from optics.base import units
from optics.lens.cone import nearest_subject
from optics.lens.kit import Kit
from optics.scene.camera import Camera
from optics.scene.marks import Look as Seen
from optics.scene.scenes import Scene
from web.bag import gear
from web.bag.gear import ANYBODY, TEXT_LIMIT, Asker
from web.ui.fields import read_length
from web.view.distances import Reader
from web.view.fields import FIELDS
from web.view.models import Choose, How, Role
from web.view.panels import read_panels
from web.view.reading import Reading
from web.view.rows import LETTERS, read_rows
from web.view.sample import GEAR, MARKS
from web.view.typed import SAID_OF_A_MARK

_MARK_COLUMNS = ("name", "distance", "role", *SAID_OF_A_MARK)


def scene_query(texts: Mapping[str, str], marks: Iterable[tuple[str, ...]]) -> QueryDict:
    """A scene as a link would say it. ``marks``: name, distance and role of each, as text; and what
    else is said of it, in the order of ``SAID_OF_A_MARK``."""
    query = QueryDict(mutable=True)
    query.update(texts)
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
    values, errors = gear.clean(FIELDS, texts)
    if errors:
        values = {**gear.last_good(FIELDS, GEAR, before()), **values}
        errors = {name: f"{text}{gear.meanwhile(name, values)}" for name, text in errors.items()}
    panels, wrong = read_panels(texts)
    errors |= wrong
    in_use = who.in_use(texts).or_as_told(gear.told(texts))
    setup = gear.setup_of(values, bool(texts["diffraction"]), in_use)
    system = values["units"]
    measures, judging = (who if _asks_for_own(data, texts) else ANYBODY).own()
    kit = Kit(
        float(setup.focal_length),
        float(setup.coc),
        float(setup.pupil_ratio),
        float(setup.hiatus),
        setup.diffraction,
        in_use.apertures(float(setup.focal_length)),
        in_use.closest,
    )
    closest = kit.closest
    ring = camera = None
    moved = 0.0
    try:
        ring = gear.ring_typed(texts["ring"], setup, closest, system, measures)
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
        nearest=nearest_subject(setup),
        measures=measures,
        judging=judging,
        camera=camera,
        moved=moved,
        look=values["look"] or "",
        subject=_subject(data, panels.subject),
    )
    rows = read_rows(data, reader)
    marks = tuple(row.mark for row in rows if row.mark is not None)
    subject = (mark.depth for mark in marks if mark.must and mark.letter == reader.subject)
    scene = Scene(
        kit=kit,
        f_number=values["f_number"],
        marks=marks,
        look=Seen(values["format"], values["pixels_across"]),
        school=values["place"],
        choose=values["choose"] or Choose.FIXED,
        ring=ring,
        subject=next(subject, None),
        camera=camera,
        system=system,
    )
    assumed = frozenset(gear.ASSUMED - given.keys())
    return Reading(scene, texts, errors, assumed, rows, panels, in_use, reader)


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


_CAMERA_HEIGHT_MM = (10.0, 100_000.0)
_FARTHEST_MOVE_MM = 1e7


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
