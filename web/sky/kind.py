"""Nights, as others than Sky see them."""

from __future__ import annotations

import math
from dataclasses import replace

from optics.lens.focus_window import Window
from optics.lens.meant import Meant
from optics.lens.shot import Shot
from web.hand import body_words
from web.hand.asker import asker
from web.hand.touch import touches
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
    wanted = [(one.focus, _window(answered, one)) for one in shots]
    touched = touches(sky.in_use, wanted, sky.system)
    return tuple(replace(one, touch=words) for one, words in zip(shots, touched, strict=True))


def _window(answered: Answer, shot: Shot) -> Window | None:
    """Where the ring may stand for a frame of the stars: where they are as small, or farther."""
    if shot.focus != answered.here.focus or answered.by_hand:
        return None
    if answered.here.window is not None:
        return answered.here.window
    return Window(min(shot.exact, shot.focus), math.inf) if shot.exact == shot.exact else None


def _meant(answered: Answer) -> tuple[Meant, ...]:
    """The stars; and the foreground, where there is one."""
    sky = answered.sky
    stars = Meant("S", "Stars", math.inf, circle=sky.setup.coc, star=True)
    if sky.foreground is None:
        return (stars,)
    return (Meant("A", "Foreground", sky.foreground, circle=sky.ground.coc), stars)


def _sets_up(answered: Answer) -> tuple[str, ...]:
    body = answered.sky.in_use.body
    return (
        body_words.off_the_shutter(body),
        f"Focus on a bright star, magnified ({body_words.magnified(body)}): make it smallest.",
        "Tape the ring, if it does not hold by itself.",
        f"Release: {body_words.released(body)}.",
        "Look again when it has grown colder, and after every change of lens.",
    )


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
        outdoors=(("Walk", "kept_walk"),),
        meant=_meant,
        sets_up=_sets_up,
    )
)
