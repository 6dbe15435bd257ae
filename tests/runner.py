"""Django's test runner, closing with the plain line that says what was counted."""

from __future__ import annotations

import unittest
from typing import Any

from django.test.runner import DiscoverRunner

from tests.runner_line import closing_line


class CountingRunner(DiscoverRunner):
    """Remembers the outcome and prints it last of all, after the databases are gone."""

    outcome: unittest.TestResult | None = None

    def suite_result(self, suite: Any, result: Any, **kwargs: Any) -> int:
        self.outcome = result
        return super().suite_result(suite, result, **kwargs)

    def run_tests(self, test_labels: Any, **kwargs: Any) -> int:
        failures = super().run_tests(test_labels, **kwargs)
        if self.outcome is not None:
            print(closing_line(self.outcome), flush=True)
        return failures
