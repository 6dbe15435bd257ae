"""Where digits are cut: the only place in the application where a number becomes text.

Lengths come in mm and are written in the units asked for. Never more than three figures.
"""

from __future__ import annotations

import math
from typing import Any

from django import template

from optics.base import settable, units
from optics.base.settable import COARSE, FINE

register = template.Library()

_MICROMETRES_PER_MM = 1000.0


@register.filter
def coarse(length: float, system: str) -> str:
    """A distance as a hand sets it: 2.6 m."""
    return units.write(length, system, COARSE)


@register.filter
def fine(length: float, system: str) -> str:
    """A distance to three figures: 2.56 m."""
    return units.write(length, system, FINE)


@register.filter
def reading(ring: Any, system: str) -> str:
    """A ring setting, with the figures it was rounded to."""
    return units.write(ring.focus, system, ring.figures)


@register.filter
def reading_parts(ring: Any, system: str) -> tuple[str, str]:
    """The number and the unit of a ring setting, to be set in two sizes."""
    return units.write_parts(ring.focus, system, ring.figures)


@register.filter
def stretch(span: Any, system: str) -> str:
    """A stretch of distance: 2.2 to 3.2 m, 1.2 m to ∞; if too short for that, 0.45 m ± 0.9 mm."""
    near, near_unit = units.write_parts(span.near, system, span.figures)
    far, far_unit = units.write_parts(span.far, system, span.figures)
    if (near, near_unit) == (far, far_unit) and math.isfinite(span.far):
        middle = units.write((span.near + span.far) / 2, system, span.figures)
        return f"{middle} ± {small_length((span.far - span.near) / 2)}"
    start = near if near_unit == far_unit else f"{near} {near_unit}".strip()
    return f"{start} to {far} {far_unit}".strip()


@register.filter
def placed(span: Any, system: str) -> str:
    """A stretch with its preposition: from 2.2 to 3.2 m, at 0.45 m ± 0.9 mm."""
    text = stretch(span, system)
    return f"at {text}" if "±" in text else f"from {text}"


@register.filter
def f_number(value: float) -> str:
    """An aperture: f/5.6."""
    return f"f/{units.significant(value, 3):g}"


@register.filter
def number(value: float) -> str:
    """A bare number to three figures, as in a formula."""
    return f"{units.significant(value, 3):g}"


@register.filter
def clock(hours: float) -> str:
    """A place on a clock face, to five minutes: 7:30."""
    minutes = round(hours * 12) * 5 % 720
    return f"{minutes // 60 or 12}:{minutes % 60:02d}"


@register.filter
def stops(value: float) -> str:
    """A difference of light: 1 stop darker, 0.99 stop brighter."""
    shown = units.significant(abs(value), 2)
    amount = f"{shown:g} stop{'' if shown <= 1 else 's'}"
    return f"{amount} {'darker' if value > 0 else 'brighter'}"


_FOCUS_WAYS = {
    "eye": "by eye in the finder",
    "scale": "by the scale",
    "light": "by a confirmation light",
    "spot": "by spot autofocus",
    "magnified": "in a magnified view",
}


@register.filter
def focus_way(way: str) -> str:
    """A way of focusing by its short name."""
    return _FOCUS_WAYS[way]


@register.filter
def coarse_up(length: float, system: str) -> str:
    """A length as a hand sets it, never too short: a step back of 0.46 m is 0.5 m."""
    return units.write(settable.up(length, system, COARSE), system, COARSE)


@register.filter
def typed(length: float, system: str) -> str:
    """A distance as somebody would type it."""
    if math.isinf(length):
        return "inf"
    return units.write(length, system, FINE).replace("′", "'").replace("″", '"')


@register.filter
def typed_position(ring: Any, system: str) -> str:
    """A ring setting as somebody would type it."""
    if math.isinf(ring.focus):
        return "inf"
    text = units.write(ring.focus, system, ring.figures)
    return text.replace("′", "'").replace("″", '"')


_LONG = 60.0
_SLOW = 0.29


@register.filter
def shutter(seconds: float) -> str:
    """An exposure time: 1/125 s, 0.5 s, 4 s, 2 min."""
    if math.isinf(seconds):
        return "any time"
    if seconds >= _LONG:
        return f"{units.significant(seconds / 60, 2):g} min"
    if seconds >= _SLOW:
        return f"{units.significant(seconds, 2):g} s"
    return f"1/{units.significant(1 / seconds, 2):g} s"


