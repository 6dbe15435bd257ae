"""Where a number becomes words: each filter says what it said, and rounds to the side that is safe.

The filters are the libraries' own: a new one of a number is recorded too.
``AIM_RECORD=1 ./aim test tests.web.test_said`` writes down what they say now.
"""

from __future__ import annotations

import inspect
import json
import lzma
import math
import os
from collections.abc import Callable, Iterator
from pathlib import Path
from typing import Any

from django.test import SimpleTestCase

from optics.base import units
from optics.base.settable import Span
from optics.light import dial
from tests import chance
from web.ui.templatetags import format as figures
from web.ui.templatetags import words

SAID = Path(__file__).parent / "recorded" / "said.json.xz"
VALUES = (
    0.0, 1e-4, 0.00049, 0.001, 0.004, 0.005, 0.0051, 0.011, 0.0124, 0.02, 0.0333, 0.049, 0.05,
    0.0951, 0.1, 0.24, 0.25, 0.26, 0.3333, 0.49, 0.5, 0.74, 0.75, 0.949, 0.951, 0.994, 0.996,
    1.0, 1.004, 1.0051, 1.25, 1.4999, 1.5, 2.0, 2.449, 2.5, 3.0, 4.449, 7.1, 9.94, 9.949, 9.951,
    9.96, 10.0, 11.0, 12.5, 29.5, 30.0, 30.4, 30.6, 59.5, 60.0, 75.0, 89.0, 90.0, 91.0, 99.4,
    99.5, 100.0, 126.0, 320.0, 457.0, 640.0, 994.0, 995.0, 996.0, 999.0, 1000.0, 1049.0, 1051.0,
    1234.5, 1300.0, 2600.0, 2645.0, 3048.0, 5999.0, 9949.0, 9951.0, 10000.0, 12345.0, 30480.0,
    99499.0, 99501.0, 123456.0, 1e6, 1e7, math.inf,
)  # fmt: skip
"""Numbers about which something turns: a digit more, another unit, a word for a figure."""


def numeric(library: Any) -> Iterator[tuple[str, Callable[..., Any], tuple[Any, ...]]]:
    """The filters of a number, and what else each may be given: a system of units, or a unit."""
    for name, function in sorted(library.register.filters.items()):
        given = list(inspect.signature(function).parameters.values())
        if given and str(given[0].annotation) in ("float", "int"):
            more = {"system": ("m", "ft"), "unit": (0.006,)}
            yield name, function, more[given[1].name] if len(given) > 1 else ()


def says(function: Callable[..., Any], *given: Any) -> str:
    """What it says; the kind of error where a number is none of its."""
    try:
        return str(function(*given))
    except (ArithmeticError, ValueError, IndexError) as error:
        return type(error).__name__


class SaidTest(SimpleTestCase):
    def test_every_filter_says_what_it_said(self) -> None:
        said: dict[str, list[str]] = {}
        for library in (figures, words):
            for name, function, others in numeric(library):
                for more in [(other,) for other in others] or [()]:
                    values = (int(v) if name == "in_words" else v for v in VALUES if v < 1e7)
                    said[f"{name} {more}"] = [says(function, v, *more) for v in values]
        turned = [
            math.radians(one) for one in (-90, -89.6, -89.4, -60, -0.7, -0.52, 0, 0.48, 0.7, 89.6)
        ]
        said["declined"] = [words.declined(one) for one in turned]
        spans = [Span(a, b) for a in VALUES[60:] for b in VALUES[60:] if a < b][::5]
        spans += [Span(a - r, a + r, r) for a in (700.0, 4000.0) for r in (0.3, 5.9, 40.0)]
        for system in ("m", "ft"):
            for name in ("stretch", "placed", "tile", "gap_between"):
                function = figures.register.filters[name]
                said[f"{name} {system}"] = [says(function, span, system) for span in spans]
        if os.environ.get("AIM_RECORD"):
            SAID.write_bytes(lzma.compress(json.dumps(said).encode(), preset=9))
        recorded = json.loads(lzma.decompress(SAID.read_bytes()))
        self.assertEqual(sorted(said), sorted(recorded))
        for name, lines in said.items():
            with self.subTest(name):
                self.assertEqual(lines, recorded[name])

    def test_rounded_to_the_side_that_is_safe(self) -> None:
        """What must be far enough is never printed nearer, what must be short never longer."""
        random = chance("sides")
        for _ in range(2000):
            length, system = 10 ** random.uniform(2.3, 6), random.choice(("m", "ft"))
            hair = 1e-9 * length
            for up in (figures.coarse_up, figures.fine_up):
                self.assertGreaterEqual(units.parse(up(length, system), system), length - hair)
            down = units.parse(figures.fine_down(length, system), system)
            self.assertLessEqual(down, length + hair)
            width = units.parse(figures.at_most(length, system), system)
            self.assertLessEqual(width, length + hair)
            seconds = 10 ** random.uniform(-3.8, 1.47)
            shown = figures.shutter_down(seconds).removesuffix(" s")
            named = 1 / float(shown[2:]) if shown.startswith("1/") else float(shown)
            self.assertLessEqual(named, dial.longest_named(seconds) * 1.07)
            self.assertLessEqual(dial.longest_named(seconds), seconds * (1 + 1e-9))
            stretch = Span(length, length * random.uniform(1.2, 30))
            near, far = (
                figures.fine_up(stretch.near, system),
                figures.fine_down(stretch.far, system),
            )
            self.assertGreaterEqual(units.parse(near, system), stretch.near - hair)
            self.assertLessEqual(units.parse(far, system), stretch.far * (1 + 1e-9))
