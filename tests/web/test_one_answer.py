"""One scene has one answer: what ``python -m optics aim`` prints is what View's page says.

Random scenes go to both as a user would give them: as JSON in a file, and as a link.
"""

from __future__ import annotations

import contextlib
import io
import json
import re
import tempfile
from html import unescape
from pathlib import Path
from typing import Any

from django.http import QueryDict
from hypothesis import example, given, settings
from hypothesis import strategies as st
from hypothesis.extra.django import TestCase

from optics.base import settable
from optics.command.main import main
from optics.lens.aperture import THIRDS
from optics.scene.schools import OFFERED
from tests import examples
from web.ui.templatetags import format

WISHES = ("must", "nice", "may_go", "fall_soft")


def commanded(data: dict[str, Any]) -> Any:
    """What the command answers to a scene."""
    said = io.StringIO()
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "scene.json"
        path.write_text(json.dumps(data), "utf-8")
        with contextlib.redirect_stdout(said):
            if main(["aim", str(path), "-o", "json"]) != 0:
                raise AssertionError(said.getvalue())
    return json.loads(said.getvalue())


def as_link(data: dict[str, Any]) -> QueryDict:
    """The same scene as a link says it."""
    link = QueryDict(mutable=True)
    for name in ("focal_length_mm", "f_number", "circle_mm", "format", "pixels_across", "place",
                 "choose", "units"):  # fmt: skip
        link[name] = str(data[name])
    link["diffraction"] = "1" if data["diffraction"] else ""
    link["lens_range"] = f"{data['apertures'][0]} {data['apertures'][-1]}"
    link["lens_closest"] = f"{data['closest_mm']:.12g}"
    link["lens_pupils"] = f"{data['pupil_ratio']} {data['hiatus_mm']}"
    if "camera" in data:
        link["camera_height"] = f"{data['camera']['height']} mm"
        link["tilt_deg"] = str(data["camera"]["tilt_deg"])
    for mark in data["marks"]:
        link.appendlist("mark_name", mark["letter"])
        link.appendlist("mark_distance", f"{mark['depth']!r} mm")
        link.appendlist("mark_role", mark["wish"])
        share = 100 * mark["uncertainty"] / mark["depth"]
        link.appendlist("mark_error", f"{share:.12f} %")
    return link


ENGRAVED = [n for n in THIRDS.names if 2 <= n <= 22]


@st.composite
def scenes(draw: st.DrawFn) -> dict[str, Any]:
    """A scene that a photographer could have."""
    depths = draw(st.lists(st.integers(700, 400_000), min_size=1, max_size=4))
    data = {
        "focal_length_mm": draw(st.sampled_from([16, 24, 35, 50])),
        "f_number": draw(st.sampled_from([2.8, 5.6, 8, 11, 16])),
        "circle_mm": draw(st.sampled_from([0.008, 0.015, 0.025, 0.03])),
        "format": "full-frame",
        "pixels_across": 6000,
        "diffraction": draw(st.booleans()),
        "pupil_ratio": draw(st.sampled_from([1.0, 0.8, 1.4])),
        "hiatus_mm": draw(st.sampled_from([0.0, -6.0, 9.0])),
        "closest_mm": draw(st.sampled_from([300.0, 700.0])),
        "apertures": ENGRAVED,
        "place": draw(st.sampled_from([school.key for school in OFFERED])),
        "choose": draw(st.sampled_from(["fixed", "widest", "sharpest", "softens"])),
        "units": draw(st.sampled_from(["m", "ft"])),
        "marks": [
            {
                "letter": "ABCD"[at],
                "depth": float(depth),
                "uncertainty": depth * draw(st.sampled_from([0.0, 0.0, 0.05])),
                "wish": draw(st.sampled_from(WISHES)),
            }
            for at, depth in enumerate(depths)
        ],
    }
    if draw(st.booleans()):
        data["camera"] = {"height": 1500.0, "tilt_deg": draw(st.sampled_from([0.0, 5.0, 20.0]))}
    return data


DIFFERED = {
    "focal_length_mm": 35, "f_number": 16, "circle_mm": 0.025, "format": "full-frame",
    "pixels_across": 6000, "diffraction": False, "pupil_ratio": 1.0, "hiatus_mm": 0.0,
    "closest_mm": 300.0, "apertures": ENGRAVED, "place": "between", "choose": "fixed",
    "units": "m",
    "marks": [
        {"letter": "A", "depth": 1510.0, "uncertainty": 0.0, "wish": "must"},
        {"letter": "B", "depth": 9100.0, "uncertainty": 0.0, "wish": "must"},
    ],
}  # fmt: skip
"""A scene that the command and the page once answered differently."""

NARROW = DIFFERED | {
    "focal_length_mm": 50, "circle_mm": 0.015, "pupil_ratio": 1.4, "choose": "widest",
    "marks": [
        {"letter": "A", "depth": 1454.0, "uncertainty": 0.0, "wish": "must"},
        {"letter": "B", "depth": 1574.0, "uncertainty": 0.0, "wish": "must"},
    ],
}  # fmt: skip
"""One whose window has room only for a setting of four figures."""


class OneAnswerTest(TestCase):
    @settings(max_examples=examples(60))
    @given(scenes())
    @example(DIFFERED)
    @example(NARROW)
    def test_the_command_and_the_page_say_the_same(self, data: dict[str, Any]) -> None:
        told = commanded(data)
        page = self.client.get("/view/", as_link(data)).content.decode()
        system = data["units"]
        self.assertNotIn("message wrong", page)
        text = unescape(re.sub(r"<[^>]+>", " ", page))
        words = " ".join(text.split())

        ring = re.search(r'id="ring-now"[^>]*>(.*?)</output>', page)
        assert ring is not None
        shown = " ".join(unescape(re.sub(r"<[^>]+>", " ", ring[1])).split())
        near, *more = map(float, told["settings_mm"])
        self.assertEqual(near, float(told["ring_mm"]))
        self.assertEqual(shown, settable.written(near, system))
        for focus in more:
            self.assertIn(settable.written(focus, system), words)
        self.assertIn(f'data-number="{told["f_number"]:g}"', page)

        if told["why_not"]:
            self.assertIn(told["why_not"], words)
        if None not in told["exact_sharp_mm"]:
            ends = [float(end) for end in told["exact_sharp_mm"]]
            self.assertIn(f"Sharp {placed(ends, system)}", words)
        if told["window_mm"] is not None and not more:
            ends = [float(end) for end in told["exact_window_mm"]]
            if ends[0] <= near <= ends[1] and any(m["wish"] == "must" for m in data["marks"]):
                self.assertIn(f"Anywhere {placed(ends, system)}", words)
        for at, mark in enumerate(told["marks"]):
            said = re.search(rf'id="verdict-{at}">(.*?)</span>\s*(?:<button|</)', page, re.DOTALL)
            assert said is not None
            self.assertIn(f"<b>{mark['word']}</b>", said[1])
            self.assertIn(f"{format.figures2(mark['pixels'])} px", said[1])


def placed(ends: list[float], system: str) -> str:
    """A stretch of distance as the page writes it, rounded inwards."""
    return str(format.placed(settable.inside(ends[0], ends[1], system), system))
