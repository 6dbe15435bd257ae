"""Tests. Their luck is settled: the same examples in every run, so that what is red is a fault.

Under ``AIM_SEED`` (``./aim test --random``) they are others, and eight times as many: to find what
nobody thought of. Property tests have no deadline: how fast a machine is today they do not ask.
"""

from __future__ import annotations

import os
import random

from hypothesis import core, settings

SEED = os.environ.get("AIM_SEED", "")
"""What this run's chance is drawn from, if not the usual."""

_MORE = 8

settings.register_profile("aim", deadline=None, print_blob=True, derandomize=True, database=None)
settings.register_profile(
    "random", deadline=None, print_blob=True, derandomize=False, database=None
)
settings.load_profile("random" if SEED else "aim")
if SEED:
    core.global_force_seed = int(SEED)  # type: ignore[assignment]


def examples(usual: int) -> int:
    """How many examples to try where ``usual`` is plenty: for every day two in three of them, and
    many times as many with other luck."""
    return usual * _MORE if SEED else max(usual * 2 // 3, 1)


def chance(name: int | str) -> random.Random:
    """The dice of one test, the same every time unless a run wants other ones."""
    return random.Random(f"{name} {SEED}" if SEED else name)
