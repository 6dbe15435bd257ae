"""python -m optics, as one would use it in a shell."""

from __future__ import annotations

import csv
import io
import itertools
import json
import math
import os
import pty
import subprocess
import sys
import tempfile
import unittest
from functools import partial
from pathlib import Path
from unittest import mock

from optics import Setup
from optics.command.main import BAD_INPUT, STOPPED, _with_progress, main
from optics.lens import depth
from tests import ran as command
from tests.optics.reference import values

SALLOW_PIT = {
    "focal_length_mm": 24,
    "f_number": 11,
    "circle_mm": 0.025,
    "pixels_across": 6000,
    "camera": {"height": "0.9 m", "tilt_deg": 15},
    "marks": [
        {"name": "Slate slab", "depth": "1.3 m", "uncertainty": "65 mm"},
        {"name": "Winch wheel", "depth": "4.2 m"},
        {"name": "Tip ridge", "depth": 180000},
        {"name": "Reed tuft", "depth": "2' 7\"", "wish": "may_go"},
    ],
}


ran = partial(command.ran, main)
"""Exit code, standard output and standard error."""


class TableTest(unittest.TestCase):
    def test_hyperfocal_as_csv(self) -> None:
        code, out, err = ran("table", "24,28", "-a", "8,11", "-c", "0.025", "-o", "csv")
        self.assertEqual((code, err), (0, ""))
        rows = list(csv.DictReader(io.StringIO(out)))
        self.assertEqual(len(rows), 4)
        expected = values.HYPERFOCAL[0][1].value
        self.assertAlmostEqual(float(rows[1]["hyperfocal_mm"]), expected, delta=1e-3)
        self.assertEqual(list(rows[0]), ["focal_length_mm", "f_number", "hyperfocal_mm", "near_mm"])

    def test_limits_as_json(self) -> None:
        code, out, _ = ran("table", "28", "-a", "f/8", "-c", "0.02", "-f", "2m,inf", "-o", "json")
        self.assertEqual(code, 0)
        rows = json.loads(out)
        self.assertAlmostEqual(rows[0]["near_mm"], 1440.0622, delta=1e-3)
        self.assertEqual(rows[1]["focus_mm"], "inf")

    def test_text_in_the_units_asked_for(self) -> None:
        code, out, _ = ran("table", "20:35:5", "-a", "full", "-f", "3:9:3", "-u", "ft")
        self.assertEqual(code, 0)
        lines = out.splitlines()
        self.assertEqual(len(lines), 1 + 4 * 11 * 3)
        self.assertIn("20 mm", lines[1])
        self.assertIn("3 ft", lines[1])
        code, out, _ = ran("table", "50", "-d", "-a", "32", "-c", "0.01", "-f", "3m")
        self.assertIn("nothing", out)
        code, out, _ = ran("table", "50", "-d", "-a", "32", "-c", "0.01", "-o", "json")
        self.assertEqual(json.loads(out)[0]["near_mm"], None)
        self.assertEqual(len(ran("table", "50")[1].splitlines()), 9, "the usual apertures")

    def test_what_is_not_understood_is_said(self) -> None:
        cases = (
            (("table", "abc"), "focal lengths: This is not a number. Given: abc"),
            (("table", "0"), "focal_length: The focal length must be more than zero."),
            (("table", "24", "-a", "nan"), "f_number"),
            (("table", "24", "-f", "12 furlongs"), "“furlongs” is not known"),
            (("table", "24", "-f", "5cm"), "No lens focuses nearer"),
            (("table", "35:20:5"), "rises from start to stop"),
            (("table", "20:35"), "start:stop:step"),
            (("table", "1:3000:1e-9"), "more than 100000 steps"),
            (("table", "24", "-o", "xml"), "invalid choice"),
            (("chart",), "invalid choice"),
            (("aim", "no-such-file.json"), "No such file"),
        )
        for arguments, part in cases:
            with self.subTest(arguments):
                code, out, err = ran(*arguments)
                self.assertEqual((code, out), (BAD_INPUT, ""))
                self.assertIn(part, err)

    def test_the_bar_comes_after_a_second_and_goes_when_done(self) -> None:
        terminal = io.StringIO()
        with (
            mock.patch.object(terminal, "isatty", return_value=True),
            mock.patch("sys.stdout", io.StringIO()),
            mock.patch("time.monotonic", side_effect=itertools.count(0, 0.4)),
        ):
            rows = list(_with_progress(iter([None] * 640), 640, terminal))  # type: ignore[list-item]
        self.assertEqual(len(rows), 640)
        shown = terminal.getvalue().split("\r")
        self.assertNotIn(" 128 of", terminal.getvalue())
        self.assertTrue(shown[1].startswith("█████████·"), shown[1])
        self.assertIn("640 of 640 rows", shown[-2])
        self.assertEqual(shown[-1], "\x1b[K")

    def test_a_long_table_shows_a_bar_on_a_terminal_only(self) -> None:
        command = [
            sys.executable,
            "-m",
            "optics",
            "table",
            "10:400:0.01",
            "-a",
            "thirds",
            "-o",
            "csv",
        ]
        ours, theirs = pty.openpty()
        with subprocess.Popen(command, stdout=subprocess.DEVNULL, stderr=theirs) as process:
            os.close(theirs)
            shown = b""
            while b"rows" not in shown:
                shown += os.read(ours, 1000)
            process.terminate()
        os.close(ours)
        self.assertIn("of 1209031 rows", shown.decode(errors="ignore"))

    def test_stopping_and_broken_pipes_are_quiet(self) -> None:
        with mock.patch("optics.command.main.hyperfocal_rows", side_effect=KeyboardInterrupt):
            self.assertEqual(ran("table", "24")[0], STOPPED)
        table = f"{sys.executable} -m optics table 10:60:0.01 -o csv"
        shell = subprocess.run(
            ["bash", "-c", f"set -o pipefail; {table} | head -1"],
            capture_output=True, text=True, check=False,
        )  # fmt: skip
        self.assertEqual((shell.returncode, shell.stderr), (0, ""))


