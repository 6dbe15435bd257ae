"""The sample world: the valley of Ostrel. All of it is invented."""

from __future__ import annotations

from typing import Any

from django.http import QueryDict

from web.bag.models import Attachment, Body, InHand, Lens, Standard, Turn
from web.cards import packs
from web.demo.drilled import practise
from web.demo.outings import go_out
from web.hand.asker import ANYBODY
from web.kept import keeper
from web.kept.kinds import Kind
from web.kept.models import Kept
from web.people.models import Owner
from web.people.owners import sample
from web.sky import kind as sky
from web.sky import sample as sky_sample
from web.street import kind as street
from web.street import sample as street_sample
from web.view import kind as view
from web.view.forms import sample_query, scene_query
from web.view.sample import GEAR, NAME

_HALLIN_TOP = {**GEAR, "focal_length_mm": "20", "f_number": "8", "place": "hyperfocal"}
_HALLIN_MARKS = (
    ("Cairn", "2.4 m", "must"),
    ("Relay hut", "60 m", "must"),
    ("Far ridge", "∞", "must"),
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


_SETS: tuple[tuple[str, dict[str, str]], ...] = (
    ("Tinder Row, late, wide open", {"f_number": "2.8", "like": "2.5 m", "light": "8"}),
    ("Tinder Row, at the stalls", {"near": "0.7 m", "far": "4 m", "count": "2", "f_number": "11"}),
    (street_sample.NAME, {}),
)
_NIGHTS: tuple[tuple[str, dict[str, str]], ...] = (
    ("Sallow Pit, the slab under stars", {"foreground": "1.3 m", "star_px": "2"}),
    (sky_sample.NAME, {}),
)
_IN_THE_PACK = (NAME, "Hallin Top, the hut", street_sample.NAME, sky_sample.NAME)
_BODIES: tuple[dict[str, Any], ...] = (
    {
        "name": "Full frame, 24 MP", "format": "full-frame", "pixels_across": 6000,
        "starts_focus": "rear", "button": "the thumb button", "shutter_refocuses": False,
        "magnify": "the centre of the rear dial", "release": "two seconds",
    },
    {"name": "Small body, 26 MP", "format": "aps-c", "pixels_across": 6240},
    {"name": "6 × 6 film back", "format": "6x6", "steps": "full", "starts_focus": "nothing"},
)  # fmt: skip
_LENSES: tuple[dict[str, Any], ...] = (
    {
        "name": "20–35 mm f/4 zoom", "shortest_mm": 20, "longest_mm": 35, "widest": 4,
        "smallest": 22, "closest_mm": 280, "throw_deg": 80, "to_infinity": Turn.CLOCKWISE,
        "as_it_closes": "keeps",
    },
    {
        "name": "28 mm f/2.8 with tab", "shortest_mm": 28, "longest_mm": 28, "widest": 2.8,
        "smallest": 16, "closest_mm": 700, "to_infinity": Turn.ANTICLOCKWISE,
        "tab_at_infinity_hours": 4.5,
        "marks": [[700.0, 92.0], [800.0, 78.0], [1000.0, 60.0], [1200.0, 49.0], [1500.0, 38.5],
                  [2000.0, 28.2], [3000.0, 18.4], [5000.0, 10.9], [10000.0, 5.4], [None, 0.0]],
        "depth_marks": [4.0, 8.0, 11.0, 16.0], "depth_marks_circle_mm": 0.033,
    },
    {
        "name": "16 mm f/2 for the night", "shortest_mm": 16, "longest_mm": 16, "widest": 2,
        "smallest": 22, "closest_mm": 250, "throw_deg": 150, "to_infinity": Turn.CLOCKWISE,
        "as_it_closes": "shifts",
    },
    {"name": "50 mm f/1.8", "shortest_mm": 50, "longest_mm": 50, "widest": 1.8,
     "ring_kind": "endless", "has_scale": False},
    {
        "name": "90 mm f/2.8 for close work", "shortest_mm": 90, "longest_mm": 90, "widest": 2.8,
        "smallest": 32, "closest_mm": 380, "throw_deg": 270, "pupil_ratio": 0.9, "hiatus_mm": 8,
    },
    {
        "name": "35 mm f/2.8, tested", "shortest_mm": 35, "longest_mm": 35, "widest": 2.8,
        "smallest": 16, "closest_mm": 300, "throw_deg": 120,
        "findings": [{
            "key": "5f1a7e57", "kind": "shift", "on": "2026-03-01", "focal_length_mm": 35.0,
            "distance_mm": 432.0, "body": "Full frame, 24 MP", "used": True,
            # Measured from frames that the made-up camera took of it.
            "rows": [[2.8, 0.0, 0.00058], [4.0, 0.0106, 0.00094], [5.6, 0.0203, 0.0012],
                     [8.0, 0.0238, 0.00082], [11.0, 0.0267, 0.0012]],
        }],
    },
)  # fmt: skip
_ATTACHMENTS: tuple[dict[str, Any], ...] = (
    {"name": "1.4× converter", "factor": 1.4},
    {"name": "12 mm extension ring", "factor": 1.0, "keeps_infinity": False},
)
_STANDARDS: tuple[dict[str, Any], ...] = (
    {"name": "Wall print at arm’s length", "way": "print", "print_width_mm": 576,
     "viewing_mm": 500},
    {"name": "Album print", "way": "print", "print_width_mm": 180, "viewing_mm": 250},
    {"name": "4K screen", "way": "screen", "screen_pixels": 3840, "counts_diffraction": True},
    {"name": "Every pixel", "way": "pixels", "pixels": 1, "counts_diffraction": True},
)  # fmt: skip


def fill_bag(owner: Owner) -> None:
    """Put the sample's gear into an empty bag."""
    for kind, things in (
        (Body, _BODIES), (Lens, _LENSES), (Attachment, _ATTACHMENTS), (Standard, _STANDARDS)
    ):  # fmt: skip
        for fields in things:
            kind.objects.create(owner=owner, **fields)
    InHand.objects.create(
        owner=owner,
        body=Body.objects.filter(owner=owner).first(),
        lens=Lens.objects.filter(owner=owner).first(),
        standard=Standard.objects.filter(owner=owner).first(),
        focal_length_mm=float(GEAR["focal_length_mm"]),
        f_number=float(GEAR["f_number"]),
    )


def make(owner: Owner) -> None:
    """Give the sample's owner all that the sample world has."""
    fill_bag(owner)
    things: list[tuple[Kind, str, QueryDict]] = [
        (view.KIND, "Tinder Row, under the wires", scene_query(_TINDER_ROW, _TINDER_MARKS)),
        (view.KIND, "Hallin Top, the hut", scene_query(_HALLIN_TOP, _HALLIN_MARKS)),
        (view.KIND, NAME, sample_query()),
        *((street.KIND, name, _link(street_sample.GEAR | said)) for name, said in _SETS),
        *((sky.KIND, name, _link(sky_sample.GEAR | said)) for name, said in _NIGHTS),
    ]
    for kind, name, link in things:
        keeper.save(owner, kind, name, kind.read(link, ANYBODY))
    kept = Kept.objects.filter(owner=owner, name__in=_IN_THE_PACK).order_by("pk")
    zooms = [lens for lens in Lens.objects.filter(owner=owner) if lens.is_zoom]
    values = [*(f"kept:{one.pk}:card" for one in kept), *(f"lens:{one.pk}:zoom" for one in zooms)]
    packs.put(packs.new(owner, "For the coat pocket"), values)
    go_out(owner)
    practise(owner)


def _link(texts: dict[str, str]) -> QueryDict:
    query = QueryDict(mutable=True)
    query.update(texts)
    return query


def load() -> Owner:
    """The sample's owner, with the sample world made, or made whole, if it was not there."""
    owner = sample()
    if not Body.with_deleted.filter(owner=owner).exists():
        fill_bag(owner)
    return owner
