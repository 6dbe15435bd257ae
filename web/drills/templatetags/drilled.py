"""What drills write in their pages."""

from __future__ import annotations

from django import template

from optics.zones.judging import Judgement
from web.ui.templatetags import format

register = template.Library()


@register.filter
def leaning(of: Judgement) -> str:
    """Which way distances are judged on the whole, and how sure that is: 18 % too far ± 4 %."""
    unsure = format.share(of.bias_error * 2.0)
    if not of.leans:
        return f"no lean that is more than chance, ± {unsure}"
    return f"{format.share(abs(of.bias))} too {'far' if of.bias > 0 else 'near'} ± {unsure}"


@register.filter
def down(share: float, height: float) -> str:
    """Where a share begins in a drawing that is so high, from above."""
    return f"{(1.0 - share) * height:.1f}"


@register.filter
def high(share: float, height: float) -> str:
    """How high a share is drawn."""
    return f"{share * height:.1f}"


@register.filter
def column(at: int, wide: float) -> str:
    """Where a column of a drawing begins, by its place from 1."""
    return f"{(at - 1) * wide:.1f}"


@register.filter
def columns(count: int, wide: float) -> str:
    """How wide so many columns are."""
    return f"{count * wide:.0f}"
