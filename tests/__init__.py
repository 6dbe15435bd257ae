"""Tests. Their luck is settled: the same examples in every run, so that what is red is a fault.

Every day each test takes a share of its examples, spread over all of them: a run is short enough to
be waited for. ``./aim test --whole`` (``AIM_WHOLE``) takes all. Under ``AIM_SEED`` (``./aim test
--random``) they are others, and eight times as many: to find what nobody thought of. Property tests
have no deadline: how fast a machine is today they do not ask.
"""

from __future__ import annotations

import os
import random
from collections.abc import Sequence
from typing import TypeVar

from hypothesis import core, settings

SEED = os.environ.get("AIM_SEED", "")
"""What this run's chance is drawn from, if not the usual."""

WHOLE = bool(SEED or os.environ.get("AIM_WHOLE") or os.environ.get("AIM_RECORD"))
"""Whether this run takes all there is, and not a share."""
Thing = TypeVar("Thing")

_MORE = 8
_DAILY = 8


def examples(usual: int) -> int:
    """How many examples to try where ``usual`` is plenty: every day a share of them, and many times
    as many with other luck."""
    if SEED:
        return usual * _MORE
    return usual if WHOLE else max(usual // _DAILY, 2)


settings.register_profile(
    "aim", deadline=None, print_blob=True, derandomize=not SEED, database=None,
    max_examples=examples(100),
)  # fmt: skip
settings.load_profile("aim")
if SEED:
    core.global_force_seed = int(SEED)  # type: ignore[assignment]


def some(things: Sequence[Thing], one_in: int, first: int = 0) -> Sequence[Thing]:
    """Of things that are all of a kind, one in so many every day, from the ``first`` on; or all."""
    return things if WHOLE else things[first % max(min(one_in, len(things)), 1) :: one_in]


def chance(name: int | str) -> random.Random:
    """The dice of one test, the same every time unless a run wants other ones."""
    return random.Random(f"{name} {SEED}" if SEED else name)
