"""Numbers as people say them: counts in words, shares of pictures, paces to a half."""

from __future__ import annotations

import math
from typing import Any

from django import template
from django.utils.html import format_html
from django.utils.safestring import SafeString

from optics.base import units
from optics.base.systems import BY_KEY, SYSTEMS, UnitSystem
from web.ui.glossary import TERMS, Term
from web.ui.templatetags.format import figures2

register = template.Library()

_WORDS = ("no", "one", "two", "three", "four", "five", "six", "seven", "eight", "nine")


@register.filter
def in_words(count: int) -> str:
    """A small number in words."""
    return _WORDS[count] if 0 <= count < len(_WORDS) else str(count)


_ORDINALS = ("", "First", "A second", "A third", "A fourth", "A fifth", "A sixth", "A seventh")


@register.filter
def ordinal_word(count: float) -> str:
    """A third, a fourth: of something more."""
    at = int(count)
    return _ORDINALS[at] if at < len(_ORDINALS) else "Another"


@register.filter
def in_hundred(value: float) -> str:
    """A share of pictures: 88 in 100."""
    return f"{round(100 * value)} in 100"


@register.filter
def more_in_hundred(value: float) -> str:
    """A gain in pictures: 17 more in 100; 5 more in 1000 where it is less than one."""
    return f"{figures2(100 * value)} more in 100"


@register.filter
def is_endless(length: float) -> bool:
    """Whether a distance is infinity."""
    return math.isinf(length)


@register.filter
def framed(ends: tuple[str, str]) -> str:
    """How much of a person fits, from the near end to the far one: cut at the waist; chest to
    whole."""
    if ends[0] == ends[1]:
        return ends[0]
    near, far = (end.removeprefix("cut at the ") for end in ends)
    return f"{near} to {far}"


@register.filter
def filled(value: float) -> str:
    """How much of the frame something fills: 57 %, or 1.3 times the frame."""
    if value <= 0.005:
        return "a trace"
    return f"{figures2(100 * value)} %" if value <= 1 else f"{figures2(value)} × the frame"


@register.filter
def halves(value: float) -> str:
    """A number of paces or arms, to a half: 2½."""
    whole, half = divmod(round(value * 2), 2)
    if not whole and half:
        return "½"
    return f"{whole}{'½' if half and whole < 10 else ''}"


@register.filter
def speed(value: float, system: str) -> str:
    """A speed from mm/s: 1.4 m/s, 4.6 ft/s."""
    spoken = BY_KEY[system]
    return f"{units.significant(value / spoken.mm, 2):g} {spoken.speed}"


@register.filter
def item(things: Any, at: int) -> Any:
    """One of several, by its place."""
    return things[at]


@register.filter
def in_units(length: float, unit: float) -> str:
    """A length on the sensor in pixels, or in circles: 1.4, 0.37."""
    value = length / unit
    if math.isinf(value):
        return "more than the frame"
    return f"{units.significant(value, 2):g}" if value >= 0.005 else "0"


@register.filter
def round_number(value: float) -> str:
    """A number to two figures, rounded down: 87, 110."""
    scale = 10.0 ** (math.floor(math.log10(value)) - 1)
    return f"{math.floor(value / scale + 1e-9) * scale:g}"


@register.filter
def is_real(length: float) -> bool:
    """Whether there is such a length at all."""
    return math.isfinite(length)


@register.filter
def declined(angle: float) -> str:
    """How far from the celestial equator something is: 30° north of the celestial equator."""
    degrees = math.degrees(angle)
    if abs(degrees) < 0.5:
        return "at the celestial equator"
    if abs(degrees) > 89.5:
        return "at the celestial pole"
    return f"{abs(degrees):.0f}° {'north' if degrees > 0 else 'south'} of the celestial equator"


@register.simple_tag
def glossary() -> tuple[Term, ...]:
    """The words that the help explains."""
    return TERMS


@register.simple_tag
def term(key: str, shown: str) -> SafeString:
    """A word of the glossary where it is used: a tap on it says what it means."""
    return format_html(
        '<button type="button" class="term" popovertarget="term-{}">{}</button>', key, shown
    )


@register.simple_tag
def unit_systems() -> tuple[UnitSystem, ...]:
    """The systems of units to choose from."""
    return SYSTEMS


@register.filter
def unit_system(key: str) -> UnitSystem:
    """The system of units with a key."""
    return BY_KEY[key]
