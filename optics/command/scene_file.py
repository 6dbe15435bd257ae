"""A scene as plain data and back as an answer: what ``python -m optics aim`` reads and writes.

Keys carry their units. Lengths may be numbers of millimetres or text as people write it
(``"1.3 m"``, ``"4' 3\\""``, ``"inf"``). Unknown keys are refused with their place, so that a
misspelt one is not silently left out. The form is described in docs/optics.md.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping
from typing import Any, TypeVar

from optics.base.errors import NotUnderstood, OpticsError
from optics.base.formats import BY_KEY
from optics.base.units import METRES, UNITS, parse
from optics.lens.setup import Setup
from optics.scene.answer import Aim
from optics.scene.frame import Camera
from optics.scene.marks import Look, Mark, Verdict, Wish
from optics.scene.schools import Placed, Scene, School

_SETUP = {
    "focal_length_mm": "focal_length",
    "f_number": "f_number",
    "circle_mm": "coc",
    "pupil_ratio": "pupil_ratio",
    "hiatus_mm": "hiatus",
    "lens_disc_mm": "lens_disc",
    "focus_shift_mm": "focus_shift",
}
_REQUIRED = ("focal_length_mm", "f_number", "circle_mm")
_OTHER = (
    "diffraction", "format", "pixels_across", "marks", "camera", "subject", "margin", "overlap",
    "focus_error_per_m", "place", "units",
)  # fmt: skip
Made = TypeVar("Made")
_MARK = ("name", "depth", "uncertainty", "wish", "softness")
_CAMERA = ("height", "tilt_deg", "slope_deg", "upright")


def scene_of(data: Any) -> tuple[Scene, School, str]:
    """The scene, the chosen school and the units for answers, from plain data as JSON gives it.

    Raises NotUnderstood, whose ``name`` is the place at fault (``marks[2].depth``), and any
    OpticsError of the values themselves.
    """
    data = _mapping("scene", data)
    _only("", data, (*_SETUP, *_OTHER))
    for key in _REQUIRED:
        if key not in data:
            raise NotUnderstood(key, "", "This is missing from the scene.")
    units = str(data.get("units", METRES))
    if units not in UNITS:
        raise NotUnderstood("units", units, f"Choose one of {', '.join(UNITS)}.")
    numbers = {name: _number(key, data[key]) for key, name in _SETUP.items() if key in data}
    setup = _at("", lambda: Setup(**numbers, diffraction=_flag(data, "diffraction")))
    frame = _one_of("format", data.get("format", "full-frame"), BY_KEY)
    pixels = data.get("pixels_across")
    if pixels is not None and (not isinstance(pixels, int) or pixels < 1):
        raise NotUnderstood("pixels_across", repr(pixels), "Give a whole number of pixels.")
    camera_data = data.get("camera")
    marks = data.get("marks", [])
    if not isinstance(marks, list):
        raise NotUnderstood("marks", repr(marks)[:40], "This must be a list of marks.")
    more = {key: _number(key, data[key]) for key in ("margin", "overlap") if key in data}
    if "focus_error_per_m" in data:
        more["focus_error"] = _number("focus_error_per_m", data["focus_error_per_m"]) / 1000.0
    subject = _length("subject", data["subject"], units) if "subject" in data else None
    scene = _at(
        "",
        lambda: Scene(
            setup=setup,
            marks=tuple(_mark(f"marks[{at}]", mark, units) for at, mark in enumerate(marks)),
            look=Look(frame, pixels),
            subject=subject,
            camera=None if camera_data is None else _camera(camera_data, setup, frame, units),
            **more,
        ),
    )
    place = _one_of("place", data.get("place", School.BETWEEN), {s.value: s for s in School})
    return scene, place, units


def _mark(place: str, data: Any, units: str) -> Mark:
    data = _mapping(place, data)
    _only(f"{place}.", data, _MARK)
    if "depth" not in data:
        raise NotUnderstood(f"{place}.depth", "", "This is missing from the mark.")
    wish = _one_of(f"{place}.wish", data.get("wish", Wish.SHARP), {w.value: w for w in Wish})
    depth = _length(f"{place}.depth", data["depth"], units)
    unsure = _length(f"{place}.uncertainty", data.get("uncertainty", 0.0), units)
    softness = _number(f"{place}.softness", data.get("softness", 2.0))
    name = str(data.get("name", ""))
    return _at(f"{place}.", lambda: Mark(depth, unsure, wish, softness, name))


def _camera(data: Any, setup: Setup, frame: Any, units: str) -> Camera:
    data = _mapping("camera", data)
    _only("camera.", data, _CAMERA)
    if "height" not in data:
        raise NotUnderstood("camera.height", "", "This is missing from the camera.")
    height = _length("camera.height", data["height"], units)
    tilt, slope = (
        math.radians(_number(f"camera.{key}", data.get(key, 0.0)))
        for key in ("tilt_deg", "slope_deg")
    )
    sides = (frame.height, frame.width)
    high, wide = sides[::-1] if _flag(data, "upright") else sides
    focal_length = float(setup.focal_length)
    return _at("camera.", lambda: Camera(height, tilt, slope, focal_length, high, wide))


def _at(place: str, make: Callable[[], Made]) -> Made:
    """Say where in the data a value is that the core refuses."""
    try:
        return make()
    except NotUnderstood:
        raise
    except OpticsError as error:
        raise NotUnderstood(f"{place}{error.name}", repr(error.value), error.sentence) from error


def _mapping(place: str, data: Any) -> Mapping[str, Any]:
    if not isinstance(data, dict):
        raise NotUnderstood(place, repr(data)[:40], "This must be an object with named values.")
    return data


def _only(place: str, data: Mapping[str, Any], known: tuple[str, ...]) -> None:
    for key in data:
        if key not in known:
            sentence = f"This is not known here. Known are {', '.join(known)}."
            raise NotUnderstood(f"{place}{key}", repr(data[key])[:40], sentence)


def _number(place: str, value: Any) -> float:
    if isinstance(value, bool) or not isinstance(value, (int, float)):
        raise NotUnderstood(place, repr(value)[:40], "This must be a number.")
    try:
        return float(value)
    except OverflowError:
        raise NotUnderstood(place, repr(value)[:40], "This is too large a number.") from None


def _flag(data: Mapping[str, Any], key: str) -> bool:
    value = data.get(key, False)
    if not isinstance(value, bool):
        raise NotUnderstood(key, repr(value)[:40], "This must be true or false.")
    return value


def _length(place: str, value: Any, units: str) -> float:
    if isinstance(value, str):
        try:
            return parse(value, units)
        except NotUnderstood as error:
            raise NotUnderstood(place, value, error.sentence) from error
    return _number(place, value)


def _one_of(place: str, value: Any, known: Mapping[str, Any]) -> Any:
    if str(value) not in known:
        raise NotUnderstood(place, repr(value)[:40], f"Choose one of {', '.join(known)}.")
    return known[str(value)]


def answer_of(aim: Aim) -> dict[str, Any]:
    """An answer as plain data for JSON, in mm; infinity is the text ``inf``, nothing is null."""
    window, placed = aim.window, aim.placed
    return {
        "place": aim.chosen.school.value,
        "why_not": aim.chosen.why_not or None,
        "ring_mm": None if aim.setting is None else _json(aim.setting.focus),
        "f_number": float(aim.scene.setup.f_number),
        "window_mm": None if window is None else [_json(window.nearest), _json(window.farthest)],
        "sharp_mm": _limits(placed),
        "marks": [] if placed is None else [_verdict(verdict) for verdict in placed.verdicts],
        "f_number_needed": aim.apertures and aim.apertures.widest_holding,
        "f_number_sharpest": aim.apertures and aim.apertures.sharpest,
        "schools": [_school(school) for school in aim.schools],
    }


def _json(value: float) -> float | str | None:
    if math.isnan(value):
        return None
    return "inf" if math.isinf(value) else value


def _limits(placed: Placed | None) -> list[float | str | None] | None:
    if placed is None or placed.limits is None:
        return None
    return [_json(float(placed.limits.near)), _json(float(placed.limits.far))]


def _verdict(verdict: Verdict) -> dict[str, Any]:
    return {
        "name": verdict.mark.name,
        "depth_mm": _json(verdict.mark.depth),
        "word": verdict.word.value,
        "met": verdict.met,
        "blur_mm": verdict.blur,
        "circles": verdict.circles,
        "pixels": verdict.pixels,
        "at_subject_mm": _json(verdict.at_subject),
        "widest_print_mm": _json(verdict.print_width),
    }


def _school(placed: Placed) -> dict[str, Any]:
    cost = placed.cost
    return {
        "place": placed.school.value,
        "why_not": placed.why_not or None,
        "focus_mm": None if placed.focus is None else _json(placed.focus),
        "settings_mm": [_json(setting) for setting in placed.settings],
        "sharp_mm": _limits(placed),
        "lost": None if cost is None else [placed.verdicts[at].mark.name for at in cost.lost],
        "worst_circles": None if cost is None else cost.worst,
        "stops": None if cost is None else cost.stops,
        "exposures": None if cost is None else cost.exposures,
    }
