"""The sample world: the valley of Ostrel. All of it is invented."""

from __future__ import annotations

from web.people.models import Owner
from web.people.owners import sample
from web.view import plans
from web.view.forms import read_scene, sample_query, scene_query
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


def make(owner: Owner) -> None:
    """Give the sample's owner all that the sample world has."""
    scenes = (
        ("Tinder Row, under the wires", scene_query(_TINDER_ROW, _TINDER_MARKS)),
        ("Hallin Top, the hut", scene_query(_HALLIN_TOP, _HALLIN_MARKS)),
        (NAME, sample_query()),
    )
    for name, query in scenes:
        plans.save(owner, name, read_scene(query))


def load() -> Owner:
    """The sample's owner, with the sample world made if it was not there."""
    return sample()
