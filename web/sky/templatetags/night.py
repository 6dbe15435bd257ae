"""How the light of a night is written."""

from __future__ import annotations

import math

from django import template

from web.ui.templatetags.format import number, stops, stops_differ

register = template.Library()


@register.filter
def give_or_take(value: float) -> str:
    """A doubt in light: give or take ⅓ stop; half a stop; a stop."""
    for most, words in _DOUBTS:
        if value <= most:
            return f"give or take {words}"
    return "give or take 2 stops"


_DOUBTS = ((0.42, "⅓ stop"), (0.6, "half a stop"), (0.8, "⅔ stop"), (1.2, "a stop"))


@register.filter
def beside(value: float) -> str:
    """How dark something is beside another, in light: 2.7 stops darker than."""
    if not stops_differ(value):
        return "as bright as"
    return f"{stops(value)} than"


@register.filter
def signed(value: float) -> str:
    """A bare number with its sign: −8."""
    return number(value).replace("-", "−")


@register.filter
def degrees(angle: float) -> str:
    """A small angle: 0.5°."""
    return f"{number(math.degrees(angle))}°"
