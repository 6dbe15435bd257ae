"""Parts of a planner that are shown on demand, and work out what they say only then."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import dataclass
from typing import Any


@dataclass(frozen=True, slots=True)
class Fold:
    """A part that is shown on demand. ``more``: from what the planner has worked out already, what
    the template needs beside it. ``fields``: the template of its own fields, if it has any."""

    id: str
    title: str
    template: str
    more: Callable[..., dict[str, Any]]
    fields: str = ""

    @property
    def out(self) -> str:
        """The element that what it says stands in."""
        return self.id.replace("fold-", "out-")


def nothing(*worked_out: Any) -> dict[str, Any]:
    """For a template that needs nothing more."""
    return {}


def context(folds: Iterable[Fold], unfolded: list[str], *worked_out: Any) -> dict[str, Any]:
    """What the unfolded parts need."""
    found: dict[str, Any] = {}
    for fold in folds:
        if fold.id in unfolded:
            found |= fold.more(*worked_out)
    return found
