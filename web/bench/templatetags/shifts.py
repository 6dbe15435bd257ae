"""Shifts of focus in words, their digits as everywhere."""

from __future__ import annotations

from django import template

from web.ui.templatetags.format import figures2, micrometres

register = template.Library()


@register.filter
def micrometres_signed(length: float) -> str:
    """A shift in the picture's space, with which way: +19 µm, −7.2 µm, 0 µm."""
    if not length:
        return "0 µm"
    return f"{'+' if length > 0 else '−'}{micrometres(abs(length))}"


@register.filter
def beyond(length: float) -> str:
    """How much nearer or farther in front of the lens, mm: 2.3 mm farther."""
    return f"{figures2(abs(length))} mm {'farther' if length > 0 else 'nearer'}"
