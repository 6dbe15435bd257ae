"""Shares of a length, to draw."""

from __future__ import annotations

from django import template

register = template.Library()


@register.filter
def of(share: float, whole: float) -> str:
    """A share of a length to draw."""
    return f"{share * whole:.1f}"


@register.filter
def from_top(share: float, whole: float) -> str:
    """What is left of it above."""
    return f"{(1.0 - share) * whole:.1f}"
