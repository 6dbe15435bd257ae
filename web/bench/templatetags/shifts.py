"""Shifts of focus in words, their digits as everywhere."""

from __future__ import annotations

from django import template

from optics.base import units
from web.bag import findings
from web.ui.templatetags.format import figures2, focus_way, micrometres

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


@register.filter
def micrometres_plain(length: float) -> str:
    """A blur on an axis: 12.5 µm; nothing is rounded away but what sums leave."""
    return f"{units.significant(1000.0 * length, 4):g} µm" if length else "0"


@register.filter
def degrees_signed(angle: float) -> str:
    """An angle with which way: +2°, −1.5°, 0°."""
    if not angle:
        return "0°"
    return f"{'+' if angle > 0 else '−'}{units.significant(abs(angle), 2):g}°"


@register.filter
def size(value: float) -> float:
    """A value, whichever way."""
    return abs(value)


@register.filter
def add_to(place: float, more: float) -> float:
    """A place in a drawing, a little on."""
    return round(place + more, 2)


@register.filter
def wide(band: tuple[float, float]) -> float:
    """How wide a band of a drawing is."""
    return round(band[1] - band[0], 2)


@register.filter
def plural(count: float) -> str:
    """The s of what there is more than one of."""
    return "" if count <= 1 else "s"


@register.filter
def percent(share: float) -> str:
    """A share: 65 %."""
    return f"{units.significant(100.0 * share, 2):g} %"


_NAMES = {
    findings.SHIFT: "focus shift",
    findings.BLUR: "blur of its own, in the middle",
    findings.CORNER: "blur of its own, towards the corners",
    findings.RING: "how it stands against its ring",
    findings.STOP: "infinity against its stop",
    findings.CIRCLE: "the circle of its depth-of-field marks",
}
_BY_CHANCE = (findings.SHIFT, findings.RING)
_COUNTS = {
    findings.CORNER: "It is shown here; plans count the middle.",
    findings.STOP: "Sky’s way to infinity says it.",
    findings.WAY: "View holds its window against it on that body.",
    findings.CIRCLE: "It went into the bag with the lens.",
}


@register.filter
def found_name(one: findings.Finding) -> str:
    """What a finding is of."""
    return f"focused {focus_way(one.way)}" if one.way else _NAMES[one.kind]


@register.filter
def found_column(one: findings.Finding) -> str:
    """What stands above its values."""
    return "shift" if one.kind == findings.SHIFT else "blur"


@register.filter
def found_counts(one: findings.Finding) -> str:
    """What counts it, in a sentence."""
    if one.kind in _BY_CHANCE and not any(row.found.clear for row in one.rows):
        return "It is no more than chance makes of nothing: plans count nothing of it."
    return _COUNTS.get(one.kind, "It counts in every plan with this lens.")
