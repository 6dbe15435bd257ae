"""Every public function of the drawing says what it said, to the last coordinate.

``cases`` has the arguments; ``values.json.xz`` what was drawn. Where a drawing is meant to change:
``python -m tests.drawing.record``.
"""

from __future__ import annotations

import inspect
import pkgutil
import re
import unittest
from importlib import import_module

import drawing
from tests import WHOLE
from tests.drawing.cases import Cases
from tests.drawing.record import all_drawn, recorded
from tests.optics.every.record import changes

ODD = re.compile(r"\bnan\b|\binf\b")


class EveryDrawingTest(unittest.TestCase):
    drawn: dict[str, list[list[str] | None]]

    @classmethod
    def setUpClass(cls) -> None:
        cls.drawn = all_drawn(1 if WHOLE else 4)

    def test_all_of_them_draw_what_they_drew(self) -> None:
        drawn, before = self.drawn, recorded()
        self.assertEqual(sorted(before), sorted(drawn))
        for name, calls in drawn.items():
            with self.subTest(name):
                self.assertEqual(changes(before[name], calls), [])

    def test_no_path_has_a_point_that_is_none(self) -> None:
        for name, calls in self.drawn.items():
            for lines in calls:
                for line in lines or ():
                    if re.search(r"= '[MLHVA\d]", line):
                        self.assertIsNone(ODD.search(line), f"{name}: {line}")

    def test_every_function_has_cases(self) -> None:
        asked = set(Cases("names").every())
        for found in pkgutil.iter_modules(drawing.__path__):
            module = import_module(f"drawing.{found.name}")
            for name, value in vars(module).items():
                own = getattr(value, "__module__", "") == module.__name__
                if inspect.isfunction(value) and own and not name.startswith("_"):
                    self.assertIn(f"{found.name}.{name}", asked)
