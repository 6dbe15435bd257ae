"""A scene and its camera as JSON: read with the same care as anything typed. docs/simulator.md."""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Any

from optics.lens.kit import Fault
from simulator.body import Body
from simulator.camera import Camera, Shake
from simulator.errors import SceneError
from simulator.frame import Scene
from simulator.lens import Faults, Lens
from simulator.stars import Stars
from simulator.things import Board, Edge, Sheet, Thing

MOST_THINGS = 40


@dataclass(frozen=True, slots=True)
class _Reader:
    """An object of the file, and where in it that stands."""

    place: str
    values: Mapping[str, Any]

    @classmethod
    def of(cls, place: str, value: Any, known: str) -> _Reader:
        if not isinstance(value, dict):
            raise SceneError(place, "This should be an object with named values.")
        for name in value:
            if name not in known.split():
                raise SceneError(f"{place}.{name}".strip("."), "This field is not known.")
        return cls(place, value)

    def at(self, name: str) -> str:
        return f"{self.place}.{name}".strip(".")

    def number(self, name: str, usual: float | None, low: float, high: float) -> float:
        value = self.values.get(name, usual)
        if value is None and usual is None:
            raise SceneError(self.at(name), "A number is missing.")
        if value == "inf":
            value = math.inf
        if isinstance(value, bool) or not isinstance(value, (int, float)) or math.isnan(value):
            raise SceneError(self.at(name), "This is not a number.")
        if not low <= value <= high:
            raise SceneError(self.at(name), f"This should be from {low:g} to {high:g}.")
        return float(value)

    def whole(self, name: str, usual: int, low: int, high: int) -> int:
        value = self.number(name, usual, low, high)
        if value != int(value):
            raise SceneError(self.at(name), "This should be a whole number.")
        return int(value)

    def angle(self, name: str, usual: float) -> float:
        return math.radians(self.number(name, usual, -180, 180))

    def text(self, name: str, usual: str) -> str:
        value = self.values.get(name, usual)
        if not isinstance(value, str) or len(value) > 60 or not value.isprintable():
            raise SceneError(self.at(name), "This should be a short text.")
        return value

    def inner(self, name: str, known: str) -> _Reader:
        return _Reader.of(self.at(name), self.values.get(name, {}), known)


def read(data: Any) -> tuple[Scene, Camera]:
    """A scene and the camera before it, from what JSON holds. Raises SceneError."""
    whole = _Reader.of("", data, "camera lens body things stars shake light haze seed")
    lens = _lens(whole.inner("lens", "focal_length_mm widest smallest faults name"))
    body = _body(whole.inner("body", "width_px height_px frame_width_mm full_well read_noise name"))
    shake = whole.inner("shake", "pixels direction_deg")
    said = whole.inner(
        "camera", "f_number focused_on_mm focused_at ring_at_mm iso exposure_s taken"
    )
    f_number = said.number("f_number", lens.widest, lens.widest, lens.smallest)
    camera = Camera(
        lens,
        body,
        f_number,
        _ring(said, lens),
        iso=said.number("iso", 100, 25, 409_600),
        time=said.number("exposure_s", 0.01, 1e-5, 3600),
        shake=Shake(shake.number("pixels", 0, 0, 400), shake.angle("direction_deg", 0)),
        taken=said.text("taken", "2026:03:01 12:00:00"),
    )
    things = whole.values.get("things", [])
    if not isinstance(things, list) or len(things) > MOST_THINGS:
        raise SceneError("things", f"This should be a list of at most {MOST_THINGS} things.")
    scene = Scene(
        tuple(_thing(f"things[{at}]", one) for at, one in enumerate(things)),
        _stars(whole) if "stars" in whole.values else None,
        light=whole.number("light", 1, 0, 100),
        haze=whole.number("haze", 0, 0, 0.99),
        seed=whole.whole("seed", 1, 0, 2**31),
    )
    nearest = 2.2 * lens.focal_length
    for at, thing in enumerate(scene.things):
        if thing.depth < nearest:
            raise SceneError(f"things[{at}].depth_mm", "That is inside the lens.")
    return scene, camera


