"""What a snapshot told, in words."""

from __future__ import annotations

import math

from django import template

from optics.base import units

register = template.Library()


@register.filter
def degrees(angle: float) -> str:
    """An angle, radians, whichever way: 12°, 0.8°."""
    turned = abs(math.degrees(angle))
    return f"{units.significant(turned, 2):g}°" if turned >= 0.05 else "0°"


@register.filter
def percent_of(share: float) -> str:
    """An error as a share: 4 %."""
    return f"{units.significant(100.0 * share, 2):g} %"
