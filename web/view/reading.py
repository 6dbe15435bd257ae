"""What a form or a link said: the text as typed, the scene it gives, what was wrong, and back."""

from __future__ import annotations

from dataclasses import dataclass, replace
from urllib.parse import urlencode

from optics import Setup
from optics.base import units
from optics.base.settable import Setting
from optics.scene.scenes import Scene
from web.bag.gear import Message, Said, ring_text, told_texts, with_unit
from web.bag.in_use import InUse
from web.view.distances import Reader, renumbered
from web.view.panels import Panels
from web.view.sample import FOLDED, GEAR
from web.view.typed import SAID_OF_A_MARK, Row

_SAID_EMPTY = ("lens", "pixels_across", "camera_height")
"""Fields that mean something when empty, and so stand in a link even then."""


_USUAL = {"look": "everything", "choose": "fixed"}
"""What a link need not say."""
_PLAIN = Row(0, "")


@dataclass(frozen=True, slots=True)
class Reading(Said):
    """What a form or a link said: the scene it gives, the text as typed, and what was wrong.

    ``texts``, ``errors``, ``assumed`` are by field name; ``assumed`` names fields the link did
    not have. ``rows`` ends with a blank one.
    """

    scene: Scene
    texts: dict[str, str]
    errors: dict[str, str]
    assumed: frozenset[str]
    rows: tuple[Row, ...]
    panels: Panels
    in_use: InUse
    reader: Reader

    @property
    def valid(self) -> bool:
        """Whether everything typed could be used."""
        return not self.errors and not any(row.error_says for row in self.rows)

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
            "moved": self.linked_moved,
            **told_texts(self.in_use),
        }
        pairs = [
            (name, texts[name])
            for name in GEAR
            if (texts[name] and texts[name] != _USUAL.get(name)) or name in _SAID_EMPTY
        ]
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

    @property
    def folded(self) -> dict[str, str]:
        """What was said in the folded panels, by field name."""
        texts = {**self.texts, **told_texts(self.in_use)}
        return {name: texts[name] for name in FOLDED if texts[name]}

    @property
    def linked_moved(self) -> str:
        """How far the camera went, as a link says it; see ``Row.linked``."""
        if self.reader.moved and units.in_own_measures(self.texts["moved"]):
            sign = "-" if self.reader.moved < 0 else ""
            return sign + units.write(abs(self.reader.moved), units.METRES, 4)
        return self.texts["moved"]

    def with_ring(self, ring: Setting) -> Reading:
        """The same scene with the ring set by hand."""
        text = ring_text(ring.focus, self.scene.system, ring.figures)
        errors = {name: message for name, message in self.errors.items() if name != "ring"}
        return replace(
            self,
            scene=replace(self.scene, ring=ring.focus),
            texts={**self.texts, "ring": text},
            errors=errors,
        )

    @property
    def setup(self) -> Setup:
        """The lens at its aperture, and the standard."""
        return self.scene.setup

    @property
    def messages(self) -> list[Message]:
        """What there is to say, beside which field or mark."""
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
        """The same scene read in other units: bare numbers get the unit they were typed in."""
        if system == self.texts["units"]:
            return self
        old = self.scene.system
        rows = tuple(
            replace(
                row,
                distance=with_unit(row.distance, old),
                stands=with_unit(row.stands, old),
                speed=with_unit(row.speed, f"{old}/s"),
            )
            for row in self.rows
        )
        lengths = ("ring", "camera_height", "moved")
        said = {name: with_unit(self.texts[name], old) for name in lengths}
        return replace(self, texts={**self.texts, **said, "units": system}, rows=rows)