def _lens(said: _Reader) -> Lens:
    focal_length = said.number("focal_length_mm", 50, 4, 1200)
    widest = said.number("widest", 1.8, 0.7, 64)
    faults = said.inner("faults", "by_aperture corner_disc_mm decentring_mm infinity_mm scale")
    rows = faults.values.get("by_aperture", [])
    if not isinstance(rows, list) or len(rows) > 60:
        raise SceneError(faults.at("by_aperture"), "This should be a list of apertures.")
    found = []
    for at, row in enumerate(rows):
        one = _Reader.of(f"{faults.at('by_aperture')}[{at}]", row, "f_number disc_mm shift_mm")
        found.append(
            Fault(
                one.number("f_number", None, 0.7, 128),
                one.number("disc_mm", 0, 0, 1),
                one.number("shift_mm", 0, -2, 2),
            )
        )
    return Lens(
        focal_length,
        widest,
        said.number("smallest", max(22.0, widest), widest, 128),
        Faults(
            tuple(found),
            faults.number("corner_disc_mm", 0, 0, 1),
            faults.number("decentring_mm", 0, -1, 1),
            faults.number("infinity_mm", 0, -2, 2),
            faults.number("scale", 0, -0.5, 0.5),
        ),
        said.text("name", "made-up lens"),
    )


def _body(said: _Reader) -> Body:
    return Body(
        said.whole("width_px", 3000, 64, 8000),
        said.whole("height_px", 2000, 64, 8000),
        said.number("frame_width_mm", 36, 3, 60),
        said.number("full_well", 40_000, 500, 1e6),
        said.number("read_noise", 3, 0, 100),
        name=said.text("name", "Made-up body"),
    )


def _ring(said: _Reader, lens: Lens) -> float:
    nearest = 4.0 * lens.focal_length
    if "ring_at_mm" in said.values:
        if "focused_on_mm" in said.values:
            raise SceneError(said.at("ring_at_mm"), "Say this or focused_on_mm, not both.")
        return lens.stands_at(said.number("ring_at_mm", None, nearest, math.inf))
    wide = said.number("focused_at", lens.widest, lens.widest, lens.smallest)
    return lens.stands_for(said.number("focused_on_mm", math.inf, nearest, math.inf), wide)


def _stars(whole: _Reader) -> Stars:
    said = whole.inner("stars", "count brightest sky drift_mm")
    return Stars(
        said.whole("count", 60, 1, 2000),
        said.number("brightest", 3, 0, 1e6),
        said.number("sky", 0.01, 0, 1),
        said.number("drift_mm", 0, 0, 20),
    )


_PLACED = "kind depth_mm x_mm y_mm lean_deg turn_deg roll_deg speed_mm_s heading_deg"


def _placed(said: _Reader, lean: float, farthest: float) -> dict[str, float]:
    return {
        "depth": said.number("depth_mm", None, 20, farthest),
        "x": said.number("x_mm", 0, -1e7, 1e7),
        "y": said.number("y_mm", 0, -1e7, 1e7),
        "lean": math.radians(said.number("lean_deg", lean, -89, 89)),
        "turn": math.radians(said.number("turn_deg", 0, -89, 89)),
        "roll": said.angle("roll_deg", 0),
        "speed": said.number("speed_mm_s", 0, 0, 1e5),
        "heading": said.angle("heading_deg", 0),
    }


def _sheet(place: str, value: Any) -> Thing:
    said = _Reader.of(place, value, f"{_PLACED} paper")
    paper = said.text("paper", "a4")
    if paper not in ("a4", "letter"):
        raise SceneError(said.at("paper"), "This should be a4 or letter.")
    return Sheet(**_placed(said, 45, 1e6), paper=paper)


def _edge(place: str, value: Any) -> Thing:
    said = _Reader.of(place, value, f"{_PLACED} slant_deg dark light")
    return Edge(
        **_placed(said, 0, 1e9),
        slant=said.angle("slant_deg", 5),
        dark=said.number("dark", 0.05, 0, 1),
        light=said.number("light", 0.72, 0, 1),
    )


def _board(place: str, value: Any) -> Thing:
    said = _Reader.of(place, value, f"{_PLACED} width_mm height_mm grain_mm darkest lightest")
    return Board(
        **_placed(said, 0, math.inf),
        width=said.number("width_mm", math.inf, 1, math.inf),
        height=said.number("height_mm", math.inf, 1, math.inf),
        grain=said.number("grain_mm", 40, 0.1, 1e7),
        darkest=said.number("darkest", 0.04, 0.001, 1),
        lightest=said.number("lightest", 0.6, 0.001, 1),
    )


_KINDS: dict[str, Callable[[str, Any], Thing]] = {"sheet": _sheet, "edge": _edge, "board": _board}


def _thing(place: str, value: Any) -> Thing:
    kind = value.get("kind") if isinstance(value, dict) else None
    if not isinstance(kind, str) or kind not in _KINDS:
        raise SceneError(f"{place}.kind", f"This should be one of {', '.join(_KINDS)}.")
    return _KINDS[kind](place, value)
