"""What drills write in their pages."""

from __future__ import annotations

from django import template

from optics.base import settable
from optics.base.systems import BY_KEY
from optics.zones.judging import Judgement
from web.ui.templatetags import format

register = template.Library()
_PEOPLE_MEET = 2900.0
"""mm: about three metres, or ten feet."""


@register.filter
def leaning(of: Judgement) -> str:
    """Which way distances are judged on the whole, and how sure that is: 18 % too far ± 4 %."""
    unsure = format.share(of.bias_error * 2.0)
    if not of.leans:
        return f"no lean that is more than chance, ± {unsure}"
    return f"{format.share(abs(of.bias))} too {'far' if of.bias > 0 else 'near'} ± {unsure}"


@register.filter
def taken_for(of: Judgement, system: str) -> str:
    """What a distance that is judged really is, on the whole; empty where nothing leans."""
    if not of.leans:
        return ""
    looks = next(mark for mark in BY_KEY[system].ring if mark >= _PEOPLE_MEET)
    found = settable.nearest(looks / (1.0 + of.bias), system)
    looks_like = format.exactly(looks, system)
    return f"What you take for {looks_like} is {format.exactly(found, system)}, on the whole."


@register.filter
def column(at: int, wide: float) -> str:
    """Where a column of a drawing begins, by its place from 1."""
    return f"{(at - 1) * wide:.1f}"


@register.filter
def columns(count: int, wide: float) -> str:
    """How wide so many columns are."""
    return f"{count * wide:.0f}"
