"""Runs tests one after the other until one fails, and says which."""

from __future__ import annotations

import io
import os
import sys
import unittest
from contextlib import redirect_stderr, redirect_stdout

from hypothesis import Phase, settings

import tests  # noqa: F401 - its luck first


def main(names: list[str]) -> int:
    """1 and a name where a test fails or cannot be loaded."""
    settings.register_profile(
        "try", parent=settings(), phases=(Phase.explicit, Phase.reuse, Phase.generate)
    )
    settings.load_profile("try")  # which example it is need not be known
    plain = [name for name in names if name.startswith(("tests.optics", "tests.drawing"))]
    others = [name for name in names if name not in plain]
    quiet = io.StringIO()
    with redirect_stdout(quiet), redirect_stderr(quiet):
        failed = _first_failing(plain) or (_with_django(others) if others else "")
    if failed:
        print(failed)
    return 1 if failed else 0


def _first_failing(names: list[str]) -> str:
    for name in names:
        result = unittest.TestResult()
        result.failfast = True
        unittest.TestLoader().loadTestsFromName(name).run(result)
        if not result.wasSuccessful():
            return name
    return ""


def _with_django(names: list[str]) -> str:
    import django
    from django.conf import settings as site
    from django.test.runner import DiscoverRunner

    django.setup()
    runner = DiscoverRunner(verbosity=0, interactive=False, keepdb=True)
    runner.setup_test_environment()
    runner.keepdb = (site.VAR / "test.sqlite3").exists()
    runner.setup_databases()
    return _first_failing(names)


if __name__ == "__main__":
    code = main(sys.argv[1:])
    sys.stdout.flush()
    os._exit(code)
