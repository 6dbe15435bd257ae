"""Counts and times of answers, of this process alone, in the text format that monitoring reads.

Off unless AIM_METRICS is on. A process counts for itself: whoever reads them adds up what they
read, by the label ``process``.
"""

from __future__ import annotations

import os
import threading
from collections.abc import Iterator

BOUNDS = (0.05, 0.1, 0.25, 0.5, 1.0, 2.5, 10.0)
"""s: the upper bounds of the classes that times fall in."""

_lock = threading.Lock()
_answers: dict[int, int] = {}
_times = [0] * (len(BOUNDS) + 1)
_sum = [0.0]


def counted(status: int, seconds: float) -> None:
    """One more answer."""
    with _lock:
        _answers[status] = _answers.get(status, 0) + 1
        at = next((at for at, bound in enumerate(BOUNDS) if seconds <= bound), len(BOUNDS))
        _times[at] += 1
        _sum[0] += seconds


def lines() -> Iterator[str]:
    """All of it, a line each."""
    process = f'process="{os.getpid()}"'
    yield "# HELP aim_answers_total Answers by status."
    yield "# TYPE aim_answers_total counter"
    with _lock:
        answers, times, total = dict(_answers), list(_times), _sum[0]
    for status, count in sorted(answers.items()):
        yield f'aim_answers_total{{status="{status}",{process}}} {count}'
    yield "# HELP aim_answer_seconds How long answers took."
    yield "# TYPE aim_answer_seconds histogram"
    below = 0
    for bound, count in zip((*map(str, BOUNDS), "+Inf"), times, strict=True):
        below += count
        yield f'aim_answer_seconds_bucket{{le="{bound}",{process}}} {below}'
    yield f"aim_answer_seconds_sum{{{process}}} {total:.3f}"
    yield f"aim_answer_seconds_count{{{process}}} {sum(times)}"
