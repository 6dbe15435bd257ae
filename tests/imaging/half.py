"""Half of a target's edges, for tests that are about something else than how well they are told."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from unittest import mock

from imaging import looked
from imaging.edges import Edge, Line, measured
from imaging.errors import NoEdge
from imaging.numbers import Luminance


def _half(picture: Luminance, line: Line, room: float) -> Edge:
    """Of a picture always the same half."""
    if (int(line.x) + int(line.y)) % 2:
        raise NoEdge("It is not looked at.")
    return measured(picture, line, room)


@contextmanager
def half_of_the_edges() -> Iterator[None]:
    """As if the target had no more."""
    with mock.patch.object(looked, "measured", _half):
        yield
