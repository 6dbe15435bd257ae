"""Form → use case → template."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from django.http import QueryDict

from optics.base import units
from optics.base.systems import BY_KEY
from web.hand.asker import Asker
from web.people.models import Owner
from web.planner.axis import Axis, Step, turned
from web.planner.folds import context as folded
from web.planner.pages import Asked, Pages
from web.street import expecting, exposing, folds, pictures, usecases
from web.street.forms import LIGHT_CHOICES, SPREAD_CHOICES, read_street
from web.street.kind import KIND
from web.street.placing import band_of
from web.street.reading import Reading, said
from web.street.sample import GEAR, NAME
from web.ui.templatetags import format


class StreetPages(Pages[Reading]):
    """Street, from the link, a set, or the sample."""

    kind, gear, sample, folds = KIND, GEAR, NAME, folds.ALL

    def read(self, data: QueryDict, before: Callable[[], QueryDict | None], who: Asker) -> Reading:
        return read_street(data, before, who)

    def turned(
        self, reading: Reading, step: Step, axis: Axis, at: str
    ) -> tuple[Reading, float | None]:
        """A position moved by hand, and where to: others may have changed places with it."""
        if not at.isdecimal() or len(at) > 2:
            return reading, None
        answer = usecases.answer(reading.street)
        if int(at) >= len(answer.positions):
            return reading, None
        before, street = answer.positions[int(at)].focus, reading.street
        focus = turned(before, step, axis, street.system, street.closest)
        return reading.with_position(before, focus, answer.home.focus), focus

    def answered(self, asked: Asked[Reading]) -> dict[str, Any]:
        answer = usecases.answer(asked.reading.street)
        sizes = asked.shown.sizes
        found = {
            "answer": answer,
            "street": answer.street,
            "said": asked.reading.fixed,
            "system": asked.reading.street.system,
            "lines": pictures.tile_lines(answer, sizes, asked.axis),
            "plans": [(size.name, pictures.pavement_plan(answer, size.name)) for size in sizes],
            "expecting": expecting.expecting(answer),
            "lit": exposing.lit_here(answer),
            "band_words": _band_words(asked.reading),
            "aperture_text": format.f_number(answer.street.setup.f_number),
            **folded(self.folds, asked.shown.unfolded, answer, asked.who),
        }
        if asked.held is not None:
            found["held_at"] = answer.focuses.index(asked.held)
        return found

    def around(self, reading: Reading, owner: Owner) -> dict[str, Any]:
        street = reading.street
        return {
            "screen_name": "Street",
            "placeholder": "Name this set",
            "lights": LIGHT_CHOICES,
            "judged": format.share(street.judging),
            "touched": [(label, said(at, street.system)) for label, at in street.touched],
            "lock_example": BY_KEY[street.system].example,
            "drawer_open": any(
                reading.texts[name] or name in reading.errors for name in _IN_DRAWER
            ),
            "spreads": SPREAD_CHOICES,
        }


_IN_DRAWER = (
    "home", "locked", "spread", "bar", "speed", "angle_deg", "lag", "judge", "light", "iso_most",
    "slowest", "upright",
)  # fmt: skip


def _band_words(reading: Reading) -> tuple[str, str]:
    """The ends of the band as placeholders, where they follow from the distance liked."""
    band = band_of(reading.street)
    system = reading.street.system
    return units.write(band.near, system, 3), units.write(band.far, system, 3)


pages = StreetPages()
