"""Nights, as others than Sky see them."""

from __future__ import annotations

from dataclasses import replace

from optics.lens.shot import Shot
from web.hand.asker import asker
from web.hand.touch import touch_of, touched_on
from web.kept.kinds import Kind, register
from web.sky.foreground import foreground
from web.sky.forms import read_sky
from web.sky.reading import Reading
from web.sky.usecases import Answer, answer


def _answer(reading: Reading) -> Answer:
    return answer(reading.sky)


def _shots(answered: Answer) -> tuple[Shot, ...]:
    """Of the stars; with a foreground, the frames that have both. Each where a thumb finds it."""
    sky = answered.sky
    shots: tuple[Shot, ...] = (replace(answered.here, seconds=answered.seconds, iso=answered.iso),)
    if sky.foreground is not None:
        found = foreground(answered, sky.foreground)
        shots = found.frames or (() if found.one is None else (found.one,)) or shots
    touched = touched_on(sky.in_use)
    return tuple(replace(one, touch=touch_of(sky.in_use, one.focus, touched)) for one in shots)


KIND = register(
    Kind(
        key="night",
        noun="night",
        plural="nights",
        short="nights",
        app="sky",
        asks=asker,
        read=lambda link, who: read_sky(link, who=who),
        answer=_answer,
        shots=_shots,
        drawn="sky/small.html",
        printed=("kept_card", "Card"),
    )
)
