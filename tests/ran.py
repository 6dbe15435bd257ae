"""A command, run in the test's own process: starting Python anew takes longer than what it does."""

from __future__ import annotations

import contextlib
import io
from collections.abc import Callable, Sequence
from typing import NamedTuple
from unittest import mock


class Ran(NamedTuple):
    """How it ended, and what it wrote."""

    code: int
    out: str
    err: str


def ran(main: Callable[[Sequence[str]], int], *arguments: str, given: str = "") -> Ran:
    """``given``: on its standard input."""
    out, err = io.StringIO(), io.StringIO()
    with (
        contextlib.redirect_stdout(out),
        contextlib.redirect_stderr(err),
        mock.patch("sys.stdin", io.StringIO(given)),
    ):
        try:
            code = main(arguments)
        except SystemExit as stopped:  # argparse says usage itself
            code = int(stopped.code or 0)
    return Ran(code, out.getvalue(), err.getvalue())
