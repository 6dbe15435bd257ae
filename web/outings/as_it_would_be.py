"""What a picture would be like, drawn on the snapshot that its view was measured in."""

from __future__ import annotations

import json
import math
from dataclasses import dataclass
from typing import Any

from django import forms
from django.http import QueryDict

from optics.base import units
from optics.base.errors import OpticsError
from optics.base.systems import BY_KEY
from optics.scene import scouting
from optics.scene.as_taken import AsTaken, as_taken
from optics.scene.camera import Camera
from optics.scene.frame import row_of_depth
from web.kept.escaped import ESCAPED
from web.kept.kinds import known
from web.outings.measuring import Scouting, Snapshot
from web.people.owners import OwnedRequest
from web.ui.fields import FormatField, LengthField, NumberField
from web.ui.templatetags import format

_PRINT = 400.0
_APART = 0.034
"""Of the height: rows of distance are no nearer to each other."""


class TakenForm(forms.Form):
    """With what the picture would be taken; empty: as the snapshot, f/11, focused as View says."""

    take_focal = NumberField(
        low=1, high=3000, required=False, sentence="Give a focal length, 1 to 3000 mm."
    )
    take_format = FormatField(required=False)
    take_f = NumberField(
        low=0.5, high=256, required=False, sentence="Give an aperture, 0.5 to 256."
    )
    take_print = LengthField(
        low=50, high=20_000, required=False, sentence="Give the width of a print, 5 cm to 20 m."
    )


@dataclass(frozen=True, slots=True)
class Drawn:
    """What is drawn on the snapshot, and said of it. ``focus``: as it is set, mm; ``f_number``;
    ``print_mm``: how wide the print is; ``data``: for the page's own drawing."""

    taken: AsTaken
    focus: float
    f_number: float
    focal_length: float
    print_mm: float
    soft: float
    data: str


def drawn(
    request: OwnedRequest, snapshot: Snapshot, told: Scouting, data: QueryDict
) -> Drawn | dict[str, str]:
    """The picture that the plan of a snapshot's marks gives; or what is wrong, by field; an empty
    one where nothing can be said yet."""
    form = TakenForm(data)
    if not form.is_valid():
        return {name: " ".join(map(str, errors)) for name, errors in form.errors.items()}
    kind = known("plan")
    if snapshot.height is None or not told.link or kind is None:
        return {}
    values = form.cleaned_data
    link = QueryDict(told.link, mutable=True)
    focal_length = values["take_focal"] or snapshot.focal_length
    link["focal_length_mm"] = f"{focal_length:g}"
    if values["take_format"] is not None:
        link["format"] = str(data["take_format"]).strip()
    link["f_number"] = f"{values['take_f'] or 11:g}"
    try:
        reading = kind.read(link, kind.asks(request))
        shot = kind.shots(kind.answer(reading))[0]
        frame = values["take_format"]
        width, height = snapshot.frame
        if frame is not None:
            wide = snapshot.size[0] >= snapshot.size[1]
            width, height = (frame.width, frame.height) if wide else (frame.height, frame.width)
        camera = _camera(snapshot, told)
        taken = as_taken(camera, reading.setup, shot.focus, width, height)
    except OpticsError as error:
        return {"take_f": error.sentence}
    except ESCAPED:
        return {}
    print_mm = values["take_print"] or _PRINT
    seen = [band for band in taken.bands if math.isfinite(band.depth)]
    soft = sum(1 for band in seen if _is_in(band.row, taken.soft)) / max(len(seen), 1)
    said = _data(taken, camera, told, request.owner.units, print_mm, shot.focus)
    return Drawn(taken, shot.focus, reading.setup.f_number, focal_length, print_mm, soft,
                 json.dumps(said, separators=(",", ":")))  # fmt: skip


def _is_in(row: float, spans: tuple[tuple[float, float], ...]) -> bool:
    return any(low <= row <= high for low, high in spans)


def _camera(snapshot: Snapshot, told: Scouting) -> Camera:
    width, height = snapshot.frame
    assert snapshot.height is not None
    level = Camera(snapshot.height, 0.0, 0.0, snapshot.focal_length, height, width)
    return scouting.tilted(level, told.horizon)


def _data(
    taken: AsTaken, camera: Camera, told: Scouting, system: str, print_mm: float, focus: float
) -> dict[str, Any]:
    """What the page draws: shares of the snapshot, rows from below."""
    return {
        "roll": round(math.degrees(told.roll), 3),
        "crop": [round(one, 5) for one in (taken.left, taken.bottom, taken.right, taken.top)],
        "rows": _rows(camera, taken, system),
        "soft": [[round(low, 5), round(high, 5)] for low, high in taken.soft],
        "focus": None if taken.focus_row != taken.focus_row else round(taken.focus_row, 5),
        "says": format.coarse(focus, system),
        "bands": [[round(band.row, 5), round(band.disc, 7)] for band in taken.bands],
        "print": units.significant(print_mm, 4),
    }


def _rows(camera: Camera, taken: AsTaken, system: str) -> list[list[Any]]:
    """Rows of round distances, as far apart as they can be read: nearest first."""
    found: list[list[Any]] = []
    for depth in (*BY_KEY[system].ring, 20_000.0, 50_000.0, math.inf):
        try:
            row = float(row_of_depth(camera, depth))
        except OpticsError:
            continue
        last = found[-1][0] if found else -1.0
        if max(taken.bottom, 0.0) <= row <= min(taken.top, 1.0) and row - last >= _APART:
            found.append([round(row, 5), format.coarse(depth, system)])
    return found
