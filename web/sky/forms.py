"""What is typed on Sky, as it stands in the form and in the URL, to checked values."""

from __future__ import annotations

import math
from dataclasses import replace

from django.core.exceptions import ValidationError
from django.http import QueryDict

from optics.base import amounts
from optics.light.aurora import Aurora
from optics.sky import star_drift
from web.hand.asker import ANYBODY, Asker
from web.hand.in_use import InUse
from web.hand.reader import read_hand, type_before
from web.hand.typed import Typed
from web.sky.kinds import Subject, read_film, read_off_pole, read_projection, read_subject
from web.sky.nights import read_ground, read_night, renamed
from web.sky.pointing import direction, height, latitude
from web.sky.reading import Reading
from web.sky.sample import GEAR
from web.sky.skies import (
    USUAL_ISO,
    USUAL_MARGIN,
    USUAL_TRAIL_PIXELS,
    Counts,
    Sky,
)
from web.ui.fields import NumberField

_PIXELS = NumberField(
    low=0.5, high=50, sentence="A star may be 0.5 to 50 pixels wide; 1.5 is strict, 3 for prints."
)
_MARGIN = NumberField(
    low=1,
    high=20,
    sentence="A margin under 1 would leave stars softer than your standard: 1 to 20, such as 1.5.",
)
_TRAIL = NumberField(
    low=0.2, high=200, sentence="Let stars drift by 0.2 to 200 pixels; 4 is usual."
)
_ISO = NumberField(
    low=50, high=4_000_000, unit="iso",
    sentence="Give the highest ISO that you use, from 50 to 4 000 000.",
)  # fmt: skip
_LONGEST = 3600.0
ORDERS = {"dusk": False, "dark": True}
"""When the ground is taken: whether that is after the stars."""
PARTS_TO_COUNT = [
    ("", "as usual"),
    (str(Counts.MIDDLE), "the middle"),
    (str(Counts.MOST), "four fifths"),
    (str(Counts.CORNERS), "every corner"),
]
"""Usual is four fifths, and the middle for a comet."""


def read_sky(data: QueryDict, before: type_before = lambda: None, who: Asker = ANYBODY) -> Reading:
    """Check everything a form or link says.

    ``before`` gives the link to fall back on for what cannot be used, before the sample is.
    """
    if found := renamed(data):
        data = data.copy()
        data.update(found)
    hand = read_hand(data, GEAR, before, who)
    texts, frame, pixels = hand.texts, hand.frame, hand.pixels_across
    typed = Typed(texts, hand.system, who, hand.errors, before())
    star_pixels = typed.last("star_px", _PIXELS.clean, unit="px")
    pitch = frame.pixel_pitch(pixels) if pixels else None
    if pitch is None and star_pixels is not None:
        typed.errors["star_px"] = (
            "Film has no pixels to count a star in: empty this, and the circle of your standard "
            "counts."
        )
        star_pixels = None
    kit = replace(hand.kit, diffraction=True)
    if star_pixels is not None and pitch is not None:
        kit = replace(kit, coc=star_pixels * pitch)
    subject = read_subject(typed)
    night, night_said = read_night(typed, subject)
    film_iso, reciprocity = read_film(typed)
    off_pole = read_off_pole(typed)
    trail = typed.last("trail_px", _TRAIL.clean, USUAL_TRAIL_PIXELS, "px")
    sky = Sky(
        kit=kit,
        f_number=hand.f_number,
        format=frame,
        pixels_across=pixels,
        upright=hand.upright,
        system=hand.system,
        star_pixels=star_pixels,
        pitch=pitch,
        margin=typed.last("margin", _MARGIN.clean, USUAL_MARGIN, "×"),
        trail=trail * (pitch if pitch is not None else kit.coc),
        counts=typed.get("part", _part, usual_part(subject)),
        subject=subject,
        projection=read_projection(typed, hand.in_use),
        off_pole=off_pole,
        film_iso=film_iso,
        reciprocity=reciprocity,
        ring=typed.last("ring", lambda text: typed.ring(text, kit.closest, hand.lens_reaches)),
        aim=_aim(typed),
        seconds=typed.last("seconds", _seconds),
        night=night,
        night_said=night_said,
        iso_usable=typed.last("iso_most", _ISO.clean, _usable(hand.in_use)),
        in_use=hand.in_use,
        ground_kit=hand.kit,
        foreground=typed.get("foreground", lambda text: _foreground(typed, text)),
        underfoot=read_ground(typed),
        ground_last=typed.get("order", _order, off_pole is not None),
    )
    return Reading(hand, texts, typed.errors, hand.assumed - {"circle_mm"}, sky)


def _aim(typed: Typed) -> star_drift.Aim | None:
    """Where the lens points; None, the worst case, unless all three are said."""
    names = ("latitude", "direction", "height")
    values = [
        typed.last(name, parse)
        for name, parse in zip(names, (latitude, direction, height), strict=True)
    ]
    said = [name for name in names if typed.texts[name]]
    if said and len(said) < 3:
        missing = next(name for name in names if not typed.texts[name])
        typed.errors.setdefault(missing, "All three tell where it points; none is the worst case.")
    if any(value is None for value in values):
        return None
    return star_drift.aimed(*(math.radians(value) for value in values))


def usual_part(subject: Aurora | Subject) -> Counts:
    """Which part of the frame counts where nobody said: a comet is put in the middle."""
    return Counts.MIDDLE if subject is Subject.COMET else Counts.MOST


def _usable(in_use: InUse) -> float:
    body = in_use.body
    return USUAL_ISO if body is None or body.iso_usable is None else float(body.iso_usable)


def _part(text: str) -> Counts:
    try:
        return Counts(text)
    except ValueError:
        raise ValidationError("Choose from the list which part of the frame counts.") from None


def _foreground(typed: Typed, text: str) -> float:
    near = typed.length(text)
    if not 100.0 <= near <= 1e7:
        raise ValidationError("A foreground stands 10 cm to 10 km away; leave it empty for none.")
    return near


def _order(text: str) -> bool:
    if text not in ORDERS:
        raise ValidationError("Choose from the list when the ground is taken.")
    return ORDERS[text]


def _seconds(text: str) -> float:
    seconds = amounts.parse_seconds(text)
    if seconds > _LONGEST:
        raise ValidationError("Give a time up to an hour, such as 13 s.")
    return seconds
