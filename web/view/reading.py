"""What a form or a link said to View: the text as typed, the scene it gives, what was wrong."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import ClassVar

from django.http import QueryDict

from optics.scene.after_trial import Learnt, Trial
from optics.scene.scenes import Scene
from web.hand.typed import ring_text, with_unit
from web.planner.reading import Message
from web.planner.reading import Reading as PlannerReading
from web.view.choices import QUESTIONS, How, Role
from web.view.distances import Reader
from web.view.panels import Panels
from web.view.renumbering import renumbered
from web.view.rows import typed_rows
from web.view.sample import GEAR
from web.view.typed import SAID_OF_A_MARK, Row

_PLAIN = Row(0, "")
NEW_SCENE = {
    "first": "1",
    "camera_height": "eye",
    "tilt_deg": "",
    "slope_deg": "",
    "moved": "",
    "ring": "",
    "trials": "",
}
"""Where a scene begins: with the camera at eye height, level, and nothing moved yet."""


@dataclass(frozen=True, slots=True)
class Reading(PlannerReading):
    """What a form or a link said. ``rows`` ends with a blank one. ``learnt``: what the trial frames
    say, which is in ``scene`` already; None where none was looked at."""

    scene: Scene
    rows: tuple[Row, ...]
    panels: Panels
    reader: Reader
    trials: tuple[Trial, ...] = ()
    learnt: Learnt | None = None

    GEAR: ClassVar[Mapping[str, str]] = GEAR
    SAID_EMPTY: ClassVar[tuple[str, ...]] = (
        *PlannerReading.SAID_EMPTY,
        "camera_height",
        "tilt_deg",
    )
    UNSAID: ClassVar[Mapping[str, str]] = {"look": "everything", "choose": "fixed"}
    LENGTHS: ClassVar[tuple[str, ...]] = ("ring", "camera_height", "moved", "lens_front")

    def length_of(self, name: str) -> float | None:
        if name == "ring":
            return self.scene.ring
        if name == "moved":
            return self.reader.moved or None
        if name == "lens_front":
            return self.reader.front
        return None if self.scene.camera is None else self.scene.camera.height

    @property
    def all_counted(self) -> bool:
        """Whether every mark could be used, and every field."""
        return self.valid and not any(row.error_says for row in self.rows)

    @property
    def gear_query(self) -> str:
        """A new scene: the same gear, level, at the height of one's own eyes."""
        texts = {**self.texts, **NEW_SCENE}
        return replace(self, rows=(), texts=texts, scene=replace(self.scene, camera=None)).query()

    @property
    def linked(self) -> dict[str, str]:
        """With where the front of the lens is, if anything was measured from there."""
        texts = super(Reading, self).linked
        front, asked = self.reader.front, any(row.how == How.FRONT for row in self.rows)
        if front is not None and asked and not texts["lens_front"]:
            texts = {**texts, "lens_front": f"{front:.4g} mm"}
        return texts

    @property
    def asks(self) -> bool:
        """Whether it is a first scene, which asks for the nearest and the farthest: nothing has
        been said of any mark yet, or no more than that since."""
        told = [row for row in self.rows if not row.blank]
        plain = all(row.role == Role.MUST for row in told) and len(self.rows) <= len(QUESTIONS) + 1
        return not told or (bool(self.texts["first"]) and plain)

    def pairs(self) -> list[tuple[str, str]]:
        pairs = super(Reading, self).pairs()
        told = [row for row in self.rows if not row.blank]
        more = [
            name
            for name in SAID_OF_A_MARK
            if any(getattr(row, name) != getattr(_PLAIN, name) for row in told)
        ]
        for row in told:
            pairs.append(("mark_name", row.name))
            pairs.append(("mark_distance", row.linked))
            pairs.append(("mark_role", row.role))
            said = replace(row, stands=row.linked_stands)
            pairs.extend((f"mark_{name}", getattr(said, name)) for name in more)
        return pairs

    def with_ring(self, focus: float) -> Reading:
        """The same scene with the ring set by hand, mm."""
        text = ring_text(focus, self.system)
        return self.saying({"ring": text}, scene=replace(self.scene, ring=focus))

    def with_texts_of(self, data: QueryDict, wrong: str) -> Reading:
        found = super(Reading, self).with_texts_of(data, wrong)
        return replace(found, rows=typed_rows(data))

    @property
    def messages(self) -> list[Message]:
        said = super(Reading, self).messages
        for row in self.rows:
            text = row.error_says or row.note
            if text:
                said.append(Message(f"mark-{row.index}", text, bool(row.error_says)))
        return said

    @property
    def renumbered(self) -> Reading:
        """The same scene with the distances as they are from where the camera now stands."""
        rows = tuple(renumbered(row, self.reader) for row in self.rows)
        return replace(self, rows=rows, texts={**self.texts, "moved": ""})

    def in_units(self, system: str) -> Reading:
        if system == self.texts["units"]:
            return self
        old = self.system
        rows = tuple(
            replace(
                row,
                distance=with_unit(row.distance, old),
                stands=with_unit(row.stands, old),
                speed=with_unit(row.speed, f"{old}/s"),
            )
            for row in self.rows
        )
        return replace(super(Reading, self).in_units(system), rows=rows)
