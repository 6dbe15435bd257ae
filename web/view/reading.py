"""What a form or a link said: the text as typed, the scene it gives, what was wrong, and back."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from urllib.parse import urlencode

from optics import units
from web.view.sample import GEAR
from web.view.scenes import Mark, Ring, Scene

_SAID_EMPTY = ("lens", "pixels_across", "camera_height")
"""Fields that mean something when empty, and so stand in a link even then."""


@dataclass(frozen=True, slots=True)
class Row:
    """One mark as typed. ``error`` leaves it out of the answer, ``note`` does not."""

    index: int
    letter: str
    name: str
    distance: str
    role: str
    error: str = ""
    note: str = ""
    mark: Mark | None = None

    @property
    def linked(self) -> str:
        """The distance as a link says it: as typed, but paces and arms, which are one's own, in
        metres."""
        if self.mark is not None and units.in_own_measures(self.distance):
            return units.write(self.mark.depth, units.METRES, 4)
        return self.distance

    @property
    def blank(self) -> bool:
        """The empty row that waits for the next mark."""
        return not self.name and not self.distance


@dataclass(frozen=True, slots=True)
class Message:
    """A sentence beside the field ``name``; ``wrong`` if it must be mended."""

    name: str
    text: str
    wrong: bool


@dataclass(frozen=True, slots=True)
class Reading:
    """What a form or a link said: the scene it gives, the text as typed, and what was wrong.

    ``texts``, ``errors``, ``assumed`` are by field name; ``assumed`` names fields the link did
    not have. ``rows`` ends with a blank one.
    """

    scene: Scene
    texts: dict[str, str]
    errors: dict[str, str]
    assumed: frozenset[str]
    rows: tuple[Row, ...]

    @property
    def valid(self) -> bool:
        """Whether everything typed could be used."""
        return not self.errors and not any(row.error for row in self.rows)

    @property
    def gear_query(self) -> str:
        """The link to the same gear with no scene before it."""
        return replace(self, rows=(), texts={**self.texts, "ring": ""}).query()

    def query(self) -> str:
        """The link that reproduces this scene."""
        texts = {
            **self.texts,
            "ring": self.linked_ring,
            "camera_height": self.linked_camera_height,
        }
        pairs = [
            (name, texts[name])
            for name in GEAR
            if texts[name] or name in ("lens", "pixels_across", "camera_height")
        ]
        for row in self.rows:
            if not row.blank:
                pairs.append(("mark_name", row.name))
                pairs.append(("mark_distance", row.linked))
                pairs.append(("mark_role", row.role))
        return urlencode(pairs, safe="/'")

    @property
    def linked_ring(self) -> str:
        """The ring as a link says it; see ``Row.linked``."""
        if self.scene.ring is not None and units.in_own_measures(self.texts["ring"]):
            return units.write(self.scene.ring, units.METRES, 4)
        return self.texts["ring"]

    @property
    def linked_camera_height(self) -> str:
        """The camera's height as a link says it; see ``Row.linked``."""
        camera = self.scene.camera
        if camera is not None and units.in_own_measures(self.texts["camera_height"]):
            return units.write(camera.height, units.METRES, 4)
        return self.texts["camera_height"]

    def with_ring(self, ring: Ring) -> Reading:
        """The same scene with the ring set by hand."""
        text = units.write(ring.focus, self.scene.system, ring.figures)
        text = "inf" if math.isinf(ring.focus) else text.replace("′", "'").replace("″", '"')
        errors = {name: message for name, message in self.errors.items() if name != "ring"}
        return replace(
            self,
            scene=replace(self.scene, ring=ring.focus),
            texts={**self.texts, "ring": text},
            errors=errors,
        )

    @property
    def messages(self) -> list[Message]:
        """What there is to say, beside which field or mark."""
        said = [Message(name, text, wrong=True) for name, text in self.errors.items()]
        for row in self.rows:
            if row.error or row.note:
                said.append(Message(f"mark-{row.index}", row.error or row.note, bool(row.error)))
        return said

    @property
    def notes(self) -> dict[str, str]:
        """What is assumed, by field name."""
        return dict.fromkeys(self.assumed, "Not in the link: assumed.")

    def in_units(self, system: str) -> Reading:
        """The same scene read in other units: bare numbers get the unit they were typed in."""
        if system == self.texts["units"]:
            return self
        old = self.scene.system
        rows = tuple(replace(row, distance=_with_unit(row.distance, old)) for row in self.rows)
        texts = {**self.texts, "units": system, "ring": _with_unit(self.texts["ring"], old)}
        return replace(self, texts=texts, rows=rows)


def _with_unit(text: str, system: str) -> str:
    return text if not text or units.has_unit(text) else f"{text} {system}"
