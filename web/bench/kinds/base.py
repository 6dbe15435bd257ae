"""What every kind of test has: what it answers, how it is done, and what is made of it."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field
from typing import Any

from optics import Kit
from web.bag import findings
from web.bag.models import Attachment, Lens
from web.bench.forms import ReadingForm
from web.bench.models import Frame, Reading, Test
from web.planner.steps import Routine


@dataclass(frozen=True, slots=True)
class Job:
    """A test with all that its result comes from.

    ``kit``: the lens under test, ideal, with the standard in hand; ``behind`` it, None for nothing.
    ``distance``: that somebody would focus on, mm.
    """

    test: Test
    frames: tuple[Frame, ...]
    readings: tuple[Reading, ...]
    kit: Kit
    behind: Attachment | None
    distance: float
    system: str

    @property
    def lens(self) -> Lens:
        """The lens under test."""
        return self.test.lens

    @property
    def good(self) -> list[Frame]:
        """The frames that tell something."""
        return [frame for frame in self.frames if frame.seen is not None]


@dataclass(frozen=True, slots=True, kw_only=True)
class Result:
    """What a test found so far. ``wrong``: why there is nothing, with the cure, and ``at`` which
    frame; empty where there is something, or not enough yet. ``lacks``: whether frames do not say
    how they were taken. ``odd``: keys of readings that do not agree with the others."""

    wrong: str = ""
    at: str = ""
    lacks: bool = False
    odd: frozenset[int] = frozenset()

    @property
    def ready(self) -> bool:
        """Whether there is something to keep."""
        return False

    def found(self, job: Job) -> list[findings.Finding]:
        """What there is to keep with the lens, as it was shown."""
        return []

    def standard(self, job: Job) -> tuple[str, float] | None:
        """A name and a circle, mm, that can be a standard of its own; None for none."""
        return None

    def into(self, lens: Lens) -> None:
        """Put what is kept in other ways into the lens; it is saved after."""


def finding_of(
    job: Job, kind: str, rows: tuple[findings.Row, ...], focal_length: float, distance: float,
    **more: Any,
) -> findings.Finding:  # fmt: skip
    """A finding of a test, of today's lens and body."""
    test = job.test
    return findings.Finding(
        findings.new_key(), kind, test.begun.date(), focal_length, distance, test.body, True, rows,
        adapter=test.adapter, **more,
    )  # fmt: skip


@dataclass(frozen=True, slots=True)
class Kind:
    """A kind of test.

    ``asks``      the question it answers, and ``needs`` what one needs for it.
    ``waits``     what is said while there is nothing yet, and ``more`` while there is too little.
    ``routine``   how it is done, one step at a time.
    ``find``      finds what there is so far; it is shown by ``bench/KEY.html``.
    ``reading``   the form of one reading; None where it is done by frames.
    ``made_up``   lets the made-up camera take its next frame or reading: whether there was one.
    ``next``      what it takes next, in a few words; None where it has all.
    ``ways``      whether frames say by which way they were focused; ``target`` whether of the
    sheet. ``distance``  whether what is found is told for a distance that one says.
    """

    key: str
    name: str
    asks: str
    needs: str
    waits: str
    more: str
    routine: Routine
    find: Callable[[Job], Result]
    made_up: Callable[[Test], bool]
    next: Callable[[Test], str | None]
    reading: type[ReadingForm] | None = None
    ways: bool = False
    target: bool = False
    distance: bool = False
    told: Callable[[Reading, str], str] = field(default=lambda reading, system: "")

    @property
    def by_readings(self) -> bool:
        """Whether it is done by readings, not by frames."""
        return self.reading is not None

    @property
    def shows(self) -> str:
        """The template of what was found."""
        return f"bench/{self.key}.html"

    @property
    def fields(self) -> str:
        """The template of the fields of a reading."""
        return f"bench/{self.key}_fields.html"
