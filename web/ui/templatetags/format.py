"""Where digits are cut: the only place in the application where a number becomes text.

Lengths come in mm and are written in the units asked for. Never more than three figures.
"""

from __future__ import annotations

import math
from typing import Any

from django import template

from optics.base import settable, systems, units, writing
from optics.base.settable import COARSE, FINE
from optics.light import dial
from web.ui import wording

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
def exactly(length: float, system: str) -> str:
    """A distance that was rounded before it was judged, as it was judged."""
    return settable.written(length, system)


@register.filter
def reading(ring: Any, system: str) -> str:
    """A ring setting, as it was judged."""
    return settable.written(ring.focus, system)


@register.filter
def reading_parts(ring: Any, system: str) -> tuple[str, str]:
    """The number and the unit of a ring setting, to be set in two sizes."""
    return settable.written_parts(ring.focus, system)


def _joined(span: Any, system: str, between: str) -> str:
    if span.reach:
        return f"{settable.written(span.middle, system)} ± {at_most(span.reach, system)}"
    near, near_unit = settable.written_parts(span.near, system)
    far, far_unit = settable.written_parts(span.far, system)
    start = near if near_unit == far_unit else f"{near} {near_unit}".strip()
    return f"{start}{between}{far} {far_unit}".strip()


@register.filter
def stretch(span: Any, system: str) -> str:
    """A stretch of distance: 2.2 to 3.2 m, 1.2 m to ∞; if too short for that, 0.45 m ± 0.9 mm."""
    return _joined(span, system, " to ")


@register.filter
def placed(span: Any, system: str) -> str:
    """A stretch with its preposition: from 2.2 to 3.2 m, at 0.45 m ± 0.9 mm."""
    return f"{'at' if span.reach else 'from'} {stretch(span, system)}"


@register.filter
def f_number(value: float) -> str:
    """An aperture: f/5.6."""
    return f"f/{units.significant(value, 3):g}"


@register.filter
def number(value: float) -> str:
    """A bare number to three figures, as in a formula."""
    return f"{units.significant(value, 3):g}"


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
def fine_up(length: float, system: str) -> str:
    """A near limit to three figures, never too near."""
    return settable.written(settable.up(length, system, FINE), system)


@register.filter
def fine_down(length: float, system: str) -> str:
    """A far limit to three figures, never too far."""
    return settable.written(settable.down(length, system, FINE), system)


@register.filter
def typed(length: float, system: str) -> str:
    """A distance as somebody would type it."""
    if math.isinf(length):
        return "inf"
    return units.write(length, system, FINE).replace("′", "'").replace("″", '"')


@register.filter
def typed_length(length: float, system: str) -> str:
    """A length that was rounded before it was judged, as somebody would type it."""
    if math.isinf(length):
        return "inf"
    return settable.written(length, system).replace("′", "'").replace("″", '"')


@register.filter
def shutter(seconds: float) -> str:
    """A time that can be set: 1/125 s, 0.5 s, 4 s, 2:06."""
    return dial.written(seconds)


@register.filter
def shutter_down(seconds: float) -> str:
    """The longest time to set that is allowed, never too long."""
    return dial.written(dial.longest_named(seconds) if 0 < seconds < math.inf else seconds)


@register.filter
def lasting(seconds: float) -> str:
    """How long something takes: 12 s, 4 min, 2.3 h."""
    if seconds < 90:
        return f"{units.significant(seconds, 2):g} s"
    if seconds < 5400:
        return f"{units.significant(seconds / 60, 2):g} min"
    return f"{units.significant(seconds / 3600, 2):g} h"


@register.filter
def stops_differ(value: float) -> bool:
    """Whether a difference of light is one to speak of."""
    return abs(value) >= _NO_STOPS


_NO_STOPS = 0.05


@register.filter
def stops_cost(value: float) -> str:
    """What a placement costs in stops: nothing, 0.5 stop, 2 stops."""
    if value < _NO_STOPS:
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
def circles(value: float) -> str:
    """A blur in the standard: 0.82, 1.01, 3.4; never 1 for what passes it."""
    return writing.circles(value)


@register.filter
def times(value: float) -> str:
    """How many times a standard is passed: 1.1 times."""
    return f"{writing.circles(value)} times"


@register.filter
def micrometres(length: float) -> str:
    """A blur on the sensor: 21 µm."""
    return f"{figures2(length * _MICROMETRES_PER_MM)} µm"


@register.filter
def millimetres(length: float) -> str:
    """A circle of confusion or a focal length as it was given: 0.025 mm."""
    return f"{units.significant(length, 3):g} mm"


@register.filter
def bare(length: float, system: str) -> str:
    """A length in metres or in feet, without the unit, as in a formula."""
    return f"{units.significant(length / systems.BY_KEY[system].mm, 3):g}"


@register.filter
def told_in(text: str, system: str) -> str:
    """An example written with metric lengths, in the reader's units."""
    return wording.told_in(text, system)


@register.filter
def small_length(length: float, system: str) -> str:
    """A size at the subject, or of paper: 1.1 mm, 3.4 cm, 15 m."""
    return units.write_size(length, system)


@register.filter
def at_most(length: float, system: str) -> str:
    """A size up to which something holds, never too large: a print 28 cm wide."""
    return units.write_size(length, system, least=True)


@register.filter
def iso(value: float) -> str:
    """A sensitivity: 400, 1250, 12 800."""
    return f"{value:.0f}" if value >= 10 else f"{value:.2g}"


@register.filter
def at(values: dict[str, str], key: str) -> str:
    """What a dictionary has at a key; empty for nothing."""
    return values.get(key, "")


@register.filter
def share(value: float) -> str:
    """A share in per cent: 15 %."""
    return f"{figures2(100 * value)} %"


@register.filter
def share_down(value: float) -> str:
    """A share that is reached, in whole per cent: never more than it is."""
    return f"{math.floor(100 * value + 1e-9)} %"


@register.filter
def listed(words: tuple[str, ...]) -> str:
    """A, B and C."""
    if len(words) < 2:
        return "".join(words)
    return f"{', '.join(words[:-1])} and {words[-1]}"


@register.filter
def tile(span: Any, system: str) -> str:
    """A stretch that meets its neighbours, as short as can be read: 0.72–1.1 m, 2.1 m–∞."""
    return _joined(span, system, "–")


@register.filter
def gap_between(gap: Any, system: str) -> str:
    """A gap by its ends, as they are written beside what positions hold if that is known: 0.72–1.05
    m. ``gap``: with near and far, or a pair; mm."""
    near, far = gap if isinstance(gap, tuple) else (gap.near, gap.far)
    told = getattr(gap, "told", None)
    if told is not None and all(settable.figures_of(d, system) <= 4 for d in (told.near, told.far)):
        return tile(told, system)
    for figures in (COARSE, FINE):
        ends = (settable.down(near, system, figures), settable.up(far, system, figures))
        if ends[0] > 0 and 1 / ends[0] - 1 / ends[1] < _WIDER * (1 / near - 1 / far):
            return _joined(settable.Span(*ends), system, "–")
    return f"{units.write(near, system, FINE)}, {small_length(far - near, system)} wide"


_WIDER = 1.2
"""A gap that rounding makes wider than that, in 1/distance, is told by its place and its width."""
