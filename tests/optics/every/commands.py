"""What the command prints, for tables and scenes of every kind, right and wrong."""

from __future__ import annotations

import io
import json
import re
from contextlib import redirect_stderr, redirect_stdout
from unittest import mock

from optics.command.main import main

MARKS = [
    {"name": "Slab", "letter": "A", "depth": "1.3 m", "uncertainty": "6 cm"},
    {"name": "Wheel", "letter": "B", "depth": 4200, "wish": "nice"},
    {"name": "Ridge", "letter": "C", "depth": "inf"},
    {"name": "Tuft", "letter": "D", "depth": "0.8 m", "wish": "fall_soft", "softness": 3},
]
SCENE = {"focal_length_mm": 24, "f_number": 11, "circle_mm": 0.025}
MORE: tuple[dict[str, object], ...] = (
    {}, {"marks": MARKS[:1]}, {"marks": MARKS}, {"marks": MARKS, "units": "ft"},
    {"marks": MARKS, "diffraction": True, "pixels_across": 6000}, {"marks": MARKS, "ring": "1.1 m"},
    {"marks": MARKS[2:], "place": "hyperfocal", "choose": "sharpest"},
    {"marks": MARKS[:2], "apertures": [16, 2.8, 8], "choose": "widest", "closest_mm": 400},
    {"marks": MARKS, "camera": {"height": "0.9 m", "tilt_deg": 15}, "place": "third_up"},
    {"marks": MARKS, "camera": {"height": 900, "upright": True, "slope_deg": 4}},
    {"marks": MARKS[:3], "f_number": 2.8, "place": "frames", "overlap": 0.3},
    {"marks": MARKS, "place": "infinity", "margin": 2, "format": "four-thirds"},
    {"marks": MARKS, "place": "subject", "subject": "2 m", "focus_error_per_m": 0.05},
    {"marks": MARKS, "lens_disc_mm": 0.01, "focus_shift_mm": 0.02, "pupil_ratio": 0.8,
     "hiatus_mm": -4},
    {"marks": [{"depth": "1 m", "colour": 1}]}, {"marks": [{"name": "A"}]}, {"marks": 7},
    {"marks": [{"depth": "near"}]}, {"marks": [{"depth": 20}]}, {"units": "yd"}, {"place": "x"},
    {"f_number": "8"}, {"f_number": True}, {"circle_mm": -1}, {"apertures": []}, {"margin": 0},
    {"pixels_across": 0}, {"camera": {"tilt_deg": 1}}, {"camera": {"height": 1, "upright": 2}},
    {"diffraction": "yes"}, {"ring": -1}, {"format": "x"}, {"choose": "x"}, {"new": 1},
)  # fmt: skip
TABLES = (
    "24", "24,35 -a 8,11", "20:35:5 -a full -c 0.02 -u ft", "50 -f 1m,2m,inf -d", "24 -a halves",
    "24,85 -f 1:5:2 -a thirds", "24 -f 4' -u ft -a 5.6", "x", "24 -c x", "24 -f near",
    "1:2", "5:1:1", "1:2:0", "1:1e9:0.001", "24 -a f/x", "-5", "24 -a 0", "24 -f 0.01m", "24mm",
)  # fmt: skip


LONG = re.compile(r"\d+\.\d{7,}(?:e-?\d+)?")
"""A number to the last bit, which is another machine's own."""


def ran(arguments: list[str], given: str = "") -> list[str]:
    """Its code and its lines."""
    out, complaints = io.StringIO(), io.StringIO()
    with (
        redirect_stdout(out),
        redirect_stderr(complaints),
        mock.patch("sys.stdin", io.StringIO(given)),
    ):
        try:
            code: object = main(arguments)
        except SystemExit as left:
            return [f"left with {left.code}"]
    lines = [*out.getvalue().splitlines(), *complaints.getvalue().splitlines()]
    return [f"code {code}", *(LONG.sub(lambda n: f"{float(n[0]):.8g}", line) for line in lines)]


def all_printed() -> dict[str, list[list[str]]]:
    """By what is asked: the lines in each of the forms of output."""
    found: dict[str, list[list[str]]] = {}
    for output in ("text", "csv", "json"):
        for table in TABLES:
            name = f"optics.command table {table}"
            found.setdefault(name, []).append(ran(["table", "-o", output, "--", *table.split()]
                if table.startswith("-") else ["table", *table.split(), "-o", output]))  # fmt: skip
        for more in MORE:
            name = f"optics.command aim {json.dumps(more)}"
            scene = json.dumps(SCENE | more)
            found.setdefault(name, []).append(ran(["aim", "-", "-o", output], scene))
    for odd in ("", "[]", "{", "null", "[" * 5000):
        found[f"optics.command aim {odd[:9]}"] = [ran(["aim", "-"], odd)]
    found["optics.command aim a file that is not there"] = [ran(["aim", "no-such-file.json"])]
    return found
