"""The scene as text, as it stands in the form and in the URL, to checked values and back.

One reading serves the page, the fragment, the link and saving. Nothing typed is ever dropped:
what cannot be used keeps its text and gets a message, and the last value that made sense stands
in for it, so that there is always a picture.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping
from dataclasses import replace
from typing import Any

from django.core.exceptions import ValidationError
from django.http import QueryDict

from optics.base import units
from optics.lens.cone import nearest_subject
from optics.scene.after_trial import Learnt, Trial
from optics.scene.answer import answer
from optics.scene.camera import Camera
from optics.scene.marks import Look as Seen
from optics.scene.scenes import Scene
from web.hand.asker import ANYBODY, Asker
from web.hand.reader import TICKS, Hand, read_hand, type_before
from web.hand.typed import Typed
from web.view.choices import Choose, How, Role
from web.view.distances import Reader
from web.view.fields import FIELDS
from web.view.panels import Panels, read_panels
from web.view.reading import Reading
from web.view.rows import LETTERS, read_rows
from web.view.sample import GEAR, MARKS
from web.view.trial import learnt, read_trials, trials_text
from web.view.typed import SAID_OF_A_MARK, Row

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


def read_scene(
    data: QueryDict, before: type_before = lambda: None, who: Asker = ANYBODY
) -> Reading:
    """Check everything a form or link says.

    ``before`` gives the link to fall back on for what cannot be used, before the sample is.
    """

    def changed(texts: dict[str, str], given: frozenset[str]) -> None:
        if "camera_height" not in given and is_scene(data):  # half a link has no camera
            texts["camera_height"] = ""
            texts["tilt_deg"] = texts["tilt_deg"] if "tilt_deg" in given else ""

    hand = read_hand(
        data, GEAR, before, who, fields=FIELDS, ticks=(*TICKS, "dusk"), changed=changed
    )
    texts, values, kit = hand.texts, hand.values, hand.kit
    panels, wrong = read_panels(texts, hand.system)
    typed = Typed(texts, hand.system, who, hand.errors | wrong)
    measures, judging, _ = (who if _asks_for_own(data, texts) else ANYBODY).own()
    reader = Reader(
        system=hand.system,
        focal_length=kit.focal_length,
        frame_height=hand.sides[1],
        closest=kit.closest,
        nearest=nearest_subject(kit.at(hand.f_number)),
        measures=measures,
        judging=judging,
        camera=typed.get("camera_height", lambda text: _camera(typed, hand, text)),
        moved=typed.get("moved", lambda text: _moved(typed, text), 0.0),
        look=values["look"] or "",
        subject=_subject(data, panels.subject),
        front=typed.get("lens_front", lambda text: _front(typed, text), hand.in_use.front),
    )
    rows = read_rows(data, reader)
    marks = tuple(row.mark for row in rows if row.mark is not None)
    subject = (mark.depth for mark in marks if mark.must and mark.letter == reader.subject)
    scene = Scene(
        kit=kit,
        f_number=hand.f_number,
        marks=marks,
        look=Seen(hand.frame, hand.pixels_across),
        school=values["place"],
        choose=values["choose"] or Choose.FIXED,
        ring=typed.get("ring", lambda text: typed.ring(text, kit.closest, hand.lens_reaches)),
        subject=next(subject, None),
        camera=reader.camera,
        overlap=panels.overlap,
        system=hand.system,
        taking=panels.taking,
    )
    trials = _trials(typed, hand, panels, scene)
    if not texts["ring"]:
        scene = replace(scene, ring=None)
    found = typed.get("trials", lambda text: learnt(scene, hand.in_use, panels.focus_by, trials))
    if found is not None:
        scene, rows = found.scene, _likelier(rows, found, hand.system)
    return Reading(
        hand, texts, typed.errors, hand.assumed, scene, rows, panels, reader, trials, found
    )


def _trials(typed: Typed, hand: Hand, panels: Panels, scene: Scene) -> tuple[Trial, ...]:
    """The trial frames: as typed; or the one that an older link says only the letters of, taken
    with the ring where it was."""

    def ring(text: str) -> float:
        return typed.ring(text, hand.kit.closest, hand.lens_reaches)

    trials: tuple[Trial, ...] = typed.get("trials", lambda text: read_trials(text, ring), ())
    if typed.texts["trials"] or not (panels.trial_soft or panels.trial_sharp):
        return trials
    before = answer(scene)
    soft, sharp = panels.trial_soft, panels.trial_sharp - panels.trial_soft
    trials = (Trial(before.ring.focus, before.scene.setup.f_number, soft, sharp),)
    text = trials_text(trials, hand.system)
    hand.texts.update({"trials": text, "trial_soft": "", "trial_sharp": "", "ring": ""})
    return trials


def _likelier(rows: tuple[Row, ...], found: Learnt, system: str) -> tuple[Row, ...]:
    """Rows with their marks where trial frames have them, and a word of it."""
    marks = {mark.letter: mark for mark in found.scene.marks}
    now = {one.letter: one.now for one in found.revised}
    told = []
    for row in rows:
        if row.mark is not None:
            row = replace(row, mark=marks[row.letter])
        if row.letter in now:
            likelier = units.write(now[row.letter], system, 3)
            note = f"{row.note} Likelier {likelier} deep, by the trial frame.".strip()
            row = replace(row, note=note)
        told.append(row)
    return tuple(told)


def _subject(data: QueryDict, letter: str) -> str:
    """The letter asked for, if a mark that must be sharp stands there."""
    roles = data.getlist("mark_role")
    at = LETTERS.find(letter) if letter else -1
    return letter if 0 <= at < len(roles) and roles[at] == Role.MUST else ""


def _asks_for_own(data: QueryDict, texts: Mapping[str, str]) -> bool:
    """Whether anything is measured in one's own paces, arms or height, or judged by eye."""
    lengths = [texts[name] for name in Reading.LENGTHS]
    for name in ("mark_distance", "mark_stands", "mark_error"):
        lengths += [str(text) for text in data.getlist(name)]
    return How.EYE in data.getlist("mark_how") or any(map(units.in_own_measures, lengths))


_CAMERA_HEIGHT_MM = (10.0, 100_000.0)
_FARTHEST_MOVE_MM = 1e7


def _moved(typed: Typed, text: str) -> float:
    """How far back the camera has gone, mm; forward, with a minus before it, below 0."""
    forward = text[0] in "-−–"
    length = typed.length(text[1:] if forward else text.removeprefix("+"))
    if length > _FARTHEST_MOVE_MM:
        raise ValidationError("The camera moves by up to 10 km.")
    return -length if forward else length


def _front(typed: Typed, text: str) -> float:
    """How far the front of the lens is from the sensor mark, mm."""
    length = typed.length(text)
    if not _FRONT_MM[0] <= length <= _FRONT_MM[1]:
        raise ValidationError("From the sensor mark to the front of a lens it is 5 mm to 2.5 m.")
    return length


_FRONT_MM = (5.0, 2500.0)


def _camera(typed: Typed, hand: Hand, text: str) -> Camera:
    """Where the camera stands."""
    height = typed.length(text)
    if not _CAMERA_HEIGHT_MM[0] <= height <= _CAMERA_HEIGHT_MM[1]:
        raise ValidationError("The camera stands 1 cm to 100 m above the ground.")
    tilt, slope = (math.radians(hand.values.get(name) or 0.0) for name in ("tilt_deg", "slope_deg"))
    wide, high = hand.sides
    return Camera(height, tilt, slope, hand.kit.focal_length, high, wide)
