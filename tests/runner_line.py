"""The closing lines of a test run, the same with Django and without."""

from __future__ import annotations

import unittest
from collections.abc import Iterator

from tests import SEED


def closing_line(result: unittest.TestResult) -> str:
    """`N passed, N failed`, and skipped ones if there are any."""
    failed = len(result.failures) + len(result.errors) + len(result.unexpectedSuccesses)
    skipped = len(result.skipped)
    line = f"{max(result.testsRun - failed - skipped, 0)} passed, {failed} failed"
    return f"{line}, {skipped} skipped" if skipped else line


def how_to_repeat(result: unittest.TestResult) -> Iterator[str]:
    """For each test that failed, the command that runs it again in the same way."""
    told = set()
    for test, _ in (*result.failures, *result.errors):
        case = getattr(test, "test_case", test)  # a part of a test is run with the whole of it
        name = case.id()
        if name not in told:
            told.add(name)
            luck = f"--random 1 --seed {SEED} " if SEED else ""
            yield f"To repeat: ./aim test {luck}{name}"
