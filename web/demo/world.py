"""The sample world: the valley of Ostrel. All of it is invented."""

from __future__ import annotations

from django.http import QueryDict

from web.view import plans
from web.view.forms import read_scene, sample_query
from web.view.models import Plan
from web.view.sample import NAME

_HALLIN_TOP = {
    "lens": "20–35 mm f/4 zoom",
    "format": "full-frame",
    "pixels_across": "6000",
    "focal_length_mm": "20",
    "f_number": "8",
    "circle_mm": "0.025",
    "place": "hyperfocal",
    "ring": "",
    "units": "m",
}
_HALLIN_MARKS = (
    ("Cairn", "2.4 m", "must"),
    ("Relay hut", "60 m", "must"),
    ("Far ridge", "inf", "must"),
)
_TINDER_ROW = {
    "lens": "28 mm f/2.8 with tab",
    "format": "full-frame",
    "pixels_across": "6000",
    "focal_length_mm": "28",
    "f_number": "8",
    "circle_mm": "0.025",
    "place": "between",
    "ring": "",
    "units": "ft",
}
_TINDER_MARKS = (
    ("Lamp seller", "7 ft", "must"),
    ("Tram wire mast", "30 ft", "must"),
    ("Awning rope", "3 ft", "may_go"),
)


def load() -> int:
    """Load the sample plans into an empty database. Returns how many, 0 if it was not empty."""
    if Plan.with_deleted.exists():
        return 0
    scenes = (
        ("Tinder Row, under the wires", _scene(_TINDER_ROW, _TINDER_MARKS)),
        ("Hallin Top, the hut", _scene(_HALLIN_TOP, _HALLIN_MARKS)),
        (NAME, sample_query()),
    )
    for name, query in scenes:
        plans.save(name, read_scene(query), None)
    return len(scenes)


def _scene(gear: dict[str, str], marks: tuple[tuple[str, str, str], ...]) -> QueryDict:
    query = QueryDict(mutable=True)
    query.update(gear)
    for name, distance, role in marks:
        query.appendlist("mark_name", name)
        query.appendlist("mark_distance", distance)
        query.appendlist("mark_role", role)
    return query
