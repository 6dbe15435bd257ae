"""The fields that every planner has: what is in hand, as its texts say it, and what a link tells
of a lens. To give every planner another field, write it into ``FIELDS`` and ``USUAL``."""

from __future__ import annotations

import re
from collections.abc import Mapping
from typing import Any

from django import forms
from django.core.exceptions import ValidationError
from django.http import QueryDict

from optics.base import units
from optics.base.formats import FORMATS, Format
from optics.lens.kit import Fault
from web.bag.findings import BLUR, KINDS, SHIFT
from web.bag.lenses import MOST_OFF
from web.hand.in_use import InUse
from web.hand.told import NOT_TOLD, Pupils, Told
from web.ui.choices import CHOOSE_UNITS, unit_systems
from web.ui.fields import FormatField, NumberField, WholeNumberField
from web.ui.wording import told_in

TEXT_LIMIT = 80
"""Letters that a text of a planner keeps."""

ZOOM = re.compile(
    r"(\d+(?:[.,]\d+)?)\s*[-–—]\s*(\d+(?:[.,]\d+)?)\s*(?:mm)?(?:\s*(?:at|@)\s*(\S+))?"
)
"""The range of a zoom, ``10-18``, and where it is set, ``10-18 at 14``."""


class FocalLengthField(NumberField):
    """A focal length; or the range of a zoom, which counts at its shorter end unless it says at
    what."""

    def to_python(self, value: Any) -> float | None:
        zoom = ZOOM.fullmatch(str(value or "").strip().lower())
        if zoom is None:
            return super().to_python(value)
        ends = [super(FocalLengthField, self).to_python(end) for end in zoom.groups()[:2]]
        at = super().to_python(zoom[3]) if zoom[3] else ends[0]
        if at is None or not (ends[0] or 0) <= at <= (ends[1] or 0):
            raise ValidationError("Write a zoom shorter end first, such as 10-18, or 10-18 at 14.")
        return at


FIELDS: dict[str, forms.Field] = {
    "lens": forms.CharField(
        required=False,
        max_length=TEXT_LIMIT,
        error_messages={"max_length": f"Keep the lens's name to {TEXT_LIMIT} letters."},
    ),
    "format": FormatField(),
    "pixels_across": WholeNumberField(
        low=200,
        high=100_000,
        required=False,
        sentence="Pixels across the long side: a whole number from 200 to 100 000, or empty.",
    ),
    "focal_length_mm": FocalLengthField(
        low=1, high=3000, sentence="Give a focal length from 1 to 3000 mm, such as 24."
    ),
    "f_number": NumberField(low=0.5, high=128, sentence="Give an aperture from 0.5 to 128."),
    "circle_mm": NumberField(
        low=0.0005, high=1, sentence="Give a circle from 0.0005 to 1 mm, such as 0.025."
    ),
    "diffraction": forms.CharField(required=False),
    "units": forms.ChoiceField(
        choices=unit_systems(), error_messages={"invalid_choice": CHOOSE_UNITS}
    ),
}
"""Used without a Form around them: a Form copies every field for each request, which costs more
than the whole of the optics."""

USUAL = {
    "lens": "20–35 mm f/4 zoom",
    "format": "full-frame",
    "pixels_across": "6000",
    "focal_length_mm": "24",
    "f_number": "11",
    "circle_mm": "0.025",
    "diffraction": "",
    "units": "m",
    "lens_range": "",
    "lens_closest": "",
    "lens_pupils": "",
    "lens_off": "",
    "lens_faults": "",
    "lens_ideal": "",
}
"""What the sample world has in hand. The last six are what a link tells of a lens: the very last
that what its tests found does not count."""
TOLD = ("lens_range", "lens_closest", "lens_pupils", "lens_off", "lens_faults", "lens_ideal")
"""Those."""
ASSUMED = frozenset(("format", "pixels_across", "focal_length_mm", "f_number", "circle_mm"))
"""What every planner needs and a link may lack."""


def opening_in(system: str, gear: Mapping[str, str]) -> dict[str, str]:
    """What a planner opens with, in a system of units: its sample's lengths as they are said
    there. In unknown units as it is."""
    said = {name: told_in(text, system) for name, text in gear.items()}
    return {**said, "units": system if system in units.SYSTEMS else gear["units"]}


