"""python -m imaging, as another program calls it."""

from __future__ import annotations

import json
import re
import subprocess
import sys
import tempfile
import unittest
from pathlib import Path
from typing import Any

from imaging.command import main
from tests.imaging import drawn
from tests.ran import ran

DOCUMENT = (Path(__file__).resolve().parents[2] / "docs" / "imaging.md").read_text("utf-8")


class CommandTest(unittest.TestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)

    def picture(self, light: drawn.Picture, name: str = "picture.jpg") -> str:
        path = self.folder / name
        path.write_bytes(drawn.file(light))
        return str(path)

    def said(self, *words: str) -> dict[str, Any]:
        code, out, err = ran(main, *words)
        self.assertEqual((code, err), (0, ""))
        found: dict[str, Any] = json.loads(out)
        return found

    def test_in_a_process_of_its_own(self) -> None:
        words = ("exif", self.picture(drawn.edge(6.0, 5.0, (60, 60))))
        command = [sys.executable, "-m", "imaging", *words]
        done = subprocess.run(command, capture_output=True, text=True, check=False)
        self.assertEqual((done.returncode, done.stderr), (0, ""))
        self.assertEqual(json.loads(done.stdout), self.said(*words))

    def test_each_says_what_is_documented(self) -> None:
        edge = self.picture(drawn.edge(6.0, 5.0, (300, 300)))
        stars = self.picture(drawn.stars(3.0, 0.004, 1), "stars.jpg")
        said = {
            "edge": self.said("edge", edge),
            "stars": self.said("stars", stars),
            "map": self.said("map", edge, "--patch", "100"),
            "exif": self.said("exif", edge),
            "beside": self.said("beside", edge, edge),
        }
        for name, found in said.items():
            row = next(line for line in DOCUMENT.splitlines() if line.startswith(f"| `{name} "))
            for key in found:
                with self.subTest(name, key=key):
                    self.assertRegex(row, rf"`{re.escape(key)}`")
        self.assertAlmostEqual(said["edge"]["disc_px"], 6.0, delta=0.18)
        self.assertAlmostEqual(said["edge"]["angle_deg"], 5.0, delta=0.1)
        self.assertAlmostEqual(said["stars"]["fwhm_px"], 3.0, delta=0.09)
        self.assertEqual(len(said["map"]["known"]), 3)
        discs = [disc for row in said["map"]["disc_px"] for disc in row]
        known = [one for row in said["map"]["known"] for one in row]
        self.assertEqual([disc is not None for disc in discs], known)
        self.assertIsNone(said["exif"]["f_number"])
        says = {one for row in said["beside"]["says"] for one in row}
        self.assertLessEqual(says, {"same", "not known"})

    def test_what_is_wrong_is_one_sentence_and_exit_code_two(self) -> None:
        letter = self.folder / "letter.jpg"
        letter.write_text("Not a picture.", "utf-8")
        plain = self.picture(drawn.edge(4.0, levels=(0.4, 0.4)))
        for words in (
            ("edge", str(letter)), ("edge", "not-there.jpg"), ("edge", plain), ("stars", plain),
            ("shift", plain), ("map", plain, "--patch", "2"), ("map", plain, "--patch", "x"),
            ("blur", plain), (), ("beside", plain), ("shift", plain, plain, "--f-number", "2"),
        ):  # fmt: skip
            with self.subTest(words):
                code, out, err = ran(main, *words)
                self.assertEqual((code, out), (2, ""))
                self.assertEqual(err.count("\n"), 1)


class DocumentTest(unittest.TestCase):
    def test_every_source_that_is_named_is_listed(self) -> None:
        listed = set(re.findall(r"^- \*\*\[(\w+)\]\*\*", DOCUMENT, re.MULTILINE))
        folder = Path(__file__).resolve().parents[2] / "imaging"
        texts = "".join(path.read_text("utf-8") for path in folder.glob("*.py"))
        said = "".join(re.findall(r'"""(.*?)"""', texts, re.DOTALL))
        named = set(re.findall(r"(?<=[\s(])\[([a-z]+)\]", said))
        self.assertEqual(named - listed - {"gauss"}, set(), "named and not listed")
        self.assertEqual(listed - named, set(), "listed and not named")
