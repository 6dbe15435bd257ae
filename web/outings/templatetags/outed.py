"""What became of an outing's frames, in words."""

from __future__ import annotations

from typing import Any

from django import template

from optics.scene.schools import BY_KEY
from optics.scene.why_soft import Cause
from web.outings.found import length_of
from web.outings.models import Frame
from web.ui.templatetags import format

register = template.Library()


@register.filter
def verdict(frame: Frame) -> tuple[str, str] | None:
    """A frame's verdict: its shape, and what it says; None where there is none."""
    found = frame.found
    if not found:
        return None
    if not found.get("marks"):
        return ("just", "point at its marks") if found.get("lacks") else None
    soft = [mark for mark in found["marks"] if mark["word"] == "soft"]
    if not soft:
        if found.get("lacks"):
            names = ", ".join(one["letter"] for one in found["lacks"])
            return "just", f"{names} not looked at"
        return ("holds", "holds") if found.get("held") else ("just", "cannot tell")
    worst = max(soft, key=lambda mark: mark["circles"])
    why = f", {cause(worst['parts'][0][0])}" if worst["parts"] else ""
    return "soft", f"{' '.join(mark['letter'] for mark in soft)} soft{why}"


@register.filter
def headline(found: dict[str, Any]) -> str:
    """What is said of a frame first: what went wrong with it most of all, or that nothing did."""
    marks = found.get("marks", [])
    soft = [mark for mark in marks if mark["word"] == "soft" and mark["parts"]]
    if not marks:
        return "Nothing to judge by yet"
    if not soft:
        if found.get("lacks"):
            return "Not all of it was looked at"
        return "It holds" if found.get("held") else "It cannot be told"
    worst = max(soft, key=lambda mark: mark["circles"])
    name = worst["parts"][0][0]
    if name in (Cause.MOVING.name, Cause.DEPTH.name):
        return f"{worst['name'] or worst['letter']}: {Cause[name].value}"
    return Cause[name].value.capitalize()


@register.filter
def kept_length(value: float | str | None, system: str) -> str:
    """A distance as it is kept with a frame."""
    return "" if value is None else format.coarse(length_of(value), system)


@register.filter
def cause(name: str) -> str:
    """A cause of softness in few words."""
    return Cause[name].value


@register.filter
def placing(name: str) -> str:
    """A school by its key; any other name as it is."""
    school = BY_KEY.get(name)
    return name if school is None else school.name


@register.filter
def seconds_whole(value: float) -> str:
    """Seconds to send back: -3600."""
    return f"{value:.0f}"


def _hours(seconds: float) -> str:
    hours, minutes = divmod(round(abs(seconds) / 60.0), 60)
    parts = [f"{hours} h"] * bool(hours) + [f"{minutes} min"] * bool(minutes or not hours)
    return " ".join(parts)


@register.filter
def hours_off(seconds: float) -> str:
    """How far a clock is off that needs so much added: 1 h behind."""
    return f"{_hours(seconds)} {'behind' if seconds > 0 else 'ahead'}"


@register.filter
def clock_off(seconds: float) -> str:
    """The same to the second: the camera is 12 s behind."""
    if abs(seconds) >= 120.0:
        return f"the camera is {hours_off(seconds)}"
    if abs(seconds) < 0.5:
        return "the camera shows the same time"
    return f"the camera is {abs(seconds):.0f} s {'behind' if seconds > 0 else 'ahead'}"


@register.filter
def at_range(where: str) -> str:
    """A stretch of distance with its preposition."""
    return {"close": "at close range", "far": "far away"}.get(where, "in the middle distance")


@register.filter
def hundred(share: float) -> str:
    """A share as hundredths to draw."""
    return f"{100.0 * share:.0f}"


@register.filter
def minus(value: float) -> float:
    """The same to the other side."""
    return -value