class AimTest(unittest.TestCase):
    def test_the_answer_comes_first(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            file = Path(folder) / "scene.json"
            file.write_text(json.dumps(SALLOW_PIT), "utf-8")
            code, out, err = ran("aim", str(file))
        self.assertEqual((code, err), (0, ""))
        lines = out.splitlines()
        self.assertEqual(lines[0], "Set the ring to 2.6 m, f/11.")
        self.assertEqual(lines[1], "Anywhere from 2.2 m to 2.8 m holds all that must be sharp.")
        self.assertEqual(lines[2], "Sharp from 1.2 m to ∞.")
        self.assertIn("f/10; the sharpest f/14", lines[3])

    def test_as_json_and_csv(self) -> None:
        given = json.dumps(SALLOW_PIT)
        answer = json.loads(ran("aim", "-", "-o", "json", given=given)[1])
        self.assertEqual((answer["ring_mm"], answer["sharp_mm"][1]), (2600, "inf"))
        nearest = values.WINDOW_NEAREST.value
        self.assertAlmostEqual(answer["exact_window_mm"][0], nearest, delta=1e-3)
        self.assertEqual(answer["window_mm"], [2200, 2800])
        self.assertEqual([m["word"] for m in answer["marks"]], ["holds"] * 3 + ["soft"])
        self.assertEqual(len(answer["schools"]), 8)
        rows = list(csv.DictReader(io.StringIO(ran("aim", "-", "-o", "csv", given=given)[1])))
        self.assertEqual(rows[3]["name"], "Reed tuft")

    def test_other_answers(self) -> None:
        gear = {k: v for k, v in SALLOW_PIT.items() if k.endswith(("mm", "number"))}
        hyperfocal = ran("aim", "-", given=json.dumps(gear))[1]
        self.assertIn("Set the ring to 2.2 m", hyperfocal)
        self.assertIn("Anywhere from 2.2 m to ∞ keeps infinity sharp.", hyperfocal)
        self.assertIn("infinity     3.2 m: sharp from 1.3 m to ∞", hyperfocal)
        close = {**gear, "marks": [{"depth": "0.5m"}, {"depth": "inf"}]}
        text = ran("aim", "-", given=json.dumps(close))[1]
        self.assertIn("No setting holds all that must be sharp.", text)
        self.assertIn("holds it is f/25", text)
        frames = ran("aim", "-", given=json.dumps({**close, "place": "frames"}))[1]
        self.assertIn("Set the ring in turn to", frames)
        third = ran("aim", "-", given=json.dumps({**close, "place": "third_up"}))[1]
        self.assertIn("Where the camera stands is not known. Placed by the ends meanwhile.", third)
        blind = {**close, "f_number": 32, "circle_mm": 0.01, "diffraction": True}
        self.assertIn("No aperture does", ran("aim", "-", given=json.dumps(blind))[1])
        self.assertIn(
            "nothing is sharp", ran("aim", "-", given=json.dumps({**blind, "marks": []}))[1]
        )
        nothing = json.loads(ran("aim", "-", "-o", "json", given=json.dumps(blind))[1])
        self.assertEqual((nothing["window_mm"], nothing["sharp_mm"]), (None, [None, None]))
        self.assertEqual(
            ran("aim", "-", "-o", "csv", given=json.dumps(gear))[1], "name,depth_mm,word\n"
        )
        subject = {**close, "place": "subject", "subject": "2 paces", "units": "ft"}
        self.assertIn("Set the ring to 4′ 11″", ran("aim", "-", given=json.dumps(subject))[1])
        infinity = {**gear, "place": "infinity", "margin": 2, "focus_error_per_m": 0.2}
        self.assertIn("Set the ring to 4.3 m", ran("aim", "-", given=json.dumps(infinity))[1])

    def test_what_is_not_understood_is_said_with_its_place(self) -> None:
        def changed(**more: object) -> str:
            return json.dumps({**SALLOW_PIT, **more})

        cases = (
            ("{", "This is not JSON"),
            ("[1]", "scene: This must be an object"),
            ("{}", "focal_length_mm: This is missing"),
            (changed(focal_lenght_mm=24), "focal_lenght_mm: This is not known here"),
            (changed(f_number="11"), "f_number: This must be a number"),
            (changed(f_number=0), "f_number: The aperture must be more than zero"),
            (changed(f_number=10**400), "too large a number"),
            (changed(f_number=math.nan), "f_number: The aperture is not a number"),
            (changed(format="postcard"), "format: Choose one of full-frame"),
            (changed(place="anywhere"), "place: Choose one of between"),
            (changed(units="furlong"), "units: Choose one of m"),
            (changed(diffraction="yes"), "diffraction: This must be true or false"),
            (changed(pixels_across=0.5), "pixels_across: Give a whole number"),
            (changed(marks={}), "marks: This must be a list"),
            (changed(marks=[3]), "marks[0]: This must be an object"),
            (changed(marks=[{}]), "marks[0].depth: This is missing"),
            (changed(marks=[{"depth": "5' 14\""}]), "marks[0].depth: 14 inches are a foot"),
            (changed(marks=[{"depth": 100, "wish": "?"}]), "marks[0].wish: Choose one of must"),
            (changed(marks=[{"depth": 100, "uncertainty": 100}]), "marks[0].uncertainty"),
            (changed(marks=[{"depth": 20}]), "inside the lens"),
            (changed(camera={}), "camera.height: This is missing"),
            (changed(camera={"height": 900, "tilt_deg": 100}), "camera.tilt"),
            (changed(camera={"height": 900, "lens": 1}), "camera.lens: This is not known here"),
        )
        for given, part in cases:
            with self.subTest(part):
                code, out, err = ran("aim", "-", given=given)
                self.assertEqual((code, out), (BAD_INPUT, ""))
                self.assertIn(part, err)

    def test_without_django_in_a_shell_of_its_own(self) -> None:
        done = subprocess.run(
            [sys.executable, "-m", "optics", "table", "24", "-a", "11", "-c", "0.025", "-o", "csv"],
            capture_output=True, text=True, check=True,
        )  # fmt: skip
        near = float(
            depth.limits(Setup(24, 11, 0.025), depth.hyperfocal(Setup(24, 11, 0.025))).near
        )
        self.assertAlmostEqual(float(done.stdout.splitlines()[1].split(",")[3]), near, delta=1e-3)
