"""The closing line of a test run, the same with Django and without."""

from __future__ import annotations

import unittest


def closing_line(result: unittest.TestResult) -> str:
    """`N passed, N failed`, and skipped ones if there are any."""
    failed = len(result.failures) + len(result.errors) + len(result.unexpectedSuccesses)
    skipped = len(result.skipped)
    line = f"{max(result.testsRun - failed - skipped, 0)} passed, {failed} failed"
    return f"{line}, {skipped} skipped" if skipped else line