@register.filter
def shutter_down(seconds: float) -> str:
    """The longest time allowed, never too long."""
    if math.isinf(seconds) or seconds <= 0:
        return shutter(max(seconds, 1e-5))
    step = 10.0 ** (math.floor(math.log10(seconds)) - 1)
    if seconds >= _SLOW:
        return shutter(math.floor(seconds / step + 1e-9) * step)
    per_second = 1 / seconds
    step = 10.0 ** (math.floor(math.log10(per_second)) - 1)
    return f"1/{math.ceil(per_second / step - 1e-9) * step:g} s"


@register.filter
def lasting(seconds: float) -> str:
    """How long something takes: 12 s, 4 min."""
    if seconds < 90:
        return f"{units.significant(seconds, 2):g} s"
    return f"{units.significant(seconds / 60, 2):g} min"


@register.filter
def stops_cost(value: float) -> str:
    """What a placement costs in stops: nothing, 0.5 stop, 2 stops."""
    if value < 0.05:
        return "nothing"
    shown = units.significant(value, 2)
    return f"{shown:g} stop{'' if shown <= 1 else 's'}"


@register.filter
def figures2(value: float) -> str:
    """A bare number to two figures: pixels, times the standard."""
    if math.isinf(value):
        return "∞"
    if abs(value) < 0.05:
        return "0"
    return (
        f"{units.significant(value, 2):g}" if value < 100 else f"{units.significant(value, 2):.0f}"
    )


@register.filter
def times(value: float) -> str:
    """How many times a standard is passed, rounded up: 1.1 times, never "1 times"."""
    if value >= 10:
        return f"{math.ceil(value)} times"
    return f"{math.ceil(value * 10 - 1e-9) / 10:g} times"


@register.filter
def micrometres(length: float) -> str:
    """A blur on the sensor: 21 µm."""
    return f"{figures2(length * _MICROMETRES_PER_MM)} µm"


@register.filter
def millimetres(length: float) -> str:
    """A circle of confusion or a focal length as it was given: 0.025 mm."""
    return f"{units.significant(length, 3):g} mm"


@register.filter
def metres(length: float) -> str:
    """A length in metres, bare, as in a formula."""
    return f"{units.significant(length / 1000, 3):g}"


@register.filter
def small_length(length: float) -> str:
    """A size at the subject: 1.1 mm, 3.4 cm, 15 m."""
    if math.isinf(length):
        return "∞"
    if length < 9.95:
        return f"{figures2(length)} mm"
    if length < 995:
        return f"{figures2(length / 10)} cm"
    return f"{figures2(length / 1000)} m"


@register.filter
def at(values: dict[str, str], key: str) -> str:
    """What a dictionary has at a key; empty for nothing."""
    return values.get(key, "")


@register.filter
def share(value: float) -> str:
    """A share in per cent: 15 %."""
    return f"{figures2(100 * value)} %"


@register.filter
def listed(words: tuple[str, ...]) -> str:
    """A, B and C."""
    if len(words) < 2:
        return "".join(words)
    return f"{', '.join(words[:-1])} and {words[-1]}"


@register.filter
def tile(span: Any, system: str) -> str:
    """A stretch that meets its neighbours, as short as can be read: 0.72–1.1 m, 2.1 m–∞."""
    figures = span.figures
    if units.write(span.near, system, figures) == units.write(span.far, system, figures):
        figures = FINE
    near, near_unit = units.write_parts(span.near, system, figures)
    far, far_unit = units.write_parts(span.far, system, figures)
    start = near if near_unit == far_unit else f"{near} {near_unit}".strip()
    return f"{start}–{far} {far_unit}".strip()


@register.filter
def gap_between(gap: Any, system: str) -> str:
    """A gap by its ends: 0.72–1.1 m. ``gap``: with near and far, or a pair; mm."""
    near, far = gap if isinstance(gap, tuple) else (gap.near, gap.far)
    if units.write(near, system, FINE) == units.write(far, system, FINE):
        return f"{units.write(near, system, FINE)}, {small_length(far - near)} wide"
    return tile(settable.Span(near, far, COARSE), system)
