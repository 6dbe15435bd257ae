"""How dark the night is, as people know it: words and a class, or a meter; and the moon."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace

from django.core.exceptions import ValidationError

from optics.light import night as nights
from optics.light.aurora import Aurora
from optics.light.night import Ground, Moon, Night
from web.hand.typed import Typed
from web.sky.kinds import Subject
from web.ui.fields import NumberField

STARS_ALONE = "stars alone"
CLASSES = [("", f"{STARS_ALONE}, nobody measured")] + [
    (str(one.number), f"{one.name}: class {one.number}") for one in nights.CLASSES
]
MOONS = [
    ("", "no moon"),
    (str(Moon.CRESCENT), "a crescent"),
    (str(Moon.HALF), "half a moon"),
    (str(Moon.GIBBOUS), "nearly full"),
    (str(Moon.FULL), "a full moon"),
]
_MOON_WORDS = {
    Moon.CRESCENT: "a crescent moon",
    Moon.HALF: "half a moon",
    Moon.GIBBOUS: "a nearly full moon",
    Moon.FULL: "a full moon",
}
GROUNDS = [
    (str(Ground.SNOW), "snow, pale sand"),
    (str(Ground.PALE), "pale rock, dry grass"),
    ("", "grass, bushes"),
    (str(Ground.DARK), "dark rock, woods"),
]
_METER = NumberField(
    low=nights.BRIGHTEST, high=nights.DARKEST,
    sentence="A meter under stars reads 14 to 22.5 magnitudes per square second, such as 21.4.",
)  # fmt: skip
_METER_KNOWN = 0.25
"""Magnitudes that a meter may be off by: it averages over a wide piece of sky."""
_BEFORE = {"-6": ("dark", "5"), "-4": ("moon", "half"), "-2": ("moon", "full")}
"""What a link of earlier days said of its light, an exposure value, and what says it now."""


def renamed(data: Mapping[str, str]) -> dict[str, str]:
    """What a link of earlier days said of its light, as fields of today."""
    name, value = _BEFORE.get(data.get("light", ""), ("", ""))
    return {name: value} if name and not data.get(name) else {}


def read_night(typed: Typed, subject: Aurora | Subject) -> tuple[Night, str]:
    """The night as it was said, a meter's reading before a class, and how it is spoken of: slow
    curtains in a class 4 sky with half a moon."""
    night, said = _night(typed)
    if isinstance(subject, Aurora):
        return replace(night, glow=subject.luminance), f"{subject.name} over {said}"
    return night, said


def _night(typed: Typed) -> tuple[Night, str]:
    moon: Moon = typed.get("moon", _moon, Moon.NONE)
    read = typed.last("meter", _METER.clean, unit="mag")
    found: nights.SkyClass | None = typed.get("dark", _class)
    if read is not None:
        night, said = Night(read, moon, _METER_KNOWN), f"{read:g} mag/″²"
    elif found is not None:
        night = Night(found.magnitude, moon, found.doubt)
        said = f"a class {found.number} sky"
    else:
        night, said = Night(moon=moon), STARS_ALONE
    return night, said if moon is Moon.NONE else f"{said} with {_MOON_WORDS[moon]}"


def source(typed: Mapping[str, str], moon: Moon) -> str:
    """Where the brightness of the night comes from."""
    if typed.get("meter"):
        sky = "the meter’s reading"
    elif typed.get("dark"):
        sky = "the dark-sky scale of nine classes"
    else:
        sky = "a usual dark night, which nobody measured"
    return sky if moon is Moon.NONE else f"{sky}, with a model of moonlight scattered by clear air"


def read_ground(typed: Typed) -> Ground:
    """What the unlit ground is."""
    found: Ground = typed.get("underfoot", _ground, Ground.GRASS)
    return found


def _class(text: str) -> nights.SkyClass:
    for one in nights.CLASSES:
        if str(one.number) == text:
            return one
    raise ValidationError("Choose from the list how dark the sky is, class 1 to 9.")


def _moon(text: str) -> Moon:
    try:
        return Moon(text)
    except ValueError:
        raise ValidationError("Choose from the list how much of a moon there is.") from None


def _ground(text: str) -> Ground:
    try:
        return Ground(text)
    except ValueError:
        raise ValidationError("Choose from the list what the ground is.") from None
