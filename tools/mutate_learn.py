"""Learns which tests run which lines of the rooms: python -m tools.mutate_learn FILE NAMES"""

from __future__ import annotations

import json
import sys
import time
import unittest
from pathlib import Path

import coverage
import django
from django.test.runner import DiscoverRunner

ROOT = Path(__file__).resolve().parents[1]


class Learning(unittest.TextTestResult):
    """Says whose turn it is, and how long each takes."""

    def __init__(self, cover: coverage.Coverage) -> None:
        super().__init__(unittest.runner._WritelnDecorator(sys.stderr), False, 0)
        self.cover, self.took, self.begun = cover, dict[str, float](), 0.0

    def startTest(self, test: unittest.TestCase) -> None:  # noqa: N802
        super().startTest(test)
        self.cover.switch_context(test.id())
        self.begun = time.monotonic()

    def stopTest(self, test: unittest.TestCase) -> None:  # noqa: N802
        self.took[test.id()] = time.monotonic() - self.begun
        self.cover.switch_context("")
        super().stopTest(test)


def main(file: str, names: list[str]) -> int:
    """Run all of them once, and write down who runs what."""
    cover = coverage.Coverage(data_file=None, source=["optics", "drawing", "web"], branch=False)
    cover.start()
    django.setup()
    runner = DiscoverRunner(verbosity=0, interactive=False)
    runner.setup_test_environment()
    suite = runner.build_suite(names)
    databases = runner.setup_databases()
    result = Learning(cover)
    suite.run(result)
    runner.teardown_databases(databases)
    cover.stop()
    failed = {test.id() for test, _ in (*result.failures, *result.errors)}
    data = cover.get_data()
    runs: dict[str, dict[str, list[str]]] = {}
    for path in data.measured_files():
        lines = {}
        for line, told in data.contexts_by_lineno(path).items():
            lines[str(line)] = [one for one in told if one in result.took and one not in failed]
        runs[str(Path(path).relative_to(ROOT))] = lines
    for lines in runs.values():
        lines["*"] = sorted({one for tests in lines.values() for one in tests})
    Path(file).write_text(json.dumps({"runs": runs, "took": result.took}))
    return 0


if __name__ == "__main__":
    sys.exit(main(sys.argv[1], sys.argv[2:]))
