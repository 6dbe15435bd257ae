"""What is typed on Sky, as it stands in the form and in the URL, to checked values."""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping
from dataclasses import replace
from typing import Any

from django.core.exceptions import ValidationError
from django.http import QueryDict

from optics.base import amounts, units
from optics.base.errors import NotUnderstood
from optics.lens.conjugates import nearest_focus
from optics.light.exposure import LIGHTS
from optics.sky import star_drift
from web.bag import gear
from web.bag.gear import ANYBODY, TEXT_LIMIT, Asker
from web.sky.reading import Reading
from web.sky.sample import GEAR
from web.sky.skies import USUAL_LIGHT, USUAL_MARGIN, USUAL_TRAIL_PIXELS, Sky
from web.ui.fields import NumberField, read_length

_PIXELS = NumberField(
    low=0.5, high=50, sentence="A star may be 0.5 to 50 pixels wide; 1.5 is strict, 3 for prints."
)
_MARGIN = NumberField(
    low=1,
    high=20,
    sentence="A margin under 1 would leave stars softer than your standard: 1 to 20, such as 1.5.",
)
_TRAIL = NumberField(
    low=0.2, high=200, sentence="Let stars drift by 0.2 to 200 pixels; 3 is usual."
)
_LATITUDE = NumberField(
    low=-90, high=90, sentence="A latitude is from −90 to 90°, south negative, such as 47."
)
_HEIGHT = NumberField(
    low=-10, high=90, sentence="How high above the horizon you aim: −10 to 90°, such as 30."
)
_LIGHT = NumberField(low=-12, high=2, sentence="Choose a night from the list.")
_LONGEST = 3600.0
_POINTS = (
    "n", "nne", "ne", "ene", "e", "ese", "se", "sse",
    "s", "ssw", "sw", "wsw", "w", "wnw", "nw", "nnw",
)  # fmt: skip
_WORDS = ("north", "north-east", "east", "south-east", "south", "south-west", "west", "north-west")
_COMPASS = {name: 22.5 * at for at, name in enumerate(_POINTS)} | {
    name: 45.0 * at for at, name in enumerate(_WORDS)
}
NIGHTS = [("", "stars alone")] + [
    (f"{light.ev100:g}", light.name) for light in LIGHTS if -8 < light.ev100 < 0
]


def is_sky(data: Mapping[str, Any]) -> bool:
    """Whether a link says anything about Sky at all."""
    return any(name in data for name in GEAR)


def read_sky(
    data: QueryDict, before: Callable[[], QueryDict | None] = lambda: None, who: Asker = ANYBODY
) -> Reading:
    """Check everything a form or link says.

    ``before`` gives the link to fall back on for what cannot be used, before the sample is.
    """
    given = {name: str(data[name]).strip()[: TEXT_LIMIT * 2] for name in GEAR if name in data}
    texts = {**GEAR, **given}
    if "lens" not in given and "focal_length_mm" in given:
        texts["lens"] = ""  # the sample's lens is not the one in hand
    texts["upright"] = "1" if texts["upright"] else ""
    texts["diffraction"] = "1" if texts["diffraction"] else ""
    values, errors = gear.clean(gear.FIELDS, texts)
    if errors:
        values = {**gear.last_good(gear.FIELDS, GEAR, before()), **values}
        errors = {name: f"{text}{gear.meanwhile(name, values)}" for name, text in errors.items()}

    def read(name: str, parse: Callable[[str], Any], usual: Any = None) -> Any:
        if not texts[name]:
            return usual
        try:
            return parse(texts[name])
        except ValidationError as error:
            errors[name] = " ".join(error.messages)
        except NotUnderstood as error:
            errors[name] = error.sentence
        return usual

    star_pixels = read("star_px", _PIXELS.clean)
    pixels, frame = values["pixels_across"], values["format"]
    pitch = frame.pixel_pitch(pixels) if pixels else None
    if pitch is None and star_pixels is not None:
        errors["star_px"] = (
            "Film has no pixels to count a star in: empty this, and the circle of your standard "
            "counts."
        )
        star_pixels = None
    in_use = who.in_use(texts).or_as_told(gear.told(texts))
    setup = gear.setup_of(values, counts_diffraction=True, in_hand=in_use)
    if star_pixels is not None and pitch is not None:
        setup = replace(setup, coc=star_pixels * pitch)
    trail = read("trail_px", _TRAIL.clean, USUAL_TRAIL_PIXELS)
    closest = max(float(nearest_focus(setup)), in_use.closest)
    sky = Sky(
        setup=setup,
        format=frame,
        pixels_across=pixels,
        upright=bool(texts["upright"]),
        system=values["units"],
        star_pixels=star_pixels,
        pitch=pitch,
        margin=read("margin", _MARGIN.clean, USUAL_MARGIN),
        trail=trail * (pitch if pitch is not None else float(setup.coc)),
        ring=read(
            "ring",
            lambda text: gear.ring_typed(
                text, setup, closest, values["units"], _measures(text, who)
            ),
        ),
        aim=_aim(read, texts, errors),
        seconds=read("seconds", _seconds),
        ev=read("light", _LIGHT.clean, USUAL_LIGHT),
        closest=closest,
        in_use=in_use,
        ground=gear.setup_of(values, bool(texts["diffraction"]), in_use),
        foreground=read("foreground", lambda text: _foreground(text, values["units"], who)),
    )
    assumed = frozenset((gear.ASSUMED - {"circle_mm"}) - given.keys())
    return Reading(sky, texts, errors, assumed, in_use)


def _aim(
    read: Callable[..., Any], texts: Mapping[str, str], errors: dict[str, str]
) -> star_drift.Aim | None:
    """Where the lens points; None, the worst case, unless all three are said."""
    names = ("latitude", "direction", "height")
    values = [
        read(name, parse)
        for name, parse in zip(names, (_LATITUDE.clean, _direction, _HEIGHT.clean), strict=True)
    ]
    said = [name for name in names if texts[name]]
    if said and len(said) < 3:
        missing = next(name for name in names if not texts[name])
        errors.setdefault(missing, "All three tell where it points; none is the worst case.")
    if any(value is None for value in values):
        return None
    latitude, azimuth, altitude = (math.radians(value) for value in values)
    return star_drift.aimed(latitude, azimuth, altitude)


def _direction(text: str) -> float:
    cleaned = text.lower().strip().replace("°", "")
    if cleaned in _COMPASS:
        return _COMPASS[cleaned]
    try:
        degrees = float(cleaned.replace(",", "."))
    except ValueError:
        raise ValidationError("Write a direction as SSE, south or 160 (degrees).") from None
    if not 0 <= degrees <= 360:
        raise ValidationError("A direction is from 0° (north) through 90° (east) to 360°.")
    return degrees


def _foreground(text: str, system: str, who: Asker) -> float:
    near = read_length(text, system, _measures(text, who))
    if not 100.0 <= near <= 1e6:
        raise ValidationError("A foreground stands 10 cm to 1 km away; leave it empty for none.")
    return near


def _measures(text: str, who: Asker) -> units.Measures:
    """Their own paces and arms, asked for only where they are used."""
    return who.own()[0] if units.in_own_measures(text) else units.USUAL


def _seconds(text: str) -> float:
    seconds = amounts.parse_seconds(text)
    if seconds > _LONGEST:
        raise ValidationError("Give a time up to an hour, such as 13 s.")
    return seconds
