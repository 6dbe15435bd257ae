"""The core knows nothing of the web: it imports, and computes, where there is no Django."""

from __future__ import annotations

import subprocess
import sys
import unittest

SCRIPT = """
import sys
class Absent:
    def find_spec(self, name, path=None, target=None):
        if name.split(".")[0] in ("django", "web"):
            raise ImportError(name + " is not here")
sys.meta_path.insert(0, Absent())
import drawing.sightline
import optics.__main__
from optics import Setup
from optics.lens import depth
print(round(depth.hyperfocal(Setup(24, 11, 0.025)), 4))
"""


class IndependenceTest(unittest.TestCase):
    def test_imports_and_computes_without_django(self) -> None:
        ran = subprocess.run(
            [sys.executable, "-c", SCRIPT], capture_output=True, text=True, check=False
        )
        self.assertEqual(ran.stderr, "")
        self.assertEqual(ran.stdout.strip(), "2142.8205")
