"""Runs tests of the rooms that need no Django, without it: python -m tests.core tests.optics"""

from __future__ import annotations

import sys
import unittest
from pathlib import Path

from tests.runner_line import closing_line, how_to_repeat

ROOT = Path(__file__).resolve().parents[1]


def main(names: list[str]) -> int:
    """Run whole rooms or single tests by dotted name; 1 if any failed."""
    loader = unittest.TestLoader()
    suite = unittest.TestSuite()
    for name in names:
        folder = ROOT / name.replace(".", "/")
        if folder.is_dir():
            suite.addTests(loader.discover(str(folder), top_level_dir=str(ROOT)))
        else:
            suite.addTests(loader.loadTestsFromName(name))
    result = unittest.TextTestRunner().run(suite)
    for line in how_to_repeat(result):
        print(line)
    print(closing_line(result), flush=True)
    return 0 if result.wasSuccessful() else 1


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
