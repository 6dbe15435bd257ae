"""What the documents promise about the code: sources that exist, numbers that are right."""

from __future__ import annotations

import contextlib
import importlib
import inspect
import io
import pkgutil
import re
import unittest
from pathlib import Path

import optics
from optics import Setup
from optics.lens import depth, diffraction, wave
from optics.lens.conjugates import magnification

ROOT = Path(__file__).resolve().parents[2]
REFERENCES = (ROOT / "docs" / "references.md").read_text("utf-8")
DERIVATIONS = (ROOT / "docs" / "optics.md").read_text("utf-8")
_SOURCE = re.compile(r"(?<=[\s(])\[([a-z]+\d*)\]")
MODULES = [
    importlib.import_module(module.name)
    for module in pkgutil.walk_packages(optics.__path__, "optics.")
    if not module.name.endswith("__main__")
]


class ExampleTest(unittest.TestCase):
    def test_the_example_of_ten_lines_prints_what_it_says(self) -> None:
        code = re.search(
            r"```python\n(.*?)```\n\nIt prints:\n\n```text\n(.*?)```", DERIVATIONS, re.S
        )
        assert code is not None
        said = io.StringIO()
        with contextlib.redirect_stdout(said):
            exec(compile(code[1], "docs/optics.md", "exec"), {})
        self.assertEqual(said.getvalue(), code[2])


class SourcesTest(unittest.TestCase):
    def test_every_source_that_is_named_is_listed(self) -> None:
        listed = set(re.findall(r"^- \*\*\[(\w+)\]\*\*", REFERENCES, re.MULTILINE))
        texts = [Path(str(module.__file__)).read_text("utf-8") for module in MODULES]
        named = {key for text in (*texts, DERIVATIONS) for key in _SOURCE.findall(text)}
        self.assertEqual(named - listed, set(), "named and not listed")
        self.assertEqual(listed - named, set(), "listed and not named")

    def test_every_public_name_has_a_docstring(self) -> None:
        missing = [
            f"{module.__name__}.{name}"
            for module in MODULES
            for name, thing in vars(module).items()
            if not name.startswith("_")
            and (inspect.isfunction(thing) or inspect.isclass(thing))
            and thing.__module__ == module.__name__
            and not (thing.__doc__ or "").strip()
        ]
        self.assertEqual(missing, [])


class NumbersTest(unittest.TestCase):
    def test_the_worked_numbers_are_right(self) -> None:
        self.assertAlmostEqual(magnification(Setup(24, 11, 0.025), 2600.0), 0.009405, 6)
        self.assertAlmostEqual(0.025 * 11 / 24, 0.011458, 6)
        self.assertAlmostEqual(float(depth.hyperfocal(Setup(24, 11, 0.025))), 2142.8, 1)
        self.assertAlmostEqual(16000 * float(wave.cube_sum(0.020 / 16)), 22.7, 1)
        self.assertAlmostEqual(1000 * float(diffraction.combine(0.020, 16)), 22.3, 1)
        for number in ("0.009405", "0.011458", "2142.8", "22.7 µm", "22.3", "1.5 %"):
            self.assertIn(number, DERIVATIONS)

    def test_every_plot_is_there(self) -> None:
        for name in re.findall(r"\(plots/([\w-]+\.svg)\)", DERIVATIONS):
            self.assertTrue((ROOT / "docs" / "plots" / name).exists(), name)
