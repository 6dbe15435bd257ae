"""The sample world: the valley of Ostrel. All of it is invented."""

from __future__ import annotations

from web.view import plans
from web.view.forms import read_scene, sample_query, scene_query
from web.view.models import Plan
from web.view.sample import GEAR, NAME

_HALLIN_TOP = {**GEAR, "focal_length_mm": "20", "f_number": "8", "place": "hyperfocal"}
_HALLIN_MARKS = (
    ("Cairn", "2.4 m", "must"),
    ("Relay hut", "60 m", "must"),
    ("Far ridge", "inf", "must"),
)
_TINDER_ROW = {
    **GEAR,
    "lens": "28 mm f/2.8 with tab",
    "focal_length_mm": "28",
    "f_number": "8",
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
        ("Tinder Row, under the wires", scene_query(_TINDER_ROW, _TINDER_MARKS)),
        ("Hallin Top, the hut", scene_query(_HALLIN_TOP, _HALLIN_MARKS)),
        (NAME, sample_query()),
    )
    for name, query in scenes:
        plans.save(name, read_scene(query), None)
    return len(scenes)
