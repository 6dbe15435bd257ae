"""Django's test runner: in parallel, the longest first, saying how to repeat what failed, and
closing with the plain line that says what was counted."""

from __future__ import annotations

import unittest
from pathlib import Path
from typing import Any
from unittest.mock import patch

from django.db import connection
from django.test import LiveServerTestCase, SimpleTestCase, TransactionTestCase
from django.test.runner import DiscoverRunner

from tests import world
from tests.runner_line import closing_line, how_to_repeat

_ORDER = ("tests.browser", "tests.web", "tests.imaging", "tests.optics", "tests.drawing")


class CountingRunner(DiscoverRunner):
    """Remembers the outcome and prints it last of all, after the databases are gone."""

    outcome: unittest.TestResult | None = None
    reorder_by = (LiveServerTestCase, TransactionTestCase, SimpleTestCase)

    def load_tests_for_label(self, label: str, discover_kwargs: Any) -> Any:
        found = super().load_tests_for_label(label, discover_kwargs)
        return unittest.TestSuite(sorted(found, key=_room))

    def setup_databases(self, **kwargs: Any) -> Any:
        with patch.object(type(connection.creation), "_clone_test_db", _cloned):
            return super().setup_databases(**kwargs)

    def suite_result(self, suite: Any, result: Any, **kwargs: Any) -> int:
        self.outcome = result
        return super().suite_result(suite, result, **kwargs)

    def run_tests(self, test_labels: Any, **kwargs: Any) -> int:
        with world.kept():
            failures = super().run_tests(test_labels, **kwargs)
        if self.outcome is not None:
            for line in how_to_repeat(self.outcome):
                print(line)
            print(closing_line(self.outcome), flush=True)
        return failures


def _room(suite: Any) -> int:
    """Where its room stands in the order: a test that waits for a browser starts first."""
    while isinstance(suite, unittest.TestSuite):
        suite = next(iter(suite), None)
    module = type(suite).__module__
    return next((at for at, room in enumerate(_ORDER) if module.startswith(room)), len(_ORDER))


_clone = type(connection.creation)._clone_test_db  # type: ignore[attr-defined]


def _cloned(self: Any, suffix: str, verbosity: int, keepdb: bool = False) -> None:
    """A copy for one process: with what is still beside the file (its log), and with no log of an
    earlier copy."""
    if self.connection.vendor == "sqlite":
        with self.connection.cursor() as cursor:
            cursor.execute("PRAGMA wal_checkpoint(TRUNCATE)")
        name = self.get_test_db_clone_settings(suffix)["NAME"]
        for beside in ("-wal", "-shm"):
            Path(f"{name}{beside}").unlink(missing_ok=True)
    _clone(self, suffix, verbosity, keepdb)