def clean(
    fields: Mapping[str, forms.Field], texts: Mapping[str, str]
) -> tuple[dict[str, Any], dict[str, str]]:
    """Values of the fields that could be read, and messages for those that could not."""
    values: dict[str, Any] = {}
    errors: dict[str, str] = {}
    for name, field in fields.items():
        if not texts[name] and not field.required:
            values[name] = None
            continue
        try:
            values[name] = field.clean(texts[name])
        except ValidationError as error:
            errors[name] = " ".join(error.messages)
    return values, errors


def last_good(
    fields: Mapping[str, forms.Field], usual: Mapping[str, str], before: QueryDict | None
) -> dict[str, Any]:
    """Usable values for every field: the usual ones, and those of the link that was before."""
    values, _ = clean(fields, usual)
    if before is not None:
        earlier, _ = clean(
            fields, {**usual, **{name: str(before[name]) for name in usual if name in before}}
        )
        values.update(earlier)
    return values


def meanwhile(name: str, values: Mapping[str, Any]) -> str:
    """What the picture shows until a field is mended."""
    shown = {
        "focal_length_mm": f"{values['focal_length_mm']:g} mm",
        "f_number": f"f/{values['f_number']:g}",
        "circle_mm": f"{values['circle_mm']:g} mm",
        "format": values["format"].name,
    }
    return f" Shown with {shown[name]} meanwhile." if name in shown else ""


def told(texts: Mapping[str, str]) -> Told:
    """What a link tells of a lens; what is not plain there is not told."""
    try:
        ends = tuple(float(part) for part in texts["lens_range"].split())
        closest = float(texts["lens_closest"] or "nan")
        off = float(texts["lens_off"] or "0")
        pupils = tuple(float(part) for part in texts["lens_pupils"].split())
    except ValueError:
        return NOT_TOLD
    fits = len(ends) == 2 and 0.5 <= ends[0] < ends[1] <= 128
    real = len(pupils) == 2 and 0.1 <= pupils[0] <= 10 and -200 <= pupils[1] <= 500
    return Told(
        (ends[0], ends[1]) if fits else None,
        closest if 1 < closest < 1e5 else None,
        Pupils(pupils[0], pupils[1]) if real else None,
        off if abs(off) <= MOST_OFF else 0.0,
        _faults(texts["lens_faults"]),
    )


_MOST_FAULTS = 24


def _faults(text: str) -> tuple[Fault, ...]:
    """What a link tells of a lens's faults: ``5.6 0.019 0.004`` is an aperture, the shift of focus
    and the blur there, mm; the next after a comma. Nothing, where one of them is not plain."""
    found = []
    for part in text.split(",")[:_MOST_FAULTS] if text else ():
        try:
            f_number, shift, disc = (float(number) for number in part.split())
        except ValueError:
            return ()
        if not (0.5 <= f_number <= 256 and abs(shift) <= KINDS[SHIFT] and 0 <= disc <= KINDS[BLUR]):
            return ()
        found.append(Fault(f_number, disc, shift))
    return tuple(found) if len({one.f_number for one in found}) == len(found) else ()


def told_texts(in_hand: InUse) -> dict[str, str]:
    """The lens in hand as a link tells of it: by its numbers, for other bags than this."""
    tells = in_hand.tells
    ends = " ".join(f"{units.significant(end, 4):g}" for end in tells.apertures or ())
    closest = "" if tells.closest is None else f"{tells.closest:.6g}"
    pupils = "" if tells.pupils is None else f"{tells.pupils.ratio:.6g} {tells.pupils.hiatus:.6g}"
    off = f"{tells.ring_off:.6g}" if tells.ring_off else ""
    faults = ",".join(
        f"{one.f_number:.4g} {one.focus_shift:.4g} {one.lens_disc:.4g}" for one in tells.faults
    )
    return {
        "lens_range": ends,
        "lens_closest": closest,
        "lens_pupils": pupils,
        "lens_off": off,
        "lens_faults": faults,
    }


def formats_with(here: Format) -> list[tuple[str, str]]:
    """The formats to choose from, and the one in hand."""
    known = [(f.key, f.name) for f in FORMATS]
    return known if (here.key, here.name) in known else [*known, (here.key, here.name)]
