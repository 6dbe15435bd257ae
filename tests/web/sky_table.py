"""What many take beside what Sky says, for kits of all kinds: the table of docs/sky.md.

``python manage.py shell -c "from tests.web.sky_table import printed; print(printed())"`` writes it.
"""

from __future__ import annotations

import html
import re
from dataclasses import dataclass

from django.test import Client

from tests.web.test_sky import answered, link
from web.sky.usecases import Answer
from web.ui.templatetags import format

_FULL = {"format": "full-frame", "pixels_across": "6000"}
_APS = {"format": "aps-c", "pixels_across": "6000"}
_THIRDS = {"format": "four-thirds", "pixels_across": "5184"}
_FILM = {"format": "full-frame", "pixels_across": "", "star_px": "", "film_iso": "800"}


@dataclass(frozen=True)
class Kit:
    """A kit, what many take with it, and what Sky is told."""

    name: str
    taken: str
    told: dict[str, str]

    @property
    def texts(self) -> dict[str, str]:
        """What the form says, on top of the sample."""
        return {"lens": "", "star_px": "3", **self.told}


def _kit(focal: str, f_number: str, kind: str, taken: str, told: dict[str, str]) -> Kit:
    told = {"focal_length_mm": focal, "f_number": f_number, **told}
    return Kit(f"{focal} mm f/{f_number}, {kind}", taken, told)


KITS = (
    _kit("14", "2.8", "full frame", "25 s, ISO 3200", _FULL),
    _kit("20", "2.8", "full frame", "20 s, ISO 3200", _FULL),
    _kit("24", "1.4", "full frame", "15 s, ISO 1600", _FULL),
    _kit("35", "1.8", "full frame", "10 s, ISO 3200", _FULL),
    _kit("50", "1.8", "full frame", "8 s, ISO 3200", _FULL),
    _kit("85", "1.8", "full frame", "4 s, ISO 6400, many", _FULL),
    _kit("200", "4", "full frame", "not from a tripod", _FULL),
    _kit("16", "2.8", "APS-C", "20 s, ISO 3200", _APS),
    _kit("18", "3.5", "APS-C", "20 s, ISO 6400", _APS),
    _kit("12", "2", "four thirds", "25 s, ISO 3200", _THIRDS),
    _kit("25", "1.7", "four thirds", "10 s, ISO 3200", _THIRDS),
    _kit("15", "2.8", "full frame, fisheye", "30 s, ISO 3200",
         {**_FULL, "projection": "equisolid"}),
    _kit("50", "2.8", "full frame, mount that follows", "2 min, ISO 800",
         {**_FULL, "mount": "tracker"}),
    _kit("200", "4", "full frame, mount that follows", "1 to 2 min, ISO 1600",
         {**_FULL, "mount": "tracker"}),
    _kit("24", "1.4", "35 mm film of ISO 800", "30 s to 2 min", _FILM),
)  # fmt: skip


def row(kit: Kit, client: Client) -> str:
    """A kit's row, as the page says it now."""
    found = answered(**kit.texts)
    page = client.get("/sky/", link(**kit.texts).dict()).content.decode()
    said = re.search(r'<p class="how-long">(.*?)</p>', page, re.DOTALL)
    assert said is not None
    why = re.sub(r"\s+", " ", html.unescape(re.sub(r"<[^>]+>", "", said[1]))).strip()
    cells = (kit.name, kit.taken, f"{format.shutter(found.seconds)}, {_iso(found)}", why)
    return f"| {' | '.join(cells)} |"


def _iso(found: Answer) -> str:
    set_to = found.exposed
    if set_to.too_dark:
        return "too dark"
    return f"ISO {set_to.iso:.0f}" + ("" if set_to.enough else f", {set_to.frames} frames")


def printed() -> str:
    """All rows."""
    client = Client()
    return "\n".join(row(kit, client) for kit in KITS)
