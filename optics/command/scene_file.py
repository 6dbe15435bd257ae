"""A scene as plain data: what ``python -m optics aim`` reads.

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
from optics.base.units import METRES, SYSTEMS, UNITS, parse
from optics.lens.aperture import THIRDS
from optics.lens.kit import Fault, Kit
from optics.scene import schools
from optics.scene.camera import Camera
from optics.scene.marks import Look, Mark, Wish
from optics.scene.scenes import Choose, Scene

_KIT = {
    "focal_length_mm": "focal_length",
    "circle_mm": "coc",
    "pupil_ratio": "pupil_ratio",
    "hiatus_mm": "hiatus",
    "closest_mm": "closest",
}
_FAULT = {"lens_disc_mm": "lens_disc", "focus_shift_mm": "focus_shift"}
_REQUIRED = ("focal_length_mm", "f_number", "circle_mm")
_OTHER = (
    "f_number", "apertures", "diffraction", "format", "pixels_across", "marks", "camera", "subject",
    "margin", "overlap", "focus_error_per_m", "place", "choose", "ring", "units",
)  # fmt: skip
Made = TypeVar("Made")
_MARK = ("name", "letter", "depth", "uncertainty", "wish", "softness")
_CAMERA = ("height", "tilt_deg", "slope_deg", "upright")


def scene_of(data: Any) -> tuple[Scene, str]:
    """The scene and the units for answers, from plain data as JSON gives it.

    Raises NotUnderstood, whose ``name`` is the place at fault (``marks[2].depth``), and any
    OpticsError of the values themselves.
    """
    data = _mapping("scene", data)
    _only("", data, (*_KIT, *_FAULT, *_OTHER))
    for key in _REQUIRED:
        if key not in data:
            raise NotUnderstood(key, "", "This is missing from the scene.")
    units = str(data.get("units", METRES))
    if units not in UNITS:
        raise NotUnderstood("units", units, f"Choose one of {', '.join(UNITS)}.")
    f_number = _number("f_number", data["f_number"])
    kit = _kit(data, f_number)
    frame = _one_of("format", data.get("format", "full-frame"), BY_KEY)
    pixels = data.get("pixels_across")
    if pixels is not None and (not isinstance(pixels, int) or pixels < 1):
        raise NotUnderstood("pixels_across", repr(pixels), "Give a whole number of pixels.")
    camera = data.get("camera")
    marks = _list("marks", data.get("marks", []), "marks")
    more: dict[str, Any] = {
        key: _number(key, data[key]) for key in ("margin", "overlap") if key in data
    }
    if "focus_error_per_m" in data:
        more["focus_error"] = _number("focus_error_per_m", data["focus_error_per_m"]) / 1000.0
    for key in ("subject", "ring"):
        if key in data:
            more[key] = _length(key, data[key], units)
    choices = {choice.value: choice for choice in Choose}
    scene = _at(
        "",
        lambda: Scene(
            kit=kit,
            f_number=f_number,
            marks=tuple(_mark(f"marks[{at}]", mark, units) for at, mark in enumerate(marks)),
            look=Look(frame, pixels),
            school=_one_of("place", data.get("place", "between"), schools.BY_KEY).key,
            choose=_one_of("choose", data.get("choose", Choose.FIXED), choices),
            camera=None if camera is None else _camera(camera, kit, frame, units),
            system=units if units in SYSTEMS else METRES,
            **more,
        ),
    )
    return scene, units


def _kit(data: Mapping[str, Any], f_number: float) -> Kit:
    numbers = {name: _number(key, data[key]) for key, name in _KIT.items() if key in data}
    wrong = {name: _number(key, data[key]) for key, name in _FAULT.items() if key in data}
    apertures = THIRDS.names
    if "apertures" in data:
        given = _list("apertures", data["apertures"], "f-numbers")
        named = (_number(f"apertures[{at}]", number) for at, number in enumerate(given))
        apertures = tuple(sorted(named))
    counts = _flag(data, "diffraction")

    def made() -> Kit:
        faults = (Fault(f_number, **wrong),) if any(wrong.values()) else ()
        kit = Kit(**numbers, diffraction=counts, apertures=apertures, faults=faults)
        kit.at(f_number)  # refuses what no aperture can have
        return kit

    return _at("", made)


def _list(place: str, value: Any, of: str) -> list[Any]:
    if not isinstance(value, list):
        raise NotUnderstood(place, repr(value)[:40], f"This must be a list of {of}.")
    return value


def _mark(place: str, data: Any, units: str) -> Mark:
    data = _mapping(place, data)
    _only(f"{place}.", data, _MARK)
    if "depth" not in data:
        raise NotUnderstood(f"{place}.depth", "", "This is missing from the mark.")
    wish = _one_of(f"{place}.wish", data.get("wish", Wish.SHARP), {w.value: w for w in Wish})
    depth = _length(f"{place}.depth", data["depth"], units)
    unsure = _length(f"{place}.uncertainty", data.get("uncertainty", 0.0), units)
    softness = _number(f"{place}.softness", data.get("softness", 2.0))
    name, letter = str(data.get("name", "")), str(data.get("letter", ""))
    return _at(f"{place}.", lambda: Mark(depth, unsure, wish, softness, name, letter))


def _camera(data: Any, kit: Kit, frame: Any, units: str) -> Camera:
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
    focal_length = kit.focal_length
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
