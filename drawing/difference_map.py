"""A map of what is said of two pictures, patch by patch: runs of patches of one kind, as boxes."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Box:
    """Patches of one kind beside each other: upper left corner, width and height, pixels of the
    picture; ``says`` what is said of them."""

    x: int
    y: int
    width: int
    height: int
    says: str


def boxes(says: Sequence[Sequence[str]], patch: int, plain: frozenset[str]) -> tuple[Box, ...]:
    """The boxes of a map.

    ``says``   rows of what is said of each patch, from the upper left.
    ``patch``  its side, pixels, above 0.
    ``plain``  what is not drawn.
    Rows that are alike are drawn as one.
    """
    open_: dict[tuple[int, int, str], Box] = {}
    done: list[Box] = []
    for at, row in enumerate(says):
        runs = _runs(row, plain)
        for key in [key for key in open_ if key not in runs]:
            done.append(open_.pop(key))
        for key in runs:
            start, count, what = key
            before = open_.get(key)
            height = patch if before is None else before.height + patch
            top = at * patch if before is None else before.y
            open_[key] = Box(start * patch, top, count * patch, height, what)
    done += open_.values()
    return tuple(sorted(done, key=lambda box: (box.y, box.x)))


def _runs(row: Sequence[str], plain: frozenset[str]) -> list[tuple[int, int, str]]:
    """Runs of one kind in a row: where they start, how many, and of what."""
    runs: list[tuple[int, int, str]] = []
    for at, what in enumerate(row):
        if what in plain:
            continue
        if runs and runs[-1][0] + runs[-1][1] == at and runs[-1][2] == what:
            runs[-1] = (runs[-1][0], runs[-1][1] + 1, what)
        else:
            runs.append((at, 1, what))
    return runs
